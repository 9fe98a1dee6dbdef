"""What a right-click on the head of a column or of a row offers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QModelIndex, QPoint, Qt
from PySide6.QtWidgets import QMenu

from theoros.answer.nouns import counted
from theoros.desk.sheet.sheet import Sheet
from theoros.study import edits
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.arrange.arrangement import Arrangement
from theoros.verbs.core.registry import make, offers
from theoros.verbs.core.statement import Statement


class HeadMenus:
    """The menus of the heads of one table page."""

    def __init__(self, sheet: Sheet, ask: Callable[[Statement], None]) -> None:
        self.sheet, self.ask = sheet, ask
        for head, opened in ((self.sheet.header, self._ask_column), (self.sheet.row_header, self._ask_row)):
            head.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
            head.customContextMenuRequested.connect(opened)

    def _ask_column(self, at: QPoint) -> None:
        section = self.sheet.header.logicalIndexAt(at)
        menu = self.column_menu(section)
        if menu is not None:
            self._open(menu, self.sheet.header.mapToGlobal(at))

    def _ask_row(self, at: QPoint) -> None:
        row = self.sheet.row_header.logicalIndexAt(at)
        menu = self.row_menu(row)
        if menu is not None:
            self._open(menu, self.sheet.row_header.mapToGlobal(at))

    def _open(self, menu: QMenu, at: QPoint) -> None:
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        menu.popup(at)

    def column_menu(self, section: int) -> QMenu | None:
        """What can be done with a column, which is selected first if it was not."""
        table = self.sheet.sheet_model.table
        if table is None or not 0 <= section < len(table.columns):
            return None
        column = table.columns[section]
        if column.name not in self.sheet.chosen_columns():
            self.sheet.selectColumn(section)
        names = self.sheet.chosen_columns()
        many = column.name if len(names) == 1 else f"{len(names)} columns"
        hand, menu = self.sheet.controller, QMenu(self.sheet)
        menu.addAction("Name and unit…", partial(self.sheet.name_wanted.emit, column.name))
        menu.addMenu(self._kinds(menu, table, column))
        menu.addSeparator()
        for text, way in (("Sort from smallest to largest", "up"), ("Sort from largest to smallest", "down")):
            sort = make("sort", table=table.name, first=column.name, way=way)
            assert isinstance(sort, Arrangement)
            menu.addAction(text, partial(self._do, edits.Arrange(sort)))
        menu.addSeparator()
        menu.addAction("Insert a column before it", partial(self._insert, table, section))
        menu.addAction("Insert a column after it", partial(self._insert, table, section + 1))
        menu.addAction("Move left", partial(hand.move_selected, "columns", -1))
        menu.addAction("Move right", partial(hand.move_selected, "columns", 1))
        menu.addAction(f"Duplicate {many}", hand.duplicate_columns)
        menu.addAction(f"Delete {many}", hand.delete_columns)
        menu.addSeparator()
        menu.addAction("Cut", self.sheet.cut)
        menu.addAction("Copy", self.sheet.copy)
        menu.addAction("Paste", self.sheet.paste)
        asked = offers(table, column)
        if asked:
            menu.addSeparator()
        for offer in asked:
            menu.addAction(offer.text, partial(self.ask, offer.statement))
        return menu

    def row_menu(self, row: int) -> QMenu | None:
        """What can be done with rows; the one clicked is selected first if it was not."""
        table = self.sheet.sheet_model.table
        if table is None or not 0 <= row < table.rows:
            return None
        if not self.sheet.selectionModel().isRowSelected(row, QModelIndex()):
            self.sheet.selectRow(row)
        rows = self.sheet.chosen_rows()
        many = counted(len(rows), "row")
        hand, menu = self.sheet.controller, QMenu(self.sheet)
        menu.addAction(f"Insert {many} above", hand.insert_rows)
        menu.addAction(f"Duplicate {many}", hand.duplicate_rows)
        menu.addAction(f"Delete {many}", hand.delete_rows)
        menu.addAction("Move up", partial(hand.move_selected, "rows", -1))
        menu.addAction("Move down", partial(hand.move_selected, "rows", 1))
        menu.addSeparator()
        inside = [one for one in rows if one not in table.aside]
        if inside:
            aside = edits.SetAside(table.name, tuple(inside), True)
            menu.addAction(f"Set {counted(len(inside), 'row')} aside", partial(self._do, aside))
        outside = [one for one in rows if one in table.aside]
        if outside:
            back = edits.SetAside(table.name, tuple(outside), False)
            menu.addAction(f"Take {counted(len(outside), 'row')} back", partial(self._do, back))
        menu.addSeparator()
        menu.addAction("Cut", self.sheet.cut)
        menu.addAction("Copy", self.sheet.copy)
        menu.addAction("Paste", self.sheet.paste)
        return menu

    def _kinds(self, menu: QMenu, table: Table, column: Column) -> QMenu:
        kinds = QMenu("Kind", menu)
        for kind in Kind:
            changed = replace(column, kind=kind, checked=True)
            edit = edits.ChangeColumn(table.name, column.name, changed)
            one = kinds.addAction(str(kind).capitalize(), partial(self._do, edit))
            one.setCheckable(True)
            one.setChecked(kind is column.kind)
        return kinds

    def _insert(self, table: Table, at: int) -> None:
        name = free_name(f"column {len(table.columns) + 1}", table.by_name)
        if self._do(edits.AddColumn(table.name, Column(name, Kind.NUMBER), at)):
            self.sheet.setCurrentIndex(self.sheet.sheet_model.index(0, at))
            self.sheet.name_wanted.emit(name)

    def _do(self, edit: edits.Edit) -> bool:
        return self.sheet.session.do(edit)
