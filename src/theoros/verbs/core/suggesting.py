"""What the columns selected in a table suggest for a new statement."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Table


def numbers_and_groups(table: Table, columns: Sequence[str]) -> tuple[list[str], list[str]]:
    """The number columns and the category columns among those selected, in that order."""
    chosen = [table.column(name) for name in columns if name in table.by_name]
    numbers = [column.name for column in chosen if column.kind is Kind.NUMBER]
    return numbers, [column.name for column in chosen if column.kind.is_grouping]


def number_to_ask_about(table: Table, numbers: Sequence[str]) -> str | None:
    """The first number selected, or the first that the table has."""
    if numbers:
        return numbers[0]
    numbers = [column.name for column in table.of_kind(Kind.NUMBER)]
    # how often rows count is not what is asked about, unless there is nothing else
    numbers.sort(key=lambda name: name == table.counts)
    return next(iter(numbers), None)
