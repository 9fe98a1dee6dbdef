"""The statement of a plot: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

from theoros.answer.parts import Draft
from theoros.answer.wording import exact, listed, sentence_case, with_unit
from theoros.heavy import np
from theoros.numeric.bins import default_width
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.plot.shape import Subject, shapes, shapes_for
from theoros.verbs.quartile_rules import rule_slot
from theoros.verbs.registry import Verb
from theoros.verbs.slots import (
    Mended,
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    column_slot,
    columns_slot,
    number_slot,
    text_slot,
)
from theoros.verbs.splitting import and_by_aside, for_each, grouped_title, mend_split
from theoros.verbs.statement import Statement, column_field, level_field
from theoros.verbs.suggesting import number_to_ask_about, numbers_and_groups

Scale = Literal["count", "percent", "density"]
Order = Literal["levels", "by count", "as they come"]
Part = Literal["", "lower half", "upper half", "lower three quarters", "upper three quarters"]
GROUPING = (Kind.CATEGORY, Kind.ORDERED)
TOGETHER = ("scatter", "line")
"""Shapes that set a number against something else."""


@dataclass(frozen=True)
class PlotStatement(Statement):
    """Plot a number or a category, for groups of cases, or a number against another."""

    verb: ClassVar[str] = "plot"
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
    first_part: Part = ""
    second_part: Part = ""
    gap: bool = False
    hidden: tuple[str, ...] = level_field("colour", ())
    heading: str = ""

    @classmethod
    def from_json(cls, data: Mapping[str, Any]) -> Self:
        """As for every statement; marks were one word before they were several."""
        old = {"boxes": ["boxes"], "boxes and means": ["boxes", "mean"], "nothing": []}
        if isinstance(data.get("marks"), str) and data["marks"] in old:
            data = {**data, "marks": old[data["marks"]]}
        return super().from_json(data)

    def subject(self, table: Table | None) -> Subject:
        """What it shows, by the kinds of its columns."""
        if table is not None and _kind(table, self.what) in GROUPING:
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
    def framed(self) -> bool:
        """Whether the ends of its axis can be dragged."""
        return "ends" in self.uses

    # the sentence

    def phrase(self, tables: Tables) -> Phrase:
        table = tables.get(self.table)
        subject = self.subject(table)
        what = column_slot(
            "what", "what to plot", self.what, tables, self.table, (Kind.NUMBER, *GROUPING),
            elsewhere=True,
        )  # fmt: skip
        known = shapes().get(self.shape)
        slot = choice_slot("shape", "shape", self.shape, self._shape_options(subject))
        shape: Phrase = (f", as {known.article if known else ''}", slot)
        ending = self._ending(tables)
        if subject in ("category", "two categories"):
            order = choice_slot("order", "order of levels", self.order, _ORDERS)
            scale: Phrase = (" by ", self._scale_slot(subject)) if "scale" in self.uses else ()
            levels: Phrase = (", levels ", order) if "order" in self.uses else ()
            return (
                "Plot ",
                what,
                *for_each(self, tables, [self.what] if self.what else []),
                *shape,
                *scale,
                *levels,
                *ending,
            )
        coloured = self._coloured(tables)
        if subject in ("two numbers", "over time"):
            none = "the order of the rows" if subject == "over time" else ""
            kinds = (Kind.NUMBER, Kind.DATE) if subject == "over time" else (Kind.NUMBER,)
            against = column_slot(
                "against", "what to plot against", self.against, tables, self.table, kinds,
                none=none, exclude=[self.what] if self.what else [],
            )  # fmt: skip
            each = for_each(self, tables) if self.by else ()
            return (
                "Plot ",
                what,
                *self._beside(tables),
                " against ",
                against,
                *each,
                *coloured,
                *shape,
                *ending,
            )
        together: Phrase = self._beside(tables) or for_each(self, tables)
        made: Phrase = ("Plot ", what, *together, *coloured, *shape)
        if "scale" in self.uses:
            made = (*made, " by ", self._scale_slot(subject))
        if "bins" in self.uses:
            made = (*made, " in bins of ", self._bins_slot(table))
        if "rows" in self.uses:
            made = (*made, " ", choice_slot("order", "order of the bars", self.order, _ROW_ORDERS))
        if "marks" in self.uses:
            made = (*made, ", with ", self._marks_slot())
        return (*made, *ending)

    def _beside(self, tables: Tables) -> Phrase:
        """Further numbers, where there are some."""
        return (" beside ", self._also_slot(tables)) if self.also else ()

    def _also_slot(self, tables: Tables) -> Slot:
        slot = columns_slot(
            "also", "further numbers", self.also, tables, self.table, (Kind.NUMBER,),
            none="no other number",
        )  # fmt: skip
        assert isinstance(slot.holds, PickSeveral)
        shut = {self.what, self.against}
        options = tuple(option for option in slot.holds.options if option.value not in shut)
        return replace(slot, holds=replace(slot.holds, options=options, least=0))

    def _ending(self, tables: Tables) -> Phrase:
        """Split lines and a title, where they are set."""
        made: Phrase = ()
        if self.cut is not None and "cut" in self.uses:
            made = (", split at ", self._cut_slot("cut", tables))
            if self.cut2 is not None:
                made = (*made, " and ", self._cut_slot("cut2", tables))
        return (*made, ".")

    def _coloured(self, tables: Tables) -> Phrase:
        shape = shapes().get(self.shape)
        if (shape is not None and "colour" not in shape.uses) or self.also:
            return ()
        colour = column_slot(
            "colour", "colour", self.colour, tables, self.table, GROUPING, none="one colour"
        )
        return (", coloured by ", colour) if self.colour else (", in ", colour)

    def _shape_options(self, subject: Subject) -> list[Option]:
        fitting = shapes_for(subject)
        if subject in ("number", "two numbers", "over time"):
            everything = [
                *shapes_for("number"),
                *shapes_for("two numbers"),
                *shapes_for("over time"),
            ]
            fitting = list(dict.fromkeys(everything))
        return [Option(shape.name, shape.name, help=shape.help) for shape in fitting]

    def _scale_slot(self, subject: Subject) -> Slot:
        options = _SCALES if subject == "number" else _SCALES[:2]
        return choice_slot("scale", "height", self.scale, options)

    def _bins_slot(self, table: Table | None) -> Slot:
        unit = _unit(table, self.what)
        holds = TypeNumber(
            low=0, low_open=True, unit=unit, auto=True,
            help="The width of a bin. Leave it empty to have one chosen.",
        )  # fmt: skip
        shown = ""
        if self.bins is None:
            width = automatic_width(table, self.what)
            shown = with_unit(number_text(width), unit) if width else "automatic width"
        return number_slot("bins", "bin width", self.bins, holds, shown)

    def _marks_slot(self) -> Slot:
        options = tuple(Option(name, name, help=text) for name, text in MARKS.items())
        shown = listed(list(self.marks)) if self.marks else "nothing added"
        holds = PickSeveral(options, 0, "marks")
        return Slot("marks", "marks to add", shown, self.marks, holds)

    def _cut_slot(self, name: Literal["cut", "cut2"], tables: Tables) -> Slot:
        unit = _unit(tables.get(self.table), self.what)
        value = getattr(self, name)
        label = "split line" if name == "cut" else "second split line"
        holds = TypeNumber(
            unit=unit, auto=True,
            help="Cases on each side are counted. Leave it empty for none.",
        )  # fmt: skip
        shown = with_unit(exact(value), unit) if value is not None else "none"
        return number_slot(name, label, value, holds, shown)

    def asides(self, tables: Tables) -> tuple[Slot, ...]:
        table = tables.get(self.table)
        unit = _unit(table, self.what)
        subject = self.subject(table)
        made = list(and_by_aside(self, tables)) if subject == "number" else []
        if subject in ("number", "two numbers", "over time") and not (self.by or self.also):
            made.append(self._also_slot(tables))
        if "bins" in self.uses:
            holds = TypeNumber(
                unit=unit, auto=True,
                help="Where the first bin begins. Leave it empty for a multiple of the width.",
            )  # fmt: skip
            made.append(number_slot("start", "first bin starts at", self.start, holds))
        if "cut" in self.uses:
            if self.cut is None:
                made.append(self._cut_slot("cut", tables))
            elif self.cut2 is None:
                made.append(self._cut_slot("cut2", tables))
        if "ends" in self.uses:
            ends = TypeNumber(unit=unit, auto=True, help="Leave it empty to show every case.")
            made.append(number_slot("low", "axis from", self.low, ends))
            made.append(number_slot("high", "axis to", self.high, ends))
        if "marks" in self.uses and {"boxes", "plain boxes"} & set(self.marks):
            made.append(rule_slot(self.quartiles))
            made += self._comparing(table)
        if subject in ("two numbers", "over time") and not (self.by or self.also):
            made.append(for_each(self, tables)[1])  # type: ignore[arg-type]
        title = TypeText("A title above the picture.", longest=200)
        made.append(text_slot("heading", "title", self.heading, title, empty="none"))
        return tuple(made)

    def _comparing(self, table: Table | None) -> list[Slot]:
        """What helps to compare two groups by eye."""
        if table is None or _kind(table, self.by) not in GROUPING or self.and_by:
            return []
        levels = table.levels(str(self.by))
        if len(levels) != 2:
            return []
        return [
            choice_slot("first_part", f"shade of {levels[0]}", self.first_part, _PARTS),
            choice_slot("second_part", f"shade of {levels[1]}", self.second_part, _PARTS),
            choice_slot("gap", "gap of the medians", self.gap, _GAPS),
        ]

    # mending

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = mend_split(self, tables)
        if made.colour is not None and made.colour not in table.by_name:
            notes.append(
                f"{table.name} has no column “{made.colour}”, so the colours were taken out."
            )
            made = replace(made, colour=None)
        if made.also:
            made, said = made._beside_numbers(table, slot)
            notes += said
        if slot == "colour" and made.hidden:
            made = replace(made, hidden=())
        if slot == "what":
            made, said = made._for_another_column()
            notes += said
        if made.by is not None and made.by == made.what:
            made = replace(made, by=None, and_by=None)
        if slot == "shape" and made.shape in TOGETHER and _kind(table, made.what) in GROUPING:
            number = next((c.name for c in table.of_kind(Kind.NUMBER)), None)
            made = replace(made, what=number)
        made, said = made._fitting_shape(table)
        notes += said
        if made.shape == "scatter" and (
            made.against is None
            or made.against == made.what
            or _kind(table, made.against) is not Kind.NUMBER
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
            name for name in self.also
            if name not in (self.what, self.against) and _kind(table, name) is Kind.NUMBER
        )  # fmt: skip
        made = replace(self, also=kept)
        if _kind(table, made.what) is not Kind.NUMBER or (slot in ("by", "colour") and kept):
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
        bare = replace(self, bins=None, start=None, cut=None, cut2=None, low=None, high=None)
        return bare, notes

    def _fitting_shape(self, table: Table) -> tuple[PlotStatement, list[str]]:
        subject = self.subject(table)
        fitting = [str(option.value) for option in self._shape_options(subject)]
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

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.plot.answering import plotted

        yield Draft(plotted(self, tables))


MARKS = {
    "boxes": "Quartiles, median and whiskers; outliers as rings.",
    "plain boxes": "Boxes with whiskers to the ends.",
    "mean": "A triangle at the mean.",
    "median": "A stroke at the median.",
    "counts": "How many stand in each bin.",
    "percent": "What share stands in each bin.",
}
_ORDERS = (
    Option("levels", "in their order", help="The order that the column gives them."),
    Option("by count", "by count", help="The most frequent first."),
    Option("as they come", "as they come", help="In the order of the rows."),
)
_ROW_ORDERS = (
    Option("levels", "in the order of the table"),
    Option("by count", "by length", help="The longest first."),
)
_SCALES = (
    Option("count", "count"),
    Option("percent", "percent", help="Of the cases of each group."),
    Option("density", "density", help="Share per unit, so that areas are shares."),
)
_PARTS = (
    Option("", "nothing"),
    Option("lower half", "the lower half of the box"),
    Option("upper half", "the upper half of the box"),
    Option("lower three quarters", "the lower three quarters", help="From the least value to Q3."),
    Option("upper three quarters", "the upper three quarters", help="From Q1 to the greatest."),
)
_GAPS = (
    Option(False, "not drawn"),
    Option(True, "drawn", help="The gap between the medians beside the spread of both boxes."),
)


def _kind(table: Table, name: str | None) -> Kind | None:
    return table.column(name).kind if name is not None and name in table.by_name else None


def _unit(table: Table | None, name: str | None) -> str:
    column = table.by_name.get(name or "") if table else None
    return column.unit if column else ""


def number_text(value: float) -> str:
    """A bin width without trailing zeros."""
    return f"{value:.10g}"


def automatic_width(table: Table | None, what: str | None) -> float | None:
    if table is None or what is None or what not in table.by_name:
        return None
    if table.column(what).kind is not Kind.NUMBER:
        return None
    values = table.numbers(what)

    def find() -> float | None:
        present = values[np.isfinite(values)]
        return default_width(present) if present.size else None

    return table.remembered("bin width", what, find)


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """Dots for a number and the category beside it, a scatter of two numbers, bars of levels."""
    own = tables.get(table)
    if own is None:
        return PlotStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    dates = [name for name in columns if _kind(own, name) is Kind.DATE]
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
            table=table, what=numbers[1], against=numbers[0], shape="scatter",
            colour=groups[0] if groups else None,
        )  # fmt: skip
    return PlotStatement(
        table=table,
        what=what,
        by=groups[0] if groups else None,
        colour=groups[1] if len(groups) > 1 else None,
    )


VERB = Verb(
    PlotStatement,
    "Plot",
    "Look at the rows themselves: dots, bins, boxes, bars, one number against another.",
    suggest,
    examples=(
        PlotStatement(table="bushes", what="pluck mass", by="netting", colour="grade", bins=4.0),
        PlotStatement(
            table="bushes", what="leaf mass", against="leaf length", shape="scatter",
            colour="cultivar",
        ),
        PlotStatement(
            table="bushes", what="leaf length", by="cultivar", shape="histogram", scale="percent",
            cut=60.0, marks=("boxes", "mean"),
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
        "against": "With “scatter” and “line”: what goes along the horizontal axis.",
        "by": "A category column: a panel, or a bar, for each level. None for all together.",
        "and_by": "A second category: a column of panels for each level.",
        "colour": "A category column that gives marks their colour and shape. None for one colour.",
        "bins": "Width of a bin, above 0. None has one chosen.",
        "start": "Where the first bin begins. None for a multiple of the width.",
        "scale": "What the height of bars and bins says.",
        "order": "The order of levels; of row bars “levels” is that of the table.",
        "marks": "What is added: " + ", ".join(MARKS) + ".",
        "quartiles": "The quartile rule of the boxes.",
        "cut": "A split line: how many cases lie on each side is said. None for none.",
        "cut2": "A second one, for a range.",
        "low": "Where the axis begins. None shows every case.",
        "high": "Where the axis ends.",
        "first_part": "Of two groups, the part of the first box that is shaded.",
        "second_part": "The same for the second.",
        "gap": "Whether the gap between two medians is drawn beside the spread of both boxes.",
        "heading": "A title above the picture.",
        "shape": "How rows are shown; which fit depends on the kinds of the columns.",
    },
)  # fmt: skip
