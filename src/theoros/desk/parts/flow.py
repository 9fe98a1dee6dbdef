"""A layout that sets its widgets like words: in lines, as many as the width asks for."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QWidget


class Flow(QLayout):
    """Widgets beside each other, in the middle of their line; the next line begins at the left.

    What is wider than a line and can wrap gets a line of its own, as high as it then needs.
    """

    def __init__(self, parent: QWidget | None = None, gap: int = 5, line_gap: int = 0) -> None:
        super().__init__(parent)
        self.setContentsMargins(0, 0, 0, 0)
        self._gap, self._line_gap = gap, line_gap
        self._items: list[QLayoutItem] = []

    def addItem(self, item: QLayoutItem) -> None:
        self._items.append(item)

    def count(self) -> int:
        return len(self._items)

    def itemAt(self, at: int) -> QLayoutItem | None:
        return self._items[at] if 0 <= at < len(self._items) else None

    def takeAt(self, at: int) -> QLayoutItem | None:
        return self._items.pop(at) if 0 <= at < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._set(QRect(0, 0, width, 0), move=False)

    def setGeometry(self, rect: QRect) -> None:
        """The lines stand in the middle of the room that there is."""
        super().setGeometry(rect)
        spare = max(0, rect.height() - self._set(rect, move=False))
        self._set(rect.adjusted(0, spare // 2, 0, 0), move=True)

    def sizeHint(self) -> QSize:
        """All in one line."""
        sizes = [item.sizeHint() for item in self._shown()]
        wide = sum(size.width() for size in sizes) + self._gap * max(0, len(sizes) - 1)
        return QSize(wide, max((size.height() for size in sizes), default=0))

    def minimumSize(self) -> QSize:
        sizes = [item.minimumSize() for item in self._shown()]
        return QSize(
            max((size.width() for size in sizes), default=0), max((size.height() for size in sizes), default=0)
        )

    def _shown(self) -> list[QLayoutItem]:
        return [item for item in self._items if not item.isEmpty()]

    def _set(self, rect: QRect, *, move: bool) -> int:
        """Places the widgets, or only tells how high they stand."""
        lines: list[list[tuple[QLayoutItem, QSize]]] = []
        wide = rect.width() + 1
        for item in self._shown():
            size = item.sizeHint()
            if size.width() > rect.width() and item.hasHeightForWidth():
                size = QSize(rect.width(), item.heightForWidth(rect.width()))
            if wide + size.width() > rect.width():
                lines.append([])
                wide = 0
            lines[-1].append((item, size))
            wide += size.width() + self._gap
        y = rect.top()
        for line in lines:
            high, x = max(size.height() for _, size in line), rect.left()
            for item, size in line:
                if move:
                    top = y + (high - size.height()) // 2
                    within = min(size.width(), rect.width())
                    item.setGeometry(QRect(x, top, within, size.height()))
                x += size.width() + self._gap
            y += high + self._line_gap
        return y - rect.top() - (self._line_gap if lines else 0)
