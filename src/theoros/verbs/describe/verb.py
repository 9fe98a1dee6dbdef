"""The verb of descriptions: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.fields import GROUPING
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.suggesting import number_to_ask_about, numbers_and_groups
from theoros.verbs.describe.statement import DescribeStatement


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """The selected number for each level of the selected category."""
    own = tables.get(table)
    if own is None:
        return DescribeStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    if groups and not numbers:
        return DescribeStatement(table=table, what=groups[0], by=groups[1] if len(groups) > 1 else None)
    what = number_to_ask_about(own, numbers)
    if len(numbers) > 1 and not groups:
        return DescribeStatement(table=table, what=what, also=tuple(numbers[1:]))
    return DescribeStatement(
        table=table, what=what, by=groups[0] if groups else None, and_by=groups[1] if len(groups) > 1 else None
    )


def offers(table: Table, column: Column) -> list[Offer]:
    """A number, for each level of the first category where there is one."""
    if column.kind is not Kind.NUMBER:
        return []
    groups = [c.name for c in table.of_kind(*GROUPING)]
    by = groups[0] if groups else None
    each = f" for each {by}" if by else ""
    made = DescribeStatement(table=table.name, what=column.name, by=by)
    return [Offer(f"Describe {column.name}{each}", made, 10)]


VERB = Verb(
    DescribeStatement,
    "Describe",
    "Summarize numbers and categories: centre, spread, quartiles, outliers, counts and shares.",
    suggest,
    order=20,
    offers=offers,
    examples=(
        DescribeStatement(table="bushes", what="leaf length", by="cultivar"),
        DescribeStatement(table="trays", what="moisture loss", quartiles="type 7"),
        DescribeStatement(
            table="bushes",
            what="pluck mass",
            by="netting",
            percentiles="10 90",
            figures=("n", "mean", "se", "cv", "median", "skewness"),
        ),
        DescribeStatement(table="bushes", what="grade", by="netting", share="column percent"),
        DescribeStatement(table="bushes", what="leaf length", also=("leaf mass", "elevation")),
    ),
    methods=lambda: (
        Findable(
            "mean, median, standard deviation",
            "Summary figures of a number",
            other_names=("average", "stdev", "std dev", "summary statistics"),
        ),
        Findable("quartiles, fences, outliers", "By a named rule, with working"),
        Findable(
            "two-way table",
            "Counts of two categories, with percent",
            other_names=("frequency table", "crosstab", "contingency table"),
        ),
        Findable("correlation matrix", "r for each pair of several numbers"),
        Findable("grouped data", "Mean and median of classes with frequencies"),
    ),
)
