"""The statement of a plot: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, ClassVar, Literal, Self

from theoros.answer.palette import CATEGORY_NAMES
from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import Offer, Verb
from theoros.verbs.core.slots import Mended, Phrase, Slot, Tables
from theoros.verbs.core.splitting import grouped_title, mend_split
from theoros.verbs.core.statement import Statement, column_field, level_field
from theoros.verbs.core.suggesting import number_to_ask_about, numbers_and_groups
from theoros.verbs.data.counted import Order
from theoros.verbs.plot import sentence
from theoros.verbs.plot.sentence import BOXES, GROUPING, MARKS, kind_of, shape_options
from theoros.verbs.plot.shape import Subject, shapes, shapes_for

if TYPE_CHECKING:
    pass

Scale = Literal["count", "percent", "density"]
Part = Literal["", "lower half", "upper half", "lower three quarters", "upper three quarters"]
TOGETHER = ("scatter", "line")
"""Shapes that set a number against something else."""


@dataclass(frozen=True)
class PlotStatement(Statement):
    """Plot a number or a category, for groups of cases, or a number against another."""

    verb: ClassVar[str] = "plot"
    answered_by: ClassVar[str] = "theoros.verbs.plot.answering"
    what: str | None = column_field()
    also: tuple[str, ...] = column_field(())
    against: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    colour: str | None = column_field()
    shape: str = "stacked dots"
    bins: float | None = None
    start: float | None = None
    scale: Scale = "count"
    order: Order = "levels"
    marks: tuple[str, ...] = ("boxes",)
    quartiles: str = "halves"
    cut: float | None = None
    cut2: float | None = None
    low: float | None = None
    high: float | None = None
    bottom: float | None = None
    top: float | None = None
    what_log: bool = False
    against_log: bool = False
    read: float | None = None
    side_by_side: bool = False
    first_part: Part = ""
    second_part: Part = ""
    gap: bool = False
    hidden: tuple[str, ...] = level_field("colour", ())
    tints: tuple[str, ...] = ()
    heading: str = ""

    @classmethod
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
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

    def with_tint(self, label: str, name: str) -> PlotStatement:
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

    def phrase(self, tables: Tables) -> Phrase:
        return sentence.phrase(self, tables)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        return sentence.settings(self, tables)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        """As for every statement; ends of axes are forgotten when the axes become others.

        A box is drawn one way or the other: of both ways, the one that was picked last stays.
        """
        if name == "marks" and isinstance(value, tuple) and set(BOXES) <= set(value):
            old = next((way for way in BOXES if way in self.marks), BOXES[1])
            value = tuple(mark for mark in value if mark != old)
        made = super().with_slot(name, value, tables)
        plot = made.statement
        if isinstance(plot, PlotStatement) and name == "shape" and plot.pairs != self.pairs:
            return Mended(replace(plot, read=None)._whole_axes(), made.notes)
        return made

    def slot_for_drop(self, zone: str, column: Column) -> str:
        """The axis takes what is plotted or what it is set against; panels and key, groups."""
        if zone == "axis":
            return "against" if self.pairs else "what"
        if zone == "middle":
            return "by" if column.kind.is_grouping else "what"
        return {"panels": "by", "key": "colour"}[zone]

    # mending

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = mend_split(self, tables)
        if made.colour is not None and made.colour not in table.by_name:
            notes.append(f"{table.name} has no column “{made.colour}”, so the colours were taken out.")
            made = replace(made, colour=None)
        if made.also:
            made, said = made._beside_numbers(table, slot)
            notes += said
        if slot == "colour":
            made = replace(made, hidden=(), tints=())
        if slot == "what":
            made, said = made._for_another_column()
            notes += said
        if made.by is not None and made.by == made.what:
            made = replace(made, by=None, and_by=None)
        if slot == "shape" and made.shape in TOGETHER and kind_of(table, made.what) in GROUPING:
            number = next((c.name for c in table.of_kind(Kind.NUMBER)), None)
            made = replace(made, what=number)
        made, said = made._fitting_shape(table)
        notes += said
        if slot == "against":
            made = replace(made, read=None)._whole_axes()
        if made.shape == "scatter" and (
            made.against is None or made.against == made.what or kind_of(table, made.against) is not Kind.NUMBER
        ):
            other = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what), None)
            made = replace(made, against=other)
            if other and slot != "shape":
                notes.append(f"It is plotted against {other} now.")
        if made.shape == "line" and slot == "shape":
            day = next((c.name for c in table.of_kind(Kind.DATE)), None)
            if day is not None:
                made = replace(made, against=day)
        if made.cut is None and made.cut2 is not None:
            made = replace(made, cut=made.cut2, cut2=None)
        return Mended(made, tuple(notes))

    def _beside_numbers(self, table: Table, slot: str) -> tuple[PlotStatement, list[str]]:
        """Several numbers stand in for groups and colours; whichever was set last stays."""
        kept = tuple(
            name for name in self.also if name not in (self.what, self.against) and kind_of(table, name) is Kind.NUMBER
        )
        made = replace(self, also=kept)
        if kind_of(table, made.what) is not Kind.NUMBER or (slot in ("by", "colour") and kept):
            return replace(made, also=()), []
        if kept and (made.by or made.colour):
            made = replace(made, by=None, and_by=None, colour=None, hidden=())
            return made, ["The numbers are set apart instead of groups and colours."]
        return made, []

    def _for_another_column(self) -> tuple[PlotStatement, list[str]]:
        """Without numbers that suited the column there was, and not another."""
        notes = []
        if self.bins is not None or self.start is not None:
            notes.append("The bins are chosen anew for this column.")
        bare = replace(self, bins=None, start=None, cut=None, cut2=None, read=None)
        return bare._whole_axes(), notes

    def _whole_axes(self) -> PlotStatement:
        return replace(self, low=None, high=None, bottom=None, top=None)

    def _fitting_shape(self, table: Table) -> tuple[PlotStatement, list[str]]:
        subject = self.subject(table)
        fitting = [str(option.value) for option in shape_options(subject)]
        if self.shape in fitting or self.what not in table.by_name:
            return self, []
        made = replace(self, shape=shapes_for(subject)[0].name)
        if made.scale == "density":
            made = replace(made, scale="count")
        return made, [f"The shape is {made.shape} now, which suits {self.what}."]

    def title(self, tables: Tables) -> str:
        if self.heading:
            return self.heading
        if not self.what:
            return "Plot"
        several = listed([self.what, *self.also])
        if self.shape in TOGETHER and self.against:
            return f"{sentence_case(several)} against {self.against}"
        if self.also:
            return sentence_case(several)
        return grouped_title(sentence_case(self.what), self)


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """Dots for a number and the category beside it, a scatter of two numbers, bars of levels."""
    own = tables.get(table)
    if own is None:
        return PlotStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    dates = [name for name in columns if kind_of(own, name) is Kind.DATE]
    if dates:
        number = numbers[0] if numbers else number_to_ask_about(own, ())
        return PlotStatement(table=table, what=number, against=dates[0], shape="line")
    if groups and not numbers:
        other = groups[1] if len(groups) > 1 else None
        shape = "bars side by side" if other else "bars"
        return PlotStatement(table=table, what=groups[0], by=other, shape=shape)
    what = number_to_ask_about(own, numbers)
    if len(numbers) > 1:
        # the first selected goes along the axis, as the thing that is varied
        return PlotStatement(
            table=table, what=numbers[1], against=numbers[0], shape="scatter", colour=groups[0] if groups else None
        )
    return PlotStatement(
        table=table, what=what, by=groups[0] if groups else None, colour=groups[1] if len(groups) > 1 else None
    )


def offers(table: Table, column: Column) -> list[Offer]:
    """A number by itself and against another; for a category, numbers in its levels."""
    name = column.name
    numbers = [c.name for c in table.of_kind(Kind.NUMBER) if c.name not in (name, table.counts)]
    if column.kind is Kind.NUMBER:
        made = [Offer(f"Plot {name}", PlotStatement(table=table.name, what=name))]
        if numbers:
            against = PlotStatement(table.name, name, against=numbers[0], shape="scatter")
            made.append(Offer(f"Plot {name} against {numbers[0]}", against, 20))
        return made
    if not column.kind.is_grouping:
        return []
    return [Offer(f"Plot {other} for each {name}", PlotStatement(table.name, other, by=name)) for other in numbers[:2]]


VERB = Verb(
    PlotStatement,
    "Plot",
    "Look at the rows themselves: dots, bins, boxes, bars, one number against another.",
    suggest,
    order=10,
    offers=offers,
    examples=(
        PlotStatement(table="bushes", what="pluck mass", by="netting", colour="grade", bins=4.0),
        PlotStatement(table="bushes", what="leaf mass", against="leaf length", shape="scatter", colour="cultivar"),
        PlotStatement(
            table="bushes",
            what="leaf length",
            by="cultivar",
            shape="histogram",
            scale="percent",
            cut=60.0,
            marks=("boxes", "mean"),
        ),
        PlotStatement(table="bushes", what="grade", by="netting", shape="bars stacked to 100 %"),
        PlotStatement(table="visits", what="visitors", against="month", shape="line"),
    ),
    methods=lambda: (
        *((shape.name, shape.help, "shape", shape.name) for shape in shapes().values()),
        ("boxes", "Quartiles and whiskers for each group", "marks", ("boxes",)),
    ),
    slot_help={
        "what": "The column to plot: a number or a category.",
        "also": "Further number columns, each with a panel or a colour of its own.",
        "hidden": "Levels of the colour that are left out of the picture.",
        "tints": "Colours picked for entries of the legend, such as “blue: fine”; colours: "
        + ", ".join(CATEGORY_NAMES)
        + ".",
        "against": "With “scatter” and “line”: what goes along the horizontal axis.",
        "by": "A category column: a panel, or a bar, for each level. None for all together.",
        "and_by": "A second category: a column of panels for each level.",
        "colour": "A category column that gives marks their colour and shape. None for one colour.",
        "bins": "Width of a bin, above 0. None has one chosen.",
        "start": "Where a bin begins; the others follow. None for a multiple of the width.",
        "scale": "What the height of bars and bins says.",
        "order": "The order of levels; of row bars “levels” is that of the table.",
        "marks": "What is added: " + ", ".join(MARKS) + ".",
        "quartiles": "The quartile rule of the boxes.",
        "cut": "A split line: how many cases lie on each side is said. None for none.",
        "cut2": "A second one, for a range.",
        "low": "Where the axis begins. None shows every case.",
        "high": "Where the axis ends.",
        "bottom": "With “scatter” and “line”: where the vertical axis begins.",
        "top": "With “scatter” and “line”: where the vertical axis ends.",
        "what_log": "Whether the scale of the column plotted is logarithmic.",
        "against_log": "With “scatter” and “line”: whether the horizontal scale is logarithmic.",
        "read": "A reading line: the value of every curve there is said. None for none.",
        "side_by_side": "Whether the groups stand side by side over an upright scale.",
        "first_part": "Of two groups, the part of the first box that is shaded.",
        "second_part": "The same for the second.",
        "gap": "Whether the gap between two medians is drawn beside the spread of both boxes.",
        "heading": "A title above the picture.",
        "shape": "How rows are shown; which fit depends on the kinds of the columns.",
    },
)
