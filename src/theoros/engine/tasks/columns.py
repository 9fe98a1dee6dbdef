"""What is told of the columns of a table."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    pass


@dataclass(frozen=True)
class ProfileColumns(Task):
    """Profiles of the columns of a table, and which of their kinds may be wrong."""

    table: str

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.table,)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.table.levels import doubtful_kind
        from theoros.table.profile import profile

        table = tables[self.table]
        doubts = {about.name: doubtful_kind(table, about.name) for about in table.columns}
        yield "", {name: text for name, text in doubts.items() if text}
        for about in table.columns:
            yield about.name, profile(table, about.name)


@dataclass(frozen=True)
class ColumnFacts(Task):
    """A small picture and figures of a column, or how many cases have each of its levels."""

    table: str
    column: str

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.table,)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.verbs.data.column_facts import column_facts

        yield column_facts(tables[self.table], self.column)
