"""The page that arranges a table: the sentence, and what the table would become, before it does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import fields, replace
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QHeaderView, QTableView, QVBoxLayout, QWidget

from theoros.answer.nouns import counted
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.session import Session
from theoros.desk.parts.statement_bar import StatementBar
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import LinkButton, PlainLabel, button, clear, column, heading, prose
from theoros.desk.parts.worker import Worker
from theoros.desk.sheet.sheet_header import HEADER_PLAIN, SheetHeader, header_words
from theoros.engine.tasks.arrangements import MOST_PREVIEWED, Preview, PreviewArrangement
from theoros.study import edits
from theoros.study.entries import Study
from theoros.table.kinds import Kind
from theoros.table.profile import Profile
from theoros.table.table import Table, TableError
from theoros.verbs.arrange.arrangement import Arrangement, arrangements
from theoros.verbs.core.json_values import StatementError

MOST_SHOWN = MOST_PREVIEWED
PREVIEW, APPLY = "preview", "apply"


class PreviewModel(QAbstractTableModel):
    """The first rows of a table that is not there yet. Columns that are new are marked."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.table: Table | None = None
        self.profiles: dict[str, Profile] = {}
        self._new: frozenset[str] = frozenset()

    def show(self, table: Table | None, before: Table | None) -> None:
        self.beginResetModel()
        self.table = table
        known = set(before.by_name) if before is not None else set()
        self._new = frozenset(set(table.by_name) - known) if table is not None else frozenset()
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if self.table is None else min(self.table.rows, MOST_SHOWN)

    def columnCount(self, parent: QModelIndex | None = None) -> int:
        return 0 if self.table is None else len(self.table.columns)

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if self.table is None:
            return None
        about = self.table.columns[index.column()]
        row = index.row()
        if role == Qt.ItemDataRole.DisplayRole:
            return self.table.cell_text(row, about.name) or "—"
        if role == Qt.ItemDataRole.TextAlignmentRole:
            right = about.kind is Kind.NUMBER
            side = Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft
            return int(side | Qt.AlignmentFlag.AlignVCenter)
        unused = not self.table.in_use[row]
        if role == Qt.ItemDataRole.ForegroundRole and unused:
            return self.theme.colour("mute")
        if role == Qt.ItemDataRole.BackgroundRole and about.name in self._new:
            return self.theme.colour("wash")
        if role == Qt.ItemDataRole.AccessibleTextRole:
            text = self.table.cell_text(row, about.name) or "missing"
            return f"{about.name}, row {row + 1}: {text}{', not in use' if unused else ''}"
        return None

    def headerData(self, section: int, orientation: Any, role: int = 0) -> Any:
        if self.table is None or role != Qt.ItemDataRole.DisplayRole:
            return None
        if orientation == Qt.Orientation.Horizontal:
            return self.table.columns[section].name
        used = bool(self.table.in_use[section])
        return str(section + 1) if used else f"({section + 1})"


class ArrangePage(QWidget):
    """An arrangement being put together. Nothing changes until it is applied."""

    changed = Signal()
    """Another statement is shown, or more is known of what it would make."""
    applied = Signal(str, str)
    """The table that it made or changed, and what is to be said of it."""
    left = Signal(str)
    """It is left without a change; the table it was about."""

    def __init__(self, session: Session, theme: Theme, engine: Engine, worker: Worker) -> None:
        """Previews come from the engine; what is applied is worked out on the worker."""
        super().__init__()
        self.setObjectName("page")
        self.session, self.theme, self.engine, self.worker = session, theme, engine, worker
        self.statement: Arrangement | None = None
        self.result: Preview | None = None
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 14)
        layout.setSpacing(8)
        self.bar = StatementBar(theme)
        self.bar.slot_set.connect(self.set_slot)
        self.bar.typing.connect(self._typing)
        layout.addWidget(self.bar)
        row = QHBoxLayout()
        self.apply_button = button("Arrange it", self.apply, main=True)
        self.apply_button.setToolTip("Ctrl+Return")
        row.addWidget(self.apply_button)
        row.addWidget(button("Leave as it is", self.leave))
        self.told = PlainLabel()
        self.told.setProperty("tone", "mute")
        self.told.setWordWrap(True)
        row.addWidget(self.told, 1)
        layout.addLayout(row)
        self.model = PreviewModel(theme)
        self.preview = QTableView()
        self.preview.setModel(self.model)
        self.header = SheetHeader(self.model, theme, self.preview)
        self.header.high = HEADER_PLAIN
        self.preview.setHorizontalHeader(self.header)
        self.preview.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.preview.setWordWrap(False)
        self.preview.setObjectName("sheet")
        self.preview.setAccessibleName("the table after it")
        layout.addWidget(self.preview, 1)
        engine.stepped.connect(self._previewed)
        engine.failed.connect(self._failed)
        worker.stepped.connect(self._stepped)
        worker.failed.connect(self._failed)
        theme.changed.connect(self._retheme)
        self._retheme()

    def _retheme(self) -> None:
        self.preview.verticalHeader().setDefaultSectionSize(self.theme.px(24.5))
        self.preview.verticalHeader().setFont(self.theme.font(12))
        self.header.setDefaultSectionSize(self.theme.px(101))

    # showing

    def show_statement(self, statement: Arrangement) -> None:
        """Shows an arrangement, and works out what it would make."""
        self.statement = statement
        self.bar.show_phrase(statement.phrase(self.session.study.by_name))
        self._preview(statement)
        self.changed.emit()

    def focus_first(self) -> None:
        """Puts the focus on the first slot that wants something, or the first of all."""
        slots = self.bar.slots_shown()
        if slots:
            next((one for one in slots if one.slot.problem), slots[0]).setFocus()

    def set_slot(self, name: str, value: object) -> None:
        if self.statement is None:
            return
        tables = self.session.study.by_name
        try:
            mended = self.statement.with_slot(name, value, tables)
        except StatementError as problem:
            self.bar.say(str(problem), "bad")
            return
        self.show_statement(mended.statement)
        if mended.notes:
            self.bar.say(" ".join(mended.notes), "warn")

    def _typing(self, name: str, text: str) -> None:
        """What is being typed is tried at once, without being set."""
        if self.statement is not None and name in {f.name for f in fields(self.statement)}:
            changes: dict[str, Any] = {name: text}
            self._preview(replace(self.statement, **changes))

    def _preview(self, statement: Arrangement) -> None:
        tables = self.session.study.by_name
        others = tuple(name for name in statement.draws_on if name in tables)
        self.apply_button.setEnabled(False)
        self.engine.run(PREVIEW, PreviewArrangement(statement, others), tables)

    def _previewed(self, key: str, made: Preview | TableError, _: object) -> None:
        if key != PREVIEW or self.statement is None:
            return
        if isinstance(made, TableError):
            self.result = None
            now = self.session.study.by_name.get(self.statement.table)
            self.model.show(now, now)  # as it is, to look at meanwhile
            self._say_problem(made)
        else:
            self.result = made
            before = self.session.study.by_name.get(self.statement.table)
            self.model.show(made.table, before)
            self._fit()
            self.apply_button.setEnabled(True)
            self._say_size(made, before)
            if self.bar.editor is None:
                self.bar.say("")
        self.changed.emit()

    def _say_problem(self, problem: TableError) -> None:
        from theoros.desk.parts.formula_edit import pointed
        from theoros.table.formula import FormulaError

        self.told.setText("")
        text = str(problem)
        typed = self.bar.editor.text().strip() if self.bar.editor is not None else ""
        formula = typed or str(getattr(self.statement, "formula", ""))
        if isinstance(problem, FormulaError) and formula:
            text = f"{text}  {pointed(formula, problem.at, problem.end)}"
        wanting = any(one.slot.problem for one in self.bar.slots_shown())
        self.bar.say(text, "mute" if wanting and not typed else "bad")

    def _say_size(self, made: Preview, before: Table | None) -> None:
        rows = counted(made.rows, "row")
        columns = counted(len(made.table.columns), "column")
        if before is not None and not made.new:
            same = (before.rows, len(before.columns)) == (made.rows, len(made.table.columns))
            if same:
                left = f"; {counted(made.used, 'row')} in use" if made.used < made.rows else ""
                self.told.setText(f"  {made.table.name} keeps its {rows} and {columns}{left}.")
                return
        was = f", now {before.rows} and {len(before.columns)}" if before and not made.new else ""
        shown = f"; the first {MOST_SHOWN} rows are shown" if made.rows > MOST_SHOWN else ""
        self.told.setText(f"  {made.table.name} would have {rows} and {columns}{was}{shown}.")

    def _fit(self) -> None:
        """Widths that show names and values, and the columns that are new in view."""
        table = self.model.table
        if table is None:
            return
        metrics = self.preview.fontMetrics()
        first_new = None
        for at, about in enumerate(table.columns[:60]):
            shown = range(min(table.rows, 30))
            texts = [
                f"{about.name}  ",
                header_words(about, table),
                *(table.cell_text(row, about.name) for row in shown),
            ]
            wide = max(metrics.horizontalAdvance(text) for text in texts) + 26
            self.preview.setColumnWidth(at, min(max(self.theme.px(78), wide), self.theme.px(240)))
            if first_new is None and about.name in self.model._new:
                first_new = at
        if first_new is not None and table.rows:
            self.preview.scrollTo(self.model.index(0, first_new))

    # doing

    def apply(self) -> None:
        """Does it, on the worker; the study takes it over as one step that can be undone."""
        if self.statement is None or not self.apply_button.isEnabled():
            return
        edit, study = edits.Arrange(self.statement), self.session.study
        result = self.result

        def steps() -> Iterator[object]:
            try:
                yield edit, study, edit.apply(study), result
            except ValueError as problem:
                yield edit, study, problem, result

        self.apply_button.setEnabled(False)
        self.worker.run(APPLY, steps)

    def _stepped(self, key: str, step: tuple[Any, ...]) -> None:
        if key == APPLY:
            self._applied(*step)

    def _applied(self, edit: edits.Arrange, before: Study, after: Study | ValueError, result: Preview | None) -> None:
        if isinstance(after, ValueError):
            self.bar.say(str(after), "bad")
            return
        if not self.session.took(edit, before, after):
            self.bar.say("The study was changed meanwhile. Look at the preview again.", "warn")
            self.show_statement(edit.statement)
            return
        name = result.table.name if result is not None else edit.statement.table
        notes = " ".join(result.notes) if result is not None else ""
        said = f"{name}: {edit.statement.line}. {notes}".strip()
        self.applied.emit(name, f"{said} Ctrl+Z undoes it.")

    def leave(self) -> None:
        if self.statement is not None:
            self.engine.cancel(PREVIEW)
            self.left.emit(self.statement.table)

    def _failed(self, key: str, message: str) -> None:
        if key in (PREVIEW, APPLY):
            self.bar.say(f"Something went wrong inside Theoros ({message}).", "bad")

    def keyPressEvent(self, event) -> None:
        control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        if control and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.apply()
        elif event.key() == Qt.Key.Key_Escape:
            self.leave()
        else:
            super().keyPressEvent(event)


class ArrangePane(QWidget):
    """Beside it: what the arrangement is for, what is to be said, and the other ones."""

    wanted = Signal(str)
    """Another arrangement, by name."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("reading")
        self.setAccessibleName("about this arrangement")
        self.theme = theme
        self._layout: QVBoxLayout = column()
        self.setLayout(self._layout)

    def show_arrangement(self, statement: Arrangement, result: Preview | None) -> None:
        clear(self._layout)
        add = self._layout.addWidget
        add(heading(statement.label, self.theme))
        add(prose(statement.help, self.theme))
        for note in result.notes if result is not None else ():
            add(prose(note, self.theme, 13, tone="warn"))
        if statement.verb in ("new column", "keep rows"):
            add(heading("In a formula", self.theme))
            for text in FORMULA_HELP:
                add(prose(text, self.theme, 13, tone="mute"))
        add(heading("Arrange otherwise", self.theme))
        for name, other in arrangements().items():
            if name != statement.verb:
                add(LinkButton(other.label, lambda n=name: self.wanted.emit(n), self.theme))
        self._layout.addStretch(1)


FORMULA_HELP = (
    "+ − * / ^ and mod, brackets; = <> < <= > >=; and, or, not; is missing; in (1, 2).",
    "if … then … else …",
    "log, ln, exp, sqrt, abs, round, min, max; mean, sd, median, quantile, total, count, rank, "
    "zscore of a column; lag, row(), running.",
    "Text stands in “double quotes” and joins with &; year, month, weekday of a date.",
)
