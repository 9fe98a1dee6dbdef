"""The verbs, a button for each, and the box to find things."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from theoros.desk.parts.theme import Theme
from theoros.verbs.core.registry import verbs


class VerbBar(QWidget):
    asked = Signal(str)
    """The name of a verb."""

    def __init__(self, theme: Theme, find_box: QWidget) -> None:
        super().__init__()
        self.setObjectName("verbs")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(4)
        self.buttons: dict[str, QPushButton] = {}
        for name, verb in verbs().items():
            one = QPushButton(verb.label)
            one.setProperty("verb", True)
            one.setCheckable(True)
            one.setToolTip(verb.help)
            one.setAccessibleDescription(verb.help)
            one.clicked.connect(lambda _=False, n=name: self.asked.emit(n))
            self.buttons[name] = one
            row.addWidget(one)
        row.addStretch()
        row.addWidget(find_box)
        self.setFixedHeight(theme.px(46))

    def mark(self, verb: str) -> None:
        """Marks the verb of what is shown; none where it is empty."""
        for name, one in self.buttons.items():
            one.setChecked(name == verb)
