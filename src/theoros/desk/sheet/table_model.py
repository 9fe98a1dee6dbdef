"""A table of the study as Qt sees it: cells shown and typed, one row and column beyond the end."""

from __future__ import annotations

from PySide6.QtCore import QAbstractTableModel, QModelIndex, Qt

from theoros.desk.parts.session import Session
from theoros.study import edits
from theoros.table.kinds import Kind
from theoros.table.profile import Profile
from theoros.table.table import Table

MOST_TEXTS = 4096
"""Cells whose text is kept at hand."""
BLOCK = 32
"""Rows whose texts are fetched at once."""
# as numbers: these are compared many thousand times while a sheet is painted
_DISPLAY, _EDIT = int(Qt.ItemDataRole.DisplayRole), int(Qt.ItemDataRole.EditRole)
_ALIGNMENT = int(Qt.ItemDataRole.TextAlignmentRole)
_ACCESSIBLE = int(Qt.ItemDataRole.AccessibleTextRole)
_ANSWERED = frozenset((_DISPLAY, _EDIT, _ALIGNMENT, _ACCESSIBLE))
_RIGHT = int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
_LEFT = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
_FLAGS = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEditable
SPARE = 1
"""Empty rows below the table, where typing goes on."""


class SheetModel(QAbstractTableModel):
    """One table. Typing goes to the session as an edit; the session's changes come back."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.name = ""
        self.table: Table | None = None
        self.profiles: dict[str, Profile] = {}
        self._rows = self._columns = 0
        self._held = 0, 0  # rows and columns of the table, asked for with every cell
        self._texts: dict[tuple[int, int], str] = {}
        self._texts_of: Table | None = None

    def show(self, name: str) -> None:
        """Shows the table of that name as it is now.

        A table that only grew keeps the open editor and the current cell: rows and columns come
        in at the end, and what stands in cells is told to have changed.
        """
        table = self.session.study.by_name.get(name)
        before = self.table
        rows, columns = self._size(table)
        rows_before, columns_before = self._size(before)
        grew = rows >= rows_before and columns >= columns_before
        if table is None or before is None or name != self.name or not grew:
            self.beginResetModel()
            self.name = name
            self._hold(table)
            self._rows, self._columns = rows, columns
            self.endResetModel()
            return
        nowhere = QModelIndex()
        self._hold(table)
        if rows > rows_before:
            self.beginInsertRows(nowhere, rows_before, rows - 1)
            self._rows = rows
            self.endInsertRows()
        if columns > columns_before:
            self.beginInsertColumns(nowhere, columns_before, columns - 1)
            self._columns = columns
            self.endInsertColumns()
        self.dataChanged.emit(self.index(0, 0), self.index(rows - 1, columns - 1))
        self.headerDataChanged.emit(Qt.Orientation.Horizontal, 0, columns - 1)
        if rows != rows_before or _rows_in_use(table) != _rows_in_use(before):
            self.headerDataChanged.emit(Qt.Orientation.Vertical, 0, rows - 1)

    def _hold(self, table: Table | None) -> None:
        self.table = table
        self._held = (0, 0) if table is None else (table.rows, len(table.columns))

    def _size(self, table: Table | None) -> tuple[int, int]:
        """Rows and columns shown, those to type into beyond the end with them."""
        if table is None:
            return 0, 0
        return table.rows + SPARE, len(table.columns) + SPARE

    def rowCount(self, parent=None) -> int:
        return self._rows

    def columnCount(self, parent=None) -> int:
        return self._columns

    def flags(self, index: QModelIndex):
        return _FLAGS

    def text(self, row: int, column: int) -> str:
        """What stands in a cell."""
        table = self.table
        if table is None or row >= self._held[0] or column >= self._held[1]:
            return ""
        if self._texts_of is not table or len(self._texts) > MOST_TEXTS:
            self._texts_of, self._texts = table, {}
        found = self._texts.get((row, column))
        if found is None:  # the cells around it are painted, too
            first = row - row % BLOCK
            texts = table.cell_texts(table.columns[column].name, first, BLOCK)
            self._texts.update({(first + k, column): text for k, text in enumerate(texts)})
            found = self._texts[row, column]
        return found

    def holds(self, row: int, column: int) -> bool:
        """Whether a cell is one of the table, and not beyond its end."""
        return row < self._held[0] and column < self._held[1]

    def alignment(self, column: int) -> int:
        assert self.table is not None
        return _RIGHT if self.table.columns[column].kind is Kind.NUMBER else _LEFT

    def data(self, index: QModelIndex, role=Qt.ItemDataRole.DisplayRole):
        if self.table is None or role not in _ANSWERED:
            return None
        row, column = index.row(), index.column()
        inside = self.holds(row, column)
        if role == _DISPLAY:
            return (self.text(row, column) or "—") if inside else ""
        if role == _EDIT:
            return self.text(row, column)
        if not inside:
            return None
        if role == _ALIGNMENT:
            return self.alignment(column)
        if role == _ACCESSIBLE:
            away = self.is_away(row)
            name = self.table.columns[column].name
            said = f"{name}, row {row + 1}: {self.text(row, column) or 'missing'}"
            return f"{said}, not in use" if away else said
        return None

    def headerData(self, section, orientation, role=Qt.ItemDataRole.DisplayRole):
        if self.table is None:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            if orientation == Qt.Orientation.Vertical:
                if section < self.table.rows and self.is_away(section):
                    return f"({section + 1})"  # not in use: a sign besides the grey
                return str(section + 1) if section < self.table.rows else "+"
            columns = self.table.columns
            return columns[section].name if section < len(columns) else "+"
        if role == Qt.ItemDataRole.AccessibleTextRole and orientation == Qt.Orientation.Horizontal:
            if section < len(self.table.columns):
                about = self.table.columns[section]
                counted = ", rows count by it" if self.table.counts == about.name else ""
                return f"{about.label}, {about.kind}{counted}"
            return "new column"
        return None

    def is_away(self, row: int) -> bool:
        """Whether a row is set aside or not kept. Does not make an unread table be read."""
        table = self.table
        if table is None or not (table.aside or table.keep):
            return False
        return row in table.aside or (table.kept is not None and not table.kept[row])

    def setData(self, index: QModelIndex, value, role=Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole or self.table is None:
            return False
        text = str(value)
        if text.strip() == self.text(index.row(), index.column()):
            return True
        return self.set_block(index.row(), index.column(), ((text,),))

    def set_block(self, row: int, column: int, block: tuple[tuple[str, ...], ...]) -> bool:
        return self.session.do(edits.SetCells(self.name, row, column, block))


def _rows_in_use(table: Table) -> tuple[object, ...]:
    """What the numbers of the rows tell besides; equal where none of them is shown otherwise."""
    return table.aside, table.keep, id(table.kept)
