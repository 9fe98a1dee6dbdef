"""What a long answer is doing, over the foot of its page: nothing moves when it comes or goes."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, QTimer, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFrame, QHBoxLayout, QWidget

from theoros.answer.wording import percent
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, button

PATIENCE_MS = 200
"""How long nothing is said about what is worked out."""
BAR = 6.0
"""Height of the bar."""


class ProgressBar(QWidget):
    """A share of the work as a bar; showing another only asks for a painting."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._done = 0.0
        self.setAccessibleName("progress")
        self.setMinimumWidth(60)

    def show_share(self, done: float) -> None:
        self._done = done
        self.setAccessibleDescription(f"{round(done * 100)} %")
        self.update()

    def paintEvent(self, event) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        whole = QRectF(0, (self.height() - BAR) / 2, self.width(), BAR)
        painter.setBrush(self.theme.colour("rule"))
        painter.drawRoundedRect(whole, BAR / 2, BAR / 2)
        whole.setWidth(whole.width() * self._done)
        painter.setBrush(self.theme.colour("data"))
        painter.drawRoundedRect(whole, BAR / 2, BAR / 2)


class ProgressRow(QFrame):
    """Lies over the foot of its parent while something takes longer than a moment."""

    stopped = Signal()

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.setObjectName("progress")
        self._busy = False
        row = QHBoxLayout(self)
        row.setContentsMargins(20, 5, 20, 5)
        self._label = PlainLabel("Working …")
        self._label.setProperty("tone", "mute")
        self._label.setMinimumWidth(theme.px(200))
        row.addWidget(self._label)
        self._bar = ProgressBar(theme)
        row.addWidget(self._bar, 1)
        self.stop = button("Stop", self.stopped.emit)
        row.addWidget(self.stop)
        self._patience = QTimer(self, singleShot=True, interval=PATIENCE_MS)
        self._patience.timeout.connect(self._appear)
        parent.installEventFilter(self)
        self.hide()

    @property
    def busy(self) -> bool:
        return self._busy

    def begin(self) -> None:
        """Something is being worked out; it is told if it takes long."""
        self._busy = True
        self._patience.start()

    def tell(self, doing: str, done: float) -> None:
        self._bar.show_share(done)
        if self.isVisible():
            self._label.setText(f"{doing}, {percent(done, 1)}")

    def end(self) -> None:
        self._busy = False
        self._patience.stop()
        self.hide()

    def _appear(self) -> None:
        if self._busy:
            self._place()
            self.show()
            self.raise_()

    def _place(self) -> None:
        around, high = self.parentWidget(), self.sizeHint().height()
        self.setGeometry(0, around.height() - high, around.width(), high)

    def eventFilter(self, watched, event) -> bool:
        if event.type() == event.Type.Resize and watched is self.parent():
            self._place()
        return super().eventFilter(watched, event)
