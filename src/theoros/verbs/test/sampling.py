"""From a statement and its table to the two samples of a test."""

from __future__ import annotations

from theoros.answer.parts import CannotAnswer
from theoros.answer.wording import counted, plural
from theoros.heavy import np
from theoros.numeric.arrays import subtract
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.data.groups import Group, Split, said_unused, split, unit_of_count
from theoros.verbs.test.samples import Sample, Samples
from theoros.verbs.test.statement import TestStatement

LARGEST = 1e150
"""Squares of larger values overflow."""


def matched_levels(statement: TestStatement, table: Table) -> str:
    """Why matched values cannot be told apart by levels, and what to do about it."""
    number_columns = len(table.of_kind(Kind.NUMBER))
    advice = (
        "Set “the two groups” to two columns"
        if number_columns >= 2
        else "Put the two measurements of each case beside each other, in two columns of one row, "
        "and set “the two groups” to two columns"
    )
    return (
        f"Matched values belong together in one row, and here each {table.noun} has a row of its "
        f"own, so nothing says which {statement.first} value goes with which {statement.second} "
        f"one. {advice}; or answer that the samples were picked separately."
    )


def samples_of(statement: TestStatement, table: Table) -> tuple[Samples, Split]:
    """The samples, and the same cases as groups for the picture. Raises CannotAnswer."""
    assert statement.what is not None
    column, places = table.column(statement.what), table.decimals(statement.what)
    if statement.groups == "levels":
        assert statement.by is not None
        assert statement.first is not None
        assert statement.second is not None
        levels = (statement.first, statement.second)
        cases = split(table, statement.what, statement.by, levels, statement.and_by)
        homes = [Sample(g.label, g.phrase, g.values, g.rows) for g in cases.groups]
        samples = Samples(homes[0], homes[1], column.unit, places)
    else:
        assert statement.other is not None
        samples, cases = _two_columns(statement, table, statement.what, statement.other)
    for sample in (samples.first, samples.second):
        if sample.n == 0:
            raise CannotAnswer(
                f"There is no value of {statement.what} for {sample.label}, so there is nothing to "
                f"compare. Choose another group.",
                "first",
            )
        if float(np.abs(sample.values).max()) > LARGEST:
            raise CannotAnswer(
                f"{sample.label} holds values too large to square. Put the column in a larger "
                f"unit, so that its numbers become smaller.",
                "what",
            )
    return samples, cases


def _two_columns(
    statement: TestStatement, table: Table, what: str, other: str
) -> tuple[Samples, Split]:
    a, b, cases = table.numbers(what), table.numbers(other), table.cases
    column, second = table.column(what), table.column(other)
    if column.unit != second.unit:
        raise CannotAnswer(
            f"{what} is in {column.unit or 'no unit'} and {other} in {second.unit or 'no unit'}; "
            f"only values in one unit can be compared. Choose another column, or put the units "
            f"right in the table.",
            "other",
        )
    places = max(table.decimals(what), table.decimals(other))
    one = unit_of_count(table)
    left_out: list[str] = []
    pairs: Sample | None = None
    if statement.matched:
        rows = cases[(np.isfinite(a) & np.isfinite(b))[cases]]
        lost = int(cases.size - rows.size)
        if lost:
            left_out.append(f"{counted(lost, one)} left out: {what} or {other} is missing")
        if rows.size == 0:
            raise CannotAnswer(f"No row has both {what} and {other}.", "other")
        gaps = subtract(a[rows], b[rows])
        pairs = Sample("the differences", "the differences", gaps, rows, many=True)
        homes = [rows, rows]
    else:
        homes = [cases[np.isfinite(values)[cases]] for values in (a, b)]
        for name, rows in zip((what, other), homes, strict=True):
            if rows.size < cases.size:
                lost = int(cases.size - rows.size)
                left_out.append(f"{counted(lost, one)} left out: {name} is missing")
    left_out += said_unused(table)
    first = Sample(what, what, a[homes[0]], homes[0])
    last = Sample(other, other, b[homes[1]], homes[1])
    if pairs is None:
        groups = tuple(Group(s.label, s.phrase, s.values, s.rows, 0) for s in (first, last))
    else:
        label = "difference"
        groups = (Group(label, plural(table.noun), pairs.values, pairs.rows, 0),)
    return Samples(first, last, column.unit, places, pairs), Split(groups, tuple(left_out))
