"""The levels of a category: dragged into order, named, and merged by giving two one name."""

from __future__ import annotations

from collections.abc import Mapping

from PySide6.QtCore import QSize, Qt, QTimer, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QAbstractItemView, QListWidget, QListWidgetItem, QStyledItemDelegate

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import say_on_hover

MOST_SHOWN = 300
LEVEL = Qt.ItemDataRole.UserRole
COUNT = Qt.ItemDataRole.UserRole + 1


LINE = 24


class LevelDelegate(QStyledItemDelegate):
    """A level with its count at the right."""

    def __init__(self, theme: Theme, parent: QListWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def sizeHint(self, option, index) -> QSize:
        return QSize(100, self.theme.px(LINE))

    def paint(self, painter: QPainter, option, index) -> None:
        super().paint(painter, option, index)
        painter.save()
        painter.setPen(self.theme.colour("mute"))
        painter.setFont(self.theme.font(12.5))
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(option.rect.adjusted(0, 0, -8, 0), right, str(index.data(COUNT)))
        painter.restore()


class LevelsList(QListWidget):
    """One line for each level, with how many cases have it.

    Drag, or Alt+Up and Alt+Down, puts a level elsewhere; F2 or a double-click names it.
    """

    ordered = Signal(tuple)
    named = Signal(str, str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.setItemDelegate(LevelDelegate(theme, self))
        self.setAccessibleName("levels, in order")
        self.setAccessibleDescription("Alt and the arrow keys move a level, F2 names it.")
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setDefaultDropAction(Qt.DropAction.MoveAction)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setEditTriggers(QAbstractItemView.EditTrigger.DoubleClicked | QAbstractItemView.EditTrigger.EditKeyPressed)
        self.setToolTip("Drag a level to its place; double-click to name it. Two with one name merge.")
        self._filling = False
        self.itemChanged.connect(self._changed)

    def show_levels(self, counts: Mapping[str, int], *, fixed: bool = False) -> None:
        """Shows levels in order; with `fixed` they can only be looked at."""
        at = self.currentRow()
        self._filling = True
        self.clear()
        for level, count in list(counts.items())[:MOST_SHOWN]:
            item = QListWidgetItem(level)
            item.setData(LEVEL, level)
            item.setData(COUNT, count)
            say_on_hover(item, f"{level}: {count}")
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{level}, {count}")
            if not fixed:
                item.setFlags(item.flags() | Qt.ItemFlag.ItemIsEditable)
            item.setFlags(item.flags() & ~Qt.ItemFlag.ItemIsDropEnabled)
            self.addItem(item)
        many = len(counts) > MOST_SHOWN
        drag = QAbstractItemView.DragDropMode
        self.setDragDropMode(drag.NoDragDrop if fixed or many else drag.InternalMove)
        self._filling = False
        if 0 <= at < self.count():
            self.setCurrentRow(at)
        line = self.theme.px(LINE)
        self.setFixedHeight(line * max(1, min(self.count(), 8)) + 6)

    def levels(self) -> tuple[str, ...]:
        return tuple(str(self.item(row).data(LEVEL)) for row in range(self.count()))

    def move_current(self, by: int) -> None:
        """The current level one place up or down."""
        row, order = self.currentRow(), list(self.levels())
        if 0 <= row < len(order) and 0 <= row + by < len(order):
            order.insert(row + by, order.pop(row))
            self.setCurrentRow(row + by)
            self.ordered.emit(tuple(order))

    def dropEvent(self, event) -> None:
        super().dropEvent(event)
        # in a turn of its own: the list takes the dragged item out after this
        QTimer.singleShot(0, lambda: self.ordered.emit(self.levels()))

    def keyPressEvent(self, event) -> None:
        if event.modifiers() & Qt.KeyboardModifier.AltModifier and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.move_current(-1 if event.key() == Qt.Key.Key_Up else 1)
            return
        super().keyPressEvent(event)

    def _changed(self, item: QListWidgetItem) -> None:
        if self._filling:
            return
        old, new = str(item.data(LEVEL)), " ".join(item.text().split())
        if new and new != old:
            self.named.emit(old, new)
        elif not new:
            self._filling = True
            item.setText(old)
            self._filling = False
