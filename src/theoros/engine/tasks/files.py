"""Reading and writing the files that take a while."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from theoros.engine.tables import Handed, hand_back
from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.answer.parts import Answer
    from theoros.files.form import Form, Opened
    from theoros.study.entries import Study
    from theoros.table.kinds import Kind


@dataclass(frozen=True)
class ReadTable(Task):
    """A file as the table it would become; what was loaded of it stays for the next look."""

    path: Path
    form: Form | None
    """How it is written; None to guess."""
    kinds: tuple[tuple[int, Kind], ...] = ()
    anew: bool = False
    """Whether lines and signs are guessed again for the range of cells chosen."""

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.files.errors import ReadError
        from theoros.files.formats import format_of

        one = format_of(self.path)
        try:
            source = _LOADED.get(self.path) if self.form is not None else None
            if source is None:
                _LOADED.clear()
                source = _LOADED[self.path] = one.load(self.path)
            form = one.guess(source) if self.form is None else self.form
            if self.anew and "cells" in one.choices:
                from theoros.files.spreadsheet import guess_sheet

                form = guess_sheet(source, form)
            opened = one.read(source, form, self.path.stem, dict(self.kinds) or None)
        except ReadError as problem:
            yield problem
            return
        table = hand_back(opened.table, folder)
        bare = replace(opened, table=opened.table.with_(frame=opened.table.frame.clear()))
        yield ReadBack(table, bare, tuple(getattr(source, "sheets", ())))


_LOADED: dict[Path, Any] = {}
"""The file that was loaded last, as its format holds it."""


@dataclass(frozen=True)
class ReadBack:
    """A table that was read, handed back, and what was noticed on the way."""

    table: Handed
    opened: Opened
    """Without the rows."""
    sheets: tuple[str, ...]


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
        from theoros.study.entries import StudyError
        from theoros.study.file import write_atomically

        said: list[str] = []
        try:
            write_atomically(
                self.path, lambda target: said.append(write_table(tables[self.table], target))
            )
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
        from theoros.study.entries import StudyError
        from theoros.study.file import write_atomically
        from theoros.study.report_html import report_html
        from theoros.verbs.core.statement import answer

        study = self.study.with_(tables=tuple(tables.values()))
        with using(study.digits):
            page = report_html(
                study, lambda entry: self.known.get(entry.id) or answer(entry.statement, tables)
            )
        try:
            write_atomically(self.path, lambda at: at.write_text(page, encoding="utf-8"))
            yield f"The report is in {self.path.name}.", "mute"
        except StudyError as problem:
            yield str(problem), "bad"
