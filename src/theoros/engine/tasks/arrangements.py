"""What an arrangement would make of a table."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.verbs.arrange.arrangement import Arrangement

MOST_PREVIEWED = 200
"""Rows of a preview of a table."""


@dataclass(frozen=True)
class Preview:
    """What an arrangement would make: its first rows, and how large it is."""

    table: Table
    rows: int
    used: int
    new: bool
    notes: tuple[str, ...]


@dataclass(frozen=True)
class PreviewArrangement(Task):
    """What an arrangement would make, or in words why it cannot."""

    statement: Arrangement
    others: tuple[str, ...] = ()
    """Further tables that it may draw on."""

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.statement.table, *self.others)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.table.kinds import Kind
        from theoros.table.table import TableError
        from theoros.verbs.arrange.answering import arranged

        try:
            made = arranged(self.statement, tables)
        except TableError as problem:
            yield problem
            return
        whole = made.table
        decimals = {c.name: whole.decimals(c.name) for c in whole.of_kind(Kind.NUMBER)}
        computed = {c.name: whole.computed(c.name) for c in whole.of_kind(Kind.NUMBER)}
        first = whole.frame[:MOST_PREVIEWED]
        kept = whole.kept[:MOST_PREVIEWED] if whole.kept is not None else None
        aside = frozenset(row for row in whole.aside if row < MOST_PREVIEWED)
        head = whole.with_(frame=first, kept=kept, aside=aside, origin=None)
        for name in decimals:  # as the whole column is written
            head.remembered("decimals", name, lambda n=name: decimals[n])  # type: ignore[misc]
            head.remembered("computed", name, lambda n=name: computed[n])  # type: ignore[misc]
        used = int(whole.in_use.sum())
        yield Preview(head, whole.rows, used, made.new, made.notes)
