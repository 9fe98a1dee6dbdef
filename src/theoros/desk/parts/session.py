"""The open study as the views know it: its edits, its journal, its file, the shared selection."""

from __future__ import annotations

import contextlib
from pathlib import Path

from PySide6.QtCore import QObject, QSettings, QStandardPaths, QTimer, Signal

from theoros.answer.nouns import counted
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.study import edits
from theoros.study.atomic import sweep_parts
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study, save_study
from theoros.study.history import History
from theoros.study.journal import Journal, Recovered, Unsaved, is_open_elsewhere, unsaved
from theoros.study.prints import Print, print_of
from theoros.study.study_change import change_between
from theoros.table.table import Table

MOST_RECENT = 8
AGAIN_MS = 4000
"""After so long it is tried again to write what could not be written."""


def journal_folder() -> Path:
    """Where journals are kept for this user."""
    where = QStandardPaths.StandardLocation.GenericStateLocation
    return Path(QStandardPaths.writableLocation(where)) / "theoros" / "journals"


class Session(QObject):
    """Holds the study. Views ask it for edits and follow its signals."""

    changed = Signal(object)
    """The study is another one: a `Change` says what of it, and by which edit."""
    selection_changed = Signal(str)
    problem = Signal(str)
    noted = Signal(str)
    """What is to be said of an edit that was done."""
    saved = Signal()
    kept_changed = Signal()
    """Changes are kept in memory only now, or are written again: see `unkept`."""

    def __init__(self, settings: QSettings, journals: Path | None = None) -> None:
        super().__init__()
        self.settings = settings
        self.journals = journals or journal_folder()
        self.history = History(Study())
        self._told = self.history.study
        """The study as it was told last."""
        self.path: Path | None = None
        self.demo = False
        self.dirty = False
        self.selected: dict[str, Ints] = {}
        self.print: Print | None = None
        """What the file looked like when it was read or written last."""
        self._journal: Journal | None = None
        self.unkept = ""
        """Why changes are in memory only, as a sentence; empty where all are in the journal."""
        self._again = QTimer(self, interval=AGAIN_MS)
        self._again.timeout.connect(self._catch_up)
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
            if how == "wrote":
                self._journal.wrote(edit)
            else:
                getattr(self._journal, how)()
            self._tell_kept()
        if not isinstance(edit, edits.SetCells):
            self._keep_selection_in_range()
        self._tell_change(edit)

    def _tell_change(self, edit: edits.Edit | None) -> None:
        before, self._told = self._told, self.study
        self.changed.emit(change_between(before, self._told, edit))

    # files

    def new(self) -> None:
        self._replace(History(Study()), None)

    def open_demo(self) -> None:
        self._replace(History(demo_study()), None, demo=True)

    def open(self, path: Path) -> None:
        """Opens a study file. Raises StudyError, and then the study that was open still is."""
        self.opened(path, open_study(path), print_of(path))

    def opened(self, path: Path, study: Study, seen: Print | None) -> None:
        """Takes over a study that was read from a file, which looked so."""
        self._replace(History(study), path, seen=seen)
        self._remember(path)

    def opened_copy(self, study: Study) -> None:
        """Takes over a study that was read from a file, which stays as it is."""
        self._replace(History(study), None, base=study)

    def is_open_elsewhere(self, path: Path) -> bool:
        """Whether another window has the study of this file open."""
        own = self._journal.folder if self._journal else None
        return is_open_elsewhere(self.journals, path, own)

    def recover(self, left: Unsaved, base: Study | None = None) -> None:
        """Opens what a session that was cut short left in its journal, which goes on.

        `base` is the study it began from, where that was read already. Raises StudyError, and
        then the study that was open still is.
        """
        self.recovered(left.recover(base))

    def recovered(self, found: Recovered) -> None:
        """Takes over what was got back from a journal, which goes on. Raises StudyError."""
        journal = Journal.going_on(found)
        if self._journal:
            self._journal.close(discard=True)
        self._journal = journal
        self.history, self.path, self.demo, self.dirty = found.history, found.source, False, True
        self.print = found.seen
        self.selected.clear()
        self._tell_change(None)
        self._tell_kept()
        if found.unread:
            after = counted(found.unread - 1, "change")
            rest = f", so it and the {after} after it are" if found.unread > 1 else ", so it is"
            self.problem.emit(
                f"Change {found.lines - found.unread + 1} of {found.lines} could not be read{rest} "
                f"left out; all before is here. The whole journal is kept in {found.kept_aside}."
            )

    def save(self, path: Path) -> None:
        """Saves to a file. Raises StudyError; the study stays open and unsaved then."""
        save_study(self.study, path)
        self.was_saved(path, self.study, print_of(path))

    def was_saved(self, path: Path, study: Study, seen: Print | None) -> None:
        """Notes that `study` is in a file now; changes made since are still unsaved."""
        whole = study is self.study
        self.path, self.demo, self.dirty, self.print = path, False, not whole, seen
        self._remember(path)
        if self._journal:
            self._journal.saved(path, whole=whole, sum_=seen.sum if seen else None)
            self._tell_kept()
        self.saved.emit()

    def unsaved(self) -> list[Unsaved]:
        return unsaved(self.journals)

    def clear_leftovers(self) -> None:
        """Deletes files that an earlier session was writing when it was cut short; on a worker."""
        sweep_parts({path.parent for path in self.recent()})

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

    def _replace(
        self,
        history: History,
        path: Path | None,
        *,
        demo: bool = False,
        seen: Print | None = None,
        base: Study | None = None,
    ) -> None:
        self.history, self.path, self.demo, self.dirty = history, path, demo, False
        self.print = seen
        self.selected.clear()
        self._start_journal(base)
        self._tell_change(None)

    def _start_journal(self, base: Study | None = None) -> None:
        if self._journal:
            self._journal.close(discard=True)
            self._journal = None
        problem = ""
        try:
            self._journal = Journal(self.journals, self.path, demo=self.demo, base=base)
        except StudyError as refused:
            problem = str(refused)
        self._tell_kept(problem)

    def _catch_up(self) -> None:
        """Tries again to write what could not be written."""
        if self._journal is not None:
            self._journal.catch_up()
            self._tell_kept()
            return
        try:
            self._journal = Journal(self.journals, self.path, base=self.history.origin)
        except StudyError:
            return
        for edit in self.history.done:
            self._journal.wrote(edit)
        self._tell_kept()

    def _tell_kept(self, problem: str = "") -> None:
        """Tells, once, that changes are in memory only, or that they are written again."""
        journal = self._journal
        if journal is not None and journal.trouble:
            problem = (
                f"Your changes cannot be written to the journal ({journal.trouble}). They are kept "
                f"in memory, and would be lost if the program ended. Make room, or save the study "
                f"elsewhere."
            )
        if problem:
            self._again.start()
        else:
            self._again.stop()
        if bool(problem) != bool(self.unkept):
            self.unkept = problem
            self.kept_changed.emit()

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
