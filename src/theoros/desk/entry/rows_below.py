"""The rows behind an entry, and the strip that raises them."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.sheet.sheet import Sheet

RAISE = "▴  the rows behind this entry    F6 raises the table here"
LOWER = "▾  the rows behind this entry    F6 lowers them"


class RowsBelow(QWidget):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.strip = QPushButton(RAISE)
        self.strip.setObjectName("strip")
        # its words give way where two pages stand side by side
        self.strip.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        layout.addWidget(self.strip)
        self.rows = Sheet(session, theme, profiled=False)
        self.rows.setAccessibleName("rows behind this entry")
        self.rows.hide()
        layout.addWidget(self.rows)

    def toggle(self, table: str) -> bool:
        """Raises the rows of a table, or lowers them; tells whether they are up."""
        shown = not self.rows.isVisibleTo(self)
        self.rows.setVisible(shown)
        self.strip.setText(LOWER if shown else RAISE)
        if shown and table:
            self.rows.show_table(table)
        return shown
