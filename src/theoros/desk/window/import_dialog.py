"""Bringing in a table: a preview of what was guessed, all of it changeable."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QLineEdit,
    QProgressBar,
    QSpinBox,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly
from theoros.desk.parts.engine import SOON_MS, Engine
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import ChoiceBox, PlainLabel, heading, mute
from theoros.engine.tables import take_back
from theoros.engine.tasks.reading_files import ReadBack, ReadTable
from theoros.files.delimited import DELIMITERS, ENCODINGS, QUOTES
from theoros.files.form import Form, Opened
from theoros.files.formats import Format, format_of
from theoros.table.kinds import Kind, show
from theoros.table.table import Table

PREVIEW_ROWS = 40
MOST_MISFITS_SAID = 4
KEY = "import"


class ImportDialog(QDialog):
    """Shows a file as the table it would become. `table_ready` hands over the table."""

    table_ready = Signal(object)

    def __init__(self, path: Path, theme: Theme, engine: Engine, parent: QWidget) -> None:
        super().__init__(parent)
        self.path, self.theme, self.engine = path, theme, engine
        self.opened: Opened | None = None
        self.format: Format = format_of(path)
        self._sheets: tuple[str, ...] | None = None
        self._kinds: dict[int, Kind] = {}
        self.setWindowTitle(f"Open {path.name}")
        self.resize(theme.px(980), theme.px(620))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 14)
        layout.addWidget(heading(f"What {path.name} would become", theme))
        layout.addLayout(self._choices())
        self.summary = PlainLabel("Reading …")
        self.summary.setWordWrap(True)
        layout.addWidget(self.summary)
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)  # nobody knows beforehand how long a file takes
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(4))
        self.busy.setAccessibleName("reading")
        self.busy.hide()
        layout.addWidget(self.busy)
        self._soon = QTimer(self, singleShot=True, interval=SOON_MS)
        self._soon.timeout.connect(self._tell_busy)
        self.preview = QTableWidget()
        self.preview.setAccessibleName("preview")
        self.preview.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.preview.verticalHeader().setDefaultSectionSize(theme.px(25))
        self.preview.setShowGrid(True)
        layout.addWidget(self.preview, 1)
        self.buttons = QDialogButtonBox()
        self.open_button = self.buttons.addButton("Open as a table", QDialogButtonBox.ButtonRole.AcceptRole)
        self.open_button.setProperty("main", True)
        self.open_button.setEnabled(False)
        self.buttons.addButton("Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        self.buttons.accepted.connect(self._take)
        self.buttons.rejected.connect(self.reject)
        layout.addWidget(self.buttons)
        engine.stepped.connect(self._stepped)
        engine.failed.connect(self._failed)
        self.finished.connect(self._leave)
        self._read(None)

    def _leave(self) -> None:
        """What is read later is for another dialog."""
        self.engine.cancel(KEY)
        self.engine.stepped.disconnect(self._stepped)
        self.engine.failed.disconnect(self._failed)
        self._soon.stop()
        self.deleteLater()

    # what can be chosen

    def _choices(self) -> QGridLayout:
        """A field for everything that can be chosen; those that do not fit the format hide."""
        self.name = QLineEdit(self.path.stem)
        self.sheet, self.delimiter, self.encoding = ChoiceBox(), ChoiceBox(), ChoiceBox()
        self.quote = ChoiceBox()
        for mark, word in QUOTES.items():
            self.quote.addItem(word, mark)
        self.cells = QLineEdit(placeholderText="all")
        self.skip, self.lines = QSpinBox(), QSpinBox()
        self.skip.setRange(0, 200)
        self.lines.setRange(0, 9)
        self.comma, self.month = QCheckBox("Decimal comma"), QCheckBox("Month before day")
        self.missing = QLineEdit(placeholderText="such as 999 x")
        for mark, word in DELIMITERS.items():
            self.delimiter.addItem(word, mark)
        self.encoding.addItems(list(ENCODINGS))
        self._fields: dict[str, tuple[QWidget, ...]] = {}
        grid = QGridLayout()
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(6)
        place = 0
        for name, words, field in (
            ("", "Table name", self.name),
            ("sheet", "Sheet", self.sheet),
            ("cells", "Range of cells", self.cells),
            ("delimiter", "Between values", self.delimiter),
            ("quote", "Around values", self.quote),
            ("encoding", "Encoding", self.encoding),
            ("skip", "Lines above the names", self.skip),
            ("header", "Lines of names", self.lines),
            ("missing", "Also missing", self.missing),
            ("decimal_comma", "", self.comma),
            ("month_first", "", self.month),
        ):
            if name and name not in self.format.choices:
                continue
            label = mute(words)
            label.setBuddy(field)
            field.setAccessibleName(words.lower() or field.text())
            row, at = divmod(place, 3)
            if words:
                grid.addWidget(label, row, at * 2)
                grid.addWidget(field, row, at * 2 + 1)
            else:
                grid.addWidget(field, row, at * 2 + 1)
            grid.setColumnStretch(at * 2 + 1, 1)
            place += 1
        self._connect_choices()
        return grid

    def _connect_choices(self) -> None:
        self.missing.setToolTip("Codes for a missing value, separated by spaces")
        self.cells.setToolTip("Such as B3:F40; empty for all cells with content")
        for signal in (
            self.delimiter.activated,
            self.quote.activated,
            self.encoding.activated,
            self.comma.clicked,
            self.month.clicked,
            self.skip.editingFinished,
            self.lines.editingFinished,
            self.skip.valueChanged,
            self.lines.valueChanged,
            self.missing.editingFinished,
        ):
            signal.connect(lambda *_: self._chosen())
        self.sheet.activated.connect(lambda *_: self._chosen(anew=True))
        self.cells.editingFinished.connect(lambda: self._chosen(anew=True))

    def _form(self) -> Form:
        form = self.opened.form if self.opened else Form()
        return replace(
            form,
            delimiter=self.delimiter.currentData(),
            quote=self.quote.currentData(),
            encoding=self.encoding.currentText(),
            header=self.lines.value(),
            skip=self.skip.value(),
            decimal_comma=self.comma.isChecked(),
            month_first=self.month.isChecked(),
            missing=tuple(self.missing.text().split()),
            sheet=self.sheet.currentText(),
            cells=self.cells.text().strip(),
        )

    def _chosen(self, *, anew: bool = False) -> None:
        """Something was chosen; with `anew`, lines and signs are guessed again for it."""
        if self._filling or self._sheets is None:
            return
        form = self._form()
        if self.opened is not None and form == self.opened.form:
            return
        self._kinds = {}
        self._read(form, anew=anew)

    # reading

    _filling = False

    def _read(self, form: Form | None, *, anew: bool = False) -> None:
        self.open_button.setEnabled(False)
        self._soon.start()
        self.engine.run(KEY, ReadTable(self.path, form, tuple(self._kinds.items()), anew))

    def _stepped(self, key: str, step: ReadBack | ValueError, _: object) -> None:
        if key != KEY:
            return
        self._done()
        if isinstance(step, ValueError):
            self._say(str(step), "bad")
            self.preview.setRowCount(0)
            self.preview.setColumnCount(0)
            return
        table = take_back(step.table, self.engine.link.folder.path)
        self._sheets, self.opened = step.sheets, replace(step.opened, table=table)
        self._show(self.opened)

    def _tell_busy(self) -> None:
        """Past the time that nobody notices, it is seen that the file is being read."""
        self._say(f"Reading {self.path.name} … Cancel ends it at once.", "")
        self.busy.show()

    def _failed(self, key: str, message: str) -> None:
        if key == KEY:
            self._done()
            self._say(message, "bad")

    def _done(self) -> None:
        self._soon.stop()
        self.busy.hide()

    def _say(self, text: str, tone: str) -> None:
        self.summary.setText(text)
        self.summary.setProperty("tone", tone)
        self.summary.style().polish(self.summary)

    # showing

    def _show(self, opened: Opened) -> None:
        table, form = opened.table, opened.form
        self._filling = True
        self.delimiter.setCurrentIndex(self.delimiter.findData(form.delimiter))
        self.encoding.setCurrentText(form.encoding)
        self.quote.setCurrentIndex(self.quote.findData(form.quote))
        self.lines.setValue(form.header)
        self.skip.setValue(form.skip)
        self.comma.setChecked(form.decimal_comma)
        self.month.setChecked(form.month_first)
        sheets = self._sheets or ()
        if self.sheet.count() != len(sheets):
            self.sheet.clear()
            self.sheet.addItems(list(sheets))
        self.sheet.setCurrentText(form.sheet)
        self._filling = False
        size = f"{counted(table.rows, 'row')}, {counted(len(table.columns), 'column')}"
        notes = [*opened.notes, *self._misfit_words(opened)]
        said = f"{size}. Check the kind of each column: it decides what fits."
        self._say(" ".join([said, *notes]), "warn" if notes else "")
        self._fill(opened)
        self.open_button.setEnabled(True)

    def _misfit_words(self, opened: Opened) -> list[str]:
        """Which cells do not fit the kinds chosen, and where they stand."""
        if not opened.misfit_count:
            return []
        named = [f"line {m.line}, {m.column} (“{m.text}”)" for m in opened.misfits]
        shown = named[:MOST_MISFITS_SAID]
        if opened.misfit_count > len(shown):
            shown.append(f"{opened.misfit_count - len(shown)} more")
        one = opened.misfit_count == 1
        return [
            f"{counted(opened.misfit_count, 'cell')} {'does' if one else 'do'} not fit and will be "
            f"missing: {listed_briefly(shown, MOST_MISFITS_SAID + 1)}."
        ]

    def _fill(self, opened: Opened) -> None:
        table = opened.table
        shown = table.frame[:PREVIEW_ROWS]
        wrong = {(m.line, m.column): m.text for m in opened.misfits}
        self.preview.clear()
        self.preview.setRowCount(shown.height + 1)
        self.preview.setColumnCount(len(table.columns))
        self.preview.setHorizontalHeaderLabels([c.label for c in table.columns])
        self.preview.setVerticalHeaderLabels(["kind", *map(str, range(1, shown.height + 1))])
        for at, column in enumerate(table.columns):
            pick = ChoiceBox()
            pick.setAccessibleName(f"kind of {column.name}")
            for kind in Kind:
                pick.addItem(str(kind), kind)
            pick.setCurrentText(str(column.kind))
            pick.activated.connect(lambda _=0, place=at, box=pick: self._choose_kind(place, Kind(box.currentText())))
            self.preview.setCellWidget(0, at, pick)
            self.preview.setColumnWidth(at, self.theme.px(112))
            places = table.decimals(column.name) if column.kind is Kind.NUMBER else None
            for row, value in enumerate(shown[column.name], 1):
                text = show(value, places)
                lost = wrong.get((opened.first_line + row - 1, column.label))
                item = QTableWidgetItem(text or "—")
                if lost is not None and value is None:
                    item.setText(f"— ({lost})")
                    item.setForeground(self.theme.colour("bad"))
                if column.kind is Kind.NUMBER:
                    right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
                    item.setTextAlignment(right)
                self.preview.setItem(row, at, item)
        self.preview.setRowHeight(0, self.theme.px(34))

    def _choose_kind(self, place: int, kind: Kind) -> None:
        """Reads the column anew from its text, so that nothing of it is lost."""
        assert self.opened is not None
        now = {at: column.kind for at, column in enumerate(self.opened.table.columns)}
        self._kinds = {**now, **self._kinds, place: kind}
        self._read(self.opened.form)

    def _take(self) -> None:
        if self.opened is not None:
            table: Table = self.opened.table
            self.table_ready.emit(table.with_(name=self.name.text().strip() or self.path.stem))
            self.accept()
