"""Slots in rows and columns below a sentence, walked as the cells of a sheet are."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QLabel, QLineEdit, QSizePolicy, QWidget

from theoros.desk.parts.input_fields import Field, NumberField, field_of
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import clear, mute
from theoros.verbs.core.slots import Slot, SlotGrid

CELL_WIDTH, NAME_WIDTH = 92, 150
LEAST_CELL, LEAST_NAME = 52, 90
"""Where the page is narrow."""


class GridView(QWidget):
    """A field for each slot. Tab goes along the rows, Enter and the arrows up and down."""

    slot_set = Signal(str, object)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.grid: SlotGrid | None = None
        self.fields: dict[tuple[int, int], Field] = {}
        self._texts: dict[tuple[int, int], QLabel] = {}
        self._layout = QGridLayout(self)
        self._layout.setContentsMargins(0, 6, 0, 6)
        self._layout.setHorizontalSpacing(6)
        self._layout.setVerticalSpacing(4)
        self.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self._rethemed)
        self.hide()

    def show_grid(self, grid: SlotGrid | None) -> None:
        """Shows a grid; where only values changed, the focus stays in its field."""
        before, self.grid = self.grid, grid
        self.setVisible(grid is not None)
        if grid is None:
            return
        if before is None or _shape(before) != _shape(grid):
            self._build(grid)
            return
        for (row, column), label in self._texts.items():
            label.setText(str(grid.rows[row][column]))
        for (row, column), field in self.fields.items():
            slot = grid.rows[row][column]
            assert isinstance(slot, Slot)
            field.show_slot(slot)

    def _rethemed(self) -> None:
        if self.grid:
            self._build(self.grid)

    def _build(self, grid: SlotGrid) -> None:
        at = self._at()
        clear(self._layout)
        self.fields, self._texts = {}, {}
        self.setAccessibleName(grid.label)
        for column, name in enumerate(grid.columns):
            self._layout.addWidget(mute(name), 0, column, _side(bool(column)))
        for row, cells in enumerate(grid.rows):
            for column, cell in enumerate(cells):
                if isinstance(cell, str):
                    side = _side(bool(column)) | Qt.AlignmentFlag.AlignVCenter
                    self._texts[row, column] = mute(cell)
                    self._layout.addWidget(self._texts[row, column], row + 1, column, side)
                    continue
                field = field_of(cell, self.slot_set.emit, self.theme)
                field.setMaximumWidth(self.theme.px(CELL_WIDTH if column else NAME_WIDTH))
                field.setMinimumWidth(self.theme.px(LEAST_CELL if column else LEAST_NAME))
                if isinstance(field, QLineEdit):
                    field.setAlignment(_side(isinstance(field, NumberField)))
                field.installEventFilter(self)
                self._layout.addWidget(field, row + 1, column)
                self.fields[row, column] = field
        if at in self.fields:
            self.fields[at].setFocus()

    def field(self, name: str) -> Field | None:
        """The field of a slot."""
        return next((one for one in self.fields.values() if one.slot.name == name), None)

    def _at(self) -> tuple[int, int] | None:
        return next((at for at, one in self.fields.items() if one.hasFocus()), None)

    def eventFilter(self, watched, event) -> bool:
        if event.type() != event.Type.KeyPress:
            return False
        by = {Qt.Key.Key_Return: 1, Qt.Key.Key_Enter: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Up: -1}
        at, step = self._at(), by.get(event.key(), 0)
        if at is None or not step:
            return False
        to = at[0] + step, at[1]
        if to not in self.fields:
            return False  # Enter in the last row sets its value, and stays
        self.fields[to].setFocus(Qt.FocusReason.TabFocusReason)  # what is left sets its value
        if isinstance(self.fields[to], QLineEdit):
            self.fields[to].selectAll()
        return True


def _side(numeric: bool) -> Qt.AlignmentFlag:
    return Qt.AlignmentFlag.AlignRight if numeric else Qt.AlignmentFlag.AlignLeft


def _shape(grid: SlotGrid) -> tuple[object, ...]:
    """What a grid is built of: its headings, the places of its texts and the names of its slots."""
    return grid.columns, tuple(tuple(cell.name if isinstance(cell, Slot) else "" for cell in row) for row in grid.rows)
