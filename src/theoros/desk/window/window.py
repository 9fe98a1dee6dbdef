"""The window: menu bar, verb bar, left list, middle, right pane, status line."""

from __future__ import annotations

import gc
from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from theoros.desk.parts.dropping import dropped_files
from theoros.desk.parts.engine import AnyLink, Engine
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import scrolled
from theoros.desk.parts.worker import Worker
from theoros.desk.sheet.column_pane import ColumnPane
from theoros.desk.sheet.table_page import TablePage
from theoros.desk.window.banner import Banner
from theoros.desk.window.corner_label import CornerLabel
from theoros.desk.window.drawn_tables import DrawnTables
from theoros.desk.window.entry_making import Asking
from theoros.desk.window.find_box import FindBox
from theoros.desk.window.interfaces import Builders, Commands
from theoros.desk.window.outgoing import Outgoing
from theoros.desk.window.rooms import Rooms
from theoros.desk.window.side_list import SideList, Target
from theoros.desk.window.status_line import StatusLine, status_texts
from theoros.desk.window.study_files import OPENING, RECOVERING, StudyFiles
from theoros.desk.window.targets import still_there
from theoros.desk.window.verb_bar import VerbBar
from theoros.desk.window.warming_up import warm_up
from theoros.desk.window.window_columns import WindowColumns
from theoros.study.entries import Entry
from theoros.study.study_change import Change, change_between

if TYPE_CHECKING:
    from theoros.answer.parts import Answer

TELL_THEMSELVES = ("import", "answer", "answer beside", "preview", "apply", OPENING, RECOVERING)
"""Work whose pages say themselves what went wrong."""


class Window(Rooms):
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
        super().__init__(builders)
        self._menus = menus
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

        self.pages.addWidget(self.table_page)
        self.column_pane = self._new_column_pane()
        self.column_scroll = scrolled(self.column_pane, "column")
        self.panes.addWidget(self.column_scroll)
        self.splitter = WindowColumns(self.side, self.pages, self.panes)
        self.splitter.set_widths(theme, self.width())

        self.find_box = FindBox(theme, lambda: builders.everything(self))
        self.verb_bar = VerbBar(theme, self.find_box)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self.verb_bar)
        layout.addWidget(self.banner)
        layout.addWidget(self.splitter, 1)
        self.status = StatusLine(theme)
        layout.addWidget(self.status)
        self.setCentralWidget(whole)
        self.corner_label = CornerLabel(self.menuBar())
        self.menuBar().setCornerWidget(self.corner_label)
        self.actions_by_name = menus.build(self)
        self._connect()

    # building

    def _connect(self) -> None:
        session = self.session
        session.noted.connect(self.banner.say)
        session.changed.connect(self._changed)
        session.problem.connect(self.banner.warn)
        session.saved.connect(self._titles)
        session.kept_changed.connect(self._kept_changed)
        session.selection_changed.connect(self._tell_status)
        self.verb_bar.asked.connect(self.asking.ask)
        self.side.chosen.connect(self.show_target)
        self.side.column_wanted.connect(self.asking.use_column)
        self.side.rename_wanted.connect(self.asking.rename)
        self.side.remove_wanted.connect(self.asking.remove)
        self.side.beside_wanted.connect(self.put_beside)
        self.table_page.message.connect(self.banner.say)
        self.table_page.sheet.column_chosen.connect(self._column_chosen)
        self.table_page.sheet.name_wanted.connect(self._name_column)
        self.table_page.arrange_wanted.connect(self.asking.arrange)
        self.table_page.row_by_row_wanted.connect(self.show_row_by_row)
        self.table_page.save_wanted.connect(self.files.save_table)
        self.table_page.statement_wanted.connect(self.asking.add_entry)
        self.table_page.sheet.selectionModel().selectionChanged.connect(self._tell_status)
        for work in (self.side_work, *self.engines):
            work.failed.connect(self._side_failed)
        self.answers.finished.connect(self._tell_status)
        self.side_work.finished.connect(self._tell_status)
        self.theme.changed.connect(self._rethemed)

    def _new_column_pane(self) -> ColumnPane:
        pane = ColumnPane(self.session, self.theme, self.answers)
        pane.statement_wanted.connect(self.asking.add_entry)
        pane.new_column_wanted.connect(self.table_page.add_column)
        pane.row_by_row_wanted.connect(self.show_row_by_row)
        pane.sheet_wanted.connect(self.table_page.sheet.setFocus)
        return pane

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
        self.files.offer_unsaved()

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
        self.verb_bar.mark(verb)
        self.side.mark(("table", key) if what == "arrange" else target)
        self._tell_status()
        self._menus.update(self)

    def _changed(self, change: Change) -> None:
        """The study is another: what is shown follows, or gives way if it is gone."""
        study, edit = self.session.study, change.edit
        if edit is not None and not self.banner.offers:
            self.banner.hide()  # what it said was of something before this change
        shown = None if edit is None else self.shown
        beside = self.entry_pages.beside if shown is not None and shown[0] == "entry" else None
        target = still_there(study, shown, edit, beside.entry if beside is not None else None)
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

    def _titles(self) -> None:
        study, path = self.session.study, self.session.path
        name = path.stem if path else (study.title or "New study")
        self.setWindowTitle(f"{name}{' *' if self.session.dirty else ''} · Theoros")
        self.corner_label.show_session(self.session, name)

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

    def _rethemed(self) -> None:
        self.splitter.set_widths(self.theme, self.width())
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
        entries, report = self.__dict__.get("entry_pages"), self.__dict__.get("report_page")
        waiting = any(page.waiting for page in (*(entries.pages if entries else ()), *((report,) if report else ())))
        idle = self.side_work.idle and all(engine.idle for engine in self.engines)
        return not waiting and not self.words.isActive() and idle

    @property
    def verb_buttons(self) -> Mapping[str, QPushButton]:
        return self.verb_bar.buttons

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
        if dropped_files(event.mimeData()):
            event.acceptProposedAction()

    def dropEvent(self, event) -> None:
        """A file that is let go anywhere on the window is opened."""
        for path in dropped_files(event.mimeData())[:1]:
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

    def warm_up(self) -> None:
        """Imports what a first entry needs while the hands are still, so that it need not wait."""
        warm_up(self.answers, self.side_work)
        assert self.reading  # the page of entries is built beforehand, too

    # finding

    def show_column(self, table: str, column: str) -> None:
        self.show_target(("table", table))
        sheet = self.table_page.sheet
        place = self.session.study.table(table).place(column)
        sheet.setCurrentIndex(sheet.sheet_model.index(0, place))

    def show_help(self, topic: str) -> None:
        from theoros.desk.window.help_topics import show_topic

        show_topic(self, topic)
