"""One slot of a statement, within its sentence."""

from __future__ import annotations

import math
import re

from PySide6.QtCore import QRect, QSize, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QPainter
from PySide6.QtWidgets import QAbstractButton, QWidget

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import say_on_hover
from theoros.verbs.core.slots import Pick, Slot, TypeNumber, TypeText


class SlotButton(QAbstractButton):
    """One slot of the sentence: its text on a line, marked where it does not fit."""

    walked = Signal(int)
    """On to the next slot, 1, or back, −1."""
    typed = Signal(str)
    """What a value, or the name of an option, begins with."""

    def __init__(self, slot: Slot, theme: Theme, size: float, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme, self._size = theme, size
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.show_slot(slot)

    def show_slot(self, slot: Slot) -> None:
        """Holds this slot from now on, as when the sentence it stands in has changed."""
        self.slot = slot
        self.setText(slot.shown)
        self.setAccessibleName(f"{slot.label}: {slot.shown}")
        self.setAccessibleDescription(slot.problem)
        say_on_hover(self, slot.problem or slot.label)
        self.update()

    def sizeHint(self) -> QSize:
        metrics = QFontMetricsF(self.theme.font(self._size, serif=True))
        wide = math.ceil(metrics.horizontalAdvance(self.text())) + 4
        return QSize(wide, math.ceil(metrics.height()) + 3)

    def resizeEvent(self, event) -> None:
        """What is too long for a line is told whole on pointing."""
        super().resizeEvent(event)
        slot, cut = self.slot, self.width() < self.sizeHint().width()
        say_on_hover(self, slot.problem or (f"{slot.label}: {slot.shown}" if cut else slot.label))

    def paintEvent(self, event) -> None:
        painter = QPainter(self)
        rect = self.rect()
        lit = self.hasFocus() or self.underMouse()
        if lit:
            painter.fillRect(rect, self.theme.colour("wash"))
        empty = self.slot.value in (None, "", ()) or bool(self.slot.problem)
        role = "bad" if self.slot.problem else "mute" if empty else "ink"
        painter.setFont(self.theme.font(self._size, serif=True))
        painter.setPen(self.theme.colour(role))
        text = self.text()
        if rect.width() < self.sizeHint().width():
            elide = Qt.TextElideMode.ElideRight
            text = painter.fontMetrics().elidedText(text, elide, rect.width() - 4)
        painter.drawText(rect.adjusted(2, 0, -2, -3), Qt.AlignmentFlag.AlignVCenter, text)
        line = self.theme.colour("bad" if self.slot.problem else "data")
        painter.fillRect(QRect(0, rect.bottom() - 1, rect.width(), 2), line)
        if self.hasFocus():
            painter.setPen(line)
            painter.drawRect(rect.adjusted(0, 0, -1, -1))

    def keyPressEvent(self, event) -> None:
        """Enter opens it, the arrows walk on, and what a value begins with begins it."""
        key, typed, holds = event.key(), event.text(), self.slot.holds
        control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        text = isinstance(holds, TypeText) and typed.isprintable() and typed.strip()
        number = isinstance(holds, TypeNumber) and _BEGINS.match(typed)
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not control:
            self.click()
        elif key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.walked.emit(1 if key == Qt.Key.Key_Right else -1)
        elif text or number or (isinstance(holds, Pick) and typed.isalnum()):
            self.typed.emit(typed)
        else:
            super().keyPressEvent(event)


_BEGINS = re.compile(r"[0-9.,+\-−(a-z√]")
"""What a number, or a sum of numbers, begins with."""
