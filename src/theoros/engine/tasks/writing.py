"""Writing the files that take a while."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.answer.parts import Answer
    from theoros.study.entries import Study


@dataclass(frozen=True)
class WriteTable(Task):
    """Writes a table to a file; gives what the format cannot hold, or the problem."""

    table: str
    path: Path

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.table,)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.files.errors import ReadError
        from theoros.files.formats import write_table
        from theoros.study.atomic import write_atomically
        from theoros.study.entries import StudyError

        said: list[str] = []
        try:
            write_atomically(self.path, lambda target: said.append(write_table(tables[self.table], target)))
            yield said[0]
        except (StudyError, ReadError) as problem:
            yield problem


@dataclass(frozen=True)
class WriteReport(Task):
    """Writes the report of a study as one HTML file; gives a sentence and its tone."""

    study: Study
    """Without its tables, which come beside it."""
    known: Mapping[str, Answer]
    """Answers that are at hand, by entry."""
    path: Path

    @property
    def needs(self) -> tuple[str, ...]:
        placed = {getattr(block, "entry", "") for block in self.study.report}
        return tuple(
            entry.statement.table
            for entry in self.study.entries
            if entry.id in placed and entry.id not in self.known and entry.statement.needs_table
        )

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.answer.digits import using
        from theoros.study.atomic import write_atomically
        from theoros.study.entries import StudyError
        from theoros.study.report_html import report_html
        from theoros.verbs.core.answering import answer

        study = self.study.with_(tables=tuple(tables.values()))
        with using(study.digits):
            page = report_html(study, lambda entry: self.known.get(entry.id) or answer(entry.statement, tables))
        try:
            write_atomically(self.path, lambda at: at.write_text(page, encoding="utf-8"))
            yield f"The report is in {self.path.name}.", "mute"
        except StudyError as problem:
            yield str(problem), "bad"
