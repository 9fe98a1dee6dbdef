"""The open study as the views know it: its edits, its journal, its file, the shared selection."""

from __future__ import annotations

import contextlib
from pathlib import Path

from PySide6.QtCore import QObject, QSettings, QStandardPaths, Signal

from theoros.answer.wording import counted
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.study import edits
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study, save_study
from theoros.study.history import History
from theoros.study.journal import Journal, Unsaved, unsaved
from theoros.table.table import Table

MOST_RECENT = 8


def journal_folder() -> Path:
    """Where journals are kept for this user."""
    where = QStandardPaths.StandardLocation.GenericStateLocation
    return Path(QStandardPaths.writableLocation(where)) / "theoros" / "journals"


class Session(QObject):
    """Holds the study. Views ask it for edits and follow its signals."""

    changed = Signal(object)
    """The study is another one: an edit was done, undone or done again (that edit), or another
    study was opened (None)."""
    selection_changed = Signal(str)
    problem = Signal(str)
    noted = Signal(str)
    """What is to be said of an edit that was done."""
    saved = Signal()

    def __init__(self, settings: QSettings, journals: Path | None = None) -> None:
        super().__init__()
        self.settings = settings
        self.journals = journals or journal_folder()
        self.history = History(Study())
        self.path: Path | None = None
        self.demo = False
        self.dirty = False
        self.selected: dict[str, Ints] = {}
        self._journal: Journal | None = None
        self._start_journal()

    @property
    def study(self) -> Study:
        return self.history.study

    # edits

    def do(self, edit: edits.Edit) -> bool:
        """Does an edit; a problem is told in a sentence, and then nothing has changed."""
        before = self.study
        try:
            self.history.do(edit)
        except ValueError as problem:
            self.problem.emit(str(problem))
            return False
        self._wrote("wrote", edit)
        note = edit.note(before)
        if note:
            self.noted.emit(note)
        return True

    def prepare(self, table: Table) -> None:
        """Puts a table into the journal before an edit brings it in; called on a worker."""
        if self._journal:
            with contextlib.suppress(OSError):  # the edit itself tries again, and tells
                self._journal.prepare(table)

    def took(self, edit: edits.Edit, before: Study, after: Study) -> bool:
        """Takes over an edit that was worked out on a worker; False if the study has changed."""
        if not self.history.took(edit, before, after):
            return False
        self._wrote("wrote", edit)
        return True

    def undo(self) -> None:
        edit = self.history.undo()
        if edit:
            self._wrote("undid", edit)

    def redo(self) -> None:
        edit = self.history.redo()
        if edit:
            self._wrote("redid", edit)

    def _wrote(self, how: str, edit: edits.Edit) -> None:
        self.dirty = True
        if self._journal:
            try:
                if how == "wrote":
                    self._journal.wrote(edit)
                else:
                    getattr(self._journal, how)()
            except StudyError as problem:
                self.problem.emit(str(problem))
        if not isinstance(edit, edits.SetCells):
            self._keep_selection_in_range()
        self.changed.emit(edit)

    # files

    def new(self) -> None:
        self._replace(History(Study()), None)

    def open_demo(self) -> None:
        self._replace(History(demo_study()), None, demo=True)

    def open(self, path: Path) -> None:
        """Opens a study file. Raises StudyError, and then the study that was open still is."""
        self.opened(path, open_study(path))

    def opened(self, path: Path, study: Study) -> None:
        """Takes over a study that was read from a file."""
        self._replace(History(study), path)
        self._remember(path)

    def recover(self, left: Unsaved) -> None:
        """Opens what a session that was cut short left in its journal, which goes on.

        Raises StudyError, and then the study that was open still is.
        """
        found = left.recover()
        journal = Journal.going_on(found)
        if self._journal:
            self._journal.close(discard=True)
        self._journal = journal
        self.history, self.path, self.demo, self.dirty = found.history, found.source, False, True
        self.selected.clear()
        self.changed.emit(None)
        if found.unread:
            many = found.unread > 1
            last = counted(found.unread, "change") if many else "change"
            self.problem.emit(
                f"The last {last} could not be read; all before is here. The journal is kept in "
                f"{found.kept_aside}."
            )

    def save(self, path: Path) -> None:
        """Saves to a file. Raises StudyError; the study stays open and unsaved then."""
        save_study(self.study, path)
        self.was_saved(path, self.study)

    def was_saved(self, path: Path, study: Study) -> None:
        """Notes that `study` is in a file now; changes made since are still unsaved."""
        whole = study is self.study
        self.path, self.demo, self.dirty = path, False, not whole
        self._remember(path)
        if self._journal:
            try:
                self._journal.saved(path, whole=whole)
            except StudyError as problem:
                self.problem.emit(str(problem))
        self.saved.emit()

    def unsaved(self) -> list[Unsaved]:
        return unsaved(self.journals)

    def recent(self) -> list[Path]:
        stored = self.settings.value("recent", [])
        names = stored if isinstance(stored, list) else [stored] if stored else []
        return [Path(name) for name in map(str, names) if Path(name).exists()]

    def close(self, *, discard: bool) -> None:
        if self._journal:
            self._journal.close(discard=discard)
            self._journal = None

    def remember(self, verb: str, slot: str, value: object) -> None:
        """Keeps the choices made in a slot for the next statement of the verb."""
        if isinstance(value, tuple):
            self.settings.setValue(f"{verb}/{slot}", list(value))

    def remembered(self, verb: str, slot: str) -> tuple[str, ...] | None:
        """What was kept for a slot; None for nothing."""
        kept = self.settings.value(f"{verb}/{slot}")
        if not kept:
            return None
        return (kept,) if isinstance(kept, str) else tuple(kept)

    def _remember(self, path: Path) -> None:
        names = [str(p) for p in self.recent() if p != path.resolve()]
        self.settings.setValue("recent", [str(path.resolve()), *names][:MOST_RECENT])

    def _replace(self, history: History, path: Path | None, *, demo: bool = False) -> None:
        self.history, self.path, self.demo, self.dirty = history, path, demo, False
        self.selected.clear()
        self._start_journal()
        self.changed.emit(None)

    def _start_journal(self) -> None:
        if self._journal:
            self._journal.close(discard=True)
        try:
            self._journal = Journal(self.journals, self.path, demo=self.demo)
        except StudyError as problem:
            self._journal = None
            self.problem.emit(str(problem))

    # selection, by row of each table

    def select(self, table: str, rows: Ints) -> None:
        rows = np.unique(np.asarray(rows, dtype=np.int64))
        if not np.array_equal(rows, self.selection(table)):
            self.selected[table] = rows
            self.selection_changed.emit(table)

    def selected_count(self, table: str) -> int:
        return int(self.selected[table].size) if table in self.selected else 0

    def selection(self, table: str) -> Ints:
        return self.selected.get(table, np.zeros(0, dtype=np.int64))

    def _keep_selection_in_range(self) -> None:
        for name, rows in list(self.selected.items()):
            table = self.study.by_name.get(name)
            kept = rows[rows < table.rows] if table else rows[:0]
            if kept.size < rows.size:
                self.selected[name] = kept
                self.selection_changed.emit(name)
