"""What a study without tables shows: the ways to get rows in."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import button, prose


class StartPage(QWidget):
    """Buttons for a new table, a file, the demo; a block can be pasted straight away."""

    def __init__(
        self,
        theme: Theme,
        *,
        new_table: Callable[[], object],
        open_table: Callable[[], object],
        open_demo: Callable[[], object],
        paste: Callable[[], object],
    ) -> None:
        super().__init__()
        self.setObjectName("page")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("a study without tables")
        self.paste = paste
        layout = QVBoxLayout(self)
        layout.setContentsMargins(40, 60, 40, 20)
        layout.setSpacing(12)
        layout.addWidget(prose("There is no table yet.", theme, 24, serif=True))
        layout.addWidget(
            prose(
                "Type your cases into a new table, open a file (CSV, TSV, XLSX, ODS, JSON or "
                "Parquet; it can also be dropped here), or paste a block from a spreadsheet with "
                "Ctrl+V. With rows in place, click a verb above to ask.",
                theme,
                15,
            )
        )
        row = QHBoxLayout()
        row.setSpacing(8)
        self.new_button = button("New table", new_table, main=True)
        row.addWidget(self.new_button)
        row.addWidget(button("Open table…", open_table))
        row.addWidget(button("Open the demo study", open_demo))
        row.addStretch()
        layout.addLayout(row)
        layout.addStretch(1)
