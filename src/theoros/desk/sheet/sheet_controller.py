"""What a hand does to rows and columns of a sheet as wholes: moves, copies, fills, deletes."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from PySide6.QtCore import QItemSelection, QItemSelectionModel

from theoros.study import edits
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.desk.parts.session import Session
    from theoros.desk.sheet.table_model import SheetModel


class Chosen(Protocol):
    """A sheet, as far as its selection goes."""

    session: Session
    sheet_model: SheetModel

    def box(self) -> tuple[int, int, int, int] | None: ...
    def chosen_columns(self) -> list[str]: ...
    def chosen_rows(self) -> list[int]: ...
    def current_column(self) -> str: ...
    def selectionModel(self) -> QItemSelectionModel: ...


class SheetController:
    """Turns what is done with the selection of a sheet into edits."""

    def __init__(self, sheet: Chosen) -> None:
        self.sheet = sheet

    @property
    def table(self) -> Table | None:
        return self.sheet.sheet_model.table

    def _do(self, edit: edits.Edit) -> bool:
        return self.sheet.session.do(edit)

    def _names(self) -> list[str]:
        """The columns that are selected whole, or the one with the current cell."""
        return self.sheet.chosen_columns() or [n for n in [self.sheet.current_column()] if n]

    def drop_rows(self, to: int) -> None:
        table, rows = self.table, self.sheet.chosen_rows()
        if table is not None and rows:
            self._do_move_rows(table, rows, min(to, table.rows))

    def _do_move_rows(self, table: Table, rows: list[int], to: int) -> None:
        if self._do(edits.MoveRows(table.name, tuple(rows), to)):
            first = to - sum(1 for row in rows if row < to)
            self._select_again(first, len(rows), rows=True)

    def drop_columns(self, to: int) -> None:
        table, names = self.table, self.sheet.chosen_columns()
        if table is not None and names:
            self._do_move_columns(table, names, min(to, len(table.columns)))

    def _do_move_columns(self, table: Table, names: list[str], to: int) -> None:
        places = [table.place(name) for name in names]
        if self._do(edits.MoveColumns(table.name, tuple(names), to)):
            first = to - sum(1 for place in places if place < to)
            self._select_again(first, len(names), rows=False)

    def _select_again(self, first: int, count: int, *, rows: bool) -> None:
        """What was moved stays selected, so that it can be moved on."""
        model = self.sheet.sheet_model
        last_row, last_column = model.rowCount() - 1, model.columnCount() - 1
        start = model.index(first, 0) if rows else model.index(0, first)
        last = first + count - 1
        end = model.index(last, last_column) if rows else model.index(last_row, last)
        flags = QItemSelectionModel.SelectionFlag
        self.sheet.selectionModel().setCurrentIndex(start, flags.NoUpdate)
        self.sheet.selectionModel().select(QItemSelection(start, end), flags.ClearAndSelect)

    def move_selected(self, axis: str, by: int) -> None:
        """Moves the selected rows or columns by one place."""
        table = self.table
        if table is None:
            return
        if axis == "rows":
            rows = self.sheet.chosen_rows()
            to = (min(rows) - 1 if by < 0 else max(rows) + 2) if rows else -1
            if rows and 0 <= to <= table.rows:
                self._do_move_rows(table, rows, to)
            return
        names = self._names()
        places = [table.place(name) for name in names]
        to = (min(places) - 1 if by < 0 else max(places) + 2) if places else -1
        if places and 0 <= to <= len(table.columns):
            self._do_move_columns(table, names, to)

    def duplicate_rows(self) -> None:
        table, rows = self.table, self.sheet.chosen_rows()
        if table is not None and rows and self._do(edits.DuplicateRows(table.name, tuple(rows))):
            self._select_again(max(rows) + 1, len(rows), rows=True)

    def duplicate_columns(self) -> None:
        table = self.table
        names = self._names()
        if table is not None and names:
            self._do(edits.DuplicateColumns(table.name, tuple(names)))

    def fill_down(self) -> None:
        """The first selected row's values in every selected row below it."""
        box, table = self.sheet.box(), self.table
        if box is None or table is None or not table.rows:
            return
        top, left, bottom, right = box
        if top == bottom:
            top -= 1  # one cell alone is filled from the one above it
        bottom, right = min(bottom, table.rows - 1), min(right, len(table.columns) - 1)
        if 0 <= top < bottom and right >= left:
            names = tuple(column.name for column in table.columns[left : right + 1])
            self._do(edits.FillDown(table.name, top, bottom, names))

    def insert_rows(self) -> None:
        """As many empty rows as are selected, above them."""
        table, rows = self.table, self.sheet.chosen_rows()
        if table is not None:
            at = min(rows, default=table.rows)
            self._do(edits.InsertRows(table.name, at, max(1, len(rows))))

    def delete_rows(self) -> None:
        table = self.table
        rows = self.sheet.chosen_rows()
        if rows and table is not None:
            self._do(edits.DeleteRows(table.name, tuple(rows)))

    def delete_columns(self) -> None:
        table = self.table
        names = self._names()
        if names and table is not None:
            self._do(edits.DeleteColumns(table.name, tuple(names)))
