"""A table of the study as Qt sees it: cells shown and typed, one row and column beyond the end."""

from __future__ import annotations

from PySide6.QtCore import QAbstractTableModel, QModelIndex, Qt, Signal

from theoros.desk.session import Session
from theoros.study.edits import SetCells
from theoros.table.kinds import Kind, show
from theoros.table.profile import Profile
from theoros.table.table import Table

SPARE = 1
"""Empty rows below the table, where typing goes on."""


class SheetModel(QAbstractTableModel):
    """One table. Typing goes to the session as an edit; the session's changes come back."""

    refused = Signal(str)
    """Why typed text was not taken."""

    def __init__(self, session: Session, theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.name = ""
        self.table: Table | None = None
        self.profiles: dict[str, Profile] = {}
        self.editable = True

    def show(self, name: str) -> None:
        """Shows the table of that name as it is now."""
        table = self.session.study.by_name.get(name)
        same = (
            table is not None
            and self.table is not None
            and name == self.name
            and table.rows == self.table.rows
            and table.columns == self.table.columns
        )
        if same:
            self.table = table
            bottom = self.index(self.rowCount() - 1, self.columnCount() - 1)
            self.dataChanged.emit(self.index(0, 0), bottom)
            return
        self.beginResetModel()
        self.name, self.table = name, table
        self.endResetModel()

    def rowCount(self, parent=None) -> int:
        if self.table is None:
            return 0
        return self.table.rows + (SPARE if self.editable else 0)

    def columnCount(self, parent=None) -> int:
        if self.table is None:
            return 0
        return len(self.table.columns) + (SPARE if self.editable else 0)

    def flags(self, index: QModelIndex):
        flags = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return flags | Qt.ItemFlag.ItemIsEditable if self.editable else flags

    def text(self, row: int, column: int) -> str:
        """What stands in a cell."""
        if self.table is None or row >= self.table.rows or column >= len(self.table.columns):
            return ""
        about = self.table.columns[column]
        value = self.table.frame[about.name][row]
        if value is None:
            return ""
        places = self.table.decimals(about.name) if about.kind is Kind.NUMBER else None
        if places is not None and round(value, places) != value:
            places = None
        return show(value, places)

    def data(self, index: QModelIndex, role=Qt.ItemDataRole.DisplayRole):
        if self.table is None:
            return None
        row, column = index.row(), index.column()
        inside = row < self.table.rows and column < len(self.table.columns)
        if role == Qt.ItemDataRole.DisplayRole:
            return (self.text(row, column) or "—") if inside else ""
        if role == Qt.ItemDataRole.EditRole:
            return self.text(row, column)
        if not inside:
            return None
        if role == Qt.ItemDataRole.TextAlignmentRole:
            right = self.table.columns[column].kind is Kind.NUMBER
            side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
            return int(side | Qt.AlignmentFlag.AlignVCenter)
        if role == Qt.ItemDataRole.ForegroundRole and not self.text(row, column):
            return self.theme.colour("mute")
        if role == Qt.ItemDataRole.AccessibleTextRole:
            name = self.table.columns[column].name
            return f"{name}, row {row + 1}: {self.text(row, column) or 'missing'}"
        return None

    def headerData(self, section, orientation, role=Qt.ItemDataRole.DisplayRole):
        if self.table is None:
            return None
        if role == Qt.ItemDataRole.DisplayRole:
            if orientation == Qt.Orientation.Vertical:
                return str(section + 1) if section < self.table.rows else "+"
            columns = self.table.columns
            return columns[section].name if section < len(columns) else "+"
        if role == Qt.ItemDataRole.AccessibleTextRole and orientation == Qt.Orientation.Horizontal:
            if section < len(self.table.columns):
                about = self.table.columns[section]
                return f"{about.label}, {about.kind}"
            return "new column"
        return None

    def setData(self, index: QModelIndex, value, role=Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole or self.table is None:
            return False
        text = str(value)
        if text.strip() == self.text(index.row(), index.column()):
            return True
        return self.set_block(index.row(), index.column(), ((text,),))

    def set_block(self, row: int, column: int, block: tuple[tuple[str, ...], ...]) -> bool:
        return self.session.do(SetCells(self.name, row, column, block))
