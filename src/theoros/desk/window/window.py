"""The window: menu bar, verb bar, left list, middle, right pane, status line."""

from __future__ import annotations

import gc
import importlib
from collections.abc import Iterator
from datetime import datetime
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QMimeData, Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QMainWindow,
    QMessageBox,
    QPushButton,
    QScrollArea,
    QSplitter,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.wording import counted, shortened
from theoros.desk.parts.engine import AnyLink, Engine
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, scrolled
from theoros.desk.parts.worker import Worker
from theoros.desk.sheet.column_pane import ColumnPane
from theoros.desk.sheet.table_page import TablePage
from theoros.desk.window.asking import Asking
from theoros.desk.window.banner import Banner
from theoros.desk.window.drawn_tables import DrawnTables
from theoros.desk.window.find_box import FindBox
from theoros.desk.window.interfaces import Builders, Commands
from theoros.desk.window.outgoing import Outgoing
from theoros.desk.window.side_list import SideList, Target
from theoros.desk.window.status_line import StatusLine, status_texts
from theoros.desk.window.study_files import OPENING, RECOVERING, StudyFiles
from theoros.study import edits
from theoros.study.change import Change, change_between
from theoros.study.entries import Entry, Study
from theoros.study.journal import Unsaved
from theoros.verbs.core.registry import make, verbs

if TYPE_CHECKING:
    from theoros.answer.parts import Answer
    from theoros.desk.entry.entry_page import EntryPage
    from theoros.desk.entry.entry_pages import EntryPages
    from theoros.desk.entry.reading_pane import ReadingPane
    from theoros.desk.report.report_page import ReportPage, ReportPane
    from theoros.desk.sheet.arrange_page import ArrangePage, ArrangePane
    from theoros.desk.sheet.row_card import RowCard
    from theoros.desk.window.start_page import StartPage

LEFT, RIGHT = 206, 292
TELL_THEMSELVES = ("import", "answer", "answer beside", "preview", "apply", OPENING, RECOVERING)
"""Work whose pages say themselves what went wrong."""


def _dropped_files(data: QMimeData) -> list[Path]:
    """The files of this machine that are being dragged."""
    return [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]


class Window(QMainWindow):
    first_painted = Signal()
    closed = Signal()

    def __init__(
        self,
        session: Session,
        theme: Theme,
        links: tuple[AnyLink, AnyLink, AnyLink],
        builders: Builders,
        menus: Commands,
    ) -> None:
        """`links` lead to the engines that answer, write files and read them."""
        super().__init__()
        self._builders, self._menus = builders, menus
        self.session, self.theme = session, theme
        # what the pages in the middle wait for
        self.answers, self.writer, self.reader = (Engine(link) for link in links)
        self.side_work = Worker("side work", held=True)  # studies are written on it
        self.words = QTimer(self, singleShot=True)
        self.words.timeout.connect(self.show_words)
        self.shown: Target | None = None
        self._painted = False
        self._read = ""  # the entry whose Reading is shown
        self.resize(1280, 800)
        self.setMinimumSize(900, 560)
        self.setAcceptDrops(True)

        self.asking = Asking(self)
        self.drawn_tables = DrawnTables(self, self.answers)
        self.files = StudyFiles(self, self.side_work, self.writer, self.reader)
        self.outgoing = Outgoing(self, self.writer)

        # the table is what is seen first; other pages are built when they are first shown
        self.table_page = TablePage(session, theme, self.answers)
        self.side = SideList(theme)
        self.banner = Banner(theme)

        self.pages, self.panes = QStackedWidget(), QStackedWidget()
        self.pages.setObjectName("middle")
        self.pages.addWidget(self.table_page)
        self.panes.setObjectName("right")
        self._areas: dict[QWidget, QScrollArea] = {}
        self._places: dict[QWidget, QWidget] = {}
        self.column_pane = self._new_column_pane()
        self.column_scroll = scrolled(self.column_pane, "column")
        self.panes.addWidget(self.column_scroll)
        self.splitter = QSplitter()
        self.splitter.setHandleWidth(1)
        self.splitter.addWidget(self.side)
        self.splitter.addWidget(self.pages)
        self.splitter.addWidget(self.panes)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.setStretchFactor(1, 1)
        self._set_widths()

        self.verb_buttons: dict[str, QPushButton] = {}
        self.find_box = FindBox(theme, lambda: builders.everything(self))
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._verb_bar())
        layout.addWidget(self.banner)
        layout.addWidget(self.splitter, 1)
        self.status = StatusLine(theme)
        layout.addWidget(self.status)
        self.setCentralWidget(whole)
        self.corner_label = PlainLabel()
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
            one.clicked.connect(lambda _=False, n=name: self.asking.ask(n))
            self.verb_buttons[name] = one
            row.addWidget(one)
        row.addStretch()
        row.addWidget(self.find_box)
        bar.setFixedHeight(self.theme.px(46))
        return bar

    def _connect(self) -> None:
        session = self.session
        session.noted.connect(lambda text: self.banner.say(text, "mute"))
        session.changed.connect(self._changed)
        session.problem.connect(lambda text: self.banner.say(text, "bad"))
        session.saved.connect(self._titles)
        session.kept_changed.connect(self._kept_changed)
        session.selection_changed.connect(lambda _: self._tell_status())
        self.side.chosen.connect(self.show_target)
        self.side.column_wanted.connect(self.asking.use_column)
        self.side.rename_wanted.connect(self.asking.rename)
        self.side.remove_wanted.connect(self.asking.remove)
        self.side.beside_wanted.connect(self.put_beside)
        self.table_page.message.connect(lambda text: self.banner.say(text, "mute"))
        self.table_page.sheet.column_chosen.connect(self._column_chosen)
        self.table_page.sheet.name_wanted.connect(self._name_column)
        self.table_page.arrange_wanted.connect(self.asking.arrange)
        self.table_page.row_by_row_wanted.connect(self.show_row_by_row)
        self.table_page.save_wanted.connect(self.files.save_table)
        self.table_page.statement_wanted.connect(self.asking.add_entry)
        self.table_page.sheet.selectionModel().selectionChanged.connect(self._tell_status)
        for work in (self.side_work, *self.engines):
            work.failed.connect(self._side_failed)
        self.answers.finished.connect(lambda key: self._tell_status() if key == "profiles" else None)
        self.side_work.finished.connect(lambda key: self._tell_status() if key == "read" else None)
        self.theme.changed.connect(self._rethemed)

    def _new_column_pane(self) -> ColumnPane:
        pane = ColumnPane(self.session, self.theme, self.answers)
        pane.statement_wanted.connect(self.asking.add_entry)
        pane.new_column_wanted.connect(self.table_page.add_column)
        pane.row_by_row_wanted.connect(self.show_row_by_row)
        pane.sheet_wanted.connect(self.table_page.sheet.setFocus)
        return pane

    # rooms that are built when they are first shown

    @cached_property
    def start_page(self) -> StartPage:
        return self._builders.start_page(self)

    @cached_property
    def entry_pages(self) -> EntryPages:
        return self._builders.entry_pages(self)

    @cached_property
    def reading(self) -> ReadingPane:
        return self._builders.reading(self)

    @cached_property
    def arrange_page(self) -> ArrangePage:
        return self._builders.arrange_page(self)

    @cached_property
    def arrange_pane(self) -> ArrangePane:
        return self._builders.arrange_pane(self)

    @cached_property
    def row_card(self) -> RowCard:
        return self._builders.row_card(self)

    @cached_property
    def report_page(self) -> ReportPage:
        return self._builders.report_page(self)

    @cached_property
    def report_pane(self) -> ReportPane:
        return self._builders.report_pane(self)

    def add_pane(self, pane: QWidget, name: str, foot: QWidget | None = None) -> None:
        """A pane for the right of the window, where it scrolls; its foot stays in view."""
        self._areas[pane] = scrolled(pane, name)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._areas[pane], 1)
        if foot is not None:
            layout.addWidget(foot)
        self._places[pane] = whole
        self.panes.addWidget(whole)

    def _show_pane(self, pane: QWidget) -> None:
        self.panes.setCurrentWidget(self._places[pane])

    @property
    def row_by_row(self) -> bool:
        """Whether the rows are shown one by one beside the table."""
        built = "row_card" in self.__dict__
        return built and self.panes.currentWidget() is self._places[self.row_card]

    def show_row_by_row(self) -> None:
        """Shows the current row as a card, and puts the cursor into it."""
        if not self.shown or self.shown[0] != "table":
            return
        if self.row_by_row:
            self.show_column_pane()
            return
        card = self.row_card
        self._show_pane(card)
        card.show_row(self.shown[1], max(0, self.table_page.sheet.currentIndex().row()))
        card.focus_field(0)

    def show_column_pane(self) -> None:
        self.panes.setCurrentWidget(self.column_scroll)
        self.table_page.sheet.setFocus()
        self._column_chosen(self.table_page.sheet.current_column())

    def row_chosen(self) -> None:
        row = self.table_page.sheet.currentIndex().row()
        if self.row_by_row and self.shown and row >= 0 and row != self.row_card.row:
            self.row_card.show_row(self.shown[1], row)

    def _name_column(self, name: str) -> None:
        """The column pane with the cursor in the name."""
        if self.shown and self.shown[0] == "table":
            self.panes.setCurrentWidget(self.column_scroll)
            self.column_pane.show_column(self.shown[1], name)
            self.column_pane.focus_name()

    def arranged(self, table: str, said: str) -> None:
        self.show_target(("table", table))
        self.banner.say(said, "mute")

    @property
    def entry_page(self) -> EntryPage:
        """The page of the entry that is read: where there are two, the active one."""
        return self.entry_pages.active

    def turned(self) -> None:
        """Of two entries side by side, the other is read now."""
        entry = self.entry_page.entry
        if entry is not None and self.shown and self.shown[0] == "entry":
            self._mark(("entry", entry.id))
            self.show_words()

    def put_beside(self, key: str = "") -> None:
        """Puts an entry beside the one that is shown; without a key, one that suggests itself.

        With two side by side and no key, one alone is shown again.
        """
        if not self.shown or self.shown[0] != "entry":
            if key:
                self.show_target(("entry", key))
            return
        pages = self.entry_pages
        if not key and pages.paired:
            pages.close_beside()
            return
        key = key or pages.suggested()
        if not key:
            self.banner.say("There is no other entry to put beside this one yet.", "mute")
            return
        pages.put_beside(key)

    def open_slot(self, name: str) -> None:
        """Opens a slot wherever it stands: in the sentence, below it, or among the settings."""
        if self.entry_page.open_slot(name):
            return
        field = self.reading.findChild(QWidget, f"setting-{name}")
        if field is not None:
            field.setFocus()
            if isinstance(field, QPushButton):
                field.click()

    def report_answer(self, entry: str) -> Answer | None:
        """What the page of the report shows of an entry."""
        return self.report_page.answers.get(entry)

    def keep_text(self) -> None:
        """Takes in what is being written in the report and has not been left yet."""
        if "report_page" in self.__dict__:
            self.report_page.keep_text()

    # showing

    def start(self) -> None:
        """Shows what is open, and offers work that an earlier session left unsaved."""
        study = self.session.study
        self._changed(change_between(study, study, None))
        self.table_page.sheet.setFocus()
        if self.session.unkept:
            self.banner.say(self.session.unkept, "bad")
        left = self.session.unsaved()
        if left:
            newest = left[0]
            when = datetime.fromtimestamp(newest.when).strftime("%-d %B, %H:%M")
            about = f" to {newest.source.name}" if newest.source else ""
            self.banner.ask(
                f"Work{about} from {when} was not saved: {counted(newest.edits, 'change')}.",
                [
                    ("Get it back", lambda: self.files.recover(newest)),
                    ("Throw it away", lambda: self._throw_away(newest)),
                ],
            )

    def _throw_away(self, left: Unsaved) -> None:
        left.discard()
        self.banner.hide()

    def show_target(self, target: Target) -> None:
        """Shows a table, an entry or the report in the middle, and what goes with it."""
        if self.shown == ("report", "") and target != self.shown:
            self.keep_text()
        what, key = target
        self.shown = target
        if what == "table":
            self.pages.setCurrentWidget(self.table_page)
            by_row = self.row_by_row
            if not by_row:
                self.panes.setCurrentWidget(self.column_scroll)
            self.table_page.show_table(key)
            if by_row:
                another = key != self.row_card.table_name
                self.row_card.show_row(key, 0 if another else self.row_card.row)
            column = self.table_page.sheet.current_column()
            table = self.table_page.table
            if not column and table is not None and table.columns:
                column = table.columns[0].name
            self.column_pane.show_column(key, column)
        elif what == "entry":
            self.pages.setCurrentWidget(self.entry_pages)
            self._show_pane(self.reading)
            self.entry_pages.show_entry(key)
        elif what == "arrange":
            self.pages.setCurrentWidget(self.arrange_page)
            self._show_pane(self.arrange_pane)
            if self.arrange_page.statement is not None:
                self.arrange_page.show_statement(self.arrange_page.statement)
        elif what == "start":
            self.pages.setCurrentWidget(self.start_page)
            self.start_page.setFocus()
        else:
            self.pages.setCurrentWidget(self.report_page)
            self._show_pane(self.report_pane)
            self.report_page.show_report()
        self.panes.setVisible(what != "start")
        self._mark(target)

    def _mark(self, target: Target) -> None:
        """Marks what is shown in the list, the verbs, the status line and the menus."""
        what, key = target
        self.shown = target
        verb = self.session.study.entry(key).statement.verb if what == "entry" else ""
        for name, one in self.verb_buttons.items():
            one.setChecked(name == verb)
        self.side.mark(("table", key) if what == "arrange" else target)
        self._tell_status()
        self._menus.update(self)

    def _changed(self, change: Change) -> None:
        """The study is another: what is shown follows, or gives way if it is gone."""
        study, edit = self.session.study, change.edit
        if edit is not None and not self.banner.offers:
            self.banner.hide()  # what it said was of something before this change
        target = self._still_there(study, None if edit is None else self.shown, edit)
        self.side.show_study(study, target)
        self._titles()
        if target is None:
            self.shown = None
        if target is None or (target == self.shown and not self._concerned(change)):
            self._menus.update(self)
        else:
            self.show_target(target)

    def _concerned(self, change: Change) -> bool:
        """Whether what is shown shows anything of what has changed."""
        if self.shown is None or self.shown[0] != "entry":
            return True
        pages = (self.entry_page, self.entry_pages.beside)
        entries = [page.entry for page in pages if page is not None and page.entry is not None]
        return not entries or any(change.concerns(entry) for entry in entries)

    def _still_there(self, study: Study, shown: Target | None, edit: edits.Edit | None) -> Target | None:
        names = [table.name for table in study.tables]
        if edit and shown and shown[0] == "table" and isinstance(edit, edits.ChangeTable):
            for old, new in ((edit.name, edit.new_name), (edit.new_name, edit.name)):
                if shown[1] == old and old not in names:
                    shown = ("table", " ".join(new.split()))
        if shown is not None:
            what, key = shown
            there = {
                "table": key in names,
                "arrange": key in names,
                "entry": any(entry.id == key for entry in study.entries),
                "report": True,
                "start": not names,
            }
            if there[what]:
                return shown
            other = self.entry_pages.beside if what == "entry" else None
            if other is not None and other.entry in study.entries:
                return ("entry", other.entry.id)
        return ("table", names[0]) if names else ("start", "")

    def _titles(self) -> None:
        study, path = self.session.study, self.session.path
        name = path.stem if path else (study.title or "New study")
        self.setWindowTitle(f"{name}{' *' if self.session.dirty else ''} · Theoros")
        kept = "all changes kept"
        if self.session.dirty:
            unkept = bool(self.session.unkept)
            where = "in memory only" if unkept else "in the journal"
            kept = f"changes not saved yet, kept {where}"
        self.corner_label.setMinimumWidth(self.theme.px(470))
        self.corner_label.setText(f"{shortened(study.title or name, 40)}  ·  {kept}")
        self.corner_label.setToolTip(self.session.unkept)
        tone = "bad" if self.session.dirty and self.session.unkept else "mute"
        if self.corner_label.property("tone") != tone:
            self.corner_label.setProperty("tone", tone)
            self.corner_label.style().polish(self.corner_label)

    def _kept_changed(self) -> None:
        """Says once that changes are in memory only, and that they are written again."""
        self._titles()
        if self.session.unkept:
            self.banner.say(self.session.unkept, "bad")
        else:
            self.banner.say("Your changes are written to the journal again.", "mute", brief=True)

    def _column_chosen(self, name: str) -> None:
        table = self.table_page.table
        if self.shown and self.shown[0] == "table" and table is not None:
            self.column_pane.show_column(table.name, name)

    def show_words(self) -> None:
        entry, answer = self.entry_page.entry, self.entry_page.answer
        if entry is not None and answer is not None:
            settings = entry.statement.settings(self.session.study.by_name)
            self.reading.show_answer(answer, settings)
            if entry.id != self._read:  # another entry is read from its beginning
                self._read = entry.id
                self._areas[self.reading].verticalScrollBar().setValue(0)
        self._tell_status()

    def _tell_status(self, *_: object) -> None:
        self.status.show_texts(status_texts(self))

    def _set_widths(self) -> None:
        """The panes at the sides, a little wider with larger text."""
        share = min(self.theme.scale, 1.25)
        left, right = round(LEFT * share), round(RIGHT * share)
        self.side.setMinimumWidth(left * 2 // 3)
        self.panes.setMinimumWidth(right * 9 // 10)  # narrower, and its fields would be cut
        self.splitter.setSizes([left, self.width() - left - right - 2, right])

    def _rethemed(self) -> None:
        self._set_widths()
        self._tell_status()
        self.column_pane = self._new_column_pane()
        self.column_scroll.setWidget(self.column_pane)
        if self.shown and self.shown[0] == "table":
            self._column_chosen(self.table_page.sheet.current_column())
        if self.shown:
            self.side.show_study(self.session.study, self.shown)
            if self.shown[0] == "entry" and self.entry_page.answer:
                self.show_words()

    def paintEvent(self, event) -> None:
        super().paintEvent(event)
        if not self._painted:
            self._painted = True
            QTimer.singleShot(0, self._up)

    def _up(self) -> None:
        """The window is up: now the values are read, and what was held back begins."""
        gc.freeze()  # what was made so far stays; looking through it again only takes time
        gc.enable()
        self.first_painted.emit()
        tables = self.session.study.tables

        def steps() -> Iterator[object]:
            for table in tables:
                yield table.frame
            self.session.clear_leftovers()

        self.side_work.run("read", steps)
        self.side_work.release()
        self.answers.release()
        self.writer.release()
        self.reader.release()

    @property
    def engines(self) -> tuple[Engine, ...]:
        return self.answers, self.writer, self.reader

    @property
    def idle(self) -> bool:
        """Whether nothing is being worked out, read or written."""
        built: EntryPages | None = self.__dict__.get("entry_pages")
        waiting = built is not None and any(page.waiting for page in built.pages)
        idle = self.side_work.idle and all(engine.idle for engine in self.engines)
        return not waiting and not self.words.isActive() and idle

    @property
    def frame(self) -> QWidget:
        """The widget that dialogs stand before."""
        return self

    def current_table(self) -> str:
        """The table that is shown, or that the entry shown asks about; empty for none."""
        if self.shown and self.shown[0] in ("table", "arrange"):
            return self.shown[1]
        entry = self.current_entry()
        return entry.statement.table if entry else ""

    def current_entry(self) -> Entry | None:
        if self.shown and self.shown[0] == "entry":
            return self.session.study.entry(self.shown[1])
        return None

    def _side_failed(self, key: str, message: str) -> None:
        if key not in TELL_THEMSELVES:
            self.banner.say(f"Something went wrong inside Theoros ({message}).", "bad")

    def dragEnterEvent(self, event) -> None:
        if _dropped_files(event.mimeData()):
            event.acceptProposedAction()

    def dropEvent(self, event) -> None:
        """A file that is let go anywhere on the window is opened."""
        for path in _dropped_files(event.mimeData())[:1]:
            event.acceptProposedAction()
            self.files.open_any(path)

    def closeEvent(self, event) -> None:
        if not self.files.may_leave():
            event.ignore()
            return
        for work in (*self.engines, self.side_work):
            work.end()
        self.session.close(discard=True)
        self.closed.emit()
        super().closeEvent(event)

    # report

    def warm_up(self) -> None:
        """Imports what a first entry needs while the hands are still, so that it need not wait."""
        from theoros.engine.tasks.answers import WarmUp

        self.answers.run("warm up", WarmUp())

        def steps() -> Iterator[object]:
            from theoros.answer.axis import Axis
            from theoros.answer.layout import lay_out
            from theoros.answer.picture import Frame, Picture

            for name in verbs():
                statement = make(name)  # which finds the kinds, shapes and procedures there are
                yield statement.phrase({}), statement.settings({})
            yield importlib.import_module("cattrs")  # which checks what is put into slots
            yield lay_out(Picture((Frame(Axis(0, 1, "x"), ()),)), 700, 400)
            gc.freeze()

        self.side_work.run("warm up", steps)
        assert self.reading  # the page of entries is built beforehand, too

    # finding

    def show_column(self, table: str, column: str) -> None:
        self.show_target(("table", table))
        sheet = self.table_page.sheet
        place = self.session.study.table(table).place(column)
        sheet.setCurrentIndex(sheet.sheet_model.index(0, place))

    def show_help(self, topic: str) -> None:
        from theoros.desk.window.help_topics import TOPICS

        box = QMessageBox(self)
        box.setWindowTitle("Help")
        box.setText(f"<b>{topic}</b>")
        box.setInformativeText(TOPICS[topic])
        box.open()
