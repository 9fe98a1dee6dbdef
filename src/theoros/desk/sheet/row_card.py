"""Row by row: one row as a card of named fields, to type cases in or to read them."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCompleter, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, button, clear, column, form, heading, mute, say_on_hover
from theoros.study import edits
from theoros.table.table import Column, Table

MOST_FIELDS = 200


class RowField(QLineEdit):
    """One value. Enter goes on to the next field, Page Up and Page Down to another row."""

    left = Signal()

    def __init__(self, card: RowCard, place: int, about: Column) -> None:
        super().__init__()
        self.card, self.place, self.about = card, place, about
        unit = f" in {about.unit}" if about.unit else ""
        self.setAccessibleName(f"{about.name}{unit}, {about.kind}")
        say_on_hover(self, about.meaning)
        self.edited = False
        self.textEdited.connect(self._note)
        if about.formula:
            self.setReadOnly(True)
            say_on_hover(self, f"calculated by {about.formula}")

    def _note(self) -> None:
        # a completion sets the text anew, which Qt no longer counts as modified
        self.edited = True

    def keyPressEvent(self, event) -> None:
        key = event.key()
        popup = self.completer().popup() if self.completer() else None
        open_list = popup is not None and popup.isVisible()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not open_list:
            self.card.go_on(self)
        elif key == Qt.Key.Key_PageDown:
            self.card.step(1)
        elif key == Qt.Key.Key_PageUp:
            self.card.step(-1)
        elif key == Qt.Key.Key_Down and not open_list:
            self.card.focus_field(self.place + 1)
        elif key == Qt.Key.Key_Up and not open_list:
            self.card.focus_field(self.place - 1)
        elif key == Qt.Key.Key_Escape:
            self.card.put_back(self)
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event) -> None:
        super().focusOutEvent(event)
        if event.reason() != Qt.FocusReason.PopupFocusReason:
            self.card.take(self)


class RowCard(QWidget):
    """The fields of one row. What is typed is an edit like typing in the sheet."""

    row_shown = Signal(int)
    closed = Signal()

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("reading")
        self.setAccessibleName("row by row")
        self.session, self.theme = session, theme
        self.table_name, self.row = "", 0
        self._columns: tuple[Column, ...] = ()
        self.fields: list[RowField] = []
        layout: QVBoxLayout = column()
        self.setLayout(layout)
        self.title = heading("Row by row", theme)
        layout.addWidget(self.title)
        steps = QHBoxLayout()
        steps.setSpacing(6)
        self.back = button("◂ Previous", lambda: self.step(-1))
        self.back.setToolTip("Page Up")
        self.forth = button("Next ▸", lambda: self.step(1))
        self.forth.setToolTip("Page Down")
        self.new = button("New", self.new_row)
        for one in (self.back, self.forth, self.new):
            steps.addWidget(one)
        steps.addStretch()
        layout.addLayout(steps)
        self._form = QVBoxLayout()
        layout.addLayout(self._form)
        self.hint = mute("Enter goes to the next field, and from the last one to the next row.")
        self.hint.setWordWrap(True)
        layout.addWidget(self.hint)
        row = QHBoxLayout()
        row.addWidget(button("Back to the column", self.closed.emit))
        row.addStretch()
        layout.addLayout(row)
        layout.addStretch(1)

    @property
    def _table(self) -> Table | None:
        return self.session.study.by_name.get(self.table_name)

    def show_row(self, table_name: str, row: int) -> None:
        """Shows a row of a table; the one behind the last is a new one, still empty."""
        table = self.session.study.by_name.get(table_name)
        self.table_name = table_name
        if table is None:
            return
        self.row = min(max(0, row), table.rows)
        if table.columns != self._columns or not self.fields:
            self._build(table)
        for field in self.fields:
            text = self._text(table, field.about)
            if field.text() != text and not (field.hasFocus() and field.edited):
                field.setText(text)
                field.edited = False
                field.setProperty("wrong", False)
                field.style().polish(field)
        new = self.row >= table.rows
        aside = "" if new or table.in_use[self.row] else ", not in use"
        self.title.setText(f"New {table.noun}" if new else f"Row {self.row + 1} of {table.rows}{aside}")
        self.back.setEnabled(self.row > 0)
        self.forth.setEnabled(self.row < table.rows)

    def _build(self, table: Table) -> None:
        place = next((f.place for f in self.fields if f.hasFocus()), None)
        clear(self._form)
        self._columns = table.columns
        self.fields = []
        fields = form()
        for at, about in enumerate(table.columns[:MOST_FIELDS]):
            field = RowField(self, at, about)
            if about.kind.is_grouping:
                completer = QCompleter(list(table.levels(about.name))[:200], field)
                completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
                completer.setCompletionMode(QCompleter.CompletionMode.InlineCompletion)
                field.setCompleter(completer)
            label = mute(about.name)
            label.setFixedWidth(self.theme.px(92))
            label.setWordWrap(True)
            label.setBuddy(field)
            line = QHBoxLayout()
            line.setSpacing(6)
            line.addWidget(field, 1)
            unit = PlainLabel(about.unit)
            unit.setProperty("tone", "mute")
            unit.setFixedWidth(self.theme.px(48))
            unit.setWordWrap(True)
            line.addWidget(unit)
            fields.addRow(label, line)
            self.fields.append(field)
        self._form.addLayout(fields)
        if len(table.columns) > MOST_FIELDS:
            rest = counted(len(table.columns) - MOST_FIELDS, "column")
            self._form.addWidget(mute(f"{rest} more in the table."))
        if place is not None and place < len(self.fields):
            self.fields[place].setFocus()

    def _text(self, table: Table, about: Column) -> str:
        if self.row >= table.rows or about.name not in table.by_name:
            return ""
        return table.cell_text(self.row, about.name)

    # typing

    def take(self, field: RowField) -> bool:
        """Puts what was typed into the table; False if it does not fit, and then it stays."""
        table = self._table
        if table is None or field.isReadOnly() or not field.edited:
            return True
        text = field.text()
        field.edited = False
        if text.strip() == self._text(table, field.about):
            return True
        done = self.session.do(edits.SetCells(table.name, self.row, field.place, ((text,),)))
        field.setProperty("wrong", not done)
        field.style().polish(field)
        field.edited = not done
        return done

    def put_back(self, field: RowField) -> None:
        table = self._table
        if table is not None:
            field.setText(self._text(table, field.about))
            field.edited = False
            field.setProperty("wrong", False)
            field.style().polish(field)

    def go_on(self, field: RowField) -> None:
        """After Enter: to the next field, from the last to the first of the next row."""
        if not self.take(field):
            return
        after = next((f for f in self.fields[field.place + 1 :] if not f.isReadOnly()), None)
        if after is not None:
            self.focus_field(after.place)
        else:
            self.step(1, first=True)

    def focus_field(self, place: int) -> None:
        if 0 <= place < len(self.fields):
            self.fields[place].setFocus()
            self.fields[place].selectAll()

    def step(self, by: int, *, first: bool = False) -> None:
        """Another row; the focus stays on its field, or goes to the first."""
        held = next((f for f in self.fields if f.hasFocus()), None)
        if held is not None and not self.take(held):
            return
        table = self._table
        if table is None:
            return
        row = min(max(0, self.row + by), table.rows)
        self.show_row(table.name, row)
        self.row_shown.emit(row)
        self.focus_field(0 if first or held is None else held.place)

    def new_row(self) -> None:
        """The empty row behind the last, with the cursor in the first field."""
        table = self._table
        if table is not None:
            self.show_row(table.name, table.rows)
            self.row_shown.emit(table.rows)
            self.focus_field(0)
