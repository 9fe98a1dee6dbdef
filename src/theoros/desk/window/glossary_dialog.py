"""The glossary as a whole: a list of terms to go through or type into, and what the chosen one means."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLineEdit, QListWidget, QListWidgetItem, QVBoxLayout

from theoros.answer.glossary import GlossaryTerm, terms
from theoros.answer.wording import to_plain
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import prose, set_prose

if TYPE_CHECKING:
    from theoros.desk.window.window import Window

WIDTH, HEIGHT, LIST_WIDTH = 720, 460, 230


class GlossaryDialog(QDialog):
    def __init__(self, theme: Theme, parent: Window) -> None:
        super().__init__(parent)
        self.setWindowTitle("Glossary")
        self.resize(theme.px(WIDTH), theme.px(HEIGHT))
        self._find = QLineEdit(placeholderText="Find a term…")
        self._find.setAccessibleName("find a term")
        self._find.setClearButtonEnabled(True)
        self._find.textChanged.connect(self._filter)
        self._list = QListWidget()
        self._list.setAccessibleName("terms")
        self._list.setFixedWidth(theme.px(LIST_WIDTH))
        for term in terms().values():
            item = QListWidgetItem(to_plain(term.name))
            item.setData(Qt.ItemDataRole.UserRole, term.name)
            self._list.addItem(item)
        self._list.currentItemChanged.connect(self._show_current)
        self._name = prose("", theme, 20, serif=True)
        self._meaning = prose("", theme, 15)
        self._example = prose("", theme, 14, tone="mute")
        layout = QHBoxLayout(self)
        left, right = QVBoxLayout(), QVBoxLayout()
        left.addWidget(self._find)
        left.addWidget(self._list, 1)
        for label in (self._name, self._meaning, self._example):
            right.addWidget(label)
        right.addStretch(1)
        layout.addLayout(left)
        layout.addSpacing(12)
        layout.addLayout(right, 1)
        self.show_term(next(iter(terms())))

    def show_term(self, name: str) -> None:
        """Chooses a term and says what it means."""
        self._find.clear()
        for row in range(self._list.count()):
            if self._list.item(row).data(Qt.ItemDataRole.UserRole) == name:
                self._list.setCurrentRow(row)
                self._list.scrollToItem(self._list.item(row), QListWidget.ScrollHint.PositionAtCenter)

    def _show_current(self) -> None:
        item = self._list.currentItem()
        if item is None:
            return
        term = terms()[item.data(Qt.ItemDataRole.UserRole)]
        set_prose(self._name, term.name[:1].upper() + term.name[1:])
        set_prose(self._meaning, term.meaning)
        set_prose(self._example, f"Example: {term.example}")

    def _filter(self, typed: str) -> None:
        """Shows the terms one of whose forms holds what is typed, and chooses the first of them."""
        first = None
        for row in range(self._list.count()):
            item = self._list.item(row)
            shown = _matches(terms()[item.data(Qt.ItemDataRole.UserRole)], typed)
            item.setHidden(not shown)
            if shown and first is None:
                first = item
        if first is not None and (self._list.currentItem() is None or self._list.currentItem().isHidden()):
            self._list.setCurrentItem(first)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """The arrows go through the list from the field as well."""
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self._find.hasFocus():
            self._list.setFocus()
            return
        super().keyPressEvent(event)


def _matches(term: GlossaryTerm, typed: str) -> bool:
    wanted = typed.strip().casefold()
    return any(wanted in to_plain(form).casefold() for form in term.forms)


def show_glossary(window: Window, name: str = "") -> None:
    """The glossary before the window, at a term where one is named."""
    dialog = GlossaryDialog(window.theme, window)
    dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
    if name:
        dialog.show_term(name)
    dialog.open()
