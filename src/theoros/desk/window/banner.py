"""A line under the verb bar that says something, and may offer what to do about it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QToolButton

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, button

BRIEF_MS = 5000


class Banner(QFrame):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setObjectName("banner")
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(16, 5, 12, 5)
        self.label = PlainLabel()
        self.label.setWordWrap(True)
        self.label.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._row.addWidget(self.label, 1)
        self._buttons: list[QPushButton] = []
        self.close_button = QToolButton()
        self.close_button.setText("✕")
        self.close_button.setAccessibleName("close the message")
        self.close_button.setAutoRaise(True)
        self.close_button.clicked.connect(self.hide)
        self._row.addWidget(self.close_button)
        self._timer = QTimer(self, singleShot=True, interval=BRIEF_MS)
        self._timer.timeout.connect(self.hide)
        self.hide()

    @property
    def offers(self) -> bool:
        """Whether there is something to choose in it."""
        return bool(self._buttons)

    def say(self, text: str, tone: str = "mute", *, brief: bool = False) -> None:
        """Shows a sentence; a brief one goes by itself."""
        self.ask(text, [], tone=tone, brief=brief)

    def warn(self, text: str) -> None:
        """Shows what went wrong."""
        self.say(text, "bad")

    def ask(
        self, text: str, offers: Sequence[tuple[str, Callable[[], object]]], *, tone: str = "mute", brief: bool = False
    ) -> None:
        """Shows a sentence with buttons for what can be done."""
        for one in self._buttons:
            self._row.removeWidget(one)
            one.hide()
            one.deleteLater()
        self._buttons = []
        for at, (label, action) in enumerate(offers):
            one = button(label, action)
            self._buttons.append(one)
            self._row.insertWidget(1 + at, one)
        self.label.setText(text)
        self.setAccessibleName(text)
        c = self.theme.colours
        self.setStyleSheet(f"QFrame#banner {{ background: {c['wash']}; border-bottom: 1px solid {c['rule']}; }}")
        self.label.setStyleSheet(f"color: {c[tone] if tone != 'mute' else c['ink']};")
        self._timer.stop()
        if brief:
            self._timer.start()
        self.show()
