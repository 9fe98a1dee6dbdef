"""The answer to a plot: the picture, and what it says in words."""

from __future__ import annotations

from dataclasses import replace

from theoros.answer.parts import Answer, CannotAnswer, Cell, Link, Reading, cell
from theoros.answer.picture import Frame, Picture
from theoros.answer.wording import (
    between_data,
    counted,
    exact,
    group_phrase,
    listed,
    listed_briefly,
    number,
    percent,
    sentence_case,
    shortened,
    whole,
    with_article,
    with_unit,
)
from theoros.heavy import np
from theoros.numeric.bins import MOST_BINS, round_step
from theoros.numeric.summaries import summarize
from theoros.table.table import Table
from theoros.verbs.groups import Split, split
from theoros.verbs.pictures import describe_groups, dots_frame
from theoros.verbs.plot.comparing import compared
from theoros.verbs.plot.pair_words import answer_pairs, said_beyond
from theoros.verbs.plot.plotted import Plotted, PlottedCounts, plotted_counts, plotted_number
from theoros.verbs.plot.sentence import number_text
from theoros.verbs.plot.shape import shapes
from theoros.verbs.plot.statement import PlotStatement
from theoros.verbs.registry import make
from theoros.verbs.row_links import row_links
from theoros.verbs.slots import Tables
from theoros.verbs.splitting import split_words

RINGED = ("stacked dots", "dots at exact values", "box plot")
"""Shapes that show outliers as rings."""
MOST_LEVELS_SAID = 12
"""Levels of a category that are told one by one in the words for a picture."""


def plotted(statement: PlotStatement, tables: Tables) -> Answer:
    """The answer: frames by the shape that is asked for, and the words that go with them."""
    table = tables[statement.table]
    subject = statement.subject(table)
    shape = shapes()[statement.shape]
    if subject not in shape.subjects:
        raise CannotAnswer(
            f"{statement.what} cannot be shown as {statement.shape}. Choose another shape.", "shape"
        )
    if subject == "number":
        made = _number(statement, table)
    elif subject in ("category", "two categories"):
        made = _category(statement, table)
    else:
        made = answer_pairs(statement, table)
    answer = replace(made, caption=statement.text(tables))
    if statement.heading and answer.picture is not None and answer.picture.frames:
        answer = replace(answer, picture=replace(answer.picture, title=statement.heading))
    return answer


def _number(statement: PlotStatement, table: Table) -> Answer:
    p = plotted_number(statement, table)
    if "bins" in statement.uses:
        _check_bins(statement.bins, p.values)
    frames = shapes()[statement.shape].draw(p)
    frames, said = compared(p, frames)
    places = table.decimals(p.column.name)
    alt = describe_groups(p.cases.groups, p.column.name, p.column.unit, places, statement.shape)
    reading = _read_groups(statement, table, p.cases)
    if said:
        reading = replace(reading, paragraphs=(*reading.paragraphs, *said))
    sides = _side_words(p) + _below_words(p)
    if sides:
        reading = replace(reading, paragraphs=(*sides, *reading.paragraphs))
    outside = _outside(p, frames)
    return Answer(
        "", picture=Picture(frames, p.keys, alt, outside), reading=reading, used=p.cases.used,
        left_out=p.cases.left_out,
    )  # fmt: skip


def _outside(p: Plotted, frames: tuple[Frame, ...]) -> tuple[str, ...]:
    """What is said of cases beyond the ends that were given to the axis."""
    if p.statement.low is None and p.statement.high is None:
        return ()
    axis = frames[0].x
    return said_beyond(int(((p.values < axis.low) | (p.values > axis.high)).sum()), "case")


def _side_words(p: Plotted) -> list[str]:
    """What the split lines say, in words."""
    cuts = p.cuts
    if not cuts:
        return []
    places = p.table.decimals(p.column.name)

    def amount(value: float) -> str:
        return with_unit(between_data(value, places), p.column.unit)

    made = []
    for group in p.cases.groups:
        n = group.values.size
        if not n:
            continue
        above = int((group.values >= cuts[-1]).sum())
        if len(cuts) == 1:
            made.append(
                f"Of the {counted(n, p.table.noun) if not group.label else group.phrase}, "
                f"{percent(above, n)} have {amount(cuts[0])} or more."
            )
        else:
            inside = int(((group.values >= cuts[0]) & (group.values < cuts[1])).sum())
            made.append(
                f"Of the {counted(n, p.table.noun) if not group.label else group.phrase}, "
                f"{percent(inside, n)} have at least {amount(cuts[0])} and less than "
                f"{amount(cuts[1])}."
            )
    return made[:4]


def _below_words(p: Plotted) -> list[str]:
    """What the reading line of cumulative steps says, in words."""
    at = p.statement.read
    if at is None or "read" not in p.statement.uses:
        return []
    amount = with_unit(exact(at), p.column.unit)
    made = []
    for group in p.cases.groups[:4]:
        n = group.values.size
        if n:
            whose = counted(n, p.table.noun) if not group.label else group.phrase
            share = percent(int((group.values <= at).sum()), n)
            made.append(f"Of the {whose}, {share} have {amount} or less.")
    return made


def _category(statement: PlotStatement, table: Table) -> Answer:
    p = plotted_counts(statement, table)
    shape = shapes()[statement.shape]
    frames = shape.draw(p)
    keys = p.keys if shape.keyed else ()
    return Answer(
        "", picture=Picture(frames, keys, count_words(p)), reading=count_reading(p),
        used=int(p.total), left_out=p.left_out,
    )  # fmt: skip


def count_words(p: PlottedCounts) -> str:
    """Words for a picture of counts."""
    parts = []
    for name, counts in zip(p.groups, p.counts.tolist(), strict=True):
        there = zip(p.levels, counts, strict=True)
        levels = [f"{shortened(level)} {whole(int(n))}" for level, n in there]
        said = listed_briefly(levels, MOST_LEVELS_SAID)
        parts.append(f"{shortened(name)}: {said}" if name else said)
    title = sentence_case(p.column.name) + (f" for each {p.statement.by}" if p.statement.by else "")
    return f"{title}, as {p.statement.shape}. {'; '.join(parts)}."


def count_reading(p: PlottedCounts, *, describing: bool = False) -> Reading:
    """What counts of one category, or of two, say."""
    what, by = p.column.name, p.statement.by
    noun = p.table.noun
    each = f" for each {by}" if by else ""
    if describing:
        shape = "bars stacked to 100 %" if by else "bars"
        other = make("plot", table=p.table.name, what=what, by=by, shape=shape)
        links = (Link(f"Plot {what}{each}", statement=other),)
    else:
        other = make("describe", table=p.table.name, what=what, by=by)
        links = (Link(f"Describe {what}{each}", statement=other),)
    totals = p.counts.sum(axis=0)
    n = int(p.total)
    order = np.argsort(-totals, kind="stable")
    most = int(totals[order[0]])
    tops = [shortened(p.levels[k]) for k in order.tolist() if totals[k] == most]
    share = percent(most, n)
    headline = f"The most frequent {what} is {tops[0]}: {share} of the {counted(n, noun)}."
    if len(p.levels) == 1:
        headline = f"All {counted(n, noun)} have the {what} {tops[0]}."
        if n == 1:
            headline = f"The one {noun} has the {what} {tops[0]}."
    elif len(tops) == len(p.levels):
        headline = f"Every {what} is equally frequent: {counted(most, noun)} each."
    elif len(tops) > 1:
        headline = (
            f"The most frequent levels of {what} are {listed_briefly(tops)}: "
            f"{counted(most, noun)} each, of {whole(n)}."
        )
    paragraphs = []
    if by is not None:
        sizes = p.counts.sum(axis=1)
        full = [g for g in range(len(p.groups)) if sizes[g]]
        shares = p.counts[full] / sizes[full][:, None]
        spread = shares.max(axis=0) - shares.min(axis=0)
        if len(full) > 1 and spread.max() > 0:
            level = int(np.argmax(spread))
            high, low = int(np.argmax(shares[:, level])), int(np.argmin(shares[:, level]))
            names = [group_phrase(p.groups[g], by, noun) for g in full]

            def said(place: int) -> str:
                g = full[place]
                return percent(int(p.counts[g, level]), int(sizes[g]))

            headline = (
                f"The share of {shortened(p.levels[level])} differs most: {said(high)} of "
                f"{names[high]} and {said(low)} of {names[low]}."
            )
            if float(spread.max()) < 0.05:
                paragraphs.append("The shares of all levels are nearly alike in the groups.")
            paragraphs.append("That shares differ here does not show that they differ elsewhere.")
        elif len(full) > 1:
            headline = f"The shares of every {what} are the same in all groups."
    return Reading(headline, tuple(paragraphs), next=links)


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


def _read_groups(statement: PlotStatement, table: Table, cases: Split) -> Reading:
    assert statement.what is not None
    column, places = table.column(statement.what), table.decimals(statement.what)
    full = [group for group in cases.groups if group.values.size]
    middles = [group.summary() for group in full]

    def amount(value: float) -> str:
        return with_unit(between_data(value, places), column.unit)

    first = middles[0]
    paragraphs: list[str] = []
    if len(full) == 1:
        values, middle = full[0].values, amount(first.median)
        if cases.used == 1:
            headline = f"There is one value of {column.name}: {middle}."
        elif first.minimum == first.maximum:
            headline = f"All {counted(cases.used, 'value')} of {column.name} are {middle}."
        else:
            # equal values at the median may hold far more than half of the cases
            half = abs(int((values <= first.median).sum()) - values.size / 2) <= 0.5
            headline = f"The median {column.name} of the {full[0].phrase} is {middle}."
            if half:
                named = with_article(column.name)
                headline = f"Half of the {full[0].phrase} have {named} of {middle} or less."
            paragraphs.append(
                f"The middle half lies between {amount(first.q1)} and {amount(first.q3)}, and all "
                f"values between {amount(first.minimum)} and {amount(first.maximum)}."
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
        if len(full) == 2 and gap and not statement.gap:
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
    if any(1 < s.n < 5 or (s.n == 1 and len(full) > 1) for s in middles):
        where = " in a group" if len(full) > 1 else ""
        cautions.append(f"With fewer than 5 values{where}, medians and boxes say little.")
    if odd:
        total = sum(n for _, n in beyond)
        shown = "values lie" if total > 1 else "value lies"
        where = f": {listed(odd)}" if len(full) > 1 else ""
        ringed = " (ringed)" if statement.shape in RINGED else ""
        cautions.append(
            f"{total} {shown} beyond the fences{ringed}{where}. Look at "
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
