"""Slots as fields, where they do not stand within a sentence: settings, grids, controls."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QLineEdit, QPushButton, QSizePolicy

from theoros.desk.parts.pickers import PickList, PickMany
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import say_on_hover
from theoros.verbs.core.slots import Pick, PickSeveral, Slot, TypeNumber, TypeText

PICK_ROOM = 24
"""Pixels of a button to pick with that are not for text."""


class TextField(QLineEdit):
    """A slot for text as a field: Enter or leaving sets it, Esc puts back what was there."""

    def __init__(self, slot: Slot, set_slot) -> None:
        super().__init__(str(slot.value))
        self.slot, self._set = slot, set_slot
        self.setObjectName(f"setting-{slot.name}")
        self.setPlaceholderText(slot.shown)
        self.setAccessibleName(slot.label)
        if isinstance(slot.holds, TypeText):
            say_on_hover(self, slot.holds.help)
        self.editingFinished.connect(self._typed)

    def show_slot(self, slot: Slot) -> None:
        """Shows what the slot holds now."""
        self.slot = slot
        self.setAccessibleName(slot.label)  # it may tell a name that was typed since
        self.setPlaceholderText(slot.shown)
        if self.text().strip() != str(slot.value):
            self.setText(str(slot.value))

    def _typed(self) -> None:
        text = self.text().strip()
        if text != self.slot.value:
            self._set(self.slot.name, text)

    def keyPressEvent(self, event) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setText(str(self.slot.value))
            return
        super().keyPressEvent(event)


class NumberField(QLineEdit):
    """A number slot as a field: Enter or leaving sets it, Esc puts back what was there."""

    def __init__(self, slot: Slot, set_slot) -> None:
        super().__init__(slot.shown if slot.value is not None else "")
        self.slot, self._set = slot, set_slot
        self.setObjectName(f"setting-{slot.name}")
        self.setPlaceholderText(slot.shown if slot.value is None else "")
        self.setAccessibleName(slot.label)
        assert isinstance(slot.holds, TypeNumber)
        say_on_hover(self, f"{slot.holds.range_words} {slot.holds.help}".strip())
        self.returnPressed.connect(self._typed)
        self.editingFinished.connect(self._typed)

    def show_slot(self, slot: Slot) -> None:
        """Shows what the slot holds now; what is being typed wrongly stays to be mended."""
        changed, self.slot = slot.value != self.slot.value, slot
        self.setAccessibleName(slot.label)
        if changed:
            self.setText(slot.shown if slot.value is not None else "")
            self.setPlaceholderText(slot.shown if slot.value is None else "")
            self._mark("")

    def _mark(self, problem: str) -> None:
        self.setProperty("wrong", bool(problem))
        self.style().polish(self)
        self.setAccessibleDescription(problem)

    def _typed(self) -> None:
        holds = self.slot.holds
        assert isinstance(holds, TypeNumber)
        value, problem = holds.read(self.text())
        self._mark(problem)
        say_on_hover(self, problem or f"{holds.range_words} {holds.help}".strip())
        if not problem and holds.typed(value) != holds.typed(self.slot.value):
            self._set(self.slot.name, value)

    def keyPressEvent(self, event) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setText(self.slot.holds.typed(self.slot.value))
            self._mark("")
            return
        super().keyPressEvent(event)


class PickField(QPushButton):
    """A slot that is picked, one option or several, as a button that opens the list."""

    def __init__(self, slot: Slot, set_slot, theme: Theme) -> None:
        super().__init__()
        self._set, self._theme = set_slot, theme
        self.setObjectName(f"setting-{slot.name}")
        self.setProperty("field", True)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.clicked.connect(self._open)
        self.show_slot(slot)

    def show_slot(self, slot: Slot) -> None:
        """Shows what the slot holds now."""
        self.slot = slot
        self.setAccessibleName(f"{slot.label}: {slot.shown}")
        self._fit()

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        """As much of the text as there is room for; the whole of it on pointing, where it is cut."""
        sign = " ▾"
        room = self.width() - PICK_ROOM - self.fontMetrics().horizontalAdvance(sign)
        told = self.fontMetrics().elidedText(self.slot.shown, Qt.TextElideMode.ElideRight, max(room, 0))
        self.setText(told + sign)
        say_on_hover(self, self.slot.shown if told != self.slot.shown else "")

    def _open(self) -> None:
        slot, holds = self.slot, self.slot.holds
        if isinstance(holds, Pick | PickSeveral):
            kind = PickList if isinstance(holds, Pick) else PickMany
            popup = kind(
                self._theme, holds.options, slot.value, slot.label, lambda value: self._set(slot.name, value), self
            )
            popup.open_at(self.mapToGlobal(QPoint(0, self.height() + 2)))


Field = NumberField | TextField | PickField


def field_of(slot: Slot, set_slot, theme: Theme) -> Field:
    """The field that a slot is set by."""
    if isinstance(slot.holds, Pick | PickSeveral):
        return PickField(slot, set_slot, theme)
    return (TextField if isinstance(slot.holds, TypeText) else NumberField)(slot, set_slot)
