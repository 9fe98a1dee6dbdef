"""The journal: every edit written down as it happens, so that no crash loses one.

A journal is a folder with the study as it was opened (`base.theoros`, or a note that it was
the demo or empty), a line of JSON for each edit, undo, redo and saving in `edits.jsonl`, and the
tables that came in whole. It goes on over savings and recoveries, so that all that can be undone
on screen can be undone in it, too. While the study is open the folder is locked; a journal that
is not locked, and in which something comes after the last saving, belongs to a session that was
cut short.

Each line ends with a sum of itself and of all lines before it, and each table with one of its
bytes, so that what a disk has damaged, cut or left out is noticed and not taken for an edit.
Where nothing can be written, edits wait in memory, in their order, until something can.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import shutil
import threading
import time
import zlib
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from theoros.files.errors import reason
from theoros.lazy_imports import pl
from theoros.study import edits
from theoros.study.atomic import sync, sync_folder
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study, save_study
from theoros.study.history import History
from theoros.study.prints import Print, print_of, sum_of
from theoros.study.table_files import TableFiles
from theoros.table.table import Table

EDITS_NAME, ABOUT_NAME, BASE_NAME, LOCK_NAME = "edits.jsonl", "about.json", "base.theoros", "lock"
KEPT_NAME = "kept"
"""Marks what could not be read of a journal, kept beside it and offered no more."""
SAVED, DAMAGED = "saved", "damaged"


class Journal:
    """Writes down the edits of one open study."""

    def __init__(self, folder: Path, source: Path | None, *, demo: bool = False, base: Study | None = None) -> None:
        """A new journal in a folder of its own below `folder`, for the study opened from `source`.

        With `base` it begins from that study, rather than from what is in the file. Raises
        StudyError where nothing can be written.
        """
        self.folder = folder / f"{time.strftime('%Y%m%d-%H%M%S')}-{os.urandom(4).hex()}"
        try:
            self.folder.mkdir(parents=True, mode=0o700)
            begun = self.folder / BASE_NAME
            if base is not None:
                save_study(base, begun)
            elif source is not None:
                shutil.copyfile(source, begun)
            about = {
                "source": str(source) if source else None,
                "demo": demo and base is None,
                "sum": sum_of(begun) if begun.exists() else None,
            }
            (self.folder / ABOUT_NAME).write_text(json.dumps(about))
            self._open(0)
        except OSError as problem:
            shutil.rmtree(self.folder, ignore_errors=True)
            raise StudyError(
                f"No journal can be kept in {folder} ({reason(problem)}), so what is not saved is "
                f"lost if the program ends. Save often."
            ) from None

    @classmethod
    def going_on(cls, found: Recovered) -> Journal:
        """The journal of work that was got back, written on where it could be read last.

        What could not be read is kept beside, in a folder that is offered no more. Raises
        StudyError where nothing can be written.
        """
        made = cls.__new__(cls)
        made.folder = found.folder
        try:
            if found.unread:
                shutil.copytree(found.folder, found.kept_aside)
                (found.kept_aside / KEPT_NAME).touch()
            made._open(found.good_to, found.sum)
        except OSError as problem:
            raise StudyError(f"The journal cannot be gone on with in {found.folder} ({reason(problem)}).") from None
        return made

    def _open(self, good_to: int, total: int = 0) -> None:
        self._lock = open(self.folder / LOCK_NAME, "w")  # noqa: SIM115 - held while open
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        flags = os.O_CREAT | os.O_WRONLY | os.O_APPEND
        self._file = os.open(self.folder / EDITS_NAME, flags, 0o600)
        self._good_to, self._sum = good_to, total
        os.ftruncate(self._file, good_to)
        self._tables = TableFiles(self.folder)
        self._waiting: deque[Callable[[], dict[str, Any]]] = deque()
        self._trouble = self._unsynced = ""
        self._wanted = threading.Event()
        self._closed = False
        # the kernel has a line at once, which survives a crash of the program; that the disk has
        # it too, against a loss of power, is waited for on a thread of its own
        self._syncer = threading.Thread(target=self._sync, name="journal", daemon=True)
        self._syncer.start()

    @property
    def trouble(self) -> str:
        """Why the last edits are in memory only, in a few words; empty where all are written."""
        return self._trouble or self._unsynced

    @property
    def waiting(self) -> int:
        """How many edits are in memory only."""
        return len(self._waiting)

    def wrote(self, edit: edits.Edit) -> None:
        self._write(lambda: edit.to_json(self._tables))

    def prepare(self, table: Table) -> None:
        """Writes a table that is about to come in; may be called on a worker. Raises OSError."""
        self._tables.prepare(table)

    def undid(self) -> None:
        self._write(lambda: {"edit": "undo"})

    def redid(self) -> None:
        self._write(lambda: {"edit": "redo"})

    def saved(self, path: Path, *, whole: bool, sum_: int | None = None) -> None:
        """Notes that the study is in a file now; all of it, or as it was a few edits ago.

        `sum_` is that of the bytes of the file.
        """
        self._write(lambda: {"edit": SAVED, "path": str(path), "whole": whole, "sum": sum_})

    def close(self, *, discard: bool) -> None:
        """Ends the journal; with `discard` it is deleted, as after saving."""
        self._closed = True
        self._wanted.set()
        self._syncer.join(timeout=5)
        os.close(self._file)
        if discard:
            shutil.rmtree(self.folder, ignore_errors=True)
        self._lock.close()

    def _write(self, made: Callable[[], dict[str, Any]]) -> None:
        self._waiting.append(made)
        self.catch_up()

    def catch_up(self) -> None:
        """Writes what waits, in its order, as far as that can be done: see `trouble`."""
        self._trouble = ""
        while self._waiting:
            try:
                self._line(self._waiting[0]())
            except OSError as problem:
                self._trouble = reason(problem)
                return
            self._waiting.popleft()

    def _line(self, data: dict[str, Any]) -> None:
        # a surrogate that stands alone is written as an escape, which any reader takes
        text = json.dumps(data, ensure_ascii=False).encode("utf-8", "backslashreplace")
        total = zlib.crc32(text, self._sum)
        left = memoryview(b"%s\t%08x\n" % (text, total))
        size = len(left)
        try:
            while left:
                left = left[os.write(self._file, left) :]
        except OSError:
            with contextlib.suppress(OSError):
                os.ftruncate(self._file, self._good_to)  # no half a line stands before the next
            raise
        self._good_to, self._sum = self._good_to + size, total
        self._wanted.set()

    def _sync(self) -> None:
        begun = [self.folder / BASE_NAME, self.folder / ABOUT_NAME]
        with contextlib.suppress(OSError):
            for file in begun:
                if file.exists():
                    sync(file)
            sync_folder(self.folder)
            sync_folder(self.folder.parent)
        while True:
            self._wanted.wait()
            self._wanted.clear()
            try:
                os.fsync(self._file)
                self._unsynced = ""
            except OSError as problem:
                self._unsynced = "" if self._closed else reason(problem)
            if self._closed:
                return


@dataclass(frozen=True)
class Recovered:
    """A study got back from a journal, and how many of the last changes could not be read."""

    history: History
    source: Path | None
    """The file that it was opened from or saved to last."""
    folder: Path
    lines: int
    """Changes in the journal, undoing and doing again counted, too."""
    unread: int
    """How many of them, from the first that could not be read."""
    good_to: int
    """How many bytes of the journal could be read."""
    sum: int
    """The sum of its lines up to there."""
    seen: Print | None
    """The print of `source`, if it still holds what it held when it was read or written last."""

    @property
    def study(self) -> Study:
        return self.history.study

    @property
    def kept_aside(self) -> Path:
        """Where the journal is kept with what could not be read of it."""
        return self.folder.with_name(f"{self.folder.name}-unread")


@dataclass(frozen=True)
class Unsaved:
    """A journal that a session left behind when it was cut short."""

    folder: Path
    source: Path | None
    edits: int
    """Changes since it was opened or saved."""
    when: float

    @property
    def base(self) -> Path | None:
        """The file it began from; None where it began from the demo, or from nothing.

        Where the copy in the journal is damaged and the file it was copied from is not, that one.
        """
        copy, about = self.folder / BASE_NAME, _about(self.folder)
        if not copy.exists() and not about.get("sum"):
            return None
        source = Path(str(about.get("source") or copy))
        for file in (copy, source):
            with contextlib.suppress(OSError):
                if sum_of(file) == about.get("sum"):
                    return file
        return copy

    def begun_from(self) -> Study:
        """The study that it began from, read here and now. Raises StudyError."""
        if self.base is not None:
            return open_study(self.base)
        return demo_study() if _about(self.folder).get("demo") else Study()

    def recover(self, base: Study | None = None) -> Recovered:
        """The study with every edit done again, undo included.

        A last line that was cut off in the writing is left out. With `base`, the study it began
        from is not read. Raises StudyError where that cannot be.
        """
        history = History(self.begun_from() if base is None else base)
        store = TableFiles(self.folder)
        lines = _lines(self.folder)
        done = _JournalLine({}, 0, 0)
        for at, line in enumerate(lines):
            if not _redone(line.data, history, store):
                # what comes after one unreadable edit no longer fits
                return self._got(history, len(lines), len(lines) - at, done)
            done = line
        return self._got(history, len(lines), 0, done)

    def _got(self, history: History, lines: int, unread: int, done: _JournalLine) -> Recovered:
        saved = [line.data for line in _lines(self.folder) if line.data["edit"] == SAVED]
        of_source = saved[-1].get("sum") if saved else _about(self.folder).get("sum")
        seen = print_of(self.source) if self.source else None
        known = seen if seen is not None and seen.sum == of_source else None
        return Recovered(history, self.source, self.folder, lines, unread, done.end, done.sum, known)

    def discard(self) -> None:
        shutil.rmtree(self.folder, ignore_errors=True)


def _redone(data: dict[str, Any], history: History, store: TableFiles) -> bool:
    """Does again what a line says; False where it cannot be read, and then nothing has changed."""
    if data["edit"] == "undo":
        return history.undo() is not None
    if data["edit"] == "redo":
        return history.redo() is not None
    if data["edit"] == SAVED:
        return True
    try:
        history.do(edits.edit_from_json(data, store))
    except (ValueError, LookupError, TypeError, AttributeError, OSError, pl.exceptions.PolarsError):
        return False
    return True


def unsaved(folder: Path) -> list[Unsaved]:
    """The journals below `folder` that no running program holds, the newest first.

    Those in which nothing comes after the last saving are cleared away.
    """
    found = []
    for home in _journals(folder):
        if _in_use(home):
            continue
        try:
            lines = [line.data for line in _lines(home)]
            when = (home / EDITS_NAME).stat().st_mtime
        except FileNotFoundError:  # cut short before anything was written
            lines, when = [], 0.0
        except OSError:
            continue
        whole = [at for at, data in enumerate(lines) if data["edit"] == SAVED and data["whole"]]
        since = lines[whole[-1] + 1 :] if whole else lines
        count = sum(data["edit"] != SAVED for data in since)
        if count == 0:
            shutil.rmtree(home, ignore_errors=True)
            continue
        found.append(Unsaved(home, _source(home, lines), count, when))
    return sorted(found, key=lambda one: (one.when, one.folder.name), reverse=True)


def is_open_elsewhere(folder: Path, path: Path, own: Path | None) -> bool:
    """Whether a running program has the study of this file open, by the journals below `folder`.

    The journal in the folder `own` does not count.
    """
    wanted = os.path.realpath(path)
    for home in _journals(folder):
        if home == own or not _in_use(home):
            continue
        with contextlib.suppress(OSError):
            source = _source(home, [line.data for line in _lines(home)])
            if source is not None and os.path.realpath(source) == wanted:
                return True
    return False


def _journals(folder: Path) -> list[Path]:
    """The folders of journals; one that is put aside has no lock."""
    homes = (lock.parent for lock in folder.glob(f"*/{LOCK_NAME}"))
    return [home for home in homes if not (home / KEPT_NAME).exists()]


def _in_use(home: Path) -> bool:
    try:
        with open(home / LOCK_NAME, "a") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    return False


def _about(home: Path) -> dict[str, Any]:
    """What is noted of a journal; empty where that cannot be read."""
    try:
        found = json.loads((home / ABOUT_NAME).read_text())
    except (OSError, ValueError):
        return {}
    return found if isinstance(found, dict) else {}


def _source(home: Path, lines: list[dict[str, Any]]) -> Path | None:
    """The file that a study was saved to last, or opened from."""
    saved = [data["path"] for data in lines if data["edit"] == SAVED]
    source = saved[-1] if saved else _about(home).get("source")
    return Path(source) if source else None


@dataclass(frozen=True)
class _JournalLine:
    data: dict[str, Any] = field(repr=False)
    end: int
    """The byte after it."""
    sum: int
    """Of it and all before."""


def _lines(folder: Path) -> list[_JournalLine]:
    """What was written down.

    A last line that was cut off in the writing is left out; one that is damaged, or before which
    one is missing, stands as no edit.
    """
    lines: list[_JournalLine] = []
    end = total = 0
    for raw in (folder / EDITS_NAME).read_bytes().split(b"\n")[:-1]:
        end += len(raw) + 1
        text, _, told = raw.rpartition(b"\t")
        total = zlib.crc32(text, total)
        data: Any = None
        with contextlib.suppress(ValueError, RecursionError):
            if int(told, 16) == total:
                data = json.loads(text)
        known = isinstance(data, dict) and isinstance(data.get("edit"), str)
        if known and data["edit"] == SAVED:
            known = isinstance(data.get("path"), str) and isinstance(data.get("whole"), bool)
        lines.append(_JournalLine(data if known else {"edit": DAMAGED}, end, total))
    return lines
