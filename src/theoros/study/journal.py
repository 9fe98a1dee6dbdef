"""The journal: every edit written down as it happens, so that no crash loses one.

A journal is a folder with the study as it was opened (`base.theoros`, or a note that it was
the demo or empty), a line of JSON for each edit, undo, redo and saving in `edits.jsonl`, and the
tables that came in whole. It goes on over savings and recoveries, so that all that can be undone
on screen can be undone in it, too. While the study is open the folder is locked; a journal that
is not locked, and in which something comes after the last saving, belongs to a session that was
cut short.
"""

from __future__ import annotations

import contextlib
import fcntl
import json
import os
import shutil
import threading
import time
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

from theoros.files.table_schema import about_from, about_json, column_from, column_json
from theoros.lazy_imports import pl
from theoros.study import edits
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study
from theoros.study.history import History
from theoros.study.package import settled_table
from theoros.table.table import Table

EDITS_NAME = "edits.jsonl"
SAVED, DAMAGED = "saved", "damaged"


class TableFiles:
    """Tables kept in a folder as Arrow files: exact, and written without a second copy."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._ready: dict[int, tuple[Table, str]] = {}

    def prepare(self, table: Table) -> None:
        """Writes a table that is about to come in, so that `put` need not; on any thread."""
        self._ready[id(table)] = table, self._write(table)

    def put(self, table: Table) -> str:
        ready = self._ready.pop(id(table), None)
        return ready[1] if ready is not None else self._write(table)

    def _write(self, table: Table) -> str:
        key = os.urandom(16).hex()
        about = {
            "name": table.name,
            **about_json(table),
            "fields": [column_json(table, column) for column in table.columns],
        }
        (self.folder / f"{key}.json").write_text(json.dumps(about))
        if table.columns:
            table.frame.write_ipc(self.folder / f"{key}.arrow")
        return key

    def get(self, key: str) -> Table:
        about = json.loads((self.folder / f"{key}.json").read_text())
        columns = tuple(column_from(field) for field in about["fields"])
        frame = pl.read_ipc(self.folder / f"{key}.arrow") if columns else pl.DataFrame()
        return settled_table(about["name"], columns, frame, about_from(about))


class Journal:
    """Writes down the edits of one open study."""

    def __init__(self, folder: Path, source: Path | None, *, demo: bool = False) -> None:
        """A new journal in a folder of its own below `folder`, for the study opened from `source`.

        Raises StudyError where nothing can be written.
        """
        try:
            self.folder = folder / f"{time.strftime('%Y%m%d-%H%M%S')}-{os.urandom(4).hex()}"
            self.folder.mkdir(parents=True, mode=0o700)
            about = {"source": str(source) if source else None, "demo": demo}
            self._open()
            (self.folder / "about.json").write_text(json.dumps(about))
            if source is not None:
                shutil.copyfile(source, self.folder / "base.theoros")
        except OSError as problem:
            raise StudyError(f"No journal can be kept in {folder}: {problem.strerror}.") from None

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
                (found.kept_aside / "about.json").rename(found.kept_aside / "about-kept.json")
            made._open()
            made._file.truncate(found.good_to)
            made._file.seek(0, os.SEEK_END)
        except OSError as problem:
            raise StudyError(
                f"The journal cannot be gone on with in {found.folder}: {problem.strerror}."
            ) from None
        return made

    def _open(self) -> None:
        self._lock = open(self.folder / "lock", "w")  # noqa: SIM115 - held while open
        fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        self._file: IO[bytes] = open(self.folder / EDITS_NAME, "ab")  # noqa: SIM115
        self._tables = TableFiles(self.folder)
        self._wanted = threading.Event()
        self._closed = False
        # the kernel has a line at once, which survives a crash of the program; that the disk has
        # it too, against a loss of power, is waited for on a thread of its own
        self._syncer = threading.Thread(target=self._sync, name="journal", daemon=True)
        self._syncer.start()

    def wrote(self, edit: edits.Edit) -> None:
        self._line(edit.to_json(self._tables))

    def prepare(self, table: Table) -> None:
        """Writes a table that is about to come in; may be called on a worker."""
        self._tables.prepare(table)

    def undid(self) -> None:
        self._line({"edit": "undo"})

    def redid(self) -> None:
        self._line({"edit": "redo"})

    def saved(self, path: Path, *, whole: bool) -> None:
        """Notes that the study is in a file now; all of it, or as it was a few edits ago."""
        self._line({"edit": SAVED, "path": str(path), "whole": whole})

    def close(self, *, discard: bool) -> None:
        """Ends the journal; with `discard` it is deleted, as after saving."""
        self._closed = True
        self._wanted.set()
        self._syncer.join(timeout=5)
        self._file.close()
        if discard:
            shutil.rmtree(self.folder, ignore_errors=True)
        self._lock.close()

    def _line(self, data: dict[str, Any]) -> None:
        try:
            self._file.write(json.dumps(data, ensure_ascii=False).encode() + b"\n")
            self._file.flush()
        except OSError as problem:
            raise StudyError(
                f"The last change could not be written to the journal ({problem.strerror}). "
                f"Save the study now."
            ) from None
        self._wanted.set()

    def _sync(self) -> None:
        while True:
            self._wanted.wait()
            self._wanted.clear()
            with contextlib.suppress(OSError, ValueError):
                os.fsync(self._file.fileno())
            if self._closed:
                return


@dataclass(frozen=True)
class Recovered:
    """A study got back from a journal, and how many of the last changes could not be read."""

    history: History
    source: Path | None
    """The file that it was opened from or saved to last."""
    folder: Path
    unread: int
    good_to: int
    """How many bytes of the journal could be read."""

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

    def recover(self) -> Recovered:
        """The study with every edit done again, undo included.

        A last line that was cut off in the writing is left out. Raises StudyError where the
        study it began from cannot be read.
        """
        about = json.loads((self.folder / "about.json").read_text())
        if (self.folder / "base.theoros").exists():
            base = open_study(self.folder / "base.theoros")
        else:
            base = demo_study() if about["demo"] else Study()
        history, good_to = History(base), 0
        store = TableFiles(self.folder)
        lines = _lines(self.folder)
        for at, (data, end) in enumerate(lines):
            if data["edit"] == "undo":
                history.undo()
            elif data["edit"] == "redo":
                history.redo()
            elif data["edit"] != SAVED:
                try:
                    history.do(edits.edit_from_json(data, store))
                except (ValueError, KeyError, TypeError, OSError):
                    # what comes after one unreadable edit no longer fits
                    unread = len(lines) - at
                    return Recovered(history, self.source, self.folder, unread, good_to)
            good_to = end
        return Recovered(history, self.source, self.folder, 0, good_to)

    def discard(self) -> None:
        shutil.rmtree(self.folder, ignore_errors=True)


def unsaved(folder: Path) -> list[Unsaved]:
    """The journals below `folder` that no running program holds, the newest first.

    Those in which nothing comes after the last saving are cleared away.
    """
    found = []
    for journal in sorted(folder.glob("*/about.json"), reverse=True):
        home = journal.parent
        try:
            with open(home / "lock", "a") as lock:
                fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            continue  # in use
        try:
            about = json.loads(journal.read_text())
            lines = [data for data, _ in _lines(home)]
            when = (home / EDITS_NAME).stat().st_mtime
        except (OSError, ValueError):
            continue
        whole = [at for at, data in enumerate(lines) if data["edit"] == SAVED and data["whole"]]
        since = lines[whole[-1] + 1 :] if whole else lines
        count = sum(data["edit"] != SAVED for data in since)
        if count == 0:
            shutil.rmtree(home, ignore_errors=True)
            continue
        saved = [data["path"] for data in lines if data["edit"] == SAVED]
        source = saved[-1] if saved else about.get("source")
        found.append(Unsaved(home, Path(source) if source else None, count, when))
    return found


def _lines(folder: Path) -> list[tuple[dict[str, Any], int]]:
    """What was written down, each with the byte after its line.

    A line that was cut off in the writing is left out; one that is damaged stands as no edit.
    """
    lines: list[tuple[dict[str, Any], int]] = []
    end = 0
    for line in (folder / EDITS_NAME).read_bytes().splitlines(keepends=True):
        end += len(line)
        if not line.endswith(b"\n"):
            break
        try:
            data = json.loads(line)
        except ValueError:
            data = None
        known = isinstance(data, dict) and isinstance(data.get("edit"), str)
        lines.append((data if known else {"edit": DAMAGED}, end))
    return lines
