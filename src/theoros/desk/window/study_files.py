"""Study and table files on the desk: opening, saving, leaving; the worker does the work."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from theoros.answer.nouns import counted
from theoros.desk.parts.engine import SOON_MS, Engine
from theoros.desk.parts.worker import Worker
from theoros.study import edits
from theoros.study.entries import Study, StudyError
from theoros.study.file import SUFFIX, save_study
from theoros.study.journal import Recovered, Unsaved
from theoros.study.prints import Print, changed_since, print_of
from theoros.table.changes import empty_table
from theoros.table.table import Table, free_name

if TYPE_CHECKING:
    from theoros.desk.window.interfaces import Stage


log = logging.getLogger(__name__)

CHANGED = "was changed by another program, or in another window, since it was read here"
OPENING, RECOVERING = "open study", "recover"


@dataclass(frozen=True)
class _Saved:
    """A study that was written, or why it was not."""

    path: Path
    study: Study
    seen: Print | None = None
    problem: StudyError | None = None
    changed: bool = False
    """Whether the file holds something that is not from here, and so was left alone."""


@dataclass(frozen=True)
class _Opening:
    """A study that is being read."""

    path: Path
    left: Study
    """The study that may be left for it."""
    copy: bool = False
    unsaved: Unsaved | None = None
    """The journal of which it is the beginning."""


class StudyFiles:
    def __init__(self, stage: Stage, worker: Worker, writer: Engine, reader: Engine) -> None:
        """Studies are written on the worker, tables by the writer; the reader reads everything."""
        self.stage, self.worker, self.writer, self.reader = stage, worker, writer, reader
        self.session = stage.session
        self._awaited: _Opening | None = None
        worker.stepped.connect(self._worked)
        writer.stepped.connect(self._wrote)
        reader.stepped.connect(self._read)
        reader.failed.connect(self._unread)

    def new_table(self) -> None:
        name = free_name("table", self.session.study.by_name)
        if self.session.do(edits.AddTable(empty_table(name))):
            self.stage.show_target(("table", name))

    def paste_as_table(self) -> None:
        """A new table from what is on the clipboard."""
        if QApplication.clipboard().text().strip():
            self.new_table()
            self.stage.table_page.sheet.paste()

    def open_table(self, path: Path | None = None) -> None:
        """Brings in a table from delimited text, after a preview."""
        if path is None:
            name, _ = QFileDialog.getOpenFileName(self.stage.frame, "Open table", "", table_filter())
            if not name:
                return
            path = Path(name)
        from theoros.desk.window.import_dialog import ImportDialog

        dialog = ImportDialog(path, self.stage.theme, self.reader, self.stage.frame)
        dialog.table_ready.connect(self._take_table)
        dialog.open()

    def _take_table(self, table: Table) -> None:
        name = free_name(" ".join(table.name.split()) or "table", self.session.study.by_name)
        named = table.with_(name=name)

        def steps() -> Iterator[object]:
            self.session.prepare(named)
            yield named, named

        self.worker.run("take table", steps)

    def save_table(self) -> None:
        """Writes the table that is shown to a file of a format chosen by its ending."""
        table = self.session.study.by_name.get(self.stage.current_table())
        if table is None:
            return
        name, _ = QFileDialog.getSaveFileName(
            self.stage.frame, "Save table", f"{table.name}.csv", table_filter(each=True)
        )
        if name:
            self.save_table_to(Path(name))

    def save_table_to(self, path: Path) -> None:
        """Writes the table that is shown; what the format cannot hold is said."""
        table = self.session.study.by_name[self.stage.current_table()]
        from theoros.engine.tasks.writing import WriteTable

        self.writer.run("save table", WriteTable(table.name, path), {table.name: table}, path)

    def _wrote(self, key: str, result: Any, path: Any) -> None:
        if key == "save table":
            self._table_saved(path, result)

    def _table_saved(self, path: Path, result: str | ValueError) -> None:
        if isinstance(result, ValueError):
            self.stage.banner.say(str(result), "bad")
        else:
            tone = "warn" if result else "mute"
            self.stage.banner.say(f"Saved {path.name}. {result}".strip(), tone)

    def new_study(self) -> None:
        if self.may_leave():
            self.session.new()

    def open_demo(self) -> None:
        if self.may_leave():
            self.session.open_demo()

    def open_any(self, path: Path | None = None) -> None:
        """Opens a study, or a table if the file is one."""
        if path is None:
            name, _ = QFileDialog.getOpenFileName(
                self.stage.frame, "Open study", "", f"Studies (*{SUFFIX});;All files (*)"
            )
            if not name:
                return
            path = Path(name)
        if is_table(path):
            self.open_table(path)
            return
        if not self.session.is_open_elsewhere(path):
            self._open(path)
            return
        self.stage.banner.ask(
            f"{path.name} is open in another window. Saving there later would replace what is saved here.",
            [("Open a copy", lambda: self._open(path, copy=True)), ("Open it here, too", lambda: self._open(path))],
            tone="warn",
        )

    def _open(self, path: Path, *, copy: bool = False) -> None:
        if self.may_leave():
            self._read_study(OPENING, _Opening(path, self.session.study, copy))

    def offer_unsaved(self) -> None:
        """Offers work that an earlier session left unsaved."""
        left = self.session.unsaved()
        if left:
            newest = left[0]
            when = datetime.fromtimestamp(newest.when).strftime("%-d %B, %H:%M")
            about = f" to {newest.source.name}" if newest.source else ""
            self.stage.banner.ask(
                f"Work{about} from {when} was not saved: {counted(newest.edits, 'change')}.",
                [("Restore it", lambda: self.recover(newest)), ("Discard it", lambda: self._throw_away(newest))],
            )

    def _throw_away(self, left: Unsaved) -> None:
        left.discard()
        self.stage.banner.hide()

    def recover(self, left: Unsaved) -> None:
        """Gets unsaved work back in place of what is open, which may have changes of its own."""
        if not self.may_leave():
            return
        self.stage.banner.hide()
        if left.base is None:
            self._recovered(left, None)
        else:
            self._read_study(RECOVERING, _Opening(left.base, self.session.study, unsaved=left))

    def _read_study(self, key: str, opening: _Opening) -> None:
        from theoros.engine.tasks.reading_files import ReadStudy

        self._awaited = opening
        self.reader.run(key, ReadStudy(opening.path), tag=opening)
        QTimer.singleShot(SOON_MS, lambda: self._tell_opening(key, opening, "…"))

    def _tell_opening(self, key: str, opening: _Opening, how_far: str) -> None:
        """Says what is being opened, and offers to stop it, while it is."""
        if self._awaited is not opening or self.reader.tag(key) is not opening:
            return  # it came before there was anything to say

        def stop() -> None:
            self.reader.cancel(key)
            self.stage.banner.hide()

        what = "Restoring unsaved work" if opening.unsaved else f"Opening {opening.path.name}"
        self.stage.banner.ask(f"{what} {how_far}", [("Stop", stop)])

    def _read(self, key: str, step: Any, opening: Any) -> None:
        from theoros.engine.tasks.reading_files import StudyBack, TablesRead

        if key not in (OPENING, RECOVERING):
            return
        if isinstance(step, TablesRead):
            if step.of > 1 and self.stage.banner.isVisible():
                self._tell_opening(key, opening, f"… table {step.done + 1} of {step.of}")
            return
        self._awaited = None
        if not isinstance(step, StudyBack):
            self._unread(key, str(step))
        elif self.session.study is not opening.left:
            self.stage.banner.say(
                f"{opening.path.name} was not opened, because this study was changed meanwhile. Open it again.", "warn"
            )
        else:
            study = step.taken(self.reader.link.folder.path)
            self.stage.banner.hide()
            if opening.unsaved is not None:
                self._recovered(opening.unsaved, study)
            elif opening.copy:
                self.session.opened_copy(study)
            else:
                self.session.opened(opening.path, study, step.seen)

    def _unread(self, key: str, message: str) -> None:
        if key in (OPENING, RECOVERING):
            self._awaited = None
        if key == OPENING:
            self.stage.banner.say(message, "bad")
        elif key == RECOVERING:
            self.stage.banner.say(f"The unsaved work could not be read. {message}", "bad")

    def _recovered(self, left: Unsaved, base: Study | None) -> None:
        """Does the edits of a journal again, on the worker: there may be many."""
        opening = _Opening(left.folder, self.session.study, unsaved=left)

        def steps() -> Iterator[object]:
            try:
                yield opening, left.recover(base)
            except Exception as problem:  # whatever is in it, the journal stays for another day
                log.exception("while restoring work")
                yield opening, problem

        self.worker.run(RECOVERING, steps)

    def _take_back(self, opening: _Opening, found: Recovered | Exception) -> None:
        """Shows work that was got back, unless there is newer work by now."""
        if isinstance(found, Recovered) and self.session.study is opening.left:
            try:
                self.session.recovered(found)
                return
            except StudyError as problem:
                found = problem
        if isinstance(found, Recovered):
            said = "was not restored, because this study was changed meanwhile. Start again to restore it."
        else:
            said = f"could not be read: {found}"
        self.stage.banner.say(f"The unsaved work {said}", "bad")

    def save(self) -> None:
        if self.session.path is None:
            self.save_as()
        else:
            self.save_to(self.session.path)

    def save_as(self) -> None:
        path = self._ask_where()
        if path is not None:
            self.save_to(path)

    def _ask_where(self) -> Path | None:
        """The file to save to, with the ending of a study; None if none was chosen."""
        start = f"{self.session.study.title or 'study'}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(
            self.stage.frame, "Save study", str(self.session.path or start), f"Studies (*{SUFFIX})"
        )
        if not name:
            return None
        path = Path(name)
        return path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX)

    def save_to(self, path: Path, *, whatever_is_there: bool = False) -> None:
        """Saves on the worker, so that a large study does not hold up the window.

        Where the file is the one that is open here, and was changed from elsewhere, it is asked
        first what to do; so it is where another window has it open.
        """
        self.stage.keep_text()
        study, known = self.session.study, self.session.print
        careful = path == self.session.path and not whatever_is_there
        taken = path != self.session.path and not whatever_is_there
        if taken and self.session.is_open_elsewhere(path):
            self._ask_over(path, "is open in another window")
            return

        def steps() -> Iterator[object]:
            if careful and changed_since(path, known):
                yield _Saved(path, study, changed=True)
                return
            try:
                save_study(study, path)
                yield _Saved(path, study, print_of(path))
            except StudyError as problem:
                yield _Saved(path, study, problem=problem)

        self.worker.run("save study", steps)

    def _ask_over(self, path: Path, why: str) -> None:
        """Asks whether to save over a file, or beside it."""
        beside = _free_path(path)
        self.stage.banner.ask(
            f"{path.name} {why}, so this study was not saved over it yet.",
            [(f"Save as {beside.name}", lambda: self._save_over(beside)), ("Overwrite", lambda: self._save_over(path))],
            tone="warn",
        )

    def _save_over(self, path: Path) -> None:
        self.stage.banner.hide()
        self.save_to(path, whatever_is_there=True)

    def _worked(self, key: str, step: Any) -> None:
        if key == "take table" and self.session.do(edits.AddTable(step[0])):
            self.stage.show_target(("table", step[0].name))
        if key == RECOVERING:
            self._take_back(*step)
        if key != "save study":
            return
        if step.problem is not None:
            self.stage.banner.say(str(step.problem), "bad")
        elif step.changed:
            self._ask_over(step.path, CHANGED)
        else:
            self.session.was_saved(step.path, step.study, step.seen)

    def may_leave(self) -> bool:
        """Asks what to do with unsaved changes; False to stay."""
        self.stage.keep_text()
        if not self.session.dirty:
            return True
        question = QMessageBox(self.stage.frame)
        question.setWindowTitle("Unsaved changes")
        question.setText("This study has changes that are not saved to a file.")
        save = question.addButton("Save", QMessageBox.ButtonRole.AcceptRole)
        leave = question.addButton("Leave without saving", QMessageBox.ButtonRole.DestructiveRole)
        question.addButton("Stay", QMessageBox.ButtonRole.RejectRole)
        question.exec()
        if question.clickedButton() is leave:
            return True
        if question.clickedButton() is save:
            return self._save_now()
        return False

    def _save_now(self) -> bool:
        """Saves before leaving, and waits for it."""
        path = self.session.path or self._ask_where()
        if path is not None and path == self.session.path:
            path = self._path_or_beside(path)
        if path is None:
            return False
        try:
            self.session.save(path)
        except StudyError as problem:
            self.stage.banner.say(str(problem), "bad")
            return False
        return True

    def _path_or_beside(self, path: Path) -> Path | None:
        """The file, or one beside it where the file was changed from elsewhere; None to stay."""
        if not changed_since(path, self.session.print):
            return path
        beside = _free_path(path)
        question = QMessageBox(self.stage.frame)
        question.setWindowTitle("Changed elsewhere")
        question.setTextFormat(Qt.TextFormat.PlainText)
        question.setText(f"{path.name} {CHANGED}.")
        role = QMessageBox.ButtonRole
        save = question.addButton(f"Save as {beside.name}", role.AcceptRole)
        over = question.addButton("Overwrite", role.DestructiveRole)
        question.addButton("Stay", role.RejectRole)
        question.exec()
        if question.clickedButton() is save:
            return beside
        return path if question.clickedButton() is over else None


def _free_path(path: Path) -> Path:
    """A name beside a file that no file has: tea.theoros, tea 2.theoros."""
    number = 2
    while (found := path.with_name(f"{path.stem} {number}{path.suffix}")).exists():
        number += 1
    return found


def is_table(path: Path) -> bool:
    """Whether a file is a table by its name, rather than a study."""
    from theoros.files.formats import formats

    return any(one.fits(path) for one in formats())


def table_filter(*, each: bool = False) -> str:
    """The filter of a file dialog for tables; with `each`, a line for each format."""
    from theoros.files.formats import formats

    def pattern(suffix: str) -> str:
        return f"*{suffix}" if suffix.startswith(".") else suffix

    lines = [f"{one.name} ({' '.join(map(pattern, one.suffixes))})" for one in formats()]
    if each:
        return ";;".join(sorted(lines, key=lambda line: not line.startswith("CSV")))
    endings = " ".join(pattern(suffix) for one in formats() for suffix in one.suffixes)
    return f"Tables ({endings});;All files (*)"
