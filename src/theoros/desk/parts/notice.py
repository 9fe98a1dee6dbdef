"""A line of text with a few links, for what should be seen and can be settled with one click."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, clear


class Notice(QWidget):
    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__()
        self.theme = theme
        self.setObjectName("notice")
        self.setAccessibleName(name)
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(10)
        self.label = PlainLabel()
        self.buttons: list[QPushButton] = []
        self.hide()

    def say(self, text: str, links: Sequence[tuple[str, Callable[[], object]]], tone: str = "mute") -> None:
        """Shows a text with links behind it; the empty text hides it."""
        clear(self._row)
        self.buttons = []
        self.setVisible(bool(text))
        if not text:
            return
        self.label = PlainLabel(text)
        self.label.setWordWrap(True)
        self.label.setProperty("tone", tone)
        self._row.addWidget(self.label, 1)
        for words, action in links:
            made = QPushButton(words)
            made.setProperty("link", True)
            made.setCursor(Qt.CursorShape.PointingHandCursor)
            made.clicked.connect(lambda _=False, do=action: do())
            self._row.addWidget(made)
            self.buttons.append(made)
        self.setAccessibleDescription(text)
