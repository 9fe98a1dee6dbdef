"""How an option is drawn wherever options are listed: in a picker and in the find box."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QStyle, QStyledItemDelegate, QWidget

from theoros.desk.parts.theme import Theme
from theoros.verbs.core.slots import Option

OPTION = Qt.ItemDataRole.UserRole
CHECKED = Qt.ItemDataRole.UserRole + 1
"""Whether it is picked, where several can be; None where one is."""


class OptionDelegate(QStyledItemDelegate):
    """Draws an option: its label, its detail at the right, its help below."""

    def __init__(self, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def sizeHint(self, option, index) -> QSize:
        held = index.data(OPTION)
        tall = 40 if held.help else 26
        return QSize(200, self.theme.px(tall))

    def paint(self, painter: QPainter, option, index) -> None:
        held: Option = index.data(OPTION)
        painter.save()
        rect: QRect = option.rect
        if option.state & QStyle.StateFlag.State_Selected:
            painter.fillRect(rect, self.theme.colour("wash"))
            painter.fillRect(QRect(rect.left(), rect.top(), 3, rect.height()), self.theme.colour("data"))
        inner = rect.adjusted(12, 4, -12, -4)
        checked = index.data(CHECKED)
        if checked is not None:
            side = self.theme.px(13)
            box = QRect(inner.left(), inner.top() + 2, side, side)
            painter.setPen(self.theme.colour("data" if checked else "mute"))
            painter.drawRect(box)
            if checked:
                painter.fillRect(box.adjusted(3, 3, -2, -2), self.theme.colour("data"))
            inner.setLeft(inner.left() + side + 8)
        line = QRect(inner.left(), inner.top(), inner.width(), self.theme.px(18))
        painter.setPen(self.theme.colour("mute"))
        painter.setFont(self.theme.font(12))
        painter.drawText(line, Qt.AlignmentFlag.AlignRight, held.detail)
        room = inner.width() - painter.fontMetrics().horizontalAdvance(held.detail) - 16
        painter.setFont(self.theme.font(13.5))
        able = option.state & QStyle.StateFlag.State_Enabled
        painter.setPen(self.theme.colour("ink" if able else "mute"))
        text = painter.fontMetrics().elidedText(held.label, Qt.TextElideMode.ElideRight, max(room, 60))
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft, text)
        if held.help:
            below = QRect(inner.left(), inner.top() + self.theme.px(18), inner.width(), self.theme.px(16))
            painter.setPen(self.theme.colour("mute"))
            painter.setFont(self.theme.font(12))
            text = painter.fontMetrics().elidedText(held.help, Qt.TextElideMode.ElideRight, inner.width())
            painter.drawText(below, Qt.AlignmentFlag.AlignLeft, text)
        painter.restore()
