"""Plot: the rows themselves as a picture."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

import numpy as np

from theoros.answer.parts import Answer, CannotAnswer, Cell, Draft, Link, Reading
from theoros.answer.picture import Frame, Key, Picture
from theoros.answer.wording import (
    counted,
    listed,
    number,
    percent,
    plural,
    sentence_case,
    with_unit,
)
from theoros.numeric.arrays import Ints
from theoros.numeric.bins import MOST_BINS, default_width, round_step
from theoros.numeric.summaries import summarize
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.groups import Split, split, workable
from theoros.verbs.pictures import (
    describe_groups,
    dots_frame,
    scatter_frame,
)
from theoros.verbs.registry import Verb, make
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
from theoros.verbs.statement import Statement, column_field

MOST_COLOURS = 8

Shape = Literal["stacked dots", "scatter"]
Marks = Literal["boxes", "boxes and means", "nothing"]


@dataclass(frozen=True)
class PlotStatement(Statement):
    """Plot a number for each level of a category, or one number against another."""

    verb: ClassVar[str] = "plot"
    what: str | None = column_field()
    against: str | None = column_field()
    by: str | None = column_field()
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
        noun = plural(table.noun) if table else "rows"
        by = column_slot(
            "by", "the groups", self.by, tables, self.table,
            (Kind.CATEGORY, Kind.ORDERED), none=f"all {noun} together",
        )  # fmt: skip
        for_each = " for each " if self.by else " for "
        column = table.by_name.get(self.what or "") if table else None
        unit = column.unit if column else ""
        holds = TypeNumber(
            low=0, low_open=True, unit=unit, auto=True,
            help="The width of a bin. Leave it empty to have one chosen.",
        )  # fmt: skip
        shown = ""
        if self.bins is None:
            width = _automatic_width(table, self.what)
            shown = with_unit(number_text(width), unit) if width else "automatic width"
        bins = number_slot("bins", "bin width", self.bins, holds, shown)
        marks = choice_slot("marks", "marks to add", self.marks, _MARKS)
        return (
            "Plot ", what, for_each, by, *coloured,
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
        return (number_slot("start", "first bin starts at", self.start, holds),)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = self, []
        if made.by is not None and made.by not in table.by_name:
            notes.append(f"{table.name} has no column “{made.by}”, so the groups were taken out.")
            made = replace(made, by=None)
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
        return f"{sentence_case(self.what)} by {self.by}" if self.by else sentence_case(self.what)

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        table = tables[self.table]
        made = (
            self._scatter(table, tables) if self.shape == "scatter" else self._dots(table, tables)
        )
        yield Draft(made)

    def _dots(self, table: Table, tables: Tables) -> Answer:
        assert self.what is not None
        cases = split(table, self.what, self.by)
        column = table.column(self.what)
        codes, keys, lost = _colours(table, self.colour)
        values = cases.all_values
        _check_bins(self.bins, values)
        frame = dots_frame(
            cases,
            column.label,
            width=self.bins or _automatic_width(table, self.what),
            start=self.start,
            codes=codes,
            boxes=self.marks != "nothing",
            means=self.marks == "boxes and means",
            handle=True,
        )
        places = table.decimals(self.what)
        alt = describe_groups(cases.groups, self.what, column.unit, places)
        return Answer(
            self.text(tables),
            picture=Picture((frame,), keys, alt),
            reading=_read_groups(self, table, cases),
            used=cases.used,
            left_out=cases.left_out + lost,
        )

    def _scatter(self, table: Table, tables: Tables) -> Answer:
        assert self.what is not None
        assert self.against is not None
        y, x = workable(table, self.what), workable(table, self.against)
        rows = np.flatnonzero(np.isfinite(x) & np.isfinite(y))
        if rows.size == 0:
            raise CannotAnswer(
                f"No row has both {self.what} and {self.against}, so there is nothing to plot.",
                "against",
            )
        codes, keys, lost = _colours(table, self.colour)
        colour = codes[rows] if codes is not None else np.zeros_like(rows)
        up, across = table.column(self.what), table.column(self.against)
        frame: Frame = scatter_frame(x[rows], y[rows], rows, colour, across.label, up.label)
        left = table.rows - rows.size
        left_out = (f"{counted(left, 'row')} left out: a value is missing",) if left else ()
        alt = f"Scatter of {self.what} against {self.against}, {counted(int(rows.size), 'point')}."
        return Answer(
            self.text(tables),
            picture=Picture((frame,), keys, alt),
            reading=_read_scatter(self, table, x[rows], y[rows]),
            used=int(rows.size),
            left_out=left_out + lost,
        )


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


def _automatic_width(table: Table | None, what: str | None) -> float | None:
    if table is None or what is None or what not in table.by_name:
        return None
    if table.column(what).kind is not Kind.NUMBER:
        return None
    values = table.numbers(what)

    def find() -> float | None:
        present = values[np.isfinite(values)]
        return default_width(present) if present.size else None

    return table.remembered("bin width", what, find)


def _check_bins(width: float | None, values: np.ndarray) -> None:
    if width is not None and values.size:
        spread = float(values.max() / 2 - values.min() / 2) * 2
        if spread / width > MOST_BINS:
            least = round_step(spread / MOST_BINS * 1.5)
            raise CannotAnswer(
                f"Bins of {number_text(width)} would make more than {MOST_BINS} of them. "
                f"Choose a width of {number_text(least)} or more.",
                "bins",
            )


def _colours(
    table: Table, colour: str | None
) -> tuple[Ints | None, tuple[Key, ...], tuple[str, ...]]:
    """Colour codes for every row, the legend, and what is said of rows without a colour."""
    if colour is None:
        return None, (), ()
    levels = table.levels(colour)
    if len(levels) > MOST_COLOURS:
        raise CannotAnswer(
            f"{colour} has {len(levels)} levels, and at most {MOST_COLOURS} colours can be told "
            f"apart. Choose another column to colour by.",
            "colour",
        )
    codes = table.codes(colour)
    keys = tuple(Key(level) for level in levels)
    if (codes < 0).any():
        lost = int((codes < 0).sum())
        codes = np.where(codes < 0, len(levels), codes)
        return codes, (*keys, Key("missing")), (f"{colour} is missing in {counted(lost, 'row')}",)
    return codes, keys, ()


def _read_groups(statement: PlotStatement, table: Table, cases: Split) -> Reading:
    assert statement.what is not None
    column, places = table.column(statement.what), table.decimals(statement.what)
    full = [group for group in cases.groups if group.values.size]
    middles = [summarize(group.values) for group in full]

    def amount(value: float) -> str:
        return with_unit(number(value, places), column.unit)

    first = middles[0]
    paragraphs: list[str] = []
    if len(full) == 1:
        headline = (
            f"Half of the {full[0].phrase} have a {column.name} of {amount(first.median)} or less."
        )
        if cases.used == 1:
            headline = f"There is one value of {column.name}: {amount(first.median)}."
        else:
            paragraphs.append(
                f"The middle half lies between {amount(first.q1)} and {amount(first.q3)}, "
                f"all of it between {amount(first.minimum)} and {amount(first.maximum)}."
            )
    else:
        order = sorted(range(len(full)), key=lambda k: -middles[k].median)
        high, low = order[0], order[-1]
        gap = middles[high].median - middles[low].median
        if gap == 0:
            headline = f"The groups have the same median {column.name}, {amount(first.median)}."
        else:
            headline = (
                f"Among {full[high].phrase} the median {column.name} is "
                f"{amount(middles[high].median)}; among {full[low].phrase} it is "
                f"{amount(middles[low].median)}."
            )
        if len(full) == 2 and gap:
            box_low = min(m.q1 for m in middles)
            box_high = max(m.q3 for m in middles)
            reach = box_high - box_low
            if reach > 0:
                paragraphs.append(
                    f"The two medians stand {amount(gap)} apart. The boxes together span "
                    f"{amount(reach)}, so the gap is {percent(gap, reach)} of that span."
                )
    beyond = [
        (group, int(summary.outside(group.values).sum()))
        for group, summary in zip(full, middles, strict=True)
    ]
    odd = [f"{n} among {group.phrase}" if len(full) > 1 else str(n) for group, n in beyond if n]
    links = [_describe_link(statement)]
    cautions = []
    if odd:
        total = sum(n for _, n in beyond)
        shown = "values lie" if total > 1 else "value lies"
        where = f": {listed(odd)}" if len(full) > 1 else ""
        cautions.append(
            f"{total} {shown} beyond the fences (ringed){where}. Look at "
            f"{'them' if total > 1 else 'it'}; an outlier is not an error until it is shown to be."
        )
        rows = np.concatenate(
            [g.rows[s.outside(g.values)] for g, s in zip(full, middles, strict=True)]
        )
        links.insert(
            0, Link("Select the rows beyond the fences", rows=tuple(sorted(rows.tolist())))
        )
    if len(full) == 2 and statement.by:
        links.append(
            Link(
                f"Test whether the two differ in {column.name}",
                statement=make(
                    "test", table=table.name, what=column.name, by=statement.by,
                    first=full[0].label, second=full[1].label,
                ),
            )
        )  # fmt: skip
    return Reading(headline, tuple(paragraphs), cautions=tuple(cautions), next=tuple(links))


def _describe_link(statement: PlotStatement) -> Link:
    label = f"Describe {statement.what}" + (f" for each {statement.by}" if statement.by else "")
    made = make("describe", table=statement.table, what=statement.what, by=statement.by)
    return Link(label, statement=made)


def _read_scatter(statement: PlotStatement, table: Table, x: np.ndarray, y: np.ndarray) -> Reading:
    n = int(x.size)
    what, against = statement.what, statement.against
    paragraphs = [f"Each point is one {table.noun}, {counted(n, 'point')} in all."]
    if n < 3 or np.ptp(x) == 0 or np.ptp(y) == 0:
        flat = what if n and np.ptp(y) == 0 else against
        headline = f"{sentence_case(str(flat))} is the same in every row: nothing can vary with it."
        if n < 3:
            headline = f"{sentence_case(counted(n, 'point'))}: too few to speak of a pattern."
    else:
        with np.errstate(over="ignore", invalid="ignore"):
            r = float(np.corrcoef(x, y)[0, 1])
        if not np.isfinite(r):
            headline = "The values are too large to say how they vary together."
        elif abs(r) < 0.1:
            headline = (
                f"{sentence_case(str(what))} shows almost no straight-line trend with {against}."
            )
        else:
            way = "higher" if r > 0 else "lower"
            how = "strongly" if abs(r) >= 0.8 else "moderately" if abs(r) >= 0.5 else "weakly"
            headline = f"{sentence_case(str(what))} tends to be {way} where {against} is higher."
            paragraphs.append(
                f"The points follow a straight line {how}: r = {number(r, 2)}. "
                f"That they go together does not show that one causes the other."
            )
    return Reading(headline, tuple(paragraphs))


def column_answer(table: Table, name: str) -> tuple[Picture, tuple[tuple[str, Cell], ...]]:
    """The small picture and figures of one number column, for the pane beside the table.

    Raises CannotAnswer if every value is missing.
    """
    column, cases = table.column(name), split(table, name, None)
    summary = summarize(cases.all_values)
    places = table.decimals(name)
    frame = dots_frame(cases, column.unit or " ", means=True, fine=True)
    figures = (
        ("values", Cell(str(summary.n), summary.n)),
        ("missing", Cell(str(table.missing(name)), table.missing(name))),
        ("mean", Cell(number(summary.mean, places + 1 if places < 6 else 6), summary.mean)),
        ("median", Cell(number(summary.median, places), summary.median)),
    )
    return Picture((frame,), alt=describe_groups(cases.groups, name, column.unit, places)), figures


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """Dots for a number and the category beside it, or a scatter of two numbers."""
    own = tables.get(table)
    if own is None:
        return PlotStatement(table=table)
    chosen = [own.column(name) for name in columns if name in own.by_name]
    numbers = [c.name for c in chosen if c.kind is Kind.NUMBER]
    groups = [c.name for c in chosen if c.kind.is_grouping]
    what = numbers[0] if numbers else next((c.name for c in own.of_kind(Kind.NUMBER)), None)
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
    methods=(
        ("stacked dots", "A dot for each row, piled in bins", "shape", "stacked dots"),
        ("scatter", "One number against another", "shape", "scatter"),
        ("boxes", "Quartiles and whiskers for each group", "marks", "boxes"),
    ),
    slot_help={
        "what": "The number column to plot.",
        "against": "With shape “scatter”: the number column along the horizontal axis.",
        "by": "A category column: a row of dots for each level. None for all rows together.",
        "colour": "A category column that gives marks their colour and shape. None for one colour.",
        "bins": "Width of a bin, above 0. None has one chosen.",
        "start": "Where the first bin begins. None for a multiple of the width.",
        "marks": "What is added to the dots.",
        "shape": "How rows are shown.",
    },
)  # fmt: skip
