"""The page of one table: what its rows are, the sheet, and what can be done to it."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.wording import counted, plural
from theoros.desk.session import Session
from theoros.desk.sheet import Sheet
from theoros.desk.theme import Theme
from theoros.desk.widgets import mute
from theoros.desk.worker import Worker
from theoros.study.edits import AddColumn, ChangeTable, InsertRows, PasteTable
from theoros.table.kinds import Kind
from theoros.table.profile import profile
from theoros.table.table import Column, Table, free_name


class TablePage(QWidget):
    message = Signal(str)

    def __init__(self, session: Session, theme: Theme, worker: Worker) -> None:
        super().__init__()
        self.setObjectName("page")
        self.session, self.theme, self.worker = session, theme, worker
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 14)
        layout.setSpacing(8)
        head = QHBoxLayout()
        head.setSpacing(10)
        self.title = QPushButton()
        self.title.setProperty("link", True)
        self.title.setToolTip("Rename the table")
        self.title.setCursor(Qt.CursorShape.PointingHandCursor)
        self.title.clicked.connect(self.rename)
        head.addWidget(self.title)
        self.noun_before = mute("each row is one")
        head.addWidget(self.noun_before)
        self.noun = QPushButton()
        self.noun.setProperty("link", True)
        self.noun.setToolTip("Say what one row is")
        self.noun.clicked.connect(self.name_rows)
        head.addWidget(self.noun)
        self.size_label = mute("")
        head.addWidget(self.size_label)
        head.addStretch()
        self.arrange = QPushButton("Arrange ▾")
        self.arrange.setAccessibleName("Arrange the table")
        head.addWidget(self.arrange)
        layout.addLayout(head)
        self.sheet = Sheet(session, theme)
        self.sheet.headed_paste.connect(self._paste_with_header)
        self.sheet.new_column_wanted.connect(self.add_column)
        self.sheet.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.sheet.customContextMenuRequested.connect(
            lambda at: self.menu().exec(self.sheet.viewport().mapToGlobal(at))
        )
        layout.addWidget(self.sheet)
        self.empty = QLabel()
        self.empty.setWordWrap(True)
        self.empty.setProperty("tone", "mute")
        layout.addWidget(self.empty)
        self.arrange.clicked.connect(
            lambda: self.menu().exec(self.arrange.mapToGlobal(self.arrange.rect().bottomLeft()))
        )
        worker.stepped.connect(self._profiled)
        theme.changed.connect(self._retheme)
        self._retheme()

    @property
    def table(self) -> Table | None:
        return self.sheet.sheet_model.table

    def _retheme(self) -> None:
        self.title.setFont(self.theme.font(22, serif=True))
        ink = self.theme.colours["ink"]
        size = self.theme.px(22)
        self.title.setStyleSheet(
            f"font-family: 'Source Serif 4'; font-size: {size}px; color: {ink};"
        )

    def show_table(self, name: str) -> None:
        self.sheet.show_table(name)
        table = self.table
        if table is None:
            return
        self.title.setText(name)
        self.title.setAccessibleName(f"table {name}, rename")
        self.noun.setText(table.noun)
        self.noun.setAccessibleName(f"each row is one {table.noun}, change")
        columns = counted(len(table.columns), "column")
        away = f", {len(table.aside)} set aside" if table.aside else ""
        self.size_label.setText(f"·  {counted(table.rows, 'row')}, {columns}{away}")
        self.empty.setText(
            "Type a value to begin, or paste a block from a spreadsheet (Ctrl+V)."
            if not table.columns
            else ""
        )
        self.empty.setVisible(not table.columns)
        self._profile(table)

    def _profile(self, table: Table) -> None:
        """Profiles come from the worker; the old ones stay until the new are there."""
        model = self.sheet.sheet_model
        model.profiles = {
            name: kept for name, kept in model.profiles.items() if name in table.by_name
        }

        def steps():
            for about in table.columns:
                yield table.name, about.name, profile(table, about.name)

        self.worker.run("profiles", steps)

    def _profiled(self, key: str, step: Any) -> None:
        if key != "profiles":
            return
        table, column, made = step
        if table == self.sheet.sheet_model.name:
            self.sheet.sheet_model.profiles[column] = made
            self.sheet.header.viewport().update()

    # what can be done

    def menu(self) -> QMenu:
        menu = QMenu(self)
        table = self.table
        menu.addAction("New column", self.add_column)
        menu.addAction("Insert row above", self.insert_row)
        rows = counted(max(1, len({i.row() for i in self.sheet.selectedIndexes()})), "row")
        delete = menu.addAction(f"Delete {rows}", self.sheet.delete_rows)
        delete.setEnabled(table is not None and table.rows > 0)
        names = self.sheet.chosen_columns() or [n for n in [self.sheet.current_column()] if n]
        columns = f"Delete {names[0]}" if len(names) == 1 else f"Delete {len(names)} columns"
        gone = menu.addAction(columns if names else "Delete column", self.sheet.delete_columns)
        gone.setEnabled(bool(names))
        menu.addSeparator()
        menu.addAction("Copy", self.sheet.copy)
        menu.addAction("Paste", self.sheet.paste)
        return menu

    def add_column(self) -> None:
        table = self.table
        if table is None:
            return
        name = free_name(f"column {len(table.columns) + 1}", table.by_name)
        if self.session.do(AddColumn(table.name, Column(name, Kind.NUMBER))):
            self.sheet.setCurrentIndex(self.sheet.sheet_model.index(0, len(table.columns)))

    def insert_row(self) -> None:
        table = self.table
        if table is not None:
            at = min(max(0, self.sheet.currentIndex().row()), table.rows)
            self.session.do(InsertRows(table.name, at, 1))

    def rename(self) -> None:
        table = self.table
        if table is None:
            return
        name, taken = QInputDialog.getText(self, "Rename table", "Name:", text=table.name)
        if taken and name != table.name:
            self.session.do(ChangeTable(table.name, name, table.noun))

    def name_rows(self) -> None:
        table = self.table
        if table is None:
            return
        noun, taken = QInputDialog.getText(
            self, "What is one row?", "Each row is one …", text=table.noun
        )
        if taken:
            self.session.do(ChangeTable(table.name, table.name, noun))
            self.message.emit(f"Two of them are two {plural(noun.strip() or 'row')}.")

    def _paste_with_header(self, question: Any) -> None:
        """A pasted block whose first line looks like names: they become columns."""
        self.session.do(PasteTable(self.sheet.sheet_model.name, question))
