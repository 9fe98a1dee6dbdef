"""The guide of a verb: a few questions with the statement that they lead to below them."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QDialogButtonBox,
    QGridLayout,
    QGroupBox,
    QRadioButton,
    QVBoxLayout,
    QWidget,
)

from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, clear, heading, mute
from theoros.verbs.core.guiding import Guide, GuideQuestion
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement

WIDTH = 640
MARGINS = 70
"""Of the dialog and of a box in it: a wrapped line in a box does not tell its height upwards."""
ABREAST = 3
"""As many answers stand side by side."""


class GuideDialog(QDialog):
    """Every answer changes the sentence below at once; “Ask this” makes an entry of it."""

    chosen = Signal(object)

    def __init__(
        self, guide: Guide, theme: Theme, tables: Tables, table: str, columns: Sequence[str], parent: QWidget
    ) -> None:
        super().__init__(parent)
        self.guide, self.theme = guide, theme
        self.tables, self.table, self.columns = tables, table, columns
        self.answers = guide.preset(tables.get(table), columns)
        self.setWindowTitle(guide.label)
        self.setMinimumWidth(theme.px(WIDTH))
        layout = QVBoxLayout(self)
        layout.setContentsMargins(20, 14, 20, 14)
        layout.addWidget(heading(guide.label, theme))
        said = f"Preset from {table}." if self.answers and table else ""
        layout.addWidget(mute(f"Answer what you know; you can change every answer. {said}"))
        self._asked = QVBoxLayout()
        layout.addLayout(self._asked)
        self.sentence = PlainLabel()
        self.sentence.setWordWrap(True)
        self.sentence.setFont(theme.font(16, serif=True))
        self.sentence.setAccessibleName("the statement")
        layout.addWidget(self.sentence)
        layout.addStretch()
        buttons = QDialogButtonBox()
        ask = buttons.addButton("Ask this", QDialogButtonBox.ButtonRole.AcceptRole)
        ask.setDefault(True)
        buttons.addButton(QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self._take)
        buttons.rejected.connect(self.reject)
        layout.addWidget(buttons)
        self.groups: dict[str, QButtonGroup] = {}
        self._shown: tuple[tuple[str, tuple[str, ...]], ...] = ()
        self._show()

    @property
    def statement(self) -> Statement:
        """Where the answers lead."""
        return self.guide.statement(self.answers, self.tables, self.table, self.columns)

    def _show(self) -> None:
        asked = self.guide.questions(self.answers, self.tables.get(self.table))
        shape = tuple((one.key, tuple(str(o.value) for o in one.options)) for one in asked)
        if shape != self._shown:
            self._build(asked)
            self._shown = shape
        self.sentence.setText(self.statement.text(self.tables))
        self._fit()

    def _fit(self) -> None:
        """As high as the questions need; `adjustSize` would stop at two thirds of a screen."""
        layout = self.layout()
        assert layout is not None
        layout.activate()
        width = max(self.width(), self.minimumWidth(), layout.sizeHint().width())
        self.resize(width, layout.totalHeightForWidth(width))

    def _build(self, asked: Sequence[GuideQuestion]) -> None:
        focus = next((key for key, group in self.groups.items() if any(b.hasFocus() for b in group.buttons())), "")
        clear(self._asked)
        self.groups = {}
        for one in asked:
            box = QGroupBox(one.text)
            inside = QVBoxLayout(box)
            row = QGridLayout()
            group = QButtonGroup(box)
            for at, option in enumerate(one.options):
                button = QRadioButton(option.label)
                button.setToolTip(option.help)
                button.setAccessibleName(f"{one.text} {option.label}")
                button.setAccessibleDescription(option.help)
                button.setChecked(option.value == one.given)
                button.toggled.connect(lambda on, k=one.key, v=option.value: self._answered(k, v) if on else None)
                group.addButton(button)
                row.addWidget(button, at // ABREAST, at % ABREAST)
            inside.addLayout(row)
            if one.help:
                note = mute(one.help)
                note.setWordWrap(True)
                note.setMinimumHeight(note.heightForWidth(self.theme.px(WIDTH - MARGINS)))
                inside.addWidget(note)
            self._asked.addWidget(box)
            self.groups[one.key] = group
        if focus in self.groups:
            checked = self.groups[focus].checkedButton()
            if checked is not None:
                checked.setFocus()

    def _answered(self, key: str, value: object) -> None:
        self.answers = {**self.answers, key: str(value)}
        self._show()

    def _take(self) -> None:
        self.chosen.emit(self.statement)
        self.accept()
