"""The Reading: in words, conditions with their marks and choices, settings, what to ask next."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt, Signal
from PySide6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.parts import MARK_WORDS, MARKS, Answer, Condition, Link
from theoros.answer.wording import to_plain
from theoros.desk.parts.fields import NumberField, TextField
from theoros.desk.parts.pickers import PickList, PickMany
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import LinkButton, button, clear, column, form, heading, mute, prose
from theoros.verbs.core.slots import Pick, PickSeveral, Slot, TypeText

TONES = {"holds": "good", "fails": "bad", "judge": "warn"}


class ReadingPane(QWidget):
    slot_set = Signal(str, object)
    rows_wanted = Signal(object)
    statement_wanted = Signal(object)
    place_wanted = Signal()
    copy_wanted = Signal()
    working_wanted = Signal()
    aside_wanted = Signal(object, bool)
    slot_wanted = Signal(str)
    """The slot at fault is to be opened."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("reading")
        self.theme = theme
        self._layout: QVBoxLayout = column()
        self.setLayout(self._layout)
        self.setAccessibleName("Reading")

    def show_answer(self, answer: Answer, settings: tuple[Slot, ...]) -> None:
        """Shows the words of an answer, and the settings that are not in the sentence."""
        focused = self.focusWidget()
        back = focused.objectName() if focused and focused.hasFocus() else ""
        clear(self._layout)
        theme, add = self.theme, self._layout.addWidget
        add(heading("Reading", theme))
        if answer.problem:
            add(prose(answer.problem.sentence, theme, 15, serif=True))
            slot = answer.problem.slot
            if slot:
                add(LinkButton("Change it", lambda: self.slot_wanted.emit(slot), theme))
        reading = answer.reading
        if reading.headline:
            add(prose(reading.headline, theme, 18, serif=True))
        for text in reading.paragraphs:
            add(prose(text, theme))
        for text in reading.cautions:
            add(prose(text, theme, 13, tone="mute"))
        if reading.conditions:
            add(heading(reading.conditions_title, theme))
            for condition in reading.conditions:
                self._layout.addLayout(self._condition(condition))
        if reading.next:
            add(heading("Next", theme))
            for link in reading.next:
                add(LinkButton(link.label, lambda at=link: self._follow(at), theme))
        if settings:
            add(heading("Settings", theme))
            self._layout.addLayout(self._settings(settings))
        if not answer.problem:
            row = QHBoxLayout()
            row.setSpacing(6)
            row.setContentsMargins(0, 10, 0, 0)
            row.addWidget(button("Place in report", self.place_wanted.emit, main=True))
            if theme.scale > 1.1:  # no room for all in one line
                row.addStretch()
                self._layout.addLayout(row)
                row = QHBoxLayout()
                row.setSpacing(6)
            if answer.working or answer.writeup:
                row.addWidget(button("Working", self.working_wanted.emit))
            row.addWidget(button("Copy", self.copy_wanted.emit))
            row.addStretch()
            self._layout.addLayout(row)
        self._layout.addStretch(1)
        for child in self.findChildren(QWidget):
            if back and child.objectName() == back:
                child.setFocus()

    def _condition(self, condition: Condition) -> QGridLayout:
        grid = QGridLayout()
        grid.setContentsMargins(0, 0, 0, 2)
        grid.setColumnMinimumWidth(0, 20)
        grid.setColumnStretch(1, 1)
        mark = QLabel(MARKS[condition.mark])
        mark.setProperty("tone", TONES[condition.mark])
        mark.setFont(self.theme.font(13.5, bold=True))
        mark.setAccessibleName(MARK_WORDS[condition.mark])
        grid.addWidget(mark, 0, 0, Qt.AlignmentFlag.AlignTop)
        grid.addWidget(prose(condition.text, self.theme, 13), 0, 1)
        at = 1
        if condition.choices:
            row = QHBoxLayout()
            row.setSpacing(6)
            for choice in condition.choices:
                pick = QPushButton(choice.label)
                pick.setObjectName(f"choice-{choice.slot}-{choice.label}")
                pick.setCheckable(True)
                pick.setChecked(choice.chosen)
                pick.setProperty("main", choice.chosen)
                pick.setAccessibleName(f"{to_plain(condition.text)} {choice.label}")
                pick.clicked.connect(lambda _=False, c=choice: self.slot_set.emit(c.slot, c.value))
                row.addWidget(pick)
            row.addStretch()
            grid.addLayout(row, at, 1)
        return grid

    def _settings(self, settings: tuple[Slot, ...]):
        layout = form()
        for slot in settings:
            label = mute(slot.label)
            label.setWordWrap(True)
            label.setFixedWidth(94)
            layout.addRow(label, self._field(slot))
        return layout

    def _field(self, slot: Slot) -> QWidget:
        if isinstance(slot.holds, Pick):
            pick = QPushButton(f"{slot.shown} ▾")
            pick.setObjectName(f"setting-{slot.name}")
            pick.setAccessibleName(f"{slot.label}: {slot.shown}")
            pick.setStyleSheet("text-align: left;")
            pick.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
            options = slot.holds.options

            def open_list() -> None:
                popup = PickList(
                    self.theme, options, slot.value, slot.label,
                    lambda value: self.slot_set.emit(slot.name, value), pick,
                )  # fmt: skip
                popup.open_at(pick.mapToGlobal(QPoint(0, pick.height() + 2)))

            pick.clicked.connect(open_list)
            return pick
        if isinstance(slot.holds, PickSeveral):
            return self._several(slot, slot.holds)
        if isinstance(slot.holds, TypeText):
            return TextField(slot, self.slot_set.emit)
        return NumberField(slot, self.slot_set.emit)

    def _several(self, slot: Slot, holds: PickSeveral) -> QPushButton:
        """A button that opens a list of which several are picked."""
        pick = QPushButton(f"{slot.shown} ▾")
        pick.setObjectName(f"setting-{slot.name}")
        pick.setAccessibleName(f"{slot.label}: {slot.shown}")
        pick.setStyleSheet("text-align: left;")
        pick.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)

        def open_list() -> None:
            many = PickMany(
                self.theme, holds.options, slot.value, slot.label,
                lambda value: self.slot_set.emit(slot.name, value), self,
            )  # fmt: skip
            many.open_at(pick.mapToGlobal(QPoint(0, pick.height() + 2)))

        pick.clicked.connect(open_list)
        return pick

    def _follow(self, link: Link) -> None:
        if link.statement is not None:
            self.statement_wanted.emit(link.statement)
        elif link.sets:
            self.slot_set.emit(*link.sets)
        elif link.aside is not None:
            self.aside_wanted.emit(link.rows, link.aside)
        elif link.rows:
            self.rows_wanted.emit(link.rows)
