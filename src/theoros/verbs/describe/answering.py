"""The answer to a description: picture, figures, fences with their working, words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from theoros.answer.parts import Answer, Draft, Link, Reading
from theoros.answer.picture import Picture
from theoros.answer.wording import listed_briefly
from theoros.numeric.measures import percentile
from theoros.numeric.summaries import Summary
from theoros.table.table import Column, Table
from theoros.verbs import follow_ups
from theoros.verbs.core.row_links import row_links
from theoros.verbs.core.slots import Tables
from theoros.verbs.data.groups import Group, Split, split
from theoros.verbs.data.pictures import describe_groups, dots_frame
from theoros.verbs.data.two_levels import TwoLevels
from theoros.verbs.describe.statement import DescribeStatement
from theoros.verbs.describe.tables import carried, carried_together, figures_table, links_of_row, percentile_list
from theoros.verbs.describe.words.number import NumberWords
from theoros.verbs.describe.working import working_of


def drafts(statement: DescribeStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, in one step. Raises CannotAnswer."""
    yield Draft(described(statement, tables))


def described(statement: DescribeStatement, tables: Tables) -> Answer:
    """The summary of a number for each group, of several numbers, or of categories."""
    table = tables[statement.table]
    subject = statement.subject(table)
    if subject == "category":
        from theoros.verbs.describe.counts.answering import described_counts

        return described_counts(statement, table)
    if subject == "numbers":
        from theoros.verbs.describe.several.answering import described_several

        return described_several(statement, table)
    return _described_number(statement, table, tables)


def _described_number(statement: DescribeStatement, table: Table, tables: Tables) -> Answer:
    assert statement.what is not None
    cases = split(table, statement.what, statement.by, and_by=statement.and_by)
    column, places = table.column(statement.what), table.decimals(statement.what)
    summaries = [group.summary(statement.quartiles) for group in cases.groups]
    frame = dots_frame(cases, column.label, rule=statement.quartiles)
    alt = describe_groups(cases.groups, statement.what, column.unit, places, rule=statement.quartiles)
    pairs = zip(cases.groups, summaries, strict=True)
    figures = figures_table(
        [(group.label, group, s, places) for group, s in pairs],
        statement.figures,
        statement.split_words,
        percentile_list(statement.percentiles),
        statement.quartiles,
    )
    described = list(zip(cases.groups, summaries, strict=True))
    rows = tuple(
        replace(row, links=links_of_row(table.name, column, described, at)) for at, row in enumerate(figures.rows)
    )
    return Answer(
        picture=Picture((frame,), alt=alt),
        figures=(replace(figures, rows=rows),),
        reading=_reading(statement, table, column, cases, summaries, places),
        working=working_of(statement, column, cases, summaries, places),
        used=cases.used,
        left_out=cases.left_out,
    )


def _reading(
    statement: DescribeStatement, table: Table, column: Column, cases: Split, summaries: Sequence[Summary], places: int
) -> Reading:
    full = tuple((group, s) for group, s in zip(cases.groups, summaries, strict=True) if group.values.size)
    words = NumberWords(column, table.noun, places, full)
    paragraphs = words.paragraphs()
    empty = [group.label for group in cases.groups if not group.values.size]
    if empty:
        paragraphs.append(f"No values of {column.name} for {listed_briefly(empty)}.")
    links = (*row_links(table, words.outlying_rows()), *_next(statement, table, column, full))
    cautions = (*words.cautions(), *_two_rules(statement, full))
    return Reading(words.headline(), tuple(paragraphs), cautions=cautions, next=links)


def _two_rules(statement: DescribeStatement, full: Sequence[tuple[Group, Summary]]) -> list[str]:
    """Where a percentile and the quartile of the same share differ, as they are found by rules of their own."""
    rule, found = statement.quartiles, []
    for share, name in ((25, "q1"), (75, "q3")):
        by_both = ((percentile(group.values, share, rule), getattr(s, name)) for group, s in full)
        if share in percentile_list(statement.percentiles) and any(a != b for a, b in by_both):
            found.append(f"P{share} and {name.upper()}")
    if not found:
        return []
    return [
        f"{', '.join(found)} differ, because quartiles and percentiles use different rules here. Choose another "
        "rule for the quartiles to have one rule for both."
    ]


def _next(
    statement: DescribeStatement, table: Table, column: Column, full: Sequence[tuple[Group, Summary]]
) -> list[Link]:
    """A plot, a test of two groups, and the figures carried on into other verbs."""
    name, each = column.name, statement.split_words
    plot = follow_ups.plot(table.name, name, by=statement.by, and_by=statement.and_by)
    links = [Link(f"Plot {name}" + (f" for each {each}" if each else ""), statement=plot)]
    if len(full) == 2 and statement.by:
        one, two = (group.label for group, _ in full)
        levels = TwoLevels(name, statement.by, statement.and_by, one, two)
        test = follow_ups.hypothesis_test(levels, table=table.name)
        links.append(Link(f"Test whether the two differ in {name}", statement=test))
    wide = [pair for pair in full if pair[1].n > 1]
    if wide and len(full) <= 2:
        links += carried(table.name, column, wide)
    return [*links, *carried_together(column, wide)]
