"""The answer to a plot: the picture, and what it says in words."""

from __future__ import annotations

from theoros.answer.parts import Answer, CannotAnswer, Cell, Link, Reading, cell
from theoros.answer.picture import Frame, Key, Picture
from theoros.answer.wording import (
    between_data,
    counted,
    listed,
    number,
    percent,
    sentence_case,
    with_unit,
)
from theoros.heavy import np
from theoros.numeric.arrays import Ints
from theoros.numeric.bins import MOST_BINS, round_step
from theoros.numeric.correlation import pearson
from theoros.numeric.summaries import summarize
from theoros.table.table import Table
from theoros.verbs.groups import Split, said_unused, split, unit_of_count, workable
from theoros.verbs.pictures import describe_groups, dots_frame, scatter_frame
from theoros.verbs.plot.statement import PlotStatement, automatic_width, number_text
from theoros.verbs.registry import make
from theoros.verbs.row_links import row_links
from theoros.verbs.slots import Tables
from theoros.verbs.splitting import split_words

MOST_COLOURS = 8


def plotted(statement: PlotStatement, tables: Tables) -> Answer:
    """The answer: dots for groups, or a scatter of two numbers."""
    table = tables[statement.table]
    scatter = statement.shape == "scatter"
    return (_scatter if scatter else _dots)(statement, table, tables)


def _dots(statement: PlotStatement, table: Table, tables: Tables) -> Answer:
    assert statement.what is not None
    cases = split(table, statement.what, statement.by, and_by=statement.and_by)
    column = table.column(statement.what)
    codes, keys, lost = _colours(table, statement.colour)
    values = cases.all_values
    _check_bins(statement.bins, values)
    frame = dots_frame(
        cases,
        column.label,
        width=statement.bins or automatic_width(table, statement.what),
        start=statement.start,
        codes=codes,
        boxes=statement.marks != "nothing",
        means=statement.marks == "boxes and means",
        handle=True,
    )
    places = table.decimals(statement.what)
    alt = describe_groups(cases.groups, statement.what, column.unit, places)
    return Answer(
        statement.text(tables),
        picture=Picture((frame,), keys, alt),
        reading=_read_groups(statement, table, cases),
        used=cases.used,
        left_out=cases.left_out + lost,
    )


def _scatter(statement: PlotStatement, table: Table, tables: Tables) -> Answer:
    assert statement.what is not None
    assert statement.against is not None
    y, x = workable(table, statement.what), workable(table, statement.against)
    cases = table.cases
    rows = cases[(np.isfinite(x) & np.isfinite(y))[cases]]
    if rows.size == 0:
        raise CannotAnswer(
            f"No row has both {statement.what} and {statement.against}: nothing to plot.",
            "against",
        )
    codes, keys, lost = _colours(table, statement.colour)
    colour = codes[rows] if codes is not None else np.zeros_like(rows)
    up, across = table.column(statement.what), table.column(statement.against)
    frame: Frame = scatter_frame(x[rows], y[rows], rows, colour, across.label, up.label)
    left = int(cases.size - rows.size)
    missing = (
        [f"{counted(left, unit_of_count(table))} left out: a value is missing"] if left else []
    )
    left_out = (*missing, *said_unused(table))
    points = counted(int(rows.size), "point")
    alt = f"Scatter of {statement.what} against {statement.against}, {points}."
    return Answer(
        statement.text(tables),
        picture=Picture((frame,), keys, alt),
        reading=_read_scatter(statement, table, x[rows], y[rows]),
        used=int(rows.size),
        left_out=left_out + lost,
    )


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
        return with_unit(between_data(value, places), column.unit)

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
    outlying: list[int] = []
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
        outlying = [int(row) for row in rows]
    links = [*row_links(table, outlying), _describe_link(statement)]
    if len(full) == 2 and statement.by:
        links.append(
            Link(
                f"Test whether the two differ in {column.name}",
                statement=make(
                    "test", table=table.name, what=column.name, by=statement.by,
                    and_by=statement.and_by, first=full[0].label, second=full[1].label,
                ),
            )
        )  # fmt: skip
    return Reading(headline, tuple(paragraphs), cautions=tuple(cautions), next=tuple(links))


def _describe_link(statement: PlotStatement) -> Link:
    each = split_words(statement)
    label = f"Describe {statement.what}" + (f" for each {each}" if each else "")
    made = make(
        "describe", table=statement.table, what=statement.what, by=statement.by,
        and_by=statement.and_by,
    )  # fmt: skip
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
        r = pearson(x, y)
        if abs(r) < 0.1:
            headline = (
                f"{sentence_case(str(what))} shows almost no straight-line trend with {against}."
            )
        else:
            way = "higher" if r > 0 else "lower"
            how = "strongly" if abs(r) >= 0.8 else "moderately" if abs(r) >= 0.5 else "weakly"
            headline = f"{sentence_case(str(what))} tends to be {way} where {against} is higher."
            paragraphs.append(
                f"The points follow a straight line {how}: r\u00a0=\u00a0{number(r, 2)}. "
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
        ("missing", cell(cases.groups[0].missing)),
        ("mean", Cell(number(summary.mean, places + 1 if places < 6 else 6), summary.mean)),
        ("median", Cell(between_data(summary.median, places), summary.median)),
    )
    return Picture((frame,), alt=describe_groups(cases.groups, name, column.unit, places)), figures
