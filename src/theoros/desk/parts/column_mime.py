"""How a column is named while it is dragged from one part of the window to another."""

from __future__ import annotations

from PySide6.QtCore import QMimeData

COLUMN_MIME = "application/x-theoros-column"


def column_mime(table: str, column: str) -> QMimeData:
    """What is dragged for a column; other programs are given its name."""
    data = QMimeData()
    data.setData(COLUMN_MIME, f"{table}\n{column}".encode())
    data.setText(column)
    return data


def column_of(data: QMimeData) -> tuple[str, str]:
    """The table and the column that were dragged."""
    table, _, column = data.data(COLUMN_MIME).data().decode().partition("\n")
    return table, column
