"""The fields of a plot, and what follows from them alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import ClassVar, Literal, Self

from theoros.answer.palette import CATEGORY_NAMES
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import (
    GROUPING,
    bare_field,
    choice_field,
    choices_field,
    column_field,
    columns_field,
    levels_field,
    number_field,
    text_field,
)
from theoros.verbs.core.json_values import Json
from theoros.verbs.core.quartile_rules import quartile_rule
from theoros.verbs.core.slots import Option, TypeNumber, TypeText
from theoros.verbs.core.splitting import SplitStatement, split_by, split_by_more
from theoros.verbs.data.counted import Order
from theoros.verbs.plot.shapes.shape import Subject, shapes

Scale = Literal["count", "percent", "density"]
Part = Literal["", "lower half", "upper half", "lower three quarters", "upper three quarters"]
TOGETHER = ("scatter", "line")
"""Shapes that set a number against something else."""


BOXES = ("boxes", "plain boxes")
"""The two ways to draw a box."""
MARKS = {
    "boxes": "Quartiles, median and whiskers; outliers as rings.",
    "plain boxes": "Boxes with whiskers to the ends.",
    "mean": "A triangle at the mean.",
    "median": "A stroke at the median.",
    "counts": "How many values are in each bin.",
    "percent": "The share of the values in each bin.",
}
ORDERS = (
    Option("levels", "in their order", help="The order of the column."),
    Option("by count", "by count", help="The most frequent first."),
    Option("as they come", "as they come", help="In the order of the rows."),
)
SCALES = (
    Option("count", "count"),
    Option("percent", "percent", help="Of the cases of each group."),
    Option("density", "density", help="Share per unit, so that areas are shares."),
)
STEPS = (
    Option(False, "even", help="Equal differences have equal lengths."),
    Option(True, "logarithmic", help="Equal ratios have equal lengths; only for values above 0."),
)
SIDES = (
    Option(False, "one above another", help="Over one level scale."),
    Option(True, "side by side", help="Beside one upright scale."),
)
PARTS = (
    Option("", "nothing"),
    Option("lower half", "the lower half of the box"),
    Option("upper half", "the upper half of the box"),
    Option("lower three quarters", "the lower three quarters", help="From the least value to Q3."),
    Option("upper three quarters", "the upper three quarters", help="From Q1 to the greatest."),
)
GAPS = (
    Option(False, "not drawn"),
    Option(True, "drawn", help="The gap between the medians beside the spread of both boxes."),
)


MARK_OPTIONS = tuple(Option(name, name, help=help_) for name, help_ in MARKS.items())
BINS = TypeNumber(low=0, low_open=True, auto=True, help="The width of a bin. Leave it empty for an automatic width.")
START = TypeNumber(
    auto=True, help="Where a bin begins; the others follow on both sides. Leave it empty for a multiple of the width."
)
CUT = TypeNumber(auto=True, help="Cases on each side are counted. Leave it empty for none.")
END = TypeNumber(auto=True, help="Leave it empty to show every case.")
READ = TypeNumber(auto=True, help="Shows the value of every curve there. Leave it empty for none.")


def end(label: str, told: str) -> float | None:
    """A field for an end of an axis."""
    return number_field(None, label, END, told, empty="automatic")


@dataclass(frozen=True)
class PlotFields(SplitStatement):
    """The fields of a plot, and what follows from them alone."""

    verb: ClassVar[str] = "plot"
    answered_by: ClassVar[str] = "theoros.verbs.plot.answering"
    what: str | None = column_field(
        "what to plot", (Kind.NUMBER, *GROUPING), "The column to plot: a number or a category.", elsewhere=True
    )
    also: tuple[str, ...] = columns_field(
        "more numbers",
        (Kind.NUMBER,),
        "Further number columns, each with a panel or a colour of its own.",
        none="no other number",
        other_than=("what", "against"),
    )
    against: str | None = column_field(
        "what to plot against",
        (Kind.NUMBER,),
        "With “scatter” and “line”: what goes along the horizontal axis.",
        other_than=("what",),
    )
    by: str | None = split_by("A category column: a panel, or a bar, for each level. None for all together.")
    and_by: str | None = split_by_more("A second category: a column of panels for each level.")
    colour: str | None = column_field(
        "colour",
        GROUPING,
        "A category column that gives marks their colour and shape. None for one colour.",
        none="one colour",
    )
    shape: str = bare_field("stacked dots", "How rows are shown; which fit depends on the kinds of the columns.")
    bins: float | None = number_field(
        None, "bin width", BINS, "Width of a bin, above 0. None for an automatic width.", empty="automatic width"
    )
    start: float | None = number_field(
        None,
        "a bin begins at",
        START,
        "Where a bin begins; the others follow. None for a multiple of the width.",
        empty="automatic",
    )
    scale: Scale = choice_field("count", "height", SCALES, "What the height of bars and bins shows.")
    order: Order = choice_field(
        "levels", "order of levels", ORDERS, "The order of levels; of row bars “levels” is that of the table."
    )
    marks: tuple[str, ...] = choices_field(
        ("boxes",),
        "marks to add",
        MARK_OPTIONS,
        f"What is added: {', '.join(MARKS)}.",
        what="marks",
        none="nothing added",
    )
    quartiles: str = quartile_rule("The quartile rule of the boxes.")
    cut: float | None = number_field(
        None, "split line", CUT, "A split line: the cases on each side are counted. None for none.", empty="none"
    )
    cut2: float | None = number_field(None, "second split line", CUT, "A second one, for a range.", empty="none")
    low: float | None = end("axis from", "Where the axis begins. None shows every case.")
    high: float | None = end("axis to", "Where the axis ends.")
    bottom: float | None = end("axis from", "With “scatter” and “line”: where the vertical axis begins.")
    top: float | None = end("axis to", "With “scatter” and “line”: where the vertical axis ends.")
    what_log: bool = choice_field(False, "scale", STEPS, "Whether the scale of the column plotted is logarithmic.")
    against_log: bool = choice_field(
        False, "scale", STEPS, "With “scatter” and “line”: whether the horizontal scale is logarithmic."
    )
    read: float | None = number_field(
        None,
        "reading line",
        READ,
        "A reading line: it shows the value of every curve there. None for none.",
        empty="none",
    )
    side_by_side: bool = choice_field(
        False, "the groups", SIDES, "Whether the groups stand side by side over an upright scale."
    )
    first_part: Part = choice_field("", "shade", PARTS, "Of two groups, the part of the first box that is shaded.")
    second_part: Part = choice_field("", "shade", PARTS, "The same for the second.")
    gap: bool = choice_field(
        False,
        "gap of the medians",
        GAPS,
        "Whether the gap between two medians is drawn beside the spread of both boxes.",
    )
    hidden: tuple[str, ...] = levels_field("colour", "Levels of the colour that are left out of the picture.")
    tints: tuple[str, ...] = bare_field(
        (), f"Colours picked for entries of the legend, such as “blue: fine”; colours: {', '.join(CATEGORY_NAMES)}."
    )
    heading: str = text_field(
        "title", TypeText("A title above the picture.", longest=200), "A title above the picture.", empty="none"
    )

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """Marks were one word before they were several."""
        old = {"boxes": ["boxes"], "boxes and means": ["boxes", "mean"], "nothing": []}
        if isinstance(data.get("marks"), str) and data["marks"] in old:
            return {**data, "marks": old[data["marks"]]}
        return data

    def subject(self, table: Table | None) -> Subject:
        """What it shows, by the kinds of its columns."""
        if table is not None and kind_of(table, self.what) in GROUPING:
            return "two categories" if self.by else "category"
        if self.shape == "line":
            return "over time"
        return "two numbers" if self.shape == "scatter" else "number"

    @property
    def uses(self) -> frozenset[str]:
        """The slots that its shape knows."""
        shape = shapes().get(self.shape)
        return shape.uses if shape else frozenset()

    @property
    def picked(self) -> tuple[tuple[str, int], ...]:
        """Which levels were given which of the colours: "blue: fine" as (level, place)."""
        made = []
        for text in self.tints:
            name, _, level = text.partition(": ")
            if name in CATEGORY_NAMES:
                made.append((level, CATEGORY_NAMES.index(name)))
        return tuple(made)

    def with_tint(self, label: str, name: str) -> Self:
        """With another colour for an entry of the legend; an empty name takes its own again."""
        kept = tuple(text for text in self.tints if text.partition(": ")[2] != label)
        return replace(self, tints=(*kept, f"{name}: {label}") if name else kept)

    def renamed_levels(self, table: str, column: str, new: Mapping[str, str]) -> Self:
        """As for every statement; picked colours follow."""
        made = super().renamed_levels(table, column, new)
        if table != self.table or column not in (self.colour, self.what) or not self.tints:
            return made
        parts = [text.partition(": ") for text in self.tints]
        tints = [f"{name}: {new.get(level, level)}" for name, _, level in parts]
        return replace(made, tints=tuple(dict.fromkeys(tints)))

    @property
    def pairs(self) -> bool:
        """Whether it sets a number against something else."""
        return self.shape in TOGETHER

    @property
    def framed(self) -> bool:
        """Whether the ends of its axis can be dragged."""
        return "ends" in self.uses


def kind_of(table: Table | None, name: str | None) -> Kind | None:
    return table.column(name).kind if table and name is not None and name in table.by_name else None
