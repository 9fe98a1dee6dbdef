"""The left list: tables, entries, the report."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QAbstractListModel, QMimeData, QModelIndex, QRect, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QDrag, QFontMetrics, QPainter
from PySide6.QtWidgets import QListView, QMenu, QStyle, QStyledItemDelegate

from theoros.answer.nouns import counted
from theoros.desk.parts.column_mime import COLUMN_MIME, column_mime
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import hover_text
from theoros.study.entries import Entry, EntryBlock, Study
from theoros.table.table import Table
from theoros.verbs.core.registry import verbs

MOST_COLUMNS = 20
"""Columns that are listed below their table; the find box (Ctrl+K) knows all of them."""
SUBTITLE = Qt.ItemDataRole.UserRole + 1

Target = tuple[str, str]
"""("table", name), ("entry", id), ("report", "") or ("column", its name in the open table)."""
Line = tuple[Target | None, str, str]


class SideDelegate(QStyledItemDelegate):
    """A title in up to two lines and a subtitle; the one shown has a bar at its left."""

    def __init__(self, theme: Theme, parent: QListView) -> None:
        super().__init__(parent)
        self.theme = theme

    def _title_rect(self, width: int, text: str) -> QRect:
        metrics = QFontMetrics(self.theme.font(13.5))
        room = QRect(0, 0, width - 24, metrics.lineSpacing() * 2)
        return metrics.boundingRect(room, int(Qt.TextFlag.TextWordWrap), text)

    def _width(self) -> int:
        """As wide as beside a scroll bar, so that no title needs more lines once there is one."""
        bar, wide = self.parent().verticalScrollBar(), self.parent().viewport().width()
        return wide if bar.isVisible() else wide - bar.sizeHint().width()

    def sizeHint(self, option, index) -> QSize:
        if index.model().target(index) is None:
            return QSize(100, self.theme.px(32))
        if index.model().target(index)[0] == "column":
            return QSize(100, self.theme.px(22))
        width = self._width()
        title = self._title_rect(width, index.data(Qt.ItemDataRole.DisplayRole))
        tall = min(title.height(), self.theme.px(40))
        return QSize(width, tall + self.theme.px(15) + self.theme.px(10))

    def paint(self, painter: QPainter, option, index) -> None:
        painter.save()
        rect: QRect = option.rect
        text = index.data(Qt.ItemDataRole.DisplayRole)
        if index.model().target(index) is None:
            font = self.theme.font(11.5, bold=True)
            font.setLetterSpacing(font.SpacingType.AbsoluteSpacing, 0.8)
            painter.setFont(font)
            painter.setPen(self.theme.colour("mute"))
            inner = rect.adjusted(14, 0, -8, -4)
            painter.drawText(inner, Qt.AlignmentFlag.AlignBottom, text.upper())
            painter.restore()
            return
        is_column = index.model().target(index)[0] == "column"
        if option.state & QStyle.StateFlag.State_Selected and not is_column:
            painter.fillRect(rect, self.theme.colour("page"))
            painter.fillRect(QRect(rect.left(), rect.top(), 3, rect.height()), self.theme.colour("seen"))
        if option.state & QStyle.StateFlag.State_HasFocus and self.parent().hasFocus():
            painter.setPen(self.theme.colour("data"))
            painter.drawRect(rect.adjusted(3, 0, -1, -1))
        if is_column:
            self._paint_column(painter, rect, text, index.data(SUBTITLE))
            painter.restore()
            return
        painter.setPen(self.theme.colour("ink"))
        painter.setFont(self.theme.font(13.5))
        title = self._title_rect(self._width(), text)
        tall = min(title.height(), self.theme.px(40))
        top = rect.top() + self.theme.px(4)
        room = QRect(rect.left() + 14, top, self._width() - 24, tall)
        painter.drawText(room, int(Qt.TextFlag.TextWordWrap), text)
        painter.setFont(self.theme.font(11.5))
        painter.setPen(self.theme.colour("mute"))
        below = QRect(room.left(), top + tall, room.width(), self.theme.px(16))
        elide = painter.fontMetrics().elidedText(index.data(SUBTITLE), Qt.TextElideMode.ElideRight, below.width())
        painter.drawText(below, 0, elide)
        painter.restore()

    def _paint_column(self, painter: QPainter, rect: QRect, name: str, about: str) -> None:
        """A column of the table above: its name, and at the right its unit or kind."""
        room = rect.adjusted(26, 0, -10, 0)
        middle = int(Qt.AlignmentFlag.AlignVCenter)
        painter.setFont(self.theme.font(11.5))
        painter.setPen(self.theme.colour("mute"))
        wide = painter.fontMetrics().horizontalAdvance(about)
        painter.drawText(room, middle | int(Qt.AlignmentFlag.AlignRight), about)
        painter.setFont(self.theme.font(12.5))
        painter.setPen(self.theme.colour("ink"))
        room = room.adjusted(0, 0, -wide - 8, 0)
        cut = painter.fontMetrics().elidedText(name, Qt.TextElideMode.ElideRight, room.width())
        painter.drawText(room, middle, cut)


class SideModel(QAbstractListModel):
    """What is listed: a target (None for a heading), a title and what stands below it.

    A model of its own, since items of a QListWidget are kept by two sides, which now and then free
    one twice.
    """

    lines: tuple[Line, ...] = ()

    def show_lines(self, lines: tuple[Line, ...]) -> None:
        self.beginResetModel()
        self.lines = lines
        self.endResetModel()

    def rowCount(self, parent=None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.lines)

    def data(self, index, role=Qt.ItemDataRole.DisplayRole):
        if not index.isValid() or index.row() >= len(self.lines):
            return None
        target, title, subtitle = self.lines[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            return title
        if role == SUBTITLE:
            return subtitle
        if role == Qt.ItemDataRole.ToolTipRole and target is not None:
            return hover_text(title) if len(title) > 26 else None
        if role == Qt.ItemDataRole.AccessibleTextRole and target is not None:
            return f"{title}, {subtitle}"
        return None

    def flags(self, index) -> Qt.ItemFlag:
        if not index.isValid() or self.target(index) is None:
            return Qt.ItemFlag.NoItemFlags
        usual = Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable
        return usual | Qt.ItemFlag.ItemIsDragEnabled

    def target(self, index) -> Target | None:
        """What the line at an index stands for; None for a heading, or none at all."""
        here = index.isValid() and index.row() < len(self.lines)
        return self.lines[index.row()][0] if here else None

    def mimeTypes(self) -> list[str]:
        return [COLUMN_MIME]


class SideList(QListView):
    chosen = Signal(object)
    column_wanted = Signal(str, str, str)
    """The zone of the picture that it is to go to (empty: show it), its table, its name."""
    beside_wanted = Signal(str)
    """An entry is to stand beside the one that is shown."""
    rename_wanted = Signal(object)
    remove_wanted = Signal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("left")
        self.theme = theme
        self.lines = SideModel(self)
        self.setModel(self.lines)
        self.setItemDelegate(SideDelegate(theme, self))
        self.setResizeMode(QListView.ResizeMode.Adjust)  # titles need fewer lines in a wider list
        self.setAccessibleName("tables, entries and report")
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setContextMenuPolicy(Qt.ContextMenuPolicy.CustomContextMenu)
        self.customContextMenuRequested.connect(self._menu)
        self._filling = False
        self._study: Study | None = None
        self._names: dict[str, tuple[Entry, Table | None, str]] = {}
        self._open = ""
        self.setDragEnabled(True)
        self.setDragDropMode(QListView.DragDropMode.DragOnly)
        self.activated.connect(self._activated)
        theme.changed.connect(self.scheduleDelayedItemsLayout)

    def show_study(self, study: Study, current: Target | None) -> None:
        """Lists what the study holds and marks what is shown."""
        self._study, self._open = study, _table_behind(study, current)
        lines = tuple(self._lines(study))
        if lines != self.lines.lines:  # most changes are to values, which are not told here
            self._filling = True
            self.lines.show_lines(lines)
            self._filling = False
        self.mark(current)

    def _lines(self, study: Study) -> Iterator[Line]:
        yield None, "Tables", ""
        for table in study.tables:
            size = f"{counted(table.rows, 'row')} · {counted(len(table.columns), 'column')}"
            yield ("table", table.name), table.name, size
            if table.name == self._open:
                for column in table.columns[:MOST_COLUMNS]:
                    yield ("column", column.name), column.name, column.unit or str(column.kind)
                more = len(table.columns) - MOST_COLUMNS
                if more > 0:
                    said = f"and {counted(more, 'column')} more"
                    yield ("table", table.name), said, "shows the table"
        if study.entries:
            yield None, "Entries", ""
        for entry in study.entries:
            label = verbs()[entry.statement.verb].label
            yield ("entry", entry.id), self._name(study, entry), label
        yield None, "Report", ""
        placed = sum(isinstance(block, EntryBlock) for block in study.report)
        said = f"{counted(placed, 'entry')} placed" if study.report else "nothing placed yet"
        yield ("report", ""), study.title or "Report", said

    def _name(self, study: Study, entry: Entry) -> str:
        """The name of an entry, asked anew only where it or its table is another."""
        table = study.by_name.get(entry.statement.table)
        known = self._names.get(entry.id)
        if known is None or known[0] is not entry or known[1] is not table:
            known = self._names[entry.id] = entry, table, entry.name(study.by_name)
        return known[2]

    def place(self, target: Target) -> int:
        """The first line that stands for a target; -1 where none does."""
        return next((at for at, line in enumerate(self.lines.lines) if line[0] == target), -1)

    def mark(self, target: Target | None) -> None:
        """Marks what is shown without telling that it was chosen."""
        if self._study is not None and _table_behind(self._study, target) != self._open:
            # not while the list is still telling which of its lines was chosen
            self._open = _table_behind(self._study, target)
            QTimer.singleShot(0, lambda: self._refill(target))
        self._filling = True
        at = -1 if target is None else self.place(target)
        self.setCurrentIndex(self.lines.index(at) if at >= 0 else QModelIndex())
        self._filling = False

    def _refill(self, target: Target | None) -> None:
        if self._study is not None and _table_behind(self._study, target) == self._open:
            self.show_study(self._study, target)

    def currentChanged(self, current, previous) -> None:
        super().currentChanged(current, previous)
        target = self.lines.target(current)
        if target and not self._filling and target[0] != "column":
            self.chosen.emit(target)

    def _activated(self, index) -> None:
        target = self.lines.target(index)
        if target and target[0] == "column":
            self.column_wanted.emit("", self._open, target[1])

    def mime_of(self, index) -> QMimeData | None:
        """What is dragged from a line: a column; None from any other."""
        target = self.lines.target(index)
        return column_mime(self._open, target[1]) if target and target[0] == "column" else None

    def startDrag(self, actions) -> None:
        data = self.mime_of(self.currentIndex())
        if data is not None:
            drag = QDrag(self)
            drag.setMimeData(data)
            drag.exec(actions)

    def _menu(self, at) -> None:
        target = self.lines.target(self.indexAt(at))
        if target:
            self.menu_for(target).exec(self.viewport().mapToGlobal(at))

    def menu_for(self, target: Target) -> QMenu:
        """What can be done with what is listed."""
        what, key = target
        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        if what == "column":
            for zone, words in _ZONES:
                menu.addAction(words, lambda z=zone: self.column_wanted.emit(z, self._open, key))
            return menu
        if what == "entry":
            menu.addAction("Put it beside", lambda: self.beside_wanted.emit(key))
        menu.addAction("Rename", lambda: self.rename_wanted.emit(target))
        if what != "report":
            menu.addAction("Remove", lambda: self.remove_wanted.emit(target))
        return menu

    def keyPressEvent(self, event) -> None:
        target = self.lines.target(self.currentIndex())
        sort = target[0] if target else "column"
        if event.key() == Qt.Key.Key_Delete and sort not in ("report", "column"):
            self.remove_wanted.emit(target)
        elif event.key() == Qt.Key.Key_F2 and sort != "column":
            self.rename_wanted.emit(target)
        else:
            super().keyPressEvent(event)


_ZONES = (
    ("axis", "Put it on the axis"),
    ("panels", "A panel for each of its levels"),
    ("key", "Colour by it"),
    ("", "Show it in the table"),
)


def _table_behind(study: Study, target: Target | None) -> str:
    """The table whose columns are listed: that of the entry shown."""
    if target is None or target[0] != "entry":
        return ""
    entry = next((entry for entry in study.entries if entry.id == target[1]), None)
    table = entry.statement.table if entry else ""
    return table if table in study.by_name else ""
