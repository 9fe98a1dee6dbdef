"""Bringing in a table from delimited text: a preview of what was guessed, all of it changeable."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.wording import counted
from theoros.desk.theme import Theme
from theoros.desk.widgets import heading, mute
from theoros.desk.worker import Worker
from theoros.files.delimited import (
    DELIMITERS,
    Form,
    Opened,
    ReadError,
    decode,
    guess_form,
    parse_text,
    read_bytes,
    with_kinds,
)
from theoros.table.kinds import Kind, show
from theoros.table.table import Table

PREVIEW_ROWS = 40
KEY = "import"


class ImportDialog(QDialog):
    """Shows a file as the table it would become. `table_ready` hands over the table."""

    table_ready = Signal(object)

    def __init__(self, path: Path, theme: Theme, worker: Worker, parent: QWidget) -> None:
        super().__init__(parent)
        self.path, self.theme, self.worker = path, theme, worker
        self.opened: Opened | None = None
        self._text = ""
        self._kinds: dict[str, Kind] = {}
        self.setWindowTitle(f"Open {path.name}")
        self.resize(theme.px(860), theme.px(560))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 14)
        layout.addWidget(heading(f"What {path.name} would become", theme))
        row = QHBoxLayout()
        row.setSpacing(14)
        self.name = QLineEdit(path.stem)
        self.name.setAccessibleName("name of the table")
        row.addWidget(mute("Table name"))
        row.addWidget(self.name, 1)
        self.delimiter = QComboBox()
        self.delimiter.setAccessibleName("between values")
        for mark, word in DELIMITERS.items():
            self.delimiter.addItem(word, mark)
        row.addWidget(mute("Between values"))
        row.addWidget(self.delimiter)
        self.header = QCheckBox("First line names the columns")
        row.addWidget(self.header)
        self.comma = QCheckBox("Decimal comma")
        row.addWidget(self.comma)
        layout.addLayout(row)
        self.summary = QLabel("Reading …")
        self.summary.setWordWrap(True)
        layout.addWidget(self.summary)
        self.preview = QTableWidget()
        self.preview.setAccessibleName("preview")
        self.preview.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.preview.verticalHeader().setDefaultSectionSize(theme.px(25))
        self.preview.setShowGrid(True)
        layout.addWidget(self.preview, 1)
        self.buttons = QDialogButtonBox()
        self.open_button = self.buttons.addButton(
            "Open as a table", QDialogButtonBox.ButtonRole.AcceptRole
        )
        self.open_button.setProperty("main", True)
        self.open_button.setEnabled(False)
        self.buttons.addButton("Cancel", QDialogButtonBox.ButtonRole.RejectRole)
        self.buttons.accepted.connect(self._take)
        self.buttons.rejected.connect(self.reject)
        layout.addWidget(self.buttons)
        for signal in (self.delimiter.activated, self.header.clicked, self.comma.clicked):
            signal.connect(lambda *_: self._read(self._form()))
        worker.stepped.connect(self._stepped)
        worker.failed.connect(self._failed)
        self.finished.connect(lambda _: worker.cancel(KEY))
        self._read(None)

    def _form(self) -> Form:
        return Form(
            self.delimiter.currentData(), self.header.isChecked(), self.comma.isChecked(),
            self.opened.form.encoding if self.opened else "utf-8",
        )  # fmt: skip

    def _read(self, form: Form | None) -> None:
        path, text = self.path, self._text
        self._kinds = {}
        self.open_button.setEnabled(False)

        def steps() -> Iterator[object]:
            try:
                yield _opened(path, text, form)
            except ReadError as problem:
                yield problem

        self.worker.run(KEY, steps)

    def _stepped(self, key: str, step: Any) -> None:
        if key != KEY:
            return
        if isinstance(step, Table):
            self._done(step)
        elif isinstance(step, ReadError):
            self._say(str(step), "bad")
            self.preview.setRowCount(0)
            self.preview.setColumnCount(0)
        else:
            self._text, self.opened = step
            self._show(self.opened)

    def _failed(self, key: str, message: str) -> None:
        if key == KEY:
            self._say(f"{self.path.name} could not be read as a table ({message}).", "bad")

    def _say(self, text: str, tone: str) -> None:
        self.summary.setText(text)
        self.summary.setProperty("tone", tone)
        self.summary.style().polish(self.summary)

    def _show(self, opened: Opened) -> None:
        table, form = opened.table, opened.form
        self.delimiter.setCurrentIndex(self.delimiter.findData(form.delimiter))
        self.header.setChecked(form.header)
        self.comma.setChecked(form.decimal_comma)
        size = f"{counted(table.rows, 'row')}, {counted(len(table.columns), 'column')}"
        notes = " ".join(opened.notes)
        said = f"{size}, {form.encoding}. Check the kind of each column: it decides what fits."
        self._say(f"{said} {notes}".strip(), "warn" if notes else "")
        shown = table.frame[:PREVIEW_ROWS]
        self.preview.clear()
        self.preview.setRowCount(shown.height + 1)
        self.preview.setColumnCount(len(table.columns))
        self.preview.setHorizontalHeaderLabels([c.label for c in table.columns])
        self.preview.setVerticalHeaderLabels(["kind", *map(str, range(1, shown.height + 1))])
        for at, column in enumerate(table.columns):
            pick = QComboBox()
            pick.setAccessibleName(f"kind of {column.name}")
            for kind in Kind:
                pick.addItem(str(kind), kind)
            pick.setCurrentText(str(column.kind))
            pick.activated.connect(
                lambda _=0, name=column.name, box=pick: self._kinds.__setitem__(
                    name, Kind(box.currentText())
                )
            )
            self.preview.setCellWidget(0, at, pick)
            self.preview.setColumnWidth(at, self.theme.px(112))
            places = table.decimals(column.name) if column.kind is Kind.NUMBER else None
            for row, value in enumerate(shown[column.name], 1):
                item = QTableWidgetItem(show(value, places) or "—")
                if column.kind is Kind.NUMBER:
                    right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
                    item.setTextAlignment(right)
                self.preview.setItem(row, at, item)
        self.preview.setRowHeight(0, self.theme.px(34))
        self.open_button.setEnabled(True)
        self.open_button.setFocus()

    def _take(self) -> None:
        opened = self.opened
        if opened is None:
            return
        changed = {
            name: kind
            for name, kind in self._kinds.items()
            if opened.table.column(name).kind is not kind
        }
        if not changed:
            self._done(opened.table)
            return
        self.open_button.setEnabled(False)
        text = self._text
        self.worker.run(KEY, lambda: iter([with_kinds(opened, text, changed)]))

    def _done(self, table: Table) -> None:
        self.table_ready.emit(table.with_(name=self.name.text().strip() or self.path.stem))
        self.accept()


def _opened(path: Path, text: str, form: Form | None) -> tuple[str, Opened]:
    """Reads the file once; afterwards only the form changes."""
    encoding = form.encoding if form else "utf-8"
    if not text:
        text, encoding = decode(read_bytes(path))
    form = replace(form, encoding=encoding) if form else guess_form(text, encoding)
    return text, parse_text(text, form, path.stem)
