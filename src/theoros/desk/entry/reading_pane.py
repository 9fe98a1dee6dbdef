"""The Reading: in words, conditions with their marks and choices, settings, what to ask next."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QApplication,
    QBoxLayout,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.parts import MARK_WORDS, MARKS, Answer, Assumption, Choice, Link
from theoros.answer.wording import to_plain
from theoros.desk.parts.explained import Explained, ExplainedLabel, explained, explained_prose
from theoros.desk.parts.flow import Flow
from theoros.desk.parts.input_fields import field_of
from theoros.desk.parts.kept_rows import KeptRow, KeptRows
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import (
    NO_LIMIT,
    LinkButton,
    PlainLabel,
    button,
    clear,
    column,
    heading,
    mute,
    prose,
    set_prose,
    set_tone,
)
from theoros.verbs.core.slots import Slot

TONES = {"holds": "good", "fails": "bad", "judge": "warn"}
LABEL_WIDTH = 94
FIELD_EDGES = 44
"""What a field needs beside its text."""


class ReadingPane(QWidget):
    slot_set = Signal(str, object)
    rows_wanted = Signal(object)
    statement_wanted = Signal(object)
    table_wanted = Signal(object)
    """Figures are to become a table of the study."""
    draws_wanted = Signal(str)
    """The same for what of the statement is worked out anew, such as the samples it draws."""
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
        self._rows = KeptRows(self._layout)
        # what is done with an answer stays in view below the words, however long those are
        self.tools = QWidget()
        self.tools.setObjectName("tools")
        around = QVBoxLayout(self.tools)
        around.setContentsMargins(14, 8, 12, 8)
        inner = QWidget()
        around.addWidget(inner)
        tools = Flow(inner)
        tools.addWidget(button("Place in report", self.place_wanted.emit, main=True))
        self._working = button("Working", self.working_wanted.emit)
        tools.addWidget(self._working)
        tools.addWidget(button("Copy", self.copy_wanted.emit))
        self._layout.addStretch(1)
        self._unfolded: dict[str, bool] = {}
        self._shown: tuple[Answer, tuple[Slot, ...]] = Answer(""), ()
        self.setAccessibleName("Reading")
        theme.changed.connect(self._rows.clear)

    def show_answer(self, answer: Answer, settings: tuple[Slot, ...]) -> None:
        """Shows the words of an answer, and the settings that are not in the sentence."""
        reading = answer.reading
        rows = [self._heading("Reading")]
        if answer.problem:
            rows.append(self._prose(answer.problem.sentence, 15, serif=True))
            if answer.problem.slot:
                rows.append(self._link("Change it", answer.problem.slot))
            rows += [self._link(label, Link(label, sets=(slot, value))) for label, slot, value in answer.problem.offers]
        known = set[str]()
        if reading.headline:
            rows.append(self._explained(explained(reading.headline, known), 18, serif=True))
        rows += [self._explained(explained(text, known)) for text in reading.paragraphs]
        rows += [self._explained(explained(text, known), 13, tone="mute") for text in reading.cautions]
        if reading.assumptions:
            rows.append(self._heading(reading.assumptions_title))
            rows += [
                KeptRow(
                    "condition", (one, explained(one.text, known)), self._new_condition, ConditionView.show_condition
                )
                for one in reading.assumptions
            ]
        if reading.next:
            rows.append(self._heading("Next"))
            rows += [self._link(link.label, link) for link in reading.next]
        if settings:
            rows.append(self._heading("Settings"))
            rows += self._settings(settings)
        self._shown = answer, settings
        self._rows.show(rows)
        self.tools.setVisible(not answer.problem)
        self._working.setVisible(bool(answer.working or answer.writeup))

    def _settings(self, settings: tuple[Slot, ...]) -> list[KeptRow]:
        """A row for each setting; those of a group stand below its name, folded or not."""
        rows = []
        for name in dict.fromkeys(slot.group for slot in settings):
            own = [slot for slot in settings if slot.group == name]
            unfolded = self._unfolded.get(name, any(s.changed or s.problem for s in own))
            if name:
                rows.append(KeptRow("fold", (name, unfolded), self._new_fold, FoldButton.show_fold))
            if unfolded or not name:
                rows += [
                    KeptRow(
                        f"setting {type(slot.holds).__name__} {slot.name}",
                        slot,
                        self._new_setting,
                        SettingView.show_slot,
                    )
                    for slot in own
                ]
        return rows

    def _new_fold(self, value: tuple[str, bool]) -> FoldButton:
        return FoldButton(value, self._fold)

    def _fold(self, name: str, unfolded: bool) -> None:
        self._unfolded[name] = unfolded
        self.show_answer(*self._shown)

    def _heading(self, text: str) -> KeptRow:
        return KeptRow("heading", text, lambda text: heading(text, self.theme), QLabel.setText)

    def _prose(self, text: str, size: float = 13.5, *, serif: bool = False, tone: str = "") -> KeptRow:
        return KeptRow(
            f"prose {size} {serif} {tone}",
            text,
            lambda text: prose(text, self.theme, size, serif=serif, tone=tone),
            set_prose,
        )

    def _explained(self, said: Explained, size: float = 13.5, *, serif: bool = False, tone: str = "") -> KeptRow:
        return KeptRow(
            f"explained {size} {serif} {tone}",
            said,
            lambda said: explained_prose(said, self.theme, size, serif=serif, tone=tone),
            ExplainedLabel.show_text,
        )

    def _link(self, label: str, to: Link | str) -> KeptRow:
        """A link to something that is worth doing, or to a slot at fault."""
        row = label, to

        def new(row: tuple[str, Link | str]) -> LinkButton:
            return LinkButton(row[0], partial(self._follow, row[1]), self.theme)

        def renew(button: LinkButton, row: tuple[str, Link | str]) -> None:
            button.lead(row[0], partial(self._follow, row[1]))

        return KeptRow("link", row, new, renew)

    def _new_condition(self, value: tuple[Assumption, Explained]) -> ConditionView:
        made = ConditionView(self.theme, self.slot_set.emit)
        made.show_condition(value)
        return made

    def _new_setting(self, slot: Slot) -> SettingView:
        return SettingView(slot, self.slot_set.emit, self.theme)

    def _follow(self, link: Link | str) -> None:
        if isinstance(link, str):
            self.slot_wanted.emit(link)
        elif link.statement is not None:
            self.statement_wanted.emit(link.statement)
        elif link.sets:
            self.slot_set.emit(*link.sets)
        elif link.copies:
            QApplication.clipboard().setText(link.copies)
        elif link.draws:
            self.draws_wanted.emit(link.draws)
        elif link.figures:
            figures = self._shown[0].figures
            self.table_wanted.emit(next(one for one in figures if one.key == link.figures))
        elif link.aside is not None:
            self.aside_wanted.emit(link.rows, link.aside)
        elif link.rows:
            self.rows_wanted.emit(link.rows)


class ConditionView(QWidget):
    """A condition with its mark, and the choices that only the student can make."""

    def __init__(self, theme: Theme, set_slot: Callable[[str, Any], None]) -> None:
        super().__init__()
        self.theme, self._set = theme, set_slot
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 2)
        grid.setColumnMinimumWidth(0, 20)
        grid.setColumnStretch(1, 1)
        self._mark = PlainLabel()
        self._mark.setFont(theme.font(13.5, bold=True))
        grid.addWidget(self._mark, 0, 0, Qt.AlignmentFlag.AlignTop)
        self._text = ExplainedLabel(theme, 13)
        grid.addWidget(self._text, 0, 1)
        self._choices = QHBoxLayout()
        self._choices.setSpacing(6)
        grid.addLayout(self._choices, 1, 1)
        self._picks: list[tuple[Choice, QPushButton]] = []

    def show_condition(self, value: tuple[Assumption, Explained]) -> None:
        condition, said = value
        self._mark.setText(MARKS[condition.mark])
        self._mark.setAccessibleName(MARK_WORDS[condition.mark])
        set_tone(self._mark, TONES[condition.mark])
        self._text.show_text(said)
        if [one.label for one, _ in self._picks] != [one.label for one in condition.choices]:
            clear(self._choices)
            self._picks = [(one, self._new_pick(one)) for one in condition.choices]
            self._choices.addStretch()
        self._picks = [(now, pick) for now, (_, pick) in zip(condition.choices, self._picks, strict=True)]
        for choice, pick in self._picks:
            pick.setObjectName(f"choice-{choice.slot}-{choice.label}")
            pick.setChecked(choice.chosen)
            pick.setAccessibleName(f"{to_plain(condition.text)} {choice.label}")
            if pick.property("main") != choice.chosen:
                pick.setProperty("main", choice.chosen)
                pick.style().polish(pick)

    def _new_pick(self, choice: Choice) -> QPushButton:
        pick = QPushButton(choice.label)
        pick.setCheckable(True)
        pick.setProperty("main", choice.chosen)
        pick.clicked.connect(lambda _=False, p=pick: self._picked(p))
        self._choices.addWidget(pick)
        return pick

    def _picked(self, pick: QPushButton) -> None:
        choice = next(choice for choice, one in self._picks if one is pick)
        pick.setChecked(choice.chosen)  # until the statement says otherwise
        self._set(choice.slot, choice.value)


class FoldButton(QPushButton):
    """The name of a group of settings, which shows them or folds them away."""

    def __init__(self, value: tuple[str, bool], fold: Callable[[str, bool], None]) -> None:
        super().__init__()
        self.setProperty("link", True)
        self.clicked.connect(lambda: fold(self._name, not self._unfolded))
        self.show_fold(value)

    def show_fold(self, value: tuple[str, bool]) -> None:
        self._name, self._unfolded = value
        self.setText(f"{'▾' if self._unfolded else '▸'} {self._name.capitalize()}")
        state = "shown; press to fold away" if self._unfolded else "folded away; press to show"
        self.setAccessibleName(f"settings: {self._name}, {state}")


class SettingView(QWidget):
    """A slot that is not in the sentence: its label and its field."""

    def __init__(self, slot: Slot, set_slot: Callable[[str, Any], None], theme: Theme) -> None:
        super().__init__()
        self._row = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._row.setContentsMargins(0, 1, 0, 1)
        self._row.setSpacing(8)
        self._label = mute(slot.label)
        self._label.setWordWrap(True)
        self._row.addWidget(self._label)
        self.field = field_of(slot, set_slot, theme)
        self._row.addWidget(self.field, 1)
        self._shown = slot.shown
        self._fit()

    def show_slot(self, slot: Slot) -> None:
        self._label.setText(slot.label)
        self.field.show_slot(slot)
        self._shown = slot.shown
        self._fit()

    def _fit(self) -> None:
        """The label stands beside its field, or above one whose text would be cut off there."""
        room = self.width() - LABEL_WIDTH - self._row.spacing()
        beside = self.field.fontMetrics().horizontalAdvance(self._shown) + FIELD_EDGES <= room
        self._label.setMinimumWidth(LABEL_WIDTH if beside else 0)
        self._label.setMaximumWidth(LABEL_WIDTH if beside else NO_LIMIT)
        way = QBoxLayout.Direction.LeftToRight if beside else QBoxLayout.Direction.TopToBottom
        if self._row.direction() != way:
            self._row.setDirection(way)
            self._row.setSpacing(8 if beside else 2)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._fit()
