"""The page of one table: what its rows are, the sheet, and what can be done to it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QHBoxLayout, QInputDialog, QMenu, QPushButton, QVBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.notice import Notice
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, say_on_hover
from theoros.desk.sheet.find_bar import FindBar
from theoros.desk.sheet.head_menus import HeadMenus
from theoros.desk.sheet.sheet import Sheet
from theoros.desk.sheet.table_words import TableWords, story_menu
from theoros.engine.tasks.columns import ProfileColumns
from theoros.study import edits
from theoros.table.kinds import Kind
from theoros.table.names_row import looks_like_names
from theoros.table.table import Column, Table, free_name

MOST_NAMED = 100_000
"""Rows of a table whose first one is looked at for names."""


WORDS_WIDTH = 260
"""The least room for what is said of a table beside its name."""


class TablePage(QWidget):
    message = Signal(str)
    arrange_wanted = Signal(str)
    """An arrangement of this table, by its name."""
    row_by_row_wanted = Signal()
    save_wanted = Signal()
    statement_wanted = Signal(object)
    """Something is to be asked of the table."""

    def __init__(self, session: Session, theme: Theme, engine: Engine) -> None:
        super().__init__()
        self.setObjectName("page")
        self.session, self.theme, self.engine = session, theme, engine
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
        self.words = TableWords(session, theme, self.message.emit)
        head.addWidget(self.words, 1)
        head.addStretch()
        self.arrange = QPushButton("Arrange ▾")
        self.arrange.setAccessibleName("Arrange the table")
        head.addWidget(self.arrange)
        layout.addLayout(head)
        self._head, self._layout, self._beside = head, layout, True
        self.kept = Notice(theme, "rows in use")
        layout.addWidget(self.kept)
        self.doubt = Notice(theme, "a kind that may be wrong")
        layout.addWidget(self.doubt)
        self.names = Notice(theme, "names in the first row")
        layout.addWidget(self.names)
        self.sheet = Sheet(session, theme)
        self.find_bar = FindBar(self.sheet)
        layout.addWidget(self.find_bar)
        self.head_menus = HeadMenus(self.sheet, self.statement_wanted.emit)
        self.sheet.headed_paste.connect(self._paste_with_header)
        self.sheet.new_column_wanted.connect(self.add_column)
        self.sheet.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.sheet.customContextMenuRequested.connect(
            lambda at: self.menu().exec(self.sheet.viewport().mapToGlobal(at))
        )
        layout.addWidget(self.sheet)
        self.empty = PlainLabel()
        self.empty.setWordWrap(True)
        self.empty.setProperty("tone", "mute")
        layout.addWidget(self.empty)
        self.arrange.clicked.connect(
            lambda: self.arrange_menu().exec(self.arrange.mapToGlobal(self.arrange.rect().bottomLeft()))
        )
        engine.stepped.connect(self._profiled)
        theme.changed.connect(self._retheme)
        self._retheme()

    @property
    def table(self) -> Table | None:
        return self.sheet.sheet_model.table

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._place_words()

    def _place_words(self) -> None:
        """What is said of the table stands beside its name, and below it where there is little room."""
        taken = self.title.sizeHint().width() + self.arrange.sizeHint().width()
        beside = self.width() - taken >= self.theme.px(WORDS_WIDTH)
        if beside == self._beside:
            return
        self._beside = beside
        if beside:
            self._head.insertWidget(1, self.words, 1)
        else:
            self._layout.insertWidget(1, self.words)

    def _retheme(self) -> None:
        self.title.setFont(self.theme.font(22, serif=True))
        ink = self.theme.colours["ink"]
        size = self.theme.px(22)
        self.title.setStyleSheet(f"font-family: 'Source Serif 4'; font-size: {size}px; color: {ink};")

    def show_table(self, name: str) -> None:
        another = name != self.sheet.sheet_model.name
        self.sheet.show_table(name)
        table = self.table
        if table is None:
            return
        self.title.setText(name)
        self.title.setAccessibleName(f"table {name}, rename")
        self.words.show_table(table)
        self._place_words()
        self._say_kept(table)
        self._say_names(table)
        if another:
            self.doubt.say("", [])
        self.empty.setText(
            "Type a value to begin; Tab goes right, Enter down. Or paste a block from a spreadsheet (Ctrl+V)."
            if not table.columns
            else ""
        )
        self.empty.setVisible(not table.columns)
        self._profile(table)

    def _say_kept(self, table: Table) -> None:
        """Which rows are in use, with the way back."""
        parts: list[str] = []
        links: list[tuple[str, Callable[[], object]]] = []
        if table.keep and table.kept is not None:
            kept = int(table.kept.sum())
            from theoros.table.formula import in_words

            where = in_words(table.keep, table)
            parts.append(f"Kept are the {kept} of {counted(table.rows, 'row')} where {where}.")
            links.append(("Keep all rows", lambda: self.session.do(edits.SetKeep(table.name, ""))))
            links.append(("Change", lambda: self.arrange_wanted.emit("keep rows")))
        if table.aside:
            count = len(table.aside)
            parts.append(f"{counted(count, 'row')} {'is' if count == 1 else 'are'} set aside.")
            back = edits.SetAside(table.name, tuple(sorted(table.aside)), False)
            links.append((f"Take {'it' if count == 1 else 'them'} back", lambda: self.session.do(back)))
        if table.origin is not None:
            parts.append("The rows are sorted.")
            links.append(("Original order", lambda: self.session.do(edits.OriginalOrder(table.name))))
        self.kept.say("  ".join(parts), links)

    def _say_names(self, table: Table) -> None:
        """Offers to take names that were typed into the first row for what they are."""
        if table.rows > MOST_NAMED or not looks_like_names(table):
            self.names.say("", [])
            return
        first = [table.cell_text(0, column.name) for column in table.columns]
        self.names.say(
            f"The first row looks like names: {listed_briefly(first, 4)}.",
            [("Use it as names", self.names_from_first_row)],
        )

    def names_from_first_row(self) -> None:
        if self.table is not None:
            self.session.do(edits.NamesFromFirstRow(self.table.name))

    def _say_doubt(self, table: Table, doubts: dict[str, str]) -> None:
        """Points out, once for each column, a kind that may be wrong."""
        if not doubts:
            self.doubt.say("", [])
            return
        name, text = next(iter(doubts.items()))
        column = table.column(name)
        other = Kind.CATEGORY if column.kind is Kind.NUMBER else Kind.NUMBER
        self.doubt.say(
            text,
            [
                (
                    f"Make it a {other}",
                    lambda: self.session.do(
                        edits.ChangeColumn(table.name, name, replace(column, kind=other, checked=True))
                    ),
                ),
                (
                    f"It is a {column.kind}",
                    lambda: self.session.do(edits.ChangeColumn(table.name, name, replace(column, checked=True))),
                ),
            ],
            "warn",
        )

    def _profile(self, table: Table) -> None:
        """Profiles come from the engine; the old ones stay until the new are there."""
        model = self.sheet.sheet_model
        model.profiles = {name: kept for name, kept in model.profiles.items() if name in table.by_name}
        task, tables = ProfileColumns(table.name), {table.name: table}
        self.engine.run("profiles", task, tables, table)

    def _profiled(self, key: str, step: Any, table: Any) -> None:
        if key != "profiles" or not isinstance(table, Table) or table is not self.table:
            return
        column, made = step
        if column:
            self.sheet.sheet_model.profiles[column] = made
            self.sheet.header.viewport().update()
        else:
            self._say_doubt(table, made)

    # what can be done

    def menu(self) -> QMenu:
        """What can be done with the rows and columns that are selected."""
        menu, sheet, table = QMenu(self), self.sheet, self.table
        count = len(sheet.chosen_rows())
        rows = counted(max(1, count), "row")
        names = sheet.chosen_columns() or [n for n in [sheet.current_column()] if n]
        columns = names[0] if len(names) == 1 else f"{len(names)} columns"
        some_rows = table is not None and count > 0
        for text, action, able in (
            (f"Insert {rows} above", sheet.controller.insert_rows, table is not None),
            (f"Duplicate {rows}", sheet.controller.duplicate_rows, some_rows),
            (f"Delete {rows}", sheet.controller.delete_rows, some_rows),
            ("Fill down", sheet.controller.fill_down, some_rows),
            ("", None, True),
            ("New column", self.add_column, table is not None),
            (f"Duplicate {columns}", sheet.controller.duplicate_columns, bool(names)),
            (f"Delete {columns}", sheet.controller.delete_columns, bool(names)),
            ("", None, True),
            ("Cut", sheet.cut, some_rows),
            ("Copy", sheet.copy, True),
            ("Paste", sheet.paste, True),
            ("", None, True),
            ("Row by row", self.row_by_row_wanted.emit, table is not None),
        ):
            if action is None:
                menu.addSeparator()
            else:
                menu.addAction(text, action).setEnabled(able)
        menu.addMenu(self.arrange_menu(QMenu("Arrange", menu)))
        return menu

    def arrange_menu(self, menu: QMenu | None = None) -> QMenu:
        """The arrangements of a table."""
        from theoros.verbs.arrange.arrangement import arrangements

        made = menu or QMenu(self)
        table = self.table
        for name, one in arrangements().items():
            action = made.addAction(one.label, lambda n=name: self.arrange_wanted.emit(n))
            say_on_hover(action, one.help)
            action.setEnabled(table is not None and bool(table.columns))
        made.addSeparator()
        back: QAction = made.addAction("Original order", self.original_order)
        back.setEnabled(table is not None and table.origin is not None)
        if table is not None:
            made.addMenu(story_menu(table, made))
        made.addAction("Save table as…", self.save_wanted.emit)
        return made

    def original_order(self) -> None:
        if self.table is not None:
            self.session.do(edits.OriginalOrder(self.table.name))

    def add_column(self) -> None:
        """A new column behind the last, ready to be named."""
        table = self.table
        if table is None:
            return
        name = free_name(f"column {len(table.columns) + 1}", table.by_name)
        if self.session.do(edits.AddColumn(table.name, Column(name, Kind.NUMBER))):
            self.sheet.setCurrentIndex(self.sheet.sheet_model.index(0, len(table.columns)))
            self.sheet.name_wanted.emit(name)

    def rename(self) -> None:
        table = self.table
        if table is None:
            return
        name, taken = QInputDialog.getText(self, "Rename table", "Name:", text=table.name)
        if taken and name != table.name:
            self.session.do(edits.ChangeTable(table.name, name, table.noun))

    def name_rows(self) -> None:
        self.words.name_rows()

    def _paste_with_header(self, question: Any) -> None:
        """A pasted block whose first line looks like names: they become columns."""
        self.session.do(edits.PasteTable(self.sheet.sheet_model.name, question))
