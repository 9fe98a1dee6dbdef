"""The selected column: name, unit, kind, meaning, a small picture, and what to ask about it."""

from __future__ import annotations

from dataclasses import replace
from functools import cached_property
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLineEdit, QMessageBox, QPushButton, QVBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import LinkButton, button, clear, column, form, heading, mute, prose
from theoros.engine.tasks.columns import ColumnFacts
from theoros.study import edits
from theoros.table.changes import lost_by
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import offers
from theoros.verbs.core.slots import Option

if TYPE_CHECKING:
    from theoros.desk.parts.formula_edit import FormulaEdit
    from theoros.desk.parts.picture_view import PictureView
    from theoros.desk.sheet.levels_list import LevelsList

KIND_HELP = {
    Kind.NUMBER: "Measured or counted; can be averaged.",
    Kind.CATEGORY: "Levels without an order.",
    Kind.ORDERED: "Levels in an order.",
    Kind.DATE: "Days, such as 2026-04-30.",
    Kind.TEXT: "Names and remarks; left out of analyses.",
}


class ColumnPane(QWidget):
    statement_wanted = Signal(object)
    new_column_wanted = Signal()
    row_by_row_wanted = Signal()
    sheet_wanted = Signal()
    """What there was to type here is typed: back to the cells."""

    def __init__(self, session: Session, theme: Theme, engine: Engine) -> None:
        super().__init__()
        self.setObjectName("reading")
        self.session, self.theme, self.engine = session, theme, engine
        self.setAccessibleName("Column")
        self.table_name, self.column_name = "", ""
        layout: QVBoxLayout = column()
        self.setLayout(layout)
        layout.addWidget(heading("Column", theme))
        fields = form()
        self.name, self.unit, self.meaning = QLineEdit(), QLineEdit(), QLineEdit()
        self.kind = QPushButton()
        self.kind.setStyleSheet("text-align: left;")
        self.kind.clicked.connect(self._choose_kind)
        for text, field in (("Name", self.name), ("Unit", self.unit), ("Kind", self.kind), ("Meaning", self.meaning)):
            label = mute(text)
            label.setFixedWidth(76)
            label.setBuddy(field)
            field.setAccessibleName(f"Column {text.lower()}")
            fields.addRow(label, field)
        for line in (self.name, self.unit, self.meaning):
            line.editingFinished.connect(self._typed)
        self._fields = fields
        for line, after in ((self.name, self.unit), (self.unit, self.meaning), (self.meaning, None)):
            line.returnPressed.connect(lambda to=after: self._on(to))
        layout.addLayout(fields)
        self.picture_place = QVBoxLayout()
        layout.addLayout(self.picture_place)
        self.figures = QGridLayout()
        self.figures.setContentsMargins(8, 0, 8, 0)
        self.figures.setVerticalSpacing(8)
        layout.addLayout(self.figures)
        self.levels_place = QVBoxLayout()
        layout.addLayout(self.levels_place)
        self.asks = column(margins=(0, 4, 0, 0), spacing=2)
        layout.addLayout(self.asks)
        row = QHBoxLayout()
        row.addWidget(button("Row by row", self.row_by_row_wanted.emit))
        row.addWidget(button("New column", self.new_column_wanted.emit))
        row.addStretch()
        layout.addLayout(row)
        layout.addStretch(1)
        engine.stepped.connect(self._worked)

    @cached_property
    def picture(self) -> PictureView:
        """The small picture of a number, built when a number is first shown."""
        from theoros.desk.parts.picture_view import PictureView

        view = PictureView(self.theme, self._row_text)
        view.setFixedHeight(self.theme.px(165))
        view.setAccessibleName("picture of the column")
        session = self.session
        view.swept.connect(lambda rows, add: session.select(self.table_name, rows))
        session.selection_changed.connect(self._selected)
        self.picture_place.addWidget(view)
        return view

    def _selected(self, table: str) -> None:
        if table == self.table_name:
            self.picture.select(self.session.selection(table))

    @cached_property
    def levels(self) -> LevelsList:
        """The levels of a category, built when one is first shown."""
        from theoros.desk.sheet.levels_list import LevelsList

        made = LevelsList(self.theme)
        made.ordered.connect(self._order_levels)
        made.named.connect(self._name_level)
        self.levels_place.addWidget(made)
        return made

    @cached_property
    def formula(self) -> FormulaEdit:
        """The formula of a live column, built when one is first shown."""
        from theoros.desk.parts.formula_edit import FormulaEdit

        made = FormulaEdit("", ())
        made.setAccessibleName("Column formula")
        made.returnPressed.connect(self._typed_formula)
        self.formula_label = mute("Formula")
        self.formula_label.setFixedWidth(76)
        self._fields.addRow(self.formula_label, made)
        self.keep_values = button("Keep its values as they are", self._keep_values)
        self._fields.addRow(mute(""), self.keep_values)
        return made

    def _show_formula(self, table: Table | None, about: Column | None) -> None:
        live = about is not None and bool(about.formula)
        if not live and "formula" not in self.__dict__:
            return
        for part in (self.formula, self.formula_label, self.keep_values):
            part.setVisible(live)
        if live and about is not None and table is not None:
            self.formula.columns = tuple(name for name in table.by_name if name != about.name)
            if self.formula.text() != about.formula:
                self.formula.setText(about.formula)
                self.formula.setCursorPosition(0)

    def _hide_picture(self) -> None:
        if "picture" in self.__dict__:
            self.picture.hide()

    def show_column(self, table_name: str, column_name: str) -> None:
        self.table_name, self.column_name = table_name, column_name
        table = self._table
        about = table.by_name.get(column_name) if table else None
        for field in (self.name, self.unit, self.kind, self.meaning):
            field.setEnabled(about is not None)
        for line, text in (
            (self.name, about.name if about else ""),
            (self.unit, about.unit if about else ""),
            (self.meaning, about.meaning if about else ""),
        ):
            if line.text() != text:
                line.setText(text)
                line.setCursorPosition(0)
        self.kind.setText(f"{about.kind} ▾" if about else "")
        self._show_formula(table, about)
        if "levels" in self.__dict__ and (about is None or not about.kind.is_grouping):
            self.levels.hide()
        clear(self.asks)
        if about is None or table is None:
            self._show_figures(())
            self._hide_picture()
            return
        if about.kind is not Kind.NUMBER:
            self._hide_picture()
        self.engine.run("column", ColumnFacts(table.name, about.name), {table.name: table}, table)

    @property
    def _table(self) -> Table | None:
        return self.session.study.by_name.get(self.table_name)

    def _worked(self, key: str, facts: Any, of: object) -> None:
        if key != "column":
            return
        table, name = self._table, facts.name
        if name == self.column_name and table is of and table is not None:
            clear(self.asks)
            self._ask(table, table.column(name))
            self._hide_picture()
            if facts.picture is not None:
                self.picture.show()
                self.picture.show_picture(facts.picture, glide=False)
                self.picture.select(self.session.selection(self.table_name))
            self._show_figures(facts.figures)
            if facts.levels is not None:
                fixed = bool(table.column(name).formula)
                self.levels.show_levels(facts.levels, fixed=fixed)
                self.levels.show()
            elif "levels" in self.__dict__:
                self.levels.hide()

    def _show_figures(self, figures: tuple[tuple[str, str], ...]) -> None:
        clear(self.figures)
        for row, (label, text) in enumerate(figures):
            self.figures.addWidget(mute(label), row, 0)
            value = prose(text, self.theme)
            value.setWordWrap(False)
            self.figures.addWidget(value, row, 1, Qt.AlignmentFlag.AlignRight)
            self.figures.setColumnStretch(0, 1)

    def _ask(self, table: Table, about: Column) -> None:
        self.asks.addWidget(heading("Ask about it", self.theme))
        said = ""
        if about.name == table.counts:
            said = "Rows count as often as this column says; ask about the other columns."
        elif about.kind is not Kind.NUMBER and not about.kind.is_grouping:
            said = f"A {about.kind} column is kept with the rows. Change its kind to ask about it."
        if said:
            self.asks.addWidget(prose(said, self.theme, 13, tone="mute"))
            return
        wanted = self.statement_wanted.emit
        for offer in offers(table, about):
            made = offer.statement
            self.asks.addWidget(LinkButton(offer.text, lambda s=made: wanted(s), self.theme))

    # changes

    def _typed(self) -> None:
        table = self._table
        about = table.by_name.get(self.column_name) if table else None
        if table is None or about is None:
            return
        new = replace(about, name=self.name.text(), unit=self.unit.text().strip(), meaning=self.meaning.text().strip())
        if new == about:
            return
        self.column_name = " ".join(new.name.split()) or about.name
        if not self.session.do(edits.ChangeColumn(table.name, about.name, new)):
            self.column_name = about.name
            self.name.setText(about.name)

    def focus_name(self) -> None:
        """Puts the cursor into the name, all of it selected."""
        self.name.setFocus()
        self.name.selectAll()

    def _on(self, field: QLineEdit | None) -> None:
        """After Enter: to the next field, and from the last back to the cells."""
        if field is None:
            self.sheet_wanted.emit()
        else:
            field.setFocus()
            field.selectAll()

    def _typed_formula(self) -> None:
        table = self._table
        about = table.by_name.get(self.column_name) if table else None
        text = self.formula.text().strip()
        if table is None or about is None or text == about.formula:
            return
        if not text:
            self._keep_values()
            return
        changed = edits.ChangeColumn(table.name, about.name, replace(about, formula=text))
        done = self.session.do(changed)
        self.formula.setProperty("wrong", not done)
        self.formula.style().polish(self.formula)

    def _keep_values(self) -> None:
        """The column no longer follows; its values stay."""
        table = self._table
        about = table.by_name.get(self.column_name) if table else None
        if table is not None and about is not None:
            self.session.do(edits.ChangeColumn(table.name, about.name, replace(about, formula="")))

    def _order_levels(self, levels: tuple[str, ...]) -> None:
        if self._table is not None:
            self.session.do(edits.OrderLevels(self.table_name, self.column_name, levels))

    def _name_level(self, old: str, new: str) -> None:
        table = self._table
        if table is None:
            return
        merged = new in table.levels(self.column_name)
        done = self.session.do(edits.RecodeLevels(table.name, self.column_name, ((old, new),)))
        if done and merged:
            self.session.noted.emit(f"{old} and {new} are now one level, {new}. Ctrl+Z separates them.")

    def _choose_kind(self) -> None:
        table = self._table
        if table is None or self.column_name not in table.by_name:  # it went while the pane was open
            return
        options = tuple(Option(str(kind), str(kind), help=KIND_HELP[kind]) for kind in Kind)
        now = str(table.column(self.column_name).kind)
        from theoros.desk.parts.pickers import PickList

        popup = PickList(self.theme, options, now, "kind", self.set_kind, self)
        popup.open_at(self.kind.mapToGlobal(QPoint(0, self.kind.height() + 2)))

    def set_kind(self, name: str) -> None:
        """Changes the kind, after saying which values would be lost."""
        table = self._table
        if table is None or self.column_name not in table.by_name:
            return
        about, kind = table.column(self.column_name), Kind(name)
        lost = lost_by(table, about.name, kind)
        if lost:
            shown = [f"row {row + 1} ({table.value(row, about.name)})" for row in lost[:6]]
            more = [f"{len(lost) - 6} more"] if len(lost) > 6 else []
            question = QMessageBox(self)
            question.setWindowTitle("Change the kind")
            question.setText(
                f"{counted(len(lost), 'value')} of {about.name} "
                f"{'is' if len(lost) == 1 else 'are'} not a {kind} and would become missing: "
                f"{listed_briefly([*shown, *more], 8)}."
            )
            make_missing = question.addButton("Make them missing", QMessageBox.ButtonRole.AcceptRole)
            question.addButton("Stop", QMessageBox.ButtonRole.RejectRole)
            question.exec()
            if question.clickedButton() is not make_missing:
                return
        self.session.do(edits.ChangeColumn(table.name, about.name, replace(about, kind=kind)))

    def _row_text(self, row: int) -> str:
        return row_text(self._table, row)


def row_text(table: Table | None, row: int) -> str:
    """A row with all its values and units, for hovering."""
    if table is None or row >= table.rows:
        return ""
    lines = [f"row {row + 1}"]
    for about in table.columns:
        value = table.value(row, about.name)
        text = "missing" if value is None else str(value)
        if isinstance(value, float):
            text = f"{value:.{table.decimals(about.name)}f}"
        lines.append(f"{about.name}: {text} {about.unit if value is not None else ''}".rstrip())
    return "\n".join(lines)
