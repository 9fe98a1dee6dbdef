"""A table of the study that a statement gives, such as the samples of a simulation."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.engine.tables import hand_back
from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.verbs.core.statement import Statement


@dataclass(frozen=True)
class DrawTable(Task):
    """The table, and what is to be said of it; or in words why there is none."""

    statement: Statement
    what: str

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.statement.table,) if self.statement.needs_table else ()

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.answer.cannot import CannotAnswer
        from theoros.table.table import TableError
        from theoros.verbs.core.answering import drawn_table

        try:
            table, said = drawn_table(self.statement, self.what, tables)
            yield hand_back(table, folder), said
        except CannotAnswer as found:
            yield TableError(found.problem.sentence)
