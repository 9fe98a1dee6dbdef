"""What an engine can be asked to do. A task is a value; its steps are made in the engine.

A new one is a frozen dataclass here with `steps`. Nothing heavy is imported before a task runs.
"""

from __future__ import annotations

import time
from abc import ABC, abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from theoros.engine.tables import Handed, hand_back
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.answer.parts import Answer
    from theoros.files.form import Form, Opened
    from theoros.study.entries import Study
    from theoros.table.kinds import Kind
    from theoros.verbs.arrange.arrangement import Arrangement
    from theoros.verbs.core.statement import Statement

TELL_EVERY = 0.05
"""Seconds between two words on how far a task is."""
MOST_PREVIEWED = 200
"""Rows of a preview of a table."""


@dataclass(frozen=True)
class Task(ABC):
    """Something to do in an engine."""

    @property
    def needs(self) -> tuple[str, ...]:
        """The tables whose values it needs; of the others it is told the columns."""
        return ()

    @abstractmethod
    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        """What it gives, one after the other; it can be stopped in between.

        Large tables are left in the folder and handed back by their tokens.
        """


@dataclass(frozen=True)
class Nothing(Task):
    """Nothing at all: to measure the way there and back."""

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        yield from ()


@dataclass(frozen=True)
class WarmUp(Task):
    """Imports what answers need, so that the first need not wait."""

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        import importlib

        from theoros.verbs.core.registry import verbs

        for name in ("numpy", "polars", "pyarrow", "scipy.special", "scipy.stats"):
            yield importlib.import_module(name) and None
        for name in verbs():
            yield importlib.import_module(f"theoros.verbs.{name}.answering") and None


@dataclass(frozen=True)
class AnswerStatement(Task):
    """The answer to a statement, in drafts; those that only tell how far it is, now and then."""

    statement: Statement

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.statement.table,) if self.statement.needs_table else ()

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.verbs.core.statement import drafts

        told = 0.0
        for draft in drafts(self.statement, tables):
            now = time.monotonic()
            if draft.answer is None and now - told < TELL_EVERY:
                yield None  # nothing to tell, a place to be stopped at
                continue
            told = now
            yield draft


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
        from theoros.verbs.arrange.arrangement import arranged

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
        from theoros.study.entries import StudyError
        from theoros.study.file import write_atomically
        from theoros.study.report_html import report_html
        from theoros.verbs.core.statement import answer

        study = self.study.with_(tables=tuple(tables.values()))
        page = report_html(
            study, lambda entry: self.known.get(entry.id) or answer(entry.statement, tables)
        )
        try:
            write_atomically(self.path, lambda at: at.write_text(page, encoding="utf-8"))
            yield f"The report is in {self.path.name}.", "mute"
        except StudyError as problem:
            yield str(problem), "bad"
