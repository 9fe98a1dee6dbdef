"""The headers of a sheet: names, units, kinds, small profiles; what is selected can be dragged."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

from PySide6.QtCore import QModelIndex, QRect, QSize, Qt, Signal
from PySide6.QtGui import QDrag, QPainter
from PySide6.QtWidgets import QHeaderView, QTableView

from theoros.desk.parts.column_mime import column_mime
from theoros.desk.parts.theme import Theme
from theoros.table.profile import Profile
from theoros.table.table import Column, Table

HEADER, HEADER_PLAIN = 62, 44
OUT = 24
"""Pixels beyond the header from which a dragged column is carried out of it."""


class MovingHeader(QHeaderView):
    """A header whose selected sections can be dragged to another place, all together.

    Dragging from a section that is not selected selects, as ever.
    """

    dropped = Signal(int)
    """The selected sections are to stand before the one that is here now."""

    def __init__(self, orientation: Qt.Orientation, parent: QTableView) -> None:
        super().__init__(orientation, parent)
        self.setSectionsClickable(True)
        self.sectionMoved.connect(self._moved)
        self._putting_back = False

    def _is_selected(self, section: int) -> bool:
        chosen = self.selectionModel()
        if chosen is None:
            return False
        nowhere = QModelIndex()
        if self.orientation() == Qt.Orientation.Horizontal:
            return chosen.isColumnSelected(section, nowhere)
        return chosen.isRowSelected(section, nowhere)

    def mousePressEvent(self, event) -> None:
        along = event.position().toPoint()
        section = self.logicalIndexAt(along)
        plain = event.modifiers() == Qt.KeyboardModifier.NoModifier
        self.setSectionsMovable(plain and section >= 0 and self._is_selected(section))
        super().mousePressEvent(event)

    def _moved(self, section: int, old: int, new: int) -> None:
        if self._putting_back:
            return
        self._putting_back = True
        self.moveSection(new, old)  # the table itself is put in order, not the view of it
        self._putting_back = False
        # where it was let go: behind the section there when moving on, before it when moving back
        self.dropped.emit(new + 1 if new > old else new)


class Headed(Protocol):
    """A model whose columns have heads: a sheet, or the preview of an arrangement."""

    @property
    def table(self) -> Table | None: ...
    @property
    def profiles(self) -> Mapping[str, Profile]: ...


class SheetHeader(MovingHeader):
    """Column names with unit, kind and a small profile of the values."""

    def __init__(self, model: Headed, theme: Theme, parent: QTableView) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.sheet_model, self.theme = model, theme
        self._pressed = -1
        self.high = HEADER
        self.setHighlightSections(False)
        self.setDefaultSectionSize(101)
        self.setMinimumSectionSize(40)

    def mouseMoveEvent(self, event) -> None:
        """A column dragged out of the header is carried to where it is let go."""
        at = event.position().toPoint()
        table = self.sheet_model.table
        far = not -OUT <= at.y() <= self.height() + OUT
        if event.buttons() & Qt.MouseButton.LeftButton and far and table is not None:
            section = self._pressed
            self._pressed = -1
            if 0 <= section < len(table.columns):
                self.carry(table.name, table.columns[section].name)
                return
        super().mouseMoveEvent(event)

    def mousePressEvent(self, event) -> None:
        self._pressed = self.logicalIndexAt(event.position().toPoint())
        super().mousePressEvent(event)

    def carry(self, table: str, column: str) -> None:
        """Begins to drag a column by its name."""
        carried = QDrag(self)
        carried.setMimeData(column_mime(table, column))
        carried.exec(Qt.DropAction.CopyAction)

    def sizeHint(self) -> QSize:
        return QSize(super().sizeHint().width(), self.theme.px(self.high))

    def paintSection(self, painter: QPainter, rect: QRect, section: int) -> None:
        table, c = self.sheet_model.table, self.theme.colour
        painter.save()
        painter.fillRect(rect, c("paper"))
        painter.setPen(c("rule"))
        painter.drawLine(rect.topRight(), rect.bottomRight())
        painter.drawLine(rect.bottomLeft(), rect.bottomRight())
        inner = rect.adjusted(8, 5, -8, -5)
        if table is not None and section < len(table.columns):
            about = table.columns[section]
            painter.setFont(self.theme.font(13.5, bold=True))
            painter.setPen(c("ink"))
            metrics, line = painter.fontMetrics(), self.theme.px(17)
            elide = Qt.TextElideMode.ElideRight
            name = metrics.elidedText(about.name, elide, inner.width())
            painter.drawText(QRect(inner.left(), inner.top(), inner.width(), line), 0, name)
            painter.setFont(self.theme.font(11.5))
            painter.setPen(c("mute"))
            kind = header_words(about, table)
            kind = painter.fontMetrics().elidedText(kind, elide, inner.width())
            top = inner.top() + line
            painter.drawText(QRect(inner.left(), top, inner.width(), self.theme.px(15)), 0, kind)
            profile = self.sheet_model.profiles.get(about.name)
            if profile and profile.bars:
                high = max(6, inner.bottom() - top - self.theme.px(15) - 1)
                wide = inner.width() / len(profile.bars)
                colour = c("data")
                colour.setAlphaF(0.55)
                for at, share in enumerate(profile.bars):
                    tall = max(1 if share else 0, round(high * share))
                    left = inner.left() + round(at * wide)
                    right = inner.left() + round((at + 1) * wide) - 1
                    painter.fillRect(QRect(left, inner.bottom() + 1 - tall, max(1, right - left), tall), colour)
        else:
            painter.setFont(self.theme.font(16))
            painter.setPen(c("mute"))
            painter.drawText(inner, Qt.AlignmentFlag.AlignCenter, "+")
        painter.restore()


def header_words(about: Column, table: Table) -> str:
    """What stands under the name of a column: unit, kind, and what is special about it."""
    said = [about.unit] if about.unit else []
    if table.counts == about.name:
        return " · ".join([*said, "× counts rows"])
    said.append(str(about.kind))
    if about.formula:
        said.append("= formula")
    return " · ".join(said)
