"""The sheet: a table to look at and type in, its header with units, kinds and profiles."""

from __future__ import annotations

from PySide6.QtCore import QItemSelection, QItemSelectionModel, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetrics, QPainter
from PySide6.QtWidgets import (
    QAbstractItemDelegate,
    QAbstractItemView,
    QApplication,
    QHeaderView,
    QLineEdit,
    QStyle,
    QStyledItemDelegate,
    QTableView,
)

from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.sheet.sheet_controller import SheetController
from theoros.desk.sheet.sheet_header import HEADER, HEADER_PLAIN, MovingHeader, SheetHeader, header_words
from theoros.desk.sheet.sheet_keys import SheetKeys
from theoros.desk.sheet.table_model import SheetModel
from theoros.lazy_imports import np
from theoros.study import edits
from theoros.table.table import Table

_ELIDE = Qt.TextElideMode.ElideRight
PADDING = 7
"""Between the edge of a cell and what it holds, left and right."""
MOST_SELECTED = 20_000
"""More selected rows than this are not marked one by one in the sheet."""


class CellDelegate(QStyledItemDelegate):
    """Cells as they are painted and typed in.

    Text that does not fit stays in the open cell, with the reason said.
    """

    def __init__(self, sheet: Sheet) -> None:
        super().__init__(sheet)
        self._sheet = sheet
        self.retheme()

    def retheme(self) -> None:
        theme = self._sheet.theme
        self._ink, self._mute = theme.colour("ink"), theme.colour("mute")
        self._wash, self._mark = theme.colour("wash"), theme.colour("data")
        self._font, self._aside = theme.font(13), theme.font(13)
        self._aside.setItalic(True)
        self._metrics = QFontMetrics(self._font)

    def paint(self, painter: QPainter, option, index) -> None:
        """As the style would, which takes many times longer by way of its sheet of rules."""
        model, rect, state = self._sheet.sheet_model, option.rect, option.state
        row, column = index.row(), index.column()
        if state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, self._wash)
        if model.holds(row, column):
            text, away = model.text(row, column), model.is_away(row)
            painter.setFont(self._aside if away else self._font)
            painter.setPen(self._mute if away or not text else self._ink)
            inner = rect.adjusted(PADDING, 0, -PADDING, 0)
            shown = self._metrics.elidedText(text or "—", _ELIDE, inner.width())
            painter.drawText(inner, model.alignment(column), shown)
        if state & QStyle.StateFlag.State_HasFocus:
            painter.setPen(self._mark)
            painter.drawRect(rect.adjusted(0, 0, -1, -1))

    def createEditor(self, parent, option, index) -> QLineEdit:
        editor = QLineEdit(parent)
        editor.setAccessibleName(str(index.model().headerData(index.column(), Qt.Orientation.Horizontal)))
        return editor

    def setModelData(self, editor, model, index) -> None:
        text = editor.text()
        if not model.setData(index, text):
            sheet = self.parent()
            QTimer.singleShot(0, lambda: sheet.reopen(index.row(), index.column(), text))

    def eventFilter(self, editor, event) -> bool:
        if event.type() == event.Type.KeyPress and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.commitData.emit(editor)
            self.closeEditor.emit(editor, QAbstractItemDelegate.EndEditHint.NoHint)
            sheet = self.parent()
            back = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            QTimer.singleShot(0, lambda: sheet.go_on(-1 if back else 1))
            return True
        return super().eventFilter(editor, event)


class Sheet(QTableView):
    """The cells of one table, with the selection that all views share."""

    column_chosen = Signal(str)
    new_column_wanted = Signal()
    name_wanted = Signal(str)
    """A column is to be named."""
    headed_paste = Signal(object)
    """A pasted block whose first line names its columns."""

    def __init__(self, session: Session, theme: Theme, *, profiled: bool = True) -> None:
        """With `profiled` there is room in the header for a profile of each column."""
        super().__init__()
        self.setObjectName("sheet")
        self.session, self.theme = session, theme
        self.sheet_model = SheetModel(session)
        self.controller = SheetController(self)
        self.keys = SheetKeys(self, self.sheet_model, self.controller, self.go_on, self.clear_cells)
        self.setModel(self.sheet_model)
        self.cells = CellDelegate(self)
        self.setItemDelegate(self.cells)
        self.header = SheetHeader(self.sheet_model, theme, self)
        self.header.high = HEADER if profiled else HEADER_PLAIN
        self.setHorizontalHeader(self.header)
        self.row_header = MovingHeader(Qt.Orientation.Vertical, self)
        self.setVerticalHeader(self.row_header)
        self.header.dropped.connect(self.controller.drop_columns)
        self.row_header.dropped.connect(self.controller.drop_rows)
        self.header.sectionDoubleClicked.connect(self._name_column)
        self.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.verticalHeader().setHighlightSections(False)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerItem)
        self.setHorizontalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setEditTriggers(
            QAbstractItemView.EditTrigger.AnyKeyPressed
            | QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
        )
        self.setWordWrap(False)
        self.setCornerButtonEnabled(False)
        self.setAccessibleName("table")
        self._retheme()
        theme.changed.connect(self._retheme)
        self._taking = False
        self._retry = False
        self._fitting = self._sized_by_hand = False
        self._measured: tuple[Table, list[int]] | None = None
        self.header.sectionResized.connect(self._sized)
        self.header.sectionHandleDoubleClicked.connect(self._fit_one)
        self.header.sectionClicked.connect(self._header_clicked)
        self.selectionModel().selectionChanged.connect(self._told_selection)
        self.selectionModel().currentColumnChanged.connect(self._told_column)
        session.selection_changed.connect(self._take_selection)

    def _retheme(self) -> None:
        self._measured = None
        self.cells.retheme()
        self.verticalHeader().setDefaultSectionSize(self.theme.px(24.5))
        self.verticalHeader().setFont(self.theme.font(12))
        self.header.setDefaultSectionSize(self.theme.px(101))
        self.viewport().update()

    def show_table(self, name: str) -> None:
        other, before = name != self.sheet_model.name, self.header.count()
        at = self.currentIndex()
        row, column = (0, 0) if other else (max(0, at.row()), max(0, at.column()))
        self.sheet_model.show(name)
        if other or self.header.count() != before:
            self._sized_by_hand = self._sized_by_hand and not other
            self._fit_columns()
        if other:
            self.scrollToTop()
        if self.sheet_model.table is not None:
            self.setColumnWidth(self.sheet_model.columnCount() - 1, self.theme.px(36))
        if not self.currentIndex().isValid() and self.sheet_model.rowCount():
            # the current cell, without giving up the rows that are selected
            row = min(row, self.sheet_model.rowCount() - 1)
            column = min(column, self.sheet_model.columnCount() - 1)
            self.selectionModel().setCurrentIndex(
                self.sheet_model.index(row, column), QItemSelectionModel.SelectionFlag.NoUpdate
            )
        self._take_selection(name)

    def _fit_columns(self) -> None:
        table = self.sheet_model.table
        if table is None:
            return
        least, most = self.theme.px(78), self.theme.px(260)
        natural = self._natural_widths(table)
        widths = [min(max(least, wide), most) for wide in natural]
        # room that is left goes to the columns, up to what looks at ease
        bars = self.verticalHeader().width() + self.verticalScrollBar().sizeHint().width() + 8
        room = self.width() - bars - self.theme.px(38) - sum(widths)
        self._fitting = True
        for at, wide in enumerate(widths):
            extra = max(0, min(room // max(1, len(widths)), self.theme.px(40)))
            self.setColumnWidth(at, wide + extra)
        self._fitting = False

    def _natural_widths(self, table: Table) -> list[int]:
        """How wide each column would have to be for its name and its first values."""
        if self._measured is not None and self._measured[0] is table:
            return self._measured[1]
        cells = QFontMetrics(self.theme.font(13.5))
        names = QFontMetrics(self.theme.font(13.5, bold=True))
        small = QFontMetrics(self.theme.font(11.5))
        natural = []
        for at, about in enumerate(table.columns):
            texts = (self.sheet_model.text(row, at) for row in range(min(table.rows, 40)))
            widest = max((cells.horizontalAdvance(text) for text in texts), default=0)
            words = small.horizontalAdvance(header_words(about, table)) - 4
            natural.append(max(widest, names.horizontalAdvance(about.name), words) + 22)
        self._measured = (table, natural)
        return natural

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        if not self._sized_by_hand:
            self._fit_columns()

    def _fit_one(self, section: int) -> None:
        """A double-click on the border of a column makes it as wide as what it holds."""
        table = self.sheet_model.table
        if table is None or section >= len(table.columns):
            return
        natural = self._natural_widths(table)
        self.setColumnWidth(section, max(self.theme.px(40), natural[section]))
        self._sized_by_hand = True

    def _sized(self, *_: int) -> None:
        """A column was given a width by hand: widths are left alone from now on."""
        if not self._fitting and QApplication.mouseButtons() != Qt.MouseButton.NoButton:
            self._sized_by_hand = True

    def chosen_columns(self) -> list[str]:
        """The columns selected whole by their headers, in the order of the table."""
        table = self.sheet_model.table
        if table is None:
            return []
        picked = {index.column() for index in self.selectionModel().selectedColumns()}
        return [c.name for at, c in enumerate(table.columns) if at in picked]

    def current_column(self) -> str:
        table, at = self.sheet_model.table, self.currentIndex().column()
        return table.columns[at].name if table and 0 <= at < len(table.columns) else ""

    def go_to_row(self, row: int) -> None:
        """Makes a row the current one, in the column there was."""
        column = max(0, self.currentIndex().column())
        self.setCurrentIndex(self.sheet_model.index(row, column))

    def _header_clicked(self, section: int) -> None:
        table = self.sheet_model.table
        if table is not None and section >= len(table.columns):
            self.new_column_wanted.emit()

    # typing

    def reopen(self, row: int, column: int, text: str) -> None:
        """Opens a cell again with text that was not taken, so that it is not lost."""
        self._retry = True
        index = self.sheet_model.index(row, column)
        self.setCurrentIndex(index)
        self.edit(index)
        editor = self.indexWidget(index) or QApplication.focusWidget()
        if isinstance(editor, QLineEdit):
            editor.setText(text)
            editor.setProperty("wrong", True)
            editor.style().polish(editor)

    def go_on(self, by: int) -> None:
        """After Enter: to the next cell below, unless the text was not taken.

        After a run of Tabs that is the column in which the run began, as in every spreadsheet.
        """
        if self._retry:
            self._retry = False
            return
        self.keys.step_down(by)

    def keyPressEvent(self, event) -> None:
        if not self.keys.press(event):
            super().keyPressEvent(event)

    def mousePressEvent(self, event) -> None:
        self.keys.run_from = None
        super().mousePressEvent(event)

    def moveCursor(self, action, modifiers):
        """Tab goes right and on to the next row; in the first row it reaches a new column."""
        table, index = self.sheet_model.table, self.currentIndex()
        if action == self.CursorAction.MoveNext:
            self.keys.tabbed()
        if table is not None and action == self.CursorAction.MoveNext and index.isValid():
            width = len(table.columns)
            if index.row() == 0 and table.rows <= 1 and self._columns_begun(table):
                width += 1
            if index.column() + 1 < width:
                return self.sheet_model.index(index.row(), index.column() + 1)
            row = min(index.row() + 1, self.sheet_model.rowCount() - 1)
            return self.sheet_model.index(row, 0)
        if table is not None and action == self.CursorAction.MovePrevious and index.column() == 0:
            row = max(0, index.row() - 1)
            return self.sheet_model.index(row, max(0, len(table.columns) - 1))
        return super().moveCursor(action, modifiers)

    def _columns_begun(self, table: Table) -> bool:
        """Whether columns come about by typing the first row, rather than being there already."""
        last = len(table.columns)
        return not last or table.columns[-1].name == f"column {last}"

    # what is selected

    def chosen_rows(self) -> list[int]:
        """The rows with a selected cell, in order; the current one if there is none."""
        table = self.sheet_model.table
        ranges = self.selectionModel().selection()
        rows = {row for part in ranges for row in range(part.top(), part.bottom() + 1)}
        if not rows and self.currentIndex().isValid():
            rows = {self.currentIndex().row()}
        return sorted(row for row in rows if table is not None and row < table.rows)

    def _name_column(self, section: int) -> None:
        table = self.sheet_model.table
        if table is not None and section < len(table.columns):
            self.name_wanted.emit(table.columns[section].name)

    def clear_cells(self) -> None:
        """Makes the selected cells missing."""
        box = self.box()
        table = self.sheet_model.table
        if box is None or table is None:
            return
        top, left, bottom, right = box
        bottom, right = min(bottom, table.rows - 1), min(right, len(table.columns) - 1)
        if bottom >= top and right >= left:
            blank = (("",) * (right - left + 1),) * (bottom - top + 1)
            self.session.do(edits.SetCells(table.name, top, left, blank))

    # clipboard

    def copy(self) -> None:
        """Copies the selected cells; with names above when whole columns are selected."""
        box, table = self.box(), self.sheet_model.table
        if box is None or table is None:
            return
        top, left, bottom, right = box
        bottom, right = min(bottom, table.rows - 1), min(right, len(table.columns) - 1)
        text = self.sheet_model.text
        lines = [[text(r, c) for c in range(left, right + 1)] for r in range(top, bottom + 1)]
        if self.chosen_columns():
            lines.insert(0, [about.label for about in table.columns[left : right + 1]])
        from theoros.desk.parts.clipboard import copy_cells

        # what a spreadsheet would run as a formula is copied so that it is not run
        copy_cells(lines)

    def cut(self) -> None:
        """Copies the selected cells and makes them missing."""
        self.copy()
        self.clear_cells()

    def paste(self, *, headed: bool = True) -> None:
        """Puts a block from the clipboard in, from the current cell on.

        Where its first line looks like names (and `headed`), it becomes columns of those names.
        """
        from theoros.files.pasting import block_has_header, paste_block

        block = paste_block(QApplication.clipboard().text())
        if not block or self.sheet_model.table is None:
            return
        index = self.currentIndex()
        row, column = max(0, index.row()), max(0, index.column())
        past = column >= len(self.sheet_model.table.columns)
        if headed and len(block) > 1 and (past or row == 0) and block_has_header(block):
            self.headed_paste.emit(block)
        else:
            self.sheet_model.set_block(row, column, block)

    def box(self) -> tuple[int, int, int, int] | None:
        """The rectangle around the selected cells, or the current cell."""
        ranges = self.selectionModel().selection()
        if ranges.isEmpty():
            index = self.currentIndex()
            at = (index.row(), index.column())
            return (*at, *at) if index.isValid() else None
        return (
            min(r.top() for r in ranges),
            min(r.left() for r in ranges),
            max(r.bottom() for r in ranges),
            max(r.right() for r in ranges),
        )

    # the shared selection

    def _told_selection(self) -> None:
        if self._taking or self.sheet_model.table is None:
            return
        rows: list[np.ndarray] = []
        last = self.sheet_model.columnCount() - 1
        for part in self.selectionModel().selection():
            whole_column = part.top() == 0 and part.bottom() >= self.sheet_model.table.rows - 1
            if part.left() == 0 and part.right() >= last - 1 and not whole_column:
                rows.append(np.arange(part.top(), part.bottom() + 1))
        found = np.concatenate(rows) if rows else np.zeros(0, dtype=np.int64)
        found = found[found < self.sheet_model.table.rows]
        if found.size or self.session.selection(self.sheet_model.name).size:
            self.session.select(self.sheet_model.name, found)

    def currentChanged(self, current, previous) -> None:
        super().currentChanged(current, previous)
        self.keys.moved()

    def _told_column(self) -> None:
        self.column_chosen.emit(self.current_column())

    def _take_selection(self, name: str) -> None:
        if name != self.sheet_model.name or self.sheet_model.table is None:
            return
        if not self.session.selected_count(name) and not self.selectionModel().hasSelection():
            return
        rows = self.session.selection(name)
        shown = {index.row() for index in self.selectionModel().selectedRows()}
        if shown == set(rows.tolist()):
            return
        self._taking = True
        chosen = QItemSelection()
        last = self.sheet_model.columnCount() - 1
        if 0 < rows.size <= MOST_SELECTED:
            breaks = np.flatnonzero(np.diff(rows) > 1) + 1
            for run in np.split(rows, breaks):
                chosen.select(self.sheet_model.index(int(run[0]), 0), self.sheet_model.index(int(run[-1]), last))
        self.selectionModel().select(chosen, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        if rows.size:
            self.scrollTo(
                self.sheet_model.index(int(rows[0]), max(0, self.currentIndex().column())),
                QAbstractItemView.ScrollHint.PositionAtCenter,
            )
        self._taking = False
