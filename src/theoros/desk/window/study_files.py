"""Study and table files on the desk: opening, saving, leaving; the worker does the work."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox

from theoros.desk.parts.engine import Engine
from theoros.desk.parts.worker import Worker
from theoros.study import edits
from theoros.study.entries import Study, StudyError
from theoros.study.file import SUFFIX, open_study, save_study
from theoros.table.changes import empty_table
from theoros.table.table import Table, free_name

if TYPE_CHECKING:
    from theoros.desk.window.interfaces import Stage


class StudyFiles:
    def __init__(self, stage: Stage, worker: Worker, engine: Engine) -> None:
        """Studies are read and written on the worker, tables in the engine for files."""
        self.stage, self.worker, self.engine = stage, worker, engine
        self.session = stage.session
        self._left: Study | None = None
        """The study that may be left for the one being opened."""
        worker.stepped.connect(self._worked)
        engine.stepped.connect(self._wrote)

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
            name, _ = QFileDialog.getOpenFileName(
                self.stage.frame,
                "Open table",
                "",
                table_filter(),
            )
            if not name:
                return
            path = Path(name)
        from theoros.desk.window.import_dialog import ImportDialog

        dialog = ImportDialog(path, self.stage.theme, self.engine, self.stage.frame)
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
        from theoros.engine.tasks.files import WriteTable

        self.engine.run("save table", WriteTable(table.name, path), {table.name: table}, path)

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
        if not self.may_leave():
            return
        found, self._left = path, self.session.study

        def steps() -> Iterator[object]:
            try:
                yield found, open_study(found)
            except StudyError as problem:
                yield found, problem

        self.stage.banner.say(f"Opening {path.name} …", "mute")
        self.worker.run("open study", steps)

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

    def save_to(self, path: Path) -> None:
        """Saves on the worker, so that a large study does not hold up the window."""
        self.stage.keep_text()
        study = self.session.study

        def steps() -> Iterator[object]:
            try:
                save_study(study, path)
                yield path, study
            except StudyError as problem:
                yield path, problem

        self.worker.run("save study", steps)

    def _worked(self, key: str, step: Any) -> None:
        if key == "take table" and self.session.do(edits.AddTable(step[0])):
            self.stage.show_target(("table", step[0].name))
        if key not in ("open study", "save study"):
            return
        path, result = step
        if isinstance(result, StudyError):
            self.stage.banner.say(str(result), "bad")
        elif key == "open study":
            if self.session.study is not self._left:
                self.stage.banner.say(
                    f"{path.name} was not opened, since this study was changed meanwhile. Open it "
                    f"again.",
                    "warn",
                )
                return
            self.stage.banner.hide()
            self.session.opened(path, result)
        else:
            self.session.was_saved(path, result)

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
        if path is None:
            return False
        try:
            self.session.save(path)
        except StudyError as problem:
            self.stage.banner.say(str(problem), "bad")
            return False
        return True


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
