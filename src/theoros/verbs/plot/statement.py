"""The statement of a plot: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.parts import Draft
from theoros.answer.wording import sentence_case, with_unit
from theoros.heavy import np
from theoros.numeric.bins import default_width
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.registry import Verb
from theoros.verbs.slots import (
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    choice_slot,
    column_slot,
    number_slot,
)
from theoros.verbs.splitting import and_by_aside, for_each, grouped_title, mend_split
from theoros.verbs.statement import Statement, column_field
from theoros.verbs.suggesting import number_to_ask_about, numbers_and_groups

Shape = Literal["stacked dots", "scatter"]
Marks = Literal["boxes", "boxes and means", "nothing"]


@dataclass(frozen=True)
class PlotStatement(Statement):
    """Plot a number for each level of a category, or one number against another."""

    verb: ClassVar[str] = "plot"
    what: str | None = column_field()
    against: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    colour: str | None = column_field()
    shape: Shape = "stacked dots"
    bins: float | None = None
    start: float | None = None
    marks: Marks = "boxes"

    def phrase(self, tables: Tables) -> Phrase:
        table = tables.get(self.table)
        number_kind = (Kind.NUMBER,)
        what = column_slot(
            "what", "the number to plot", self.what, tables, self.table, number_kind, elsewhere=True
        )
        shape = choice_slot("shape", "shape", self.shape, _SHAPES)
        colour = column_slot(
            "colour", "colour", self.colour, tables, self.table,
            (Kind.CATEGORY, Kind.ORDERED), none="one colour",
        )  # fmt: skip
        coloured: Phrase = (", coloured by ", colour) if self.colour else (", in ", colour)
        if self.shape == "scatter":
            against = column_slot(
                "against", "the number to plot against", self.against, tables, self.table,
                number_kind, exclude=[self.what] if self.what else [],
            )  # fmt: skip
            return ("Plot ", what, " against ", against, *coloured, ", as a ", shape, ".")
        column = table.by_name.get(self.what or "") if table else None
        unit = column.unit if column else ""
        holds = TypeNumber(
            low=0, low_open=True, unit=unit, auto=True,
            help="The width of a bin. Leave it empty to have one chosen.",
        )  # fmt: skip
        shown = ""
        if self.bins is None:
            width = automatic_width(table, self.what)
            shown = with_unit(number_text(width), unit) if width else "automatic width"
        bins = number_slot("bins", "bin width", self.bins, holds, shown)
        marks = choice_slot("marks", "marks to add", self.marks, _MARKS)
        return (
            "Plot ", what, *for_each(self, tables), *coloured,
            ", as ", shape, " in bins of ", bins, ", with ", marks, ".",
        )  # fmt: skip

    def asides(self, tables: Tables) -> tuple[Slot, ...]:
        if self.shape == "scatter":
            return ()
        table = tables.get(self.table)
        column = table.by_name.get(self.what or "") if table else None
        holds = TypeNumber(
            unit=column.unit if column else "", auto=True,
            help="Where the first bin begins. Leave it empty for a multiple of the width.",
        )  # fmt: skip
        start = number_slot("start", "first bin starts at", self.start, holds)
        return (*and_by_aside(self, tables), start)

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
        # a bin width suits the column it was chosen for, not another
        if slot == "what" and (made.bins is not None or made.start is not None):
            made = replace(made, bins=None, start=None)
            notes.append("The bins are chosen anew for this column.")
        if made.shape == "scatter" and (
            made.against is None or made.against == made.what or made.against not in table.by_name
        ):
            other = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what), None)
            made = replace(made, against=other)
            if other and slot != "shape":
                notes.append(f"It is plotted against {other} now.")
        return Mended(made, tuple(notes))

    def title(self, tables: Tables) -> str:
        if not self.what:
            return "Plot"
        if self.shape == "scatter":
            return f"{sentence_case(self.what)} against {self.against}"
        return grouped_title(sentence_case(self.what), self)

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.plot.answering import plotted

        yield Draft(plotted(self, tables))


_SHAPES = (
    Option("stacked dots", "stacked dots", help="A dot for each row, gathered in bins and piled."),
    Option("scatter", "scatter", help="A point for each row: one number against another."),
)
_MARKS = (
    Option("boxes", "boxes", help="Quartiles, median and whiskers; outliers as rings."),
    Option("boxes and means", "boxes and means", help="Boxes with a triangle at the mean."),
    Option("nothing", "nothing added", help="The dots alone."),
)


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
    """Dots for a number and the category beside it, or a scatter of two numbers."""
    own = tables.get(table)
    if own is None:
        return PlotStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
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
    "Look at the rows themselves: dots and boxes, or one number against another.",
    suggest,
    examples=(
        PlotStatement(table="bushes", what="pluck mass", by="netting", colour="grade", bins=4.0),
        PlotStatement(
            table="bushes", what="leaf mass", against="leaf length", shape="scatter",
            colour="cultivar",
        ),
    ),
    methods=lambda: (
        ("stacked dots", "A dot for each row, piled in bins", "shape", "stacked dots"),
        ("scatter", "One number against another", "shape", "scatter"),
        ("boxes", "Quartiles and whiskers for each group", "marks", "boxes"),
    ),
    slot_help={
        "what": "The number column to plot.",
        "against": "With shape “scatter”: the number column along the horizontal axis.",
        "by": "A category column: a row of dots for each level. None for all rows together.",
        "and_by": "A second category: a row of dots for each combination of levels.",
        "colour": "A category column that gives marks their colour and shape. None for one colour.",
        "bins": "Width of a bin, above 0. None has one chosen.",
        "start": "Where the first bin begins. None for a multiple of the width.",
        "marks": "What is added to the dots.",
        "shape": "How rows are shown.",
    },
)  # fmt: skip
