"""A table of figures: chosen rows stand out, rows can set a slot or select the rows behind."""

from __future__ import annotations

from PySide6.QtCore import QAbstractTableModel, QEvent, QModelIndex, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QAbstractItemView,
    QLineEdit,
    QMenu,
    QSizePolicy,
    QStyle,
    QStyledItemDelegate,
    QTableView,
    QWidget,
)

from theoros.answer.parts import ResultTable
from theoros.answer.wording import to_plain
from theoros.desk.parts.clipboard import copy_figures
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import hover_text

ROW_HEIGHT = 29
USUAL_WIDTH = 740
"""The room that figures have before they are laid out."""
LEAST_WORDS = 130


class FiguresModel(QAbstractTableModel):
    typed = Signal(str, object)

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
            if not heading.numeric:
                return to_plain(heading.label)
            return _in_two_lines(heading.label)
        if role == Qt.ItemDataRole.ToolTipRole:
            return hover_text(heading.help) or None
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
                return hover_text(cell.value)  # in full, where the cell has it cut
            shown = hover_text(to_plain(cell.text))
            return f"{cell.value!r}" if isinstance(cell.value, float) else shown
        if role == Qt.ItemDataRole.ForegroundRole:
            tone = cell.tone or ("seen" if cell.rows else "")
            return self.theme.colour(tone) if tone else None
        if role == Qt.ItemDataRole.EditRole:
            return cell.value if isinstance(cell.value, str) else to_plain(cell.text)
        return None

    def flags(self, index: QModelIndex) -> Qt.ItemFlag:
        flags = super().flags(index)
        return flags | Qt.ItemFlag.ItemIsEditable if self.slot_at(index) else flags

    def slot_at(self, index: QModelIndex) -> str:
        """The slot that typing over a cell sets; empty for none."""
        if not self.figures or not index.isValid():
            return ""
        return self.figures.rows[index.row()].cells[index.column()].edits

    def setData(self, index: QModelIndex, value, role=Qt.ItemDataRole.EditRole) -> bool:
        """What was typed is told; the cell changes when the answer to it comes."""
        slot = self.slot_at(index)
        if not slot or value == self.data(index, Qt.ItemDataRole.EditRole):
            return False
        self.typed.emit(slot, value)
        return True


class FiguresDelegate(QStyledItemDelegate):
    """Marks the chosen row with a wash and a bar at its left."""

    def __init__(self, theme: Theme, parent: QTableView) -> None:
        super().__init__(parent)
        self.theme = theme

    def createEditor(self, parent, option, index) -> QWidget:
        editor = super().createEditor(parent, option, index)
        figures = index.model().figures
        name = to_plain(figures.headings[index.column()].label)
        row = to_plain(figures.rows[index.row()].cells[0].text)
        editor.setAccessibleName(f"{name}, {row}")
        return editor

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


def _in_two_lines(label: str) -> str:
    """A head over figures, broken where its halves are about as long; never at a hard space."""
    words = [to_plain(word) for word in label.split(" ")]
    halves = [(" ".join(words[:at]), " ".join(words[at:])) for at in range(1, len(words))]
    return "\n".join(min(halves, key=lambda half: max(map(len, half)))) if halves else words[0]


class FiguresView(QTableView):
    """As tall as its rows. Enter or a click on a row sets its slot or selects its rows."""

    slot_set = Signal(str, object)
    rows_wanted = Signal(object)
    statement_wanted = Signal(object)
    table_wanted = Signal(object)
    """These figures are to become a table of the study."""

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
        trigger = QAbstractItemView.EditTrigger
        self.setEditTriggers(trigger.DoubleClicked | trigger.EditKeyPressed | trigger.AnyKeyPressed)
        self._model.typed.connect(self._typed)
        self._next: tuple[int, int] | None = None
        self._measured: tuple[ResultTable, int] | None = None
        """The figures whose columns were fitted, and the height of a row then."""
        self.setTabKeyNavigation(False)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.horizontalHeader().setHighlightSections(False)
        self.clicked.connect(self._chosen)

    def make_room(self, figures: ResultTable) -> None:
        """Takes the height that these figures need; they are shown by `show_figures`."""
        if self._measured == (figures, self.theme.px(ROW_HEIGHT)):
            self.show()
            return
        self._measured = None
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
        if self._measured is not None:  # the same as they were, as of a draft before this one
            self._go_on()
            return
        self.setAccessibleName(figures.title or "figures")
        self.setShowGrid(False)
        header = self.horizontalHeader()
        header.setStretchLastSection(False)
        self.resizeColumnsToContents()
        header.setDefaultAlignment(Qt.AlignmentFlag.AlignBottom)
        self._natural = [self.columnWidth(column) for column in range(len(figures.headings))]
        self._share_out()
        self.setUpdatesEnabled(True)
        self._measured = figures, self.theme.px(ROW_HEIGHT)
        self._go_on()

    # typing into cells

    def _typed(self, slot: str, value: object) -> None:
        at = self.currentIndex()
        self._next = at.row() + 1, at.column()
        self.slot_set.emit(slot, value)

    def _go_on(self) -> None:
        """After a cell was typed, the one below is next; an empty one is opened at once."""
        if self._next is None or self._model.figures is None:
            return
        (row, column), self._next = self._next, None
        row = min(row, self._model.rowCount() - 1)
        index = self._model.index(row, column)
        self.setCurrentIndex(index)
        self.setFocus()
        if self._model.slot_at(index) and not self._model.data(index, Qt.ItemDataRole.EditRole):
            self.edit(index)

    def put_back(self, slot: str, text: object) -> None:
        """What was typed for a slot and refused is there again, to be put right."""
        self._next = None
        for row in range(self._model.rowCount()):
            for column in range(self._model.columnCount()):
                index = self._model.index(row, column)
                if self._model.slot_at(index) == slot:
                    self.setCurrentIndex(index)
                    self.edit(index)
                    for editor in self.viewport().findChildren(QLineEdit):
                        editor.setText(str(text))  # the one before it is on its way out
                    return

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
        elif cell.edits:
            self.edit(index)

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
        menu.addAction("Put them into a new table", lambda: self.table_wanted.emit(figures))
        spot = event.globalPos()
        if not by_mouse and at.isValid():
            spot = self.viewport().mapToGlobal(self.visualRect(at).bottomLeft())
        menu.exec(spot)

    def event(self, event) -> bool:
        override = event.type() == QEvent.Type.ShortcutOverride  # else F2 renames the entry
        if override and event.key() == Qt.Key.Key_F2 and self._model.slot_at(self.currentIndex()):
            event.accept()
            return True
        return super().event(event)

    def keyPressEvent(self, event) -> None:
        typing = self.state() == QAbstractItemView.State.EditingState
        if not typing and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            if self.currentIndex().isValid():
                self._chosen(self.currentIndex())
            return
        super().keyPressEvent(event)

    def focusInEvent(self, event) -> None:
        if not self.currentIndex().isValid() and self._model.rowCount():
            self.setCurrentIndex(self._first())
        super().focusInEvent(event)
        self.viewport().update()

    def _first(self) -> QModelIndex:
        """Where the focus comes in: at the cell that waits to be typed, else at the first."""
        last = self._model.rowCount() - 1
        for column in range(self._model.columnCount()):
            index = self._model.index(last, column)
            if self._model.slot_at(index):
                return index
        return self._model.index(0, 0)

    def copy(self) -> None:
        if self._model.figures:
            copy_figures(self._model.figures)


def _align(numeric: bool) -> int:
    side = Qt.AlignmentFlag.AlignRight if numeric else Qt.AlignmentFlag.AlignLeft
    return int(side | Qt.AlignmentFlag.AlignVCenter)
