"""The box that finds any verb, column, method, entry, action or help text by typing (Ctrl+K)."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtCore import QMimeData, QPoint, QSize, Qt
from PySide6.QtWidgets import (
    QFrame,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from theoros.desk.parts.column_mime import column_mime
from theoros.desk.parts.options import OPTION, OptionDelegate
from theoros.desk.parts.theme import Theme
from theoros.verbs.core.slots import Option

MOST_SHOWN = 12


@dataclass(frozen=True)
class Found:
    """Something that can be found: what it is called, what sort it is, and what it does."""

    label: str
    sort: str
    help: str
    go: Callable[[], object]
    column: tuple[str, str] | None = None
    """Table and column, where it is a column: it can be dragged onto a picture."""
    other: tuple[str, ...] = ()
    """What else it is called; it counts a little less than its own name."""


def _plain(text: str) -> str:
    """Without case, and with one kind of dash between words."""
    return " ".join(re.sub(r"[-–]", " ", text.casefold()).split())


def rank(query: str, found: Found) -> tuple[int, int] | None:
    """How well it fits what was typed, lower is better; None where it does not."""
    own = _rank(_plain(query), _plain(found.label), _plain(f"{found.sort} {found.help}"))
    others = [_rank(_plain(query), _plain(name), _plain(found.sort)) for name in found.other]
    ranks = [own, *((place + 1, size) for one in others if one is not None for place, size in [one])]
    best = min((one for one in ranks if one is not None), default=None)
    if best is not None and found.sort == "glossary":  # what can be done comes before what a word means
        return best[0] + 5, best[1]
    return best


def _rank(query: str, label: str, rest: str) -> tuple[int, int] | None:
    words = query.split()
    if not all(word in label or word in rest for word in words):
        return None
    if not words:
        return (8, 0)
    if label.startswith(query):
        return (0, len(label))
    if label.startswith(words[0]):
        return (2, len(label))
    if any(part.startswith(words[0]) for part in label.split()):
        return (4, len(label))
    return (6, len(label)) if words[0] in label else (8, len(label))


class FoundList(QListWidget):
    """What was found; columns can be dragged out of it."""

    def __init__(self) -> None:
        super().__init__()
        self.found: list[Found] = []
        self.setDragEnabled(True)
        self.setDragDropMode(QListWidget.DragDropMode.DragOnly)

    def mimeData(self, items) -> QMimeData:
        at = self.row(items[0]) if items else -1
        one = self.found[at] if 0 <= at < len(self.found) else None
        return column_mime(*one.column) if one and one.column else QMimeData()

    def startDrag(self, actions) -> None:
        at = self.currentRow()
        if 0 <= at < len(self.found) and self.found[at].column:
            super().startDrag(actions)


WIDTH, LEAST_WIDTH = 300, 170


class FindBox(QLineEdit):
    def __init__(self, theme: Theme, everything: Callable[[], list[Found]]) -> None:
        super().__init__()
        self.setObjectName("find")
        self.theme, self._everything = theme, everything
        self.setPlaceholderText("Find a verb, a column, a method…  Ctrl+K")
        self.setAccessibleName("find")
        self.setFixedWidth(theme.px(WIDTH))
        self.popup: QFrame | None = None
        self.list = FoundList()
        self.textChanged.connect(self._search)

    def fit(self, room: int) -> None:
        """As wide as usual, or narrower where there is less room than that."""
        self.setFixedWidth(min(max(room, self.theme.px(LEAST_WIDTH)), self.theme.px(WIDTH)))

    def _build(self) -> QFrame:
        frame = QFrame(self.window())
        frame.setObjectName("popup")
        layout = QVBoxLayout(frame)
        layout.setContentsMargins(2, 4, 2, 4)
        self.list.setItemDelegate(OptionDelegate(self.theme, self.list))
        self.list.setAccessibleName("what was found")
        self.list.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemClicked.connect(lambda _: self._go())
        layout.addWidget(self.list)
        return frame

    def focusInEvent(self, event) -> None:
        super().focusInEvent(event)
        self._search(self.text())

    def focusOutEvent(self, event) -> None:
        super().focusOutEvent(event)
        if self.popup:
            self.popup.hide()

    def _search(self, text: str) -> None:
        if not self.hasFocus():
            return
        if self.popup is None:
            self.popup = self._build()
        ranked = [(rank(text, one), at, one) for at, one in enumerate(self._everything())]
        fitting = sorted((r, at, one) for r, at, one in ranked if r is not None)
        self.list.found = [one for _, _, one in fitting][:MOST_SHOWN]
        self.list.clear()
        for one in self.list.found:
            item = QListWidgetItem(one.label)
            item.setData(OPTION, Option(None, one.label, one.sort, one.help))
            self.list.addItem(item)
        if not self.list.found:
            item = QListWidgetItem("nothing found")
            item.setData(OPTION, Option(None, "Nothing was found.", "", "Try another word."))
            item.setFlags(Qt.ItemFlag.NoItemFlags)
            self.list.addItem(item)
        self.list.setCurrentRow(0 if self.list.found else -1)
        delegate = self.list.itemDelegate()
        tall = sum(
            delegate.sizeHint(QStyleOptionViewItem(), self.list.model().index(row, 0)).height()
            for row in range(self.list.count())
        )
        self.popup.resize(QSize(self.theme.px(420), min(tall + 16, self.theme.px(460))))
        corner = self.mapTo(self.window(), QPoint(self.width(), self.height() + 4))
        self.popup.move(corner.x() - self.popup.width(), corner.y())
        self.popup.show()
        self.popup.raise_()

    def _go(self) -> None:
        at = self.list.currentRow()
        if 0 <= at < len(self.list.found):
            found = self.list.found[at]
            self.clear()
            if self.popup:
                self.popup.hide()
            window = self.window()
            if isinstance(window, QWidget):
                window.setFocus()
            found.go()

    def keyPressEvent(self, event) -> None:
        key = event.key()
        if key in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.list.found:
            step = 1 if key == Qt.Key.Key_Down else -1
            self.list.setCurrentRow((self.list.currentRow() + step) % len(self.list.found))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._go()
        elif key == Qt.Key.Key_Escape:
            self.clear()
            if self.popup:
                self.popup.hide()
            self.window().setFocus()
        else:
            super().keyPressEvent(event)
