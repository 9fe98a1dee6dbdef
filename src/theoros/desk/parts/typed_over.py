"""A field that stands on a picture for a while, where something written there is typed over."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QRect, Qt
from PySide6.QtWidgets import QWidget

from theoros.desk.parts.input_fields import Field, NumberField, field_of
from theoros.desk.parts.theme import Theme
from theoros.verbs.core.slots import Slot

LEAST_WIDTH = 76


class TypedOver(QWidget):
    """Enter or leaving sets the slot, Esc leaves it as it was, Tab goes on to the next."""

    def __init__(
        self,
        parent: QWidget,
        slot: Slot,
        at: QRect,
        theme: Theme,
        set_slot: Callable[[str, object], None],
        go_on: Callable[[int], None],
    ) -> None:
        super().__init__(parent)
        self._go_on, self._done = go_on, False
        self.field: Field = field_of(slot, set_slot, theme)
        self.field.setParent(self)
        self.field.installEventFilter(self)
        wide = max(theme.px(LEAST_WIDTH), at.width())
        high = self.field.sizeHint().height()
        left = min(max(at.center().x() - wide // 2, 0), max(parent.width() - wide, 0))
        self.setGeometry(left, max(at.center().y() - high // 2, 0), wide, high)
        self.field.setGeometry(0, 0, wide, high)
        self.show()
        self.raise_()
        self.field.setFocus(Qt.FocusReason.OtherFocusReason)
        if isinstance(self.field, NumberField):
            self.field.selectAll()

    def eventFilter(self, watched, event) -> bool:
        if event.type() == QEvent.Type.FocusOut:
            self._close()
        if event.type() != QEvent.Type.KeyPress:
            return False
        key = event.key()
        if key == Qt.Key.Key_Escape:
            self.field.show_slot(self.field.slot)
            self.field.keyPressEvent(event)
            self._leave()
            return True
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._leave()
            return True
        if key in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab):
            step = -1 if key == Qt.Key.Key_Backtab else 1
            self._leave()
            self._go_on(step)
            return True
        return False

    def _leave(self) -> None:
        """Gives the focus back to the picture; the field sets its slot as it loses it."""
        self.parentWidget().setFocus()
        self._close()

    def _close(self) -> None:
        if not self._done:
            self._done = True
            self.hide()
            self.deleteLater()
