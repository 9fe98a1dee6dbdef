"""Finding and replacing in the cells of a table: a line above the sheet."""

from __future__ import annotations

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QLineEdit, QPushButton, QVBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.answer.wording import whole
from theoros.desk.parts.widgets import PlainLabel, button, set_tone
from theoros.desk.sheet.sheet import Sheet
from theoros.study import edits
from theoros.table.searching import Search, find_cells
from theoros.table.table import Table

TYPING_MS = 200


class FindBar(QWidget):
    """Enter finds the next cell, Shift+Enter the one before, Esc closes."""

    def __init__(self, sheet: Sheet) -> None:
        super().__init__()
        self.sheet = sheet
        self.setAccessibleName("find and replace in the table")
        self._found: list[tuple[int, int]] = []
        self._of: tuple[Table, Search] | None = None
        self._pause = QTimer(self, singleShot=True, interval=TYPING_MS)
        self._pause.timeout.connect(self._look)
        lines = QVBoxLayout(self)
        lines.setContentsMargins(0, 0, 0, 0)
        lines.setSpacing(4)
        row, second = QHBoxLayout(), QHBoxLayout()
        for line in (row, second):
            line.setSpacing(6)
            lines.addLayout(line)
        self.text = self._field("Find in cells", row)
        self.text.installEventFilter(self)
        self.text.textChanged.connect(self._typing)
        self.next = self._button("Next", lambda: self.go(1), row)
        self.previous = self._button("Previous", lambda: self.go(-1), row)
        self.whole = QCheckBox("whole cell")
        self.case = QCheckBox("capitals matter")
        for box in (self.whole, self.case):
            box.toggled.connect(lambda _: self._look())
            row.addWidget(box)
        self.by = self._field("Replace with", second)
        self.one = self._button("Replace", self.replace_one, second)
        self.all = self._button("Replace all", self.replace_all, second)
        second.addStretch()
        self.told = PlainLabel()
        self.told.setProperty("tone", "mute")
        row.addWidget(self.told, 1)
        close = button("✕", self.close_bar)
        close.setAccessibleName("close finding")
        row.addWidget(close)
        self.hide()

    def _field(self, name: str, row: QHBoxLayout) -> QLineEdit:
        field = QLineEdit()
        field.setPlaceholderText(name)
        field.setAccessibleName(name)
        field.setFixedWidth(170)
        row.addWidget(field)
        return field

    def _button(self, text: str, action, row: QHBoxLayout) -> QPushButton:
        made = button(text, action)
        row.addWidget(made)
        return made

    def open_bar(self, *, replacing: bool = False) -> None:
        """Shows the line with the cursor in it; with what is selected in one cell as the text."""
        for widget in (self.by, self.one, self.all):
            widget.setVisible(replacing)
        self.show()
        self.text.setFocus()
        self.text.selectAll()
        self._look()

    def close_bar(self) -> None:
        self.hide()
        self.sheet.setFocus()

    @property
    def search(self) -> Search:
        return Search(self.text.text(), self.whole.isChecked(), self.case.isChecked())

    def _typing(self, text: str) -> None:
        """What is typed is looked for after a pause, or at once when it is asked for."""
        self._enable(bool(text))
        self._pause.start()

    def _enable(self, able: bool) -> None:
        for one in (self.next, self.previous, self.one, self.all):
            one.setEnabled(able)

    def _look(self) -> list[tuple[int, int]]:
        """Finds all cells, if what is looked for or the table is another than before."""
        self._pause.stop()
        table, search = self.sheet.sheet_model.table, self.search
        if table is None or not search.text:
            self._found, self._of = [], None
            self._say("")
            return []
        if self._of is None or self._of[0] is not table or self._of[1] != search:
            self._found, self._of = find_cells(table, search), (table, search)
        self._say(f"{counted(len(self._found), 'cell')}" if self._found else "nowhere")
        return self._found

    def _say(self, text: str) -> None:
        self.told.setText(text)
        set_tone(self.told, "warn" if text == "nowhere" else "mute")
        self._enable(bool(self._found))

    def go(self, step: int) -> None:
        """To the next cell, or the one before; from the end on from the beginning."""
        found = self._look()
        if not found:
            return
        at = self.sheet.currentIndex()
        here = (at.row(), at.column())
        if step > 0:
            place = next((k for k, cell in enumerate(found) if cell > here), 0)
        else:
            before = [k for k, cell in enumerate(found) if cell < here]
            place = before[-1] if before else len(found) - 1
        self.sheet.setCurrentIndex(self.sheet.sheet_model.index(*found[place]))
        self.told.setText(f"{whole(place + 1)} of {counted(len(found), 'cell')}")

    def replace_one(self) -> None:
        """Replaces in the current cell if it was found, and goes on to the next."""
        at, found = self.sheet.currentIndex(), self._look()
        if (at.row(), at.column()) in set(found):
            model = self.sheet.sheet_model
            text = self.search.replaced(model.text(at.row(), at.column()), self.by.text())
            if not model.set_block(at.row(), at.column(), ((text,),)):
                return
        self.go(1)

    def replace_all(self) -> None:
        table, search = self.sheet.sheet_model.table, self.search
        count = len(self._look())
        if table is None or not count:
            return
        edit = edits.ReplaceText(table.name, search.text, self.by.text(), search.whole, search.case)
        if self.sheet.session.do(edit):
            self._look()
            self.told.setText(f"replaced in {counted(count, 'cell')}")

    def eventFilter(self, watched, event) -> bool:
        if event.type() == event.Type.KeyPress and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            back = event.modifiers() & Qt.KeyboardModifier.ShiftModifier
            self.go(-1 if back else 1)
            return True
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close_bar()
        else:
            super().keyPressEvent(event)
