"""The rows behind an entry, and the strip that raises them."""

from __future__ import annotations

from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.sheet.sheet import Sheet

RAISE = "▴  the rows behind this entry", "    F6 raises the table here"
LOWER = "▾  the rows behind this entry", "    F6 lowers them"
STRIP_MARGIN = 20


class RowsBelow(QWidget):
    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.strip = QPushButton()
        self.strip.setObjectName("strip")
        # its words give way where two pages stand side by side
        self.strip.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        layout.addWidget(self.strip)
        self.rows = Sheet(session, theme, profiled=False)
        self.rows.setAccessibleName("rows behind this entry")
        self.rows.hide()
        layout.addWidget(self.rows)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._tell()

    def _tell(self) -> None:
        """The key is left out where there is no room for it."""
        words, key = LOWER if self.rows.isVisibleTo(self) else RAISE
        room = self.width() - 2 * STRIP_MARGIN
        self.strip.setText(words + key if self.strip.fontMetrics().horizontalAdvance(words + key) <= room else words)

    def toggle(self, table: str) -> bool:
        """Raises the rows of a table, or lowers them; tells whether they are up."""
        shown = not self.rows.isVisibleTo(self)
        self.rows.setVisible(shown)
        self._tell()
        if shown and table:
            self.rows.show_table(table)
        return shown
