"""The answer to a description: picture, figures, fences with their working, words."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import replace

from theoros.answer.formulas.notation import formulas
from theoros.answer.parts import Answer, Draft, Link, Reading, Step
from theoros.answer.picture import Picture
from theoros.answer.wording import (
    between_data,
    bracketed,
    counted,
    decimals_needed,
    difference_unit,
    exact,
    listed,
    listed_briefly,
    number,
    sentence_case,
    significant,
    telling_apart,
    whole,
    with_unit,
)
from theoros.numeric.quartiles import Place, half_sizes, quartile_places
from theoros.numeric.shape import LEAST
from theoros.numeric.summaries import Summary
from theoros.table.table import Column, Table
from theoros.verbs import follow_ups
from theoros.verbs.core.quartile_rules import rule_words
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.splitting import split_words
from theoros.verbs.data.groups import Group, Split, split
from theoros.verbs.data.pictures import describe_groups, dots_frame
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.describe.statement import DescribeStatement
from theoros.verbs.describe.tables import carried, carried_together, figures_table, links_of_row, percentile_list
from theoros.verbs.describe.words import shape_words, shapes_of_groups

MOST_SHOWN = 8
"""Outlying rows named in a sentence; the rest are counted."""
MOST_SHAPES = 6
"""Groups whose shapes are told; more would be a list that nobody reads."""


def drafts(statement: DescribeStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, in one step. Raises CannotAnswer."""
    yield Draft(described(statement, tables))


def described(statement: DescribeStatement, tables: Tables) -> Answer:
    """The summary of a number for each group, of several numbers, or of categories."""
    table = tables[statement.table]
    subject = statement.subject(table)
    if subject == "category":
        from theoros.verbs.describe.counts.answering import described_counts

        return replace(described_counts(statement, table), caption=statement.text(tables))
    if subject == "numbers":
        from theoros.verbs.describe.several.answering import described_several

        return replace(described_several(statement, table), caption=statement.text(tables))
    return _described_number(statement, table, tables)


def _described_number(statement: DescribeStatement, table: Table, tables: Tables) -> Answer:
    assert statement.what is not None
    cases = split(table, statement.what, statement.by, and_by=statement.and_by)
    column, places = table.column(statement.what), table.decimals(statement.what)
    summaries = [group.summary(statement.quartiles) for group in cases.groups]
    frame = dots_frame(cases, column.label, rule=statement.quartiles, means=True, fine=True)
    alt = describe_groups(cases.groups, statement.what, column.unit, places)
    pairs = zip(cases.groups, summaries, strict=True)
    figures = figures_table(
        [(group.label, group, s, places) for group, s in pairs],
        statement.figures,
        split_words(statement),
        percentile_list(statement.percentiles),
        statement.quartiles,
    )
    described = list(zip(cases.groups, summaries, strict=True))
    rows = tuple(
        replace(row, links=links_of_row(table.name, column, described, at)) for at, row in enumerate(figures.rows)
    )
    return Answer(
        statement.text(tables),
        picture=Picture((frame,), alt=alt),
        figures=(replace(figures, rows=rows),),
        reading=_reading(statement, table, column, cases, summaries, places),
        working=_working(statement, column, cases, summaries, places),
        used=cases.used,
        left_out=cases.left_out,
    )


def _reading(
    statement: DescribeStatement, table: Table, column: Column, cases: Split, summaries: Sequence[Summary], places: int
) -> Reading:
    full = [(group, s) for group, s in zip(cases.groups, summaries, strict=True) if group.values.size]

    def amount(value: float, more: int = 0) -> str:
        """Figures on the data as they are; means and spreads rounded to so many decimals more."""
        text = number(value, min(6, places + more)) if more else between_data(value, places)
        return with_unit(text, column.unit)

    def width(value: float) -> str:
        return with_unit(between_data(value, places), difference_unit(column.unit))

    name = column.name
    paragraphs: list[str] = []
    if len(full) == 1:
        s = full[0][1]
        if s.n == 1:
            headline = f"There is one value of {name}: {amount(s.mean)}."
        else:
            group = full[0][0]
            whose = f"{whole(s.n)} {group.phrase}" if group.label else counted(s.n, table.noun)
            headline = (
                f"For the {whose}, the mean of {name} is {amount(s.mean, 1)} and the median is {amount(s.median)}."
            )
            paragraphs += _spread_words(name, s, amount)
            shape = shape_words(name, full[0][0].values, s)
            if shape:
                paragraphs.append(shape)
    else:
        high = max(full, key=lambda pair: pair[1].mean)
        low = min(full, key=lambda pair: pair[1].mean)
        means = telling_apart([s.mean for _, s in full], places + 1)
        said = {id(group): with_unit(text, column.unit) for (group, _), text in zip(full, means, strict=True)}
        one, other = said[id(high[0])], said[id(low[0])]
        if high[1].mean == low[1].mean:
            headline = f"All groups have the same mean {name}, {amount(high[1].mean, 1)}."
        elif len(full) == 2:
            headline = f"The mean {name} is higher for {high[0].phrase}, {one}, than for {low[0].phrase}, {other}."
        elif len(full) == 3:
            all_three = [f"{said[id(group)]} for {group.phrase}" for group, _ in full]
            headline = f"The mean {name} is {listed(all_three)}."
        else:
            headline = (
                f"The mean {name} is highest for {high[0].phrase}, {one}, and lowest for {low[0].phrase}, {other}."
            )
        wide = [pair for pair in full if pair[1].n > 1]
        if len(wide) > 1:
            most = max(wide, key=lambda pair: pair[1].iqr)
            least = min(wide, key=lambda pair: pair[1].iqr)
            if most[1].iqr == 0:
                paragraphs.append("In every group, the values of the middle half are all equal.")
            elif most[1].iqr > 1.2 * least[1].iqr:
                paragraphs.append(
                    f"The middle half spreads widest for {most[0].phrase} "
                    f"({width(most[1].iqr)}) and least for {least[0].phrase} "
                    f"({width(least[1].iqr)})."
                )
            else:
                paragraphs.append("The middle halves of the groups are about equally wide.")
        if len(full) <= MOST_SHAPES:
            shapes = shapes_of_groups(name, [(g.phrase, g.values, s) for g, s in full])
            if shapes:
                paragraphs.append(shapes)
    empty = [group.label for group in cases.groups if not group.values.size]
    if empty:
        paragraphs.append(f"No values of {name} for {listed_briefly(empty)}.")

    def fence_text(value: float) -> str:
        return with_unit(between_data(value, places, 2), column.unit)

    cautions, outlying = _outlier_words(full, amount, fence_text)
    links = row_links(table, outlying)
    if any(s.n < 5 for _, s in full):
        where = " in a group" if len(full) > 1 else ""
        cautions.append(f"With fewer than 5 values{where}, quartiles say little.")
    each = split_words(statement)
    label = f"Plot {name}" + (f" for each {each}" if each else "")
    plot = follow_ups.plot(table.name, name, by=statement.by, and_by=statement.and_by)
    links.append(Link(label, statement=plot))
    if len(full) == 2 and statement.by:
        one, two = (group.label for group, _ in full)
        levels = TwoLevels(name, statement.by, statement.and_by, one, two)
        test = follow_ups.hypothesis_test(levels, table=table.name)
        links.append(Link(f"Test whether the two differ in {name}", statement=test))
    wide = [pair for pair in full if pair[1].n > 1]
    if wide and len(full) <= 2:
        links += carried(table.name, column, wide)
    links += carried_together(column, wide)
    return Reading(headline, tuple(paragraphs), cautions=tuple(cautions), next=tuple(links))


def _spread_words(name: str, s: Summary, amount) -> list[str]:  # type: ignore[no-untyped-def]
    if s.minimum == s.maximum:
        return [f"Every value of {name} is {amount(s.mean)}: there is no spread at all."]
    words = [
        f"The middle half lies between {amount(s.q1)} and {amount(s.q3)}; the standard deviation is {amount(s.sd, 1)}."
    ]
    pull = (s.mean - s.median) / s.sd if s.sd > 0 else 0.0
    if abs(pull) > 0.2 and s.n < LEAST:
        way = "above" if pull > 0 else "below"
        tail = "high" if pull > 0 else "low"
        words.append(f"The mean lies well {way} the median: {tail} values move it that way.")
    return words


def _outlier_words(  # type: ignore[no-untyped-def]
    full: Sequence[tuple[Group, Summary]], amount, fence_text
) -> tuple[list[str], list[int]]:
    named: list[str] = []
    rows: list[int] = []
    for group, s in full:
        outside = group.beyond(s)
        beyond = group.rows[outside]
        rows += beyond.tolist()
        # only as many are written out as are shown; a row that counts several times stands once
        values = dict(zip(beyond.tolist(), group.values[outside].tolist(), strict=True))
        often = Counter(beyond.tolist())
        for row in list(values)[: MOST_SHOWN - len(named)]:
            side = "above" if values[row] > s.upper_fence else "below"
            fence = s.upper_fence if side == "above" else s.lower_fence
            times = f", {counted(often[row], 'time')}" if often[row] > 1 else ""
            where = f"{side} {fence_text(fence)}"
            named.append(f"row {row + 1} ({amount(values[row])}{times}, {where})")
    if not rows:
        return [], []
    rows = list(dict.fromkeys(rows))
    verb = "lies" if len(rows) == 1 else "lie"
    them = "it" if len(rows) == 1 else "them"
    caution = (
        f"{sentence_case(listed_briefly(named, MOST_SHOWN, len(rows)))} {verb} beyond the fences. "
        f"Look at {them}; an outlier is not an error until it is shown to be."
    )
    return [caution], rows


def _working(
    statement: DescribeStatement, column: Column, cases: Split, summaries: Sequence[Summary], places: int
) -> tuple[Step, ...]:
    steps = []
    finer = min(6, places + 2)
    for group, s in zip(cases.groups, summaries, strict=True):
        if s.n == 0:
            continue
        title = f"Quartiles and fences{f' for {group.label}' if group.label else ''}"

        def say(value: float) -> str:
            return number(value, max(min(places, finer), decimals_needed(value, finer)))

        steps.append(
            Step(
                title,
                (
                    _quartile_line(statement.quartiles, s.n),
                    *formulas(
                        f"Q_{{1}} = {say(s.q1)}; Q_{{3}} = {say(s.q3)}",
                        f"IQR = Q_{{3}} − Q_{{1}} = {say(s.q3)} − {bracketed(say(s.q1))} = {say(s.iqr)}",
                        f"lower fence = Q_{{1}} − 1.5 × IQR = {say(s.q1)} − 1.5 × {say(s.iqr)} = {say(s.lower_fence)}",
                        f"upper fence = Q_{{3}} + 1.5 × IQR = {say(s.q3)} + 1.5 × {say(s.iqr)} = {say(s.upper_fence)}",
                    ),
                    _outside_line(group, s, column),
                ),
            )
        )
    return tuple(steps)


def _quartile_line(rule: str, n: int) -> str:
    """Which places in the sorted values the quartiles were taken from."""
    words = sentence_case(rule_words(rule))
    if n == 1:
        return f"{words}, n = 1: the one value is its own quartiles."
    if rule in ("halves", "halves with middle"):
        k = half_sizes(n, middle_in_both=rule != "halves")
        place = _placed(quartile_places(rule, n)[0])
        return (
            f"{words}: n = {n}, so each half has {counted(k, 'value')}; Q_{{1}} is {place} counted "
            f"from the smallest, and Q_{{3}} the same counted from the largest."
        )
    first, third = (_placed(place) for place in quartile_places(rule, n))
    return f"{words}: n = {n}; counted from the smallest, Q_{{1}} is {first}, and Q_{{3}} is {third}."


def _placed(place: Place) -> str:
    """A place among the sorted values, in words."""
    if place.share == 0:
        return f"value {place.low}"
    if place.share == 0.5:
        return f"the mean of values {place.low} and {place.high}"
    share = significant(place.share, 3).rstrip("0")
    at = number(place.at, decimals_needed(place.at, 3))
    return f"at place {at}, {share} of the way from value {place.low} to value {place.high}"


def _outside_line(group: Group, s: Summary, column: Column) -> str:
    outside = group.beyond(s)
    if not outside.any():
        return "No value lies beyond a fence."
    named = [
        f"{exact(float(value))} in row {row + 1}, z = {number((value - s.mean) / s.sd, 1)}"
        for row, value in zip(group.rows[outside][:MOST_SHOWN], group.values[outside][:MOST_SHOWN], strict=True)
    ]
    return f"Beyond a fence: {listed_briefly(named, MOST_SHOWN, int(outside.sum()))}."
