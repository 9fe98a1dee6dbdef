"""The window: menu bar, verb bar, left list, middle, right pane, status line."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from datetime import datetime
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import (
    QApplication,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMainWindow,
    QMessageBox,
    QPushButton,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.parts import Answer
from theoros.answer.wording import counted, shortened
from theoros.desk import menus
from theoros.desk.banner import Banner
from theoros.desk.clipboard import copy_figures, copy_picture, picture_svg
from theoros.desk.column_pane import ColumnPane
from theoros.desk.entry_page import EntryPage
from theoros.desk.figures_view import FiguresView
from theoros.desk.find_box import FindBox, Found
from theoros.desk.help_topics import TOPICS
from theoros.desk.import_dialog import ImportDialog
from theoros.desk.paint import save_picture
from theoros.desk.reading_pane import ReadingPane
from theoros.desk.report_page import ReportPage, ReportPane
from theoros.desk.session import Session
from theoros.desk.sheet import Sheet
from theoros.desk.side_list import SideList, Target
from theoros.desk.table_page import TablePage
from theoros.desk.theme import Theme
from theoros.desk.widgets import clear, scrolled
from theoros.desk.worker import Worker
from theoros.study.edits import (
    AddBlock,
    AddEntry,
    AddTable,
    ChangeEntry,
    ChangeTable,
    Edit,
    RemoveEntry,
    RemoveTable,
    SetTitle,
)
from theoros.study.entries import Entry, EntryBlock, Study, StudyError
from theoros.study.file import SUFFIX, open_study, save_study, write_atomically
from theoros.study.journal import Unsaved
from theoros.study.report_html import report_html
from theoros.table.changes import empty_table
from theoros.table.table import Table, free_name
from theoros.verbs.registry import verbs
from theoros.verbs.statement import Statement, StatementError, answer

LEFT, RIGHT = 206, 292
TABLE_SUFFIXES = (".csv", ".tsv", ".txt", ".tab", ".dat")


class Window(QMainWindow):
    first_painted = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.answers = Worker("answers")  # what the page in the middle waits for
        self.side_work = Worker("side work")  # profiles, column facts, files, report
        self.shown: Target | None = None
        self._painted = False
        self.resize(1280, 800)
        self.setMinimumSize(900, 560)

        self.entry_page = EntryPage(session, theme, self.answers)
        self.table_page = TablePage(session, theme, self.side_work)
        self.report_page = ReportPage(session, theme, self.side_work, self.entry_page.known)
        self.reading = ReadingPane(theme)
        self.column_pane = ColumnPane(session, theme, self.side_work)
        self.report_pane = ReportPane(theme)
        self.side = SideList(theme)
        self.banner = Banner(theme)

        self.pages, self.panes = QStackedWidget(), QStackedWidget()
        self.pages.setObjectName("middle")
        for page in (self.table_page, self.entry_page, self.report_page):
            self.pages.addWidget(page)
        self.panes.setObjectName("right")
        for pane, name in (
            (self.column_pane, "column"),
            (self.reading, "reading"),
            (self.report_pane, "report"),
        ):
            self.panes.addWidget(scrolled(pane, name))
        self.splitter = QSplitter()
        self.splitter.setHandleWidth(1)
        self.splitter.addWidget(self.side)
        self.splitter.addWidget(self.pages)
        self.splitter.addWidget(self.panes)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.setStretchFactor(1, 1)
        self.splitter.setSizes([LEFT, 1280 - LEFT - RIGHT - 2, RIGHT])

        self.verb_buttons: dict[str, QPushButton] = {}
        self.find_box = FindBox(theme, self.everything)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._verb_bar())
        layout.addWidget(self.banner)
        layout.addWidget(self.splitter, 1)
        layout.addWidget(self._status_line())
        self.setCentralWidget(whole)
        self.corner_label = QLabel()
        self.corner_label.setProperty("tone", "mute")
        self.corner_label.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.corner_label.setContentsMargins(8, 5, 12, 2)
        self.menuBar().setCornerWidget(self.corner_label)
        self.actions_by_name = menus.build(self)
        self._connect()

    # building

    def _verb_bar(self) -> QWidget:
        bar = QWidget()
        bar.setObjectName("verbs")
        row = QHBoxLayout(bar)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(4)
        for name, verb in verbs().items():
            one = QPushButton(verb.label)
            one.setProperty("verb", True)
            one.setCheckable(True)
            one.setToolTip(verb.help)
            one.setAccessibleDescription(verb.help)
            one.clicked.connect(lambda _=False, n=name: self.ask(n))
            self.verb_buttons[name] = one
            row.addWidget(one)
        row.addStretch()
        row.addWidget(self.find_box)
        bar.setFixedHeight(self.theme.px(46))
        return bar

    def _status_line(self) -> QWidget:
        line = QWidget()
        line.setObjectName("status")
        line.setFixedHeight(self.theme.px(24))
        self._status = QHBoxLayout(line)
        self._status.setContentsMargins(14, 0, 14, 0)
        self._status.setSpacing(22)
        return line

    def _connect(self) -> None:
        session = self.session
        session.changed.connect(self._changed)
        session.problem.connect(lambda text: self.banner.say(text, "bad"))
        session.saved.connect(self._titles)
        session.selection_changed.connect(lambda _: self._tell_status())
        self.side.chosen.connect(self.show_target)
        self.side.rename_wanted.connect(self.rename)
        self.side.remove_wanted.connect(self.remove)
        self.table_page.message.connect(lambda text: self.banner.say(text, "mute"))
        self.table_page.sheet.column_chosen.connect(self._column_chosen)
        self.table_page.sheet.selectionModel().selectionChanged.connect(self._tell_status)
        self.column_pane.statement_wanted.connect(self.add_entry)
        self.column_pane.new_column_wanted.connect(self.table_page.add_column)
        self.entry_page.answered.connect(self._answered)
        self.reading.slot_set.connect(self.entry_page.set_slot)
        self.reading.rows_wanted.connect(self.entry_page.select_rows)
        self.reading.statement_wanted.connect(self.add_entry)
        self.reading.place_wanted.connect(self.place)
        self.reading.copy_wanted.connect(self.copy_picture)
        self.reading.working_wanted.connect(self.entry_page.toggle_working)
        self.report_page.entry_wanted.connect(lambda key: self.show_target(("entry", key)))
        self.report_pane.add_wanted.connect(self.report_page.add_text)
        self.report_pane.export_wanted.connect(self.export_report)
        self.side_work.stepped.connect(self._side_worked)
        self.side_work.failed.connect(self._side_failed)
        self.theme.changed.connect(self._rethemed)

    # showing

    def start(self) -> None:
        """Shows what is open, and offers work that an earlier session left unsaved."""
        self._changed(None)
        self.table_page.sheet.setFocus()
        left = self.session.unsaved()
        if left:
            newest = left[0]
            when = datetime.fromtimestamp(newest.when).strftime("%-d %B, %H:%M")
            about = f" to {newest.source.name}" if newest.source else ""
            self.banner.ask(
                f"Work{about} from {when} was not saved: {counted(newest.edits, 'change')}.",
                [
                    ("Get it back", lambda: self.recover(newest)),
                    ("Throw it away", lambda: self._throw_away(newest)),
                ],
            )

    def _throw_away(self, left: Unsaved) -> None:
        left.discard()
        self.banner.hide()

    def recover(self, left: Unsaved) -> None:
        self.banner.hide()
        try:
            self.session.recover(left)
        except (StudyError, OSError, ValueError) as problem:
            self.banner.say(f"The unsaved work could not be read: {problem}", "bad")

    def show_target(self, target: Target) -> None:
        """Shows a table, an entry or the report in the middle, and what goes with it."""
        if self.shown == ("report", "") and target != self.shown:
            self.report_page.keep_text()
        what, key = target
        self.shown = target
        if what == "table":
            self.pages.setCurrentWidget(self.table_page)
            self.panes.setCurrentIndex(0)
            self.table_page.show_table(key)
            column = self.table_page.sheet.current_column()
            table = self.table_page.table
            if not column and table is not None and table.columns:
                column = table.columns[0].name
            self.column_pane.show_column(key, column)
        elif what == "entry":
            self.pages.setCurrentWidget(self.entry_page)
            self.panes.setCurrentIndex(1)
            self.entry_page.show_entry(key)
        else:
            self.pages.setCurrentWidget(self.report_page)
            self.panes.setCurrentIndex(2)
            self.report_page.show_report()
        verb = self.session.study.entry(key).statement.verb if what == "entry" else ""
        for name, one in self.verb_buttons.items():
            one.setChecked(name == verb)
        self.side.mark(target)
        self._tell_status()
        menus.update(self)

    def _changed(self, edit: Edit | None) -> None:
        """The study is another: what is shown follows, or gives way if it is gone."""
        study = self.session.study
        target = self._still_there(study, None if edit is None else self.shown, edit)
        self.side.show_study(study, target)
        self._titles()
        if target:
            self.show_target(target)
        else:
            self.shown = None
            menus.update(self)

    def _still_there(self, study: Study, shown: Target | None, edit: Edit | None) -> Target | None:
        names = [table.name for table in study.tables]
        if isinstance(edit, ChangeTable) and shown and shown[0] == "table":
            for old, new in ((edit.name, edit.new_name), (edit.new_name, edit.name)):
                if shown[1] == old and old not in names:
                    shown = ("table", " ".join(new.split()))
        if shown is not None:
            what, key = shown
            there = {
                "table": key in names,
                "entry": any(entry.id == key for entry in study.entries),
                "report": True,
            }
            if there[what]:
                return shown
        return ("table", names[0]) if names else ("report", "")

    def _titles(self) -> None:
        study, path = self.session.study, self.session.path
        name = path.stem if path else (study.title or "New study")
        self.setWindowTitle(f"{name}{' *' if self.session.dirty else ''} · Theoros")
        kept = "all changes kept"
        if self.session.dirty:
            kept = "changes not saved yet, kept in the journal"
        self.corner_label.setMinimumWidth(self.theme.px(470))
        self.corner_label.setText(f"{shortened(study.title or name, 40)}  ·  {kept}")

    def _column_chosen(self, name: str) -> None:
        table = self.table_page.table
        if self.shown and self.shown[0] == "table" and table is not None:
            self.column_pane.show_column(table.name, name)

    def _answered(self, answer: Answer) -> None:
        entry = self.entry_page.entry
        if entry is not None:
            asides = entry.statement.asides(self.session.study.by_name)
            self.reading.show_answer(answer, asides)
        self._tell_status()

    def _tell_status(self, *_: object) -> None:
        clear(self._status)
        for text in self._status_texts():
            label = QLabel(text)
            label.setFont(self.theme.font(12))
            label.setProperty("tone", "mute")
            self._status.addWidget(label)
        self._status.addStretch()

    def _status_texts(self) -> list[str]:
        if not self.shown:
            return []
        what, key = self.shown
        if what == "report":
            return [counted(len(self.session.study.report), "block")]
        name = key
        made = []
        if what == "entry":
            answer, entry = self.entry_page.answer, self.entry_page.entry
            name = entry.statement.table if entry else ""
            if answer and not answer.problem:
                made.append(f"{name}: {counted(answer.used, 'row')} in use")
                made += list(answer.left_out) or ["none left out"]
                if answer.seed is not None:
                    made.append(f"seed {answer.seed}")
        else:
            table = self.session.study.by_name.get(key)
            if table is not None:
                made.append(f"{key}: {counted(table.rows, 'row')}")
                column = self.table_page.sheet.current_column()
                if column:
                    missing = table.missing(column)
                    made.append(f"{column}: {counted(missing, 'value')} missing")
        n = int(self.session.selection(name).size)
        made.append(f"{counted(n, 'row')} selected" if n else "no rows selected")
        return made

    def _rethemed(self) -> None:
        if self.shown:
            self.side.show_study(self.session.study, self.shown)
            if self.shown[0] == "entry" and self.entry_page.answer:
                self._answered(self.entry_page.answer)

    def paintEvent(self, event) -> None:
        super().paintEvent(event)
        if not self._painted:
            self._painted = True
            QTimer.singleShot(0, self.first_painted.emit)

    # asking

    def ask(self, verb: str) -> None:
        """A new entry of a verb, filled in from the columns selected in the table."""
        made = self._suggested(verb)
        if made is not None:
            self.add_entry(made)

    def _suggested(self, verb: str) -> Statement | None:
        study = self.session.study
        table, columns = "", []
        if self.shown and self.shown[0] == "table":
            table = self.shown[1]
            sheet = self.table_page.sheet
            columns = sheet.chosen_columns() or [n for n in [sheet.current_column()] if n]
        elif self.shown and self.shown[0] == "entry":
            statement = study.entry(self.shown[1]).statement
            table = statement.table
            columns = [
                str(getattr(statement, name))
                for name in ("what", "by")
                if getattr(statement, name, None)
            ]
        if table not in study.by_name and study.tables:
            table, columns = study.tables[0].name, []
        if not table:
            self.banner.say("There is no table yet. Make one or open one, then ask.", "warn")
            for one in self.verb_buttons.values():
                one.setChecked(False)
            return None
        return verbs()[verb].suggest(study.by_name, table, columns)

    def add_entry(self, statement: Statement) -> None:
        """Adds an entry and shows it, with the focus on its first slot."""
        key = self.session.study.free_id("e")
        if self.session.do(AddEntry(Entry(key, statement))):
            self.show_target(("entry", key))
            slots = self.entry_page.bar.slots_shown()
            if slots:
                slots[0].setFocus()

    def set_question(self) -> None:
        entry = self._entry()
        if entry:
            text, taken = QInputDialog.getMultiLineText(
                self, "The question as it was set", "Paste or type it:", entry.question
            )
            if taken and text.strip() != entry.question:
                self.session.do(ChangeEntry(replace(entry, question=text.strip())))

    def duplicate(self) -> None:
        entry = self._entry()
        if entry:
            self.add_entry(entry.statement)

    def rename(self, target: Target | None = None) -> None:
        """Renames a table, an entry or the study."""
        target = target or self.shown
        if not target:
            return
        what, key = target
        study = self.session.study
        if what == "table":
            if self.shown != target:
                self.show_target(target)
            self.table_page.rename()
        elif what == "entry":
            entry = study.entry(key)
            text, taken = QInputDialog.getText(
                self, "Rename entry", "Title:", text=entry.name(study.by_name)
            )
            if taken:
                self.session.do(ChangeEntry(replace(entry, title=" ".join(text.split())[:200])))
        else:
            text, taken = QInputDialog.getText(self, "Name the study", "Title:", text=study.title)
            if taken:
                self.session.do(SetTitle(text))

    def remove(self, target: Target | None = None) -> None:
        """Takes out a table or an entry; undo brings it back."""
        target = target or self.shown
        if not target:
            return
        what, key = target
        if what == "table":
            users = [e for e in self.session.study.entries if e.statement.table == key]
            if self.session.do(RemoveTable(key)) and users:
                self.banner.say(
                    f"{counted(len(users), 'entry')} asked about {key} and cannot answer now. "
                    f"Undo (Ctrl+Z) brings the table back.",
                    "warn",
                )
        elif what == "entry":
            self.session.do(RemoveEntry(key))

    def _entry(self) -> Entry | None:
        if self.shown and self.shown[0] == "entry":
            return self.session.study.entry(self.shown[1])
        return None

    # tables

    def new_table(self) -> None:
        name = free_name("table", self.session.study.by_name)
        if self.session.do(AddTable(empty_table(name))):
            self.show_target(("table", name))

    def open_table(self, path: Path | None = None) -> None:
        """Brings in a table from delimited text, after a preview."""
        if path is None:
            name, _ = QFileDialog.getOpenFileName(
                self, "Open table", "", "Tables (*.csv *.tsv *.txt *.tab *.dat);;All files (*)"
            )
            if not name:
                return
            path = Path(name)
        dialog = ImportDialog(path, self.theme, self.side_work, self)
        dialog.table_ready.connect(self._take_table)
        dialog.open()

    def _take_table(self, table: Table) -> None:
        name = free_name(" ".join(table.name.split()) or "table", self.session.study.by_name)
        if self.session.do(AddTable(table.with_(name=name))):
            self.show_target(("table", name))

    # study

    def new_study(self) -> None:
        if self._may_leave():
            self.session.new()

    def open_demo(self) -> None:
        if self._may_leave():
            self.session.open_demo()

    def open_any(self, path: Path | None = None) -> None:
        """Opens a study, or a table if the file is one."""
        if path is None:
            name, _ = QFileDialog.getOpenFileName(
                self, "Open study", "", f"Studies (*{SUFFIX});;All files (*)"
            )
            if not name:
                return
            path = Path(name)
        if path.suffix.lower() in TABLE_SUFFIXES:
            self.open_table(path)
            return
        if not self._may_leave():
            return
        found = path

        def steps() -> Iterator[object]:
            try:
                yield found, open_study(found)
            except StudyError as problem:
                yield found, problem

        self.banner.say(f"Opening {path.name} …", "mute")
        self.side_work.run("open study", steps)

    def save(self) -> None:
        if self.session.path is None:
            self.save_as()
        else:
            self._save_to(self.session.path)

    def save_as(self) -> None:
        start = f"{self.session.study.title or 'study'}{SUFFIX}"
        name, _ = QFileDialog.getSaveFileName(
            self, "Save study", str(self.session.path or start), f"Studies (*{SUFFIX})"
        )
        if name:
            path = Path(name)
            self._save_to(path if path.suffix == SUFFIX else path.with_name(path.name + SUFFIX))

    def _save_to(self, path: Path) -> None:
        """Saves on the worker, so that a large study does not hold up the window."""
        self.report_page.keep_text()
        study = self.session.study

        def steps() -> Iterator[object]:
            try:
                save_study(study, path)
                yield path, study
            except StudyError as problem:
                yield path, problem

        self.side_work.run("save study", steps)

    def _side_worked(self, key: str, step: Any) -> None:
        if key == "export":
            self.banner.say(*step)
        if key not in ("open study", "save study"):
            return
        path, result = step
        if isinstance(result, StudyError):
            self.banner.say(str(result), "bad")
        elif key == "open study":
            self.banner.hide()
            self.session.opened(path, result)
        else:
            self.session.was_saved(path, result)

    def _side_failed(self, key: str, message: str) -> None:
        if key in ("open study", "save study", "profiles", "column", "report"):
            self.banner.say(f"Something went wrong inside Theoros ({message}).", "bad")

    def _may_leave(self) -> bool:
        """Asks what to do with unsaved changes; False to stay."""
        self.report_page.keep_text()
        if not self.session.dirty:
            return True
        question = QMessageBox(self)
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
        path = self.session.path
        if path is None:
            name, _ = QFileDialog.getSaveFileName(
                self, "Save study", f"{self.session.study.title or 'study'}{SUFFIX}"
            )
            if not name:
                return False
            path = Path(name)
        try:
            self.session.save(path)
        except StudyError as problem:
            self.banner.say(str(problem), "bad")
            return False
        return True

    def closeEvent(self, event) -> None:
        if not self._may_leave():
            event.ignore()
            return
        self.answers.end()
        self.side_work.end()
        self.session.close(discard=True)
        super().closeEvent(event)

    # out of the program

    def copy(self) -> None:
        """Copies what has the focus: cells, figures, or the picture."""
        at = QApplication.focusWidget()
        if isinstance(at, Sheet):
            at.copy()
        elif isinstance(at, FiguresView):
            at.copy()
            self.banner.say("The table is on the clipboard.", "mute", brief=True)
        elif hasattr(at, "copy") and at is not None:
            at.copy()
        elif self._entry():
            self.copy_picture()

    def paste(self) -> None:
        at = QApplication.focusWidget()
        if isinstance(at, Sheet) or (hasattr(at, "paste") and at is not None):
            at.paste()

    def copy_picture(self) -> None:
        answer = self.entry_page.answer
        if self._entry() and answer and answer.picture:
            copy_picture(answer.picture)
            self.banner.say("The picture is on the clipboard, as PNG and SVG.", "mute", brief=True)

    def copy_figures(self) -> None:
        answer = self.entry_page.answer
        if self._entry() and answer and answer.figures:
            copy_figures(answer.figures[0])
            self.banner.say("The table is on the clipboard.", "mute", brief=True)

    def save_picture(self) -> None:
        answer, entry = self.entry_page.answer, self._entry()
        if not entry or not answer or not answer.picture:
            return
        name, _ = QFileDialog.getSaveFileName(
            self, "Save picture", f"{entry.name(self.session.study.by_name)}.png",
            "Pictures (*.png *.svg *.pdf)",
        )  # fmt: skip
        if name:
            try:
                save_picture(answer.picture, Path(name), picture_svg(answer.picture))
            except StudyError as problem:
                self.banner.say(str(problem), "bad")

    # report

    def place(self) -> None:
        """Places the entry shown in the report."""
        entry = self._entry()
        if entry:
            key = self.session.study.free_id("r")
            if self.session.do(AddBlock(EntryBlock(key, entry.id))):
                self.banner.ask(
                    "Placed in the report.",
                    [("Show the report", lambda: self.show_target(("report", "")))],
                    brief=True,
                )

    def export_report(self, path: Path | None = None) -> None:
        """Writes the report as one HTML file."""
        self.report_page.keep_text()
        if path is None:
            title = self.session.study.title or "report"
            name, _ = QFileDialog.getSaveFileName(
                self, "Export report", f"{title}.html", "Web pages (*.html)"
            )
            if not name:
                return
            path = Path(name)
        study, target = self.session.study, path
        known = {entry.id: self.entry_page.known(entry) for entry in study.entries}

        def steps() -> Iterator[object]:
            page = report_html(
                study, lambda entry: known.get(entry.id) or answer(entry.statement, study.by_name)
            )
            try:
                write_atomically(target, lambda at: at.write_text(page, encoding="utf-8"))
                yield f"The report is in {target.name}.", "mute"
            except StudyError as problem:
                yield str(problem), "bad"

        self.side_work.run("export", steps)

    def warm_up(self) -> None:
        """Imports what a first test needs while the hands are still, so that it need not wait."""

        def steps() -> Iterator[object]:
            import scipy.special
            import scipy.stats

            yield scipy.special, scipy.stats

        self.side_work.run("warm up", steps)

    # finding

    def everything(self) -> list[Found]:
        """All that the find box finds, as things are now."""
        study, found = self.session.study, []
        for name, verb in verbs().items():
            found.append(Found(verb.label, "verb", verb.help, lambda n=name: self.ask(n)))
        for table in study.tables:
            found.append(
                Found(table.name, "table", "", lambda t=table: self.show_target(("table", t.name)))
            )
            for column in table.columns:
                about = f"{column.kind} in {table.name}"
                found.append(
                    Found(column.label, about, column.meaning,
                          lambda t=table.name, c=column.name: self.show_column(t, c))
                )  # fmt: skip
        for entry in study.entries:
            found.append(
                Found(entry.name(study.by_name), "entry", "",
                      lambda e=entry: self.show_target(("entry", e.id)))
            )  # fmt: skip
        for name, verb in verbs().items():
            for label, text, slot, value in verb.methods:
                found.append(
                    Found(label, f"{verb.label.lower()} method", text,
                          lambda n=name, s=slot, v=value: self._ask_with(n, s, v))
                )  # fmt: skip
        for action in self.actions_by_name.values():
            if action.isEnabled() and action.text():
                label = action.text().replace("&", "").rstrip("…")
                found.append(Found(label, "action", action.toolTip(), action.trigger))
        for topic, text in TOPICS.items():
            found.append(Found(topic, "help", text, lambda t=topic: self.show_help(t)))
        return found

    def show_column(self, table: str, column: str) -> None:
        self.show_target(("table", table))
        sheet = self.table_page.sheet
        place = self.session.study.table(table).place(column)
        sheet.setCurrentIndex(sheet.sheet_model.index(0, place))

    def _ask_with(self, verb: str, slot: str, value: object) -> None:
        """A new entry with a method chosen by name."""
        made = self._suggested(verb)
        if made is None:
            return
        if slot:
            try:
                made = made.with_slot(slot, value, self.session.study.by_name).statement
            except StatementError as problem:
                self.banner.say(str(problem), "bad")
                return
        self.add_entry(made)

    def show_help(self, topic: str) -> None:
        box = QMessageBox(self)
        box.setWindowTitle("Help")
        box.setText(f"<b>{topic}</b>")
        box.setInformativeText(TOPICS[topic])
        box.open()

    # looks

    def grab_png(self, path: Path) -> None:
        """A picture of the whole window."""
        QGuiApplication.processEvents()
        self.grab().save(str(path))
