"""Reading files from anywhere: within limits, so that none can freeze or fill the machine."""

from __future__ import annotations

import logging
from abc import abstractmethod
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from pathlib import Path
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.engine.limits import MEMORY, TIME, Limits, in_mb, limits_for
from theoros.engine.tables import Handed, hand_back, take_back
from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.files.form import Form, Opened
    from theoros.study.entries import Study
    from theoros.study.prints import Print
    from theoros.table.kinds import Kind

log = logging.getLogger(__name__)


class Unforeseen(ValueError):
    """A file over which a reader stumbles in a way that nobody has foreseen, told all the same."""


@dataclass(frozen=True)
class ReadingTask(Task):
    """Reads a file: gives what it comes to, or the problem with it (a ValueError)."""

    path: Path

    @abstractmethod
    def read(self, folder: Path) -> Iterator[object]:
        """What the file comes to. Raises ReadError, StudyError."""

    def handed(self, table: Table, folder: Path) -> Handed:
        """A table as it is handed back. Raises ReadError where there is no room for that."""
        from theoros.files.errors import ReadError, reason
        from theoros.lazy_imports import pl

        try:
            return hand_back(table, folder)
        except (OSError, pl.exceptions.PolarsError) as problem:
            raise ReadError(
                f"{self.path.name} was read, but there is no room for its table in "
                f"{folder.parent} ({reason(problem)}). Make room there, and open it again."
            ) from None

    @property
    def limits(self) -> Limits:
        return limits_for(self.path)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.files.errors import ReadError
        from theoros.study.entries import StudyError

        try:
            yield from self.read(folder)
        except (ReadError, StudyError) as problem:
            yield problem
        except (KeyboardInterrupt, SystemExit, GeneratorExit):
            raise
        except BaseException as problem:  # whatever a library does with a damaged file
            log.exception("while reading %s", self.path.name)
            yield Unforeseen(
                f"{self.path.name} was not opened: its reader stumbled over it "
                f"({type(problem).__name__}). {self.advice}"
            )

    def ended(self, why: str) -> str:
        limits = self.limits
        broke = {
            MEMORY: f"reading it takes more than {in_mb(limits.memory)} of memory, far more than a "
            "file of its size should",
            TIME: f"reading it takes more than {limits.seconds:.0f} seconds, far more than a file of its size should",
        }.get(why, "its reader broke down")
        return f"{self.path.name} was not opened: {broke}. {self.advice}"

    @property
    def advice(self) -> str:
        """What can be done about a file that was not opened."""
        return (
            "It may be damaged, or have something far away from its table: look at it in the "
            "program it comes from, delete what stands far out, and save it as CSV."
        )


@dataclass(frozen=True)
class ReadTable(ReadingTask):
    """A file as the table it would become; what was loaded of it stays for the next look."""

    form: Form | None
    """How it is written; None to guess."""
    kinds: tuple[tuple[int, Kind], ...] = ()
    anew: bool = False
    """Whether lines and signs are guessed again for the range of cells chosen."""

    def read(self, folder: Path) -> Iterator[object]:
        from theoros.files.formats import format_of
        from theoros.files.regular import check_file

        one = format_of(self.path)
        source = _LOADED.get(self.path) if self.form is not None else None
        if source is None:
            check_file(self.path)
            _LOADED.clear()
            source = _LOADED[self.path] = one.load(self.path)
        form = one.guess(source) if self.form is None else self.form
        if self.anew and "cells" in one.choices:
            from theoros.files.spreadsheet import guess_sheet

            form = guess_sheet(source, form)
        opened = one.read(source, form, self.path.stem, dict(self.kinds) or None)
        table = self.handed(opened.table, folder)
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
class ReadStudy(ReadingTask):
    """Reads a study file; gives how many of its tables are read, then the study."""

    advice: ClassVar[str] = "It may be damaged, or not made by Theoros. Look for another copy of it."

    def read(self, folder: Path) -> Iterator[object]:
        from theoros.study.file import reading_study
        from theoros.study.prints import print_of

        seen = print_of(self.path)
        reading = reading_study(self.path)
        try:
            while True:
                yield TablesRead(*next(reading))
        except StopIteration as end:
            study: Study = end.value
        handed = tuple(self.handed(table, folder) for table in study.tables)
        yield StudyBack(study.with_(tables=()), handed, seen)


@dataclass(frozen=True)
class TablesRead:
    """How far the reading of a study has come."""

    done: int
    of: int


@dataclass(frozen=True)
class StudyBack:
    """A study that was read, its tables handed back."""

    study: Study
    """Without its tables."""
    tables: tuple[Handed, ...]
    seen: Print | None
    """What the file looked like."""

    def taken(self, folder: Path) -> Study:
        """The study on this side."""
        return self.study.with_(tables=tuple(take_back(one, folder) for one in self.tables))
