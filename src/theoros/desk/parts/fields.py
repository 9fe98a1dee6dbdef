"""Slots as fields, where they do not stand within a sentence: settings, grids, controls."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLineEdit

from theoros.verbs.core.slots import Slot, TypeNumber, TypeText


class TextField(QLineEdit):
    """A slot for text as a field: Enter or leaving sets it, Esc puts back what was there."""

    def __init__(self, slot: Slot, set_slot) -> None:
        super().__init__(str(slot.value))
        self.slot, self._set = slot, set_slot
        self.setObjectName(f"setting-{slot.name}")
        self.setPlaceholderText(slot.shown)
        self.setAccessibleName(slot.label)
        if isinstance(slot.holds, TypeText):
            self.setToolTip(slot.holds.help)
        self.editingFinished.connect(self._typed)

    def show_slot(self, slot: Slot) -> None:
        """Shows what the slot holds now."""
        self.slot = slot
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
        self.setToolTip(f"{slot.holds.range_words} {slot.holds.help}".strip())
        self.returnPressed.connect(self._typed)
        self.editingFinished.connect(self._typed)

    def show_slot(self, slot: Slot) -> None:
        """Shows what the slot holds now; what is being typed wrongly stays to be mended."""
        changed, self.slot = slot.value != self.slot.value, slot
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
        self.setToolTip(problem or f"{holds.range_words} {holds.help}".strip())
        if not problem and value != self.slot.value:
            self._set(self.slot.name, value)

    def keyPressEvent(self, event) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setText(self.slot.holds.typed(self.slot.value))
            self._mark("")
            return
        super().keyPressEvent(event)
