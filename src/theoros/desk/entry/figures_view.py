"""A table of figures: chosen rows stand out, rows can set a slot or select the rows behind."""

from __future__ import annotations

from PySide6.QtCore import QAbstractTableModel, QModelIndex, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QAbstractItemView,
    QMenu,
    QSizePolicy,
    QStyle,
    QStyledItemDelegate,
    QTableView,
)

from theoros.answer.parts import ResultTable
from theoros.answer.wording import to_plain
from theoros.desk.parts.clipboard import copy_figures
from theoros.desk.parts.theme import Theme

ROW_HEIGHT = 29
USUAL_WIDTH = 740
"""The room that figures have before they are laid out."""
LEAST_WORDS = 130


class FiguresModel(QAbstractTableModel):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.figures: ResultTable | None = None

    def show(self, figures: ResultTable) -> None:
        self.beginResetModel()
        self.figures = figures
        self.endResetModel()

    def rowCount(self, parent=None) -> int:
        return len(self.figures.rows) if self.figures else 0

    def columnCount(self, parent=None) -> int:
        return len(self.figures.headings) if self.figures else 0

    def headerData(self, section, orientation, role=Qt.ItemDataRole.DisplayRole):
        if orientation != Qt.Orientation.Horizontal or not self.figures:
            return None
        heading = self.figures.headings[section]
        if role == Qt.ItemDataRole.DisplayRole:
            label = to_plain(heading.label)
            return label.replace(" ", "\n") if heading.numeric else label
        if role == Qt.ItemDataRole.ToolTipRole:
            return heading.help or None
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return _align(heading.numeric)
        return None

    def data(self, index: QModelIndex, role=Qt.ItemDataRole.DisplayRole):
        if not self.figures:
            return None
        cell = self.figures.rows[index.row()].cells[index.column()]
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return to_plain(cell.text)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return _align(self.figures.headings[index.column()].numeric)
        if role == Qt.ItemDataRole.ToolTipRole:
            if cell.rows:
                return "Choose to select these rows"
            if isinstance(cell.value, str):
                return cell.value  # in full, where the cell has it cut
            return f"{cell.value!r}" if isinstance(cell.value, float) else to_plain(cell.text)
        if role == Qt.ItemDataRole.ForegroundRole:
            tone = cell.tone or ("seen" if cell.rows else "")
            return self.theme.colour(tone) if tone else None
        return None


class FiguresDelegate(QStyledItemDelegate):
    """Marks the chosen row with a wash and a bar at its left."""

    def __init__(self, theme: Theme, parent: QTableView) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(self, painter: QPainter, option, index) -> None:
        model = index.model()
        if model.figures.rows[index.row()].chosen:
            painter.fillRect(option.rect, self.theme.colour("wash"))
        option.state &= ~QStyle.StateFlag.State_HasFocus
        super().paint(painter, option, index)
        if model.figures.rows[index.row()].chosen and index.column() == 0:
            bar = option.rect.adjusted(0, 0, 3 - option.rect.width(), 0)
            painter.fillRect(bar, self.theme.colour("data"))
        view = self.parent()
        if view.hasFocus() and view.currentIndex().row() == index.row():
            painter.setPen(self.theme.colour("data"))
            painter.drawLine(option.rect.bottomLeft(), option.rect.bottomRight())


class FiguresView(QTableView):
    """As tall as its rows. Enter or a click on a row sets its slot or selects its rows."""

    slot_set = Signal(str, object)
    rows_wanted = Signal(object)
    statement_wanted = Signal(object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("figures")
        self.theme = theme
        self._model = FiguresModel(theme)
        self._natural: list[int] = []
        self.setModel(self._model)
        self.setItemDelegate(FiguresDelegate(theme, self))
        self.verticalHeader().hide()
        self.setShowGrid(False)
        self.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setTabKeyNavigation(False)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.horizontalHeader().setHighlightSections(False)
        self.clicked.connect(self._chosen)

    def make_room(self, figures: ResultTable) -> None:
        """Takes the height that these figures need; they are shown by `show_figures`."""
        self.setUpdatesEnabled(False)
        self.verticalHeader().setDefaultSectionSize(self.theme.px(ROW_HEIGHT))
        self._model.show(figures)
        self.setFixedHeight(self._height())
        self.show()

    def _height(self) -> int:
        head = self.horizontalHeader().sizeHint().height()
        return head + self.theme.px(ROW_HEIGHT) * self._model.rowCount() + 4

    def show_figures(self, figures: ResultTable) -> None:
        if self._model.figures is not figures:
            self.make_room(figures)
        self.setAccessibleName(figures.title or "figures")
        self.setShowGrid(False)
        header = self.horizontalHeader()
        header.setStretchLastSection(False)
        self.resizeColumnsToContents()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignBottom)
        self._natural = [self.columnWidth(column) for column in range(len(figures.headings))]
        self._share_out()
        self.setUpdatesEnabled(True)

    def _share_out(self) -> None:
        """Shares what room is left between the columns, a little at least; sets the height."""
        figures = self._model.figures
        if figures is None:
            return
        room = self.width() if self.isVisible() else USUAL_WIDTH
        count = len(self._natural)
        extra = min(max((room - sum(self._natural)) // (count + 1), 4), 30)
        header = self.horizontalHeader()
        header.setStretchLastSection(False)
        for column, wide in enumerate(self._natural):
            self.setColumnWidth(column, wide + extra)
        # words at the end take what is left, where that is enough to read something
        words_last = not figures.headings[-1].numeric
        words_last &= room - sum(self._natural[:-1]) - count * extra > self.theme.px(LEAST_WORDS)
        header.setStretchLastSection(words_last)
        high = self._height()
        policy = Qt.ScrollBarPolicy.ScrollBarAsNeeded
        if words_last:  # those that do not fit are cut, and told in full on hovering
            policy = Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        elif sum(self._natural) + count * extra > room:
            high += 14  # room for the bar to scroll sideways
        self.setHorizontalScrollBarPolicy(policy)
        self.setFixedHeight(high)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self._share_out()

    def _chosen(self, index: QModelIndex) -> None:
        figures = self._model.figures
        assert figures is not None
        row = figures.rows[index.row()]
        cell = row.cells[index.column()]
        if cell.rows:
            self.rows_wanted.emit(cell.rows)
        elif row.sets:
            self.slot_set.emit(*row.sets)

    def contextMenuEvent(self, event) -> None:
        figures = self._model.figures
        by_mouse = event.reason() == event.Reason.Mouse
        at = self.indexAt(event.pos()) if by_mouse else None
        at = at if at is not None and at.isValid() else self.currentIndex()
        menu = QMenu(self)
        if figures and at.isValid():
            for link in figures.rows[at.row()].links:
                wanted = link.statement
                menu.addAction(link.label, lambda made=wanted: self.statement_wanted.emit(made))
            if figures.rows[at.row()].links:
                menu.addSeparator()
        menu.addAction("Copy the figures", self.copy)
        spot = event.globalPos()
        if not by_mouse and at.isValid():
            spot = self.viewport().mapToGlobal(self.visualRect(at).bottomLeft())
        menu.exec(spot)

    def keyPressEvent(self, event) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            if self.currentIndex().isValid():
                self._chosen(self.currentIndex())
            return
        super().keyPressEvent(event)

    def focusInEvent(self, event) -> None:
        super().focusInEvent(event)
        if not self.currentIndex().isValid() and self._model.rowCount():
            self.setCurrentIndex(self._model.index(0, 0))
        self.viewport().update()

    def copy(self) -> None:
        if self._model.figures:
            copy_figures(self._model.figures)


def _align(numeric: bool) -> int:
    side = Qt.AlignmentFlag.AlignRight if numeric else Qt.AlignmentFlag.AlignLeft
    return int(side | Qt.AlignmentFlag.AlignVCenter)
