"""Keys in a sheet, as in any spreadsheet: where they lead, and what they select."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QItemSelection, QItemSelectionModel, QModelIndex, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QTableView

from theoros.desk.sheet.sheet_controller import SheetController
from theoros.desk.sheet.table_model import SheetModel
from theoros.lazy_imports import np

DIRECTIONS = {Qt.Key.Key_Up: (-1, 0), Qt.Key.Key_Down: (1, 0), Qt.Key.Key_Left: (0, -1), Qt.Key.Key_Right: (0, 1)}
ALT_MOVES = {
    Qt.Key.Key_Up: ("rows", -1),
    Qt.Key.Key_Down: ("rows", 1),
    Qt.Key.Key_Left: ("columns", -1),
    Qt.Key.Key_Right: ("columns", 1),
}
_FLAGS = QItemSelectionModel.SelectionFlag


class SheetKeys:
    """The keys of one sheet."""

    def __init__(
        self,
        view: QTableView,
        model: SheetModel,
        controller: SheetController,
        go_on: Callable[[int], None],
        clear: Callable[[], None],
    ) -> None:
        self.sheet, self.sheet_model, self.controller = view, model, controller
        self.go_on, self.clear = go_on, clear
        self.run_from: int | None = None
        """The column in which a run of Tabs began, to which Enter returns."""
        self._anchor: QModelIndex | None = None  # where a selection by keys began
        self._extending = False

    def press(self, event: QKeyEvent) -> bool:
        """Does what a key asks for; False for one that is left to the table itself."""
        key, held = event.key(), event.modifiers()
        control = bool(held & Qt.KeyboardModifier.ControlModifier)
        shift = bool(held & Qt.KeyboardModifier.ShiftModifier)
        ends = key in (Qt.Key.Key_Home, Qt.Key.Key_End)
        if key in DIRECTIONS or ends:
            self.run_from = None
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.go_on(-1 if shift else 1)
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and not control:
            self.clear()
        elif held & Qt.KeyboardModifier.AltModifier and key in ALT_MOVES:
            self.controller.move_selected(*ALT_MOVES[Qt.Key(key)])
        elif control and key in DIRECTIONS:
            self._go_to(*self._edge(*DIRECTIONS[Qt.Key(key)]), extend=shift)
        elif shift and key in DIRECTIONS:
            self._go_to(*self._next(*DIRECTIONS[Qt.Key(key)]), extend=True)
        elif ends:
            self._go_to(*self._end(key == Qt.Key.Key_End, control), extend=shift)
        elif (key == Qt.Key.Key_Space and control and shift) or (key == Qt.Key.Key_A and control):
            self.select_all()
        elif key == Qt.Key.Key_Space and (control or shift):
            self._select_line(whole_column=control)
        else:
            return False
        return True

    def moved(self) -> None:
        """The current cell is another one; a selection by keys goes on only by keys."""
        if not self._extending:
            self._anchor = None

    def _next(self, down: int, right: int) -> tuple[int, int]:
        at, table = self.sheet.currentIndex(), self.sheet_model.table
        if table is None:
            return at.row(), at.column()
        row = min(max(0, at.row() + down), max(0, table.rows - 1))
        return row, min(max(0, at.column() + right), max(0, len(table.columns) - 1))

    def tabbed(self) -> None:
        """Tab leads on from the current cell: the first of a run is remembered."""
        at = self.sheet.currentIndex()
        if self.run_from is None and at.isValid():
            self.run_from = at.column()

    def step_down(self, by: int) -> None:
        """Enter: to the next row, after a run of Tabs in the column in which it began."""
        at, model = self.sheet.currentIndex(), self.sheet_model
        row = min(max(0, at.row() + by), model.rowCount() - 1)
        column = at.column() if self.run_from is None else self.run_from
        self.run_from = None
        self.sheet.setCurrentIndex(model.index(row, column))

    def _go_to(self, row: int, column: int, *, extend: bool) -> None:
        """Makes a cell the current one; with `extend` all up to it are selected."""
        sheet, model = self.sheet, self.sheet_model
        index = model.index(row, column)
        if not extend:
            sheet.setCurrentIndex(index)
            return
        anchor = self._anchor or sheet.currentIndex()
        self._extending = True
        box = QItemSelection(
            model.index(min(anchor.row(), row), min(anchor.column(), column)),
            model.index(max(anchor.row(), row), max(anchor.column(), column)),
        )
        sheet.selectionModel().setCurrentIndex(index, _FLAGS.NoUpdate)
        sheet.selectionModel().select(box, _FLAGS.ClearAndSelect)
        self._anchor, self._extending = anchor, False
        sheet.scrollTo(index)

    def _edge(self, down: int, right: int) -> tuple[int, int]:
        """Where Ctrl with an arrow leads: the last cell before a gap, or the first after one."""
        at, table = self.sheet.currentIndex(), self.sheet_model.table
        row, column = at.row(), at.column()
        if table is None:
            return row, column
        last_row, last_column = max(0, table.rows - 1), max(0, len(table.columns) - 1)
        if down:
            return self._edge_in_column(row, column, down, last_row), column

        def filled(column: int) -> bool:
            return bool(self.sheet_model.text(row, column))

        step, column = right, min(column, last_column)
        ahead = column + step
        if not 0 <= ahead <= last_column:
            return row, column
        inside = filled(column) and filled(ahead)
        column = ahead
        while 0 <= column + step <= last_column and (filled(column + step) if inside else not filled(column)):
            column += step
        return row, column

    def _edge_in_column(self, row: int, column: int, step: int, last: int) -> int:
        """The same down a column, which may be long."""
        table = self.sheet_model.table
        if table is None or column >= len(table.columns):
            return 0 if step < 0 else last
        there = table.frame[table.columns[column].name].is_not_null().to_numpy()
        row = min(row, last)
        way = there[row::-1] if step < 0 else there[row:]
        if way.size < 2:
            return row
        if way[0] and way[1]:  # to the last one before a gap
            gaps = np.flatnonzero(~way)
            by = int(gaps[0]) - 1 if gaps.size else way.size - 1
        else:  # over the gap
            found = np.flatnonzero(way[1:])
            by = int(found[0]) + 1 if found.size else way.size - 1
        return row + step * by

    def _end(self, end: bool, control: bool) -> tuple[int, int]:
        """Where Home and End lead: the ends of the row, or with Ctrl of the table."""
        table, row = self.sheet_model.table, self.sheet.currentIndex().row()
        if table is None:
            return 0, 0
        last = max(0, len(table.columns) - 1)
        if control:
            return (max(0, table.rows - 1), last) if end else (0, 0)
        return row, (last if end else 0)

    def select_all(self) -> None:
        """All cells of the table, without the row and column to type into beyond the end."""
        table = self.sheet_model.table
        if table is None or not table.rows or not table.columns:
            return
        first = self.sheet_model.index(0, 0)
        last = self.sheet_model.index(table.rows - 1, len(table.columns) - 1)
        self.sheet.selectionModel().select(QItemSelection(first, last), _FLAGS.ClearAndSelect)

    def _select_line(self, *, whole_column: bool) -> None:
        at = self.sheet.currentIndex()
        if not at.isValid():
            return
        way = _FLAGS.Columns if whole_column else _FLAGS.Rows
        self.sheet.selectionModel().select(at, _FLAGS.ClearAndSelect | way)
