"""The verbs, a button for each, and the box to find things."""

from __future__ import annotations

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from theoros.desk.parts.flow import Flow
from theoros.desk.parts.theme import Theme
from theoros.desk.window.find_box import FindBox
from theoros.verbs.core.registry import verbs

GAP = 4


class VerbBar(QWidget):
    asked = Signal(str)
    """The name of a verb."""

    def __init__(self, theme: Theme, find_box: FindBox) -> None:
        super().__init__()
        self.setObjectName("verbs")
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(GAP)
        verbs_ = QWidget()
        self._find_box = find_box
        self._verbs = Flow(verbs_, gap=GAP)
        self.buttons: dict[str, QPushButton] = {}
        for name, verb in verbs().items():
            one = QPushButton(verb.label)
            one.setProperty("verb", True)
            one.setCheckable(True)
            one.setToolTip(verb.help)
            one.setAccessibleDescription(verb.help)
            one.clicked.connect(lambda _=False, n=name: self.asked.emit(n))
            self.buttons[name] = one
            self._verbs.addWidget(one)
        row.addWidget(verbs_, 1)
        row.addWidget(find_box)
        self.setMinimumHeight(theme.px(46))

    def resizeEvent(self, event) -> None:
        """The box gives way first; then the verbs stand in two lines."""
        super().resizeEvent(event)
        left, _, right, _ = self.layout().getContentsMargins()
        self._find_box.fit(self.width() - left - right - GAP - self._verbs.sizeHint().width())

    def mark(self, verb: str) -> None:
        """Marks the verb of what is shown; none where it is empty."""
        for name, one in self.buttons.items():
            one.setChecked(name == verb)
