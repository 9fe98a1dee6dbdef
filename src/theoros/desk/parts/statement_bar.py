"""The statement as a sentence with slots, generic over every verb.

Tab and the arrow keys walk the slots; Space, Enter or a click opens what fits the slot: a
list to pick from, or the number to be typed in place. Esc puts back what was there.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from PySide6.QtCore import QPoint, QRect, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QFontMetrics, QPainter
from PySide6.QtWidgets import QCompleter, QLineEdit, QSizePolicy, QWidget

from theoros.desk.parts.formula_edit import FormulaEdit, pointed
from theoros.desk.parts.pickers import PickList, PickMany
from theoros.desk.parts.slot_button import SlotButton
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, set_tone
from theoros.verbs.core.slots import Phrase, Pick, PickSeveral, Slot, TypeFormula, TypeNumber, TypeText, joined

SIZE = 20.0
LINE = 1.55
"""Height of a line as a multiple of the letter size."""
TYPING_MS = 250
"""A pause in typing after which what is typed is told."""


class StatementBar(QWidget):
    """Shows a phrase and tells which slot was given which value."""

    slot_set = Signal(str, object)
    typing = Signal(str, str)
    """What is being typed into a slot for text, before it is set."""

    def __init__(self, theme: Theme, size: float = SIZE) -> None:
        super().__init__()
        self.theme, self._size = theme, size
        self._pause = QTimer(self, singleShot=True, interval=TYPING_MS)
        self._pause.timeout.connect(self._tell_typing)
        # slots, and words that are painted here; and whether they are glued to what is before them
        self._parts: list[tuple[SlotButton | str, bool]] = []
        self._words: list[tuple[QRect, str]] = []
        self._phrase: Phrase = ()
        self.editor: QLineEdit | None = None
        self._editing: SlotButton | None = None
        self._opened = ""
        self.message = PlainLabel(parent=self)
        self.message.setWordWrap(True)
        self.message.setProperty("tone", "bad")
        self.message.hide()
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)
        self.setAccessibleName("statement")
        theme.changed.connect(self._rethemed)

    def show_phrase(self, phrase: Phrase) -> None:
        """Shows another sentence; the focus stays on the slot it was on."""
        at = self.focusWidget()
        focused = at.slot.name if isinstance(at, SlotButton) and at.hasFocus() else self._opened
        self._opened = ""
        self._end_editing()
        self._phrase = phrase = joined(phrase)
        self._build(phrase)
        self.setAccessibleDescription("".join(p if isinstance(p, str) else p.shown for p in phrase))
        buttons = self.slots_shown()
        for one, two in pairwise(buttons):
            QWidget.setTabOrder(one, two)
        self._message_for_problem()
        for button in buttons:
            if button.slot.name == focused:
                button.setFocus()

    def _build(self, phrase: Phrase) -> None:
        """The parts of a sentence; a slot that was there before keeps its button."""
        there = {button.slot.name: button for button in self.slots_shown()}
        self._parts = []
        glued = True
        for part in phrase:
            if isinstance(part, Slot):
                button = there.pop(part.name, None)
                if button is None:
                    button = SlotButton(part, self.theme, self._size, self)
                    button.clicked.connect(lambda _=False, b=button: self._open(b))
                    button.walked.connect(lambda by, b=button: self._walk(b, by))
                    button.typed.connect(lambda text, b=button: self._begin(b, text))
                else:
                    button.show_slot(part)
                self._parts.append((button, glued))
                glued = True
                continue
            text = part.replace(" = ", "\u00a0=\u00a0")  # no line ends at an equals sign
            glued = not text.startswith(" ")
            for word in filter(None, text.split(" ")):
                self._parts.append((word, glued))
                glued = False
            glued = not text.endswith(" ")
        for left in there.values():
            left.hide()
            left.deleteLater()
        for button in self.slots_shown():
            button.show()

    def _rethemed(self) -> None:
        self.show_phrase(self._phrase)

    def slots_shown(self) -> list[SlotButton]:
        return [part for part, _ in self._parts if isinstance(part, SlotButton)]

    def words_shown(self) -> list[tuple[QRect, str]]:
        """The words between the slots, with the place of each."""
        return self._words

    def button(self, name: str) -> SlotButton | None:
        return next((b for b in self.slots_shown() if b.slot.name == name), None)

    def say(self, text: str, tone: str = "mute") -> None:
        """A line under the sentence: what else had to change, or why a value does not fit."""
        self.message.setText(text)
        set_tone(self.message, tone)
        self.message.setVisible(bool(text))
        self._arrange()
        self.updateGeometry()

    def _walk(self, button: SlotButton, by: int) -> None:
        """The focus to the next or the previous slot."""
        buttons = self.slots_shown()
        buttons[(buttons.index(button) + by) % len(buttons)].setFocus(Qt.FocusReason.TabFocusReason)

    # laying out

    def heightForWidth(self, width: int) -> int:
        return self._place(width, move=False)

    def hasHeightForWidth(self) -> bool:
        return True

    def sizeHint(self) -> QSize:
        width = self.width() or 700
        return QSize(width, self._place(width, move=False))

    def minimumSizeHint(self) -> QSize:
        return QSize(200, self._place(max(self.width(), 200), move=False))

    def resizeEvent(self, event) -> None:
        self._arrange()
        if event.size().width() != event.oldSize().width():
            self.updateGeometry()  # another width may need another number of lines

    def _arrange(self) -> None:
        self._place(self.width(), move=True)
        if self.editor is not None and self._editing is not None:  # it goes with the slot it stands on
            self.editor.setGeometry(self._editing.geometry().adjusted(0, -2, 0, 2).intersected(self.rect()))

    def _place(self, width: int, *, move: bool) -> int:
        metrics = QFontMetrics(self.theme.font(self._size, serif=True))
        space = metrics.horizontalAdvance(" ")
        words: list[tuple[QRect, str]] = []
        line = round(self.theme.px(self._size) * LINE)
        x = y = 0
        at = 0
        while at < len(self._parts):
            # what is glued together (a slot and the comma behind it) breaks as one
            end = at + 1
            while end < len(self._parts) and self._parts[end][1]:
                end += 1
            group = [part for part, _ in self._parts[at:end]]
            widths = [min(self._width_of(part, metrics), width) for part in group]
            gap = space if x and not self._parts[at][1] else 0
            if x and x + gap + sum(widths) > width:
                x, y, gap = 0, y + line, 0
            x += gap
            for part, wide in zip(group, widths, strict=True):
                if isinstance(part, str):
                    words.append((QRect(x, y, wide, metrics.height()), part))
                elif move:
                    tall = part.sizeHint().height()
                    part.setGeometry(x, y, wide, max(tall, metrics.height() + 3))
                x += wide
            at = end
        if move and words != self._words:
            self._words = words
            self.update()
        bottom = y + line + 2
        if self.message.isVisibleTo(self):
            tall = self.message.heightForWidth(width)
            if move:
                self.message.setGeometry(0, bottom, width, tall)
            bottom += tall + 4
        return bottom

    def paintEvent(self, event) -> None:
        painter = QPainter(self)
        painter.setFont(self.theme.font(self._size, serif=True))
        painter.setPen(self.theme.colour("ink"))
        for box, word in self._words:
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, word)

    def _width_of(self, part: SlotButton | str, metrics: QFontMetrics) -> int:
        """The room a part takes; a slot that is being typed in has room for a number."""
        if isinstance(part, str):
            return metrics.horizontalAdvance(part)
        wide = part.sizeHint().width()
        if self._editing is None or part is not self._editing:
            return wide
        holds = self._editing.slot.holds
        least = 420 if isinstance(holds, TypeFormula) else 170 if isinstance(holds, TypeText) else 90
        return max(wide, self.theme.px(least))

    # opening a slot

    def open_slot(self, name: str) -> None:
        button = self.button(name)
        if button:
            button.setFocus()
            self._open(button)

    def _begin(self, button: SlotButton, typed: str) -> None:
        """Opens the list of a slot with the option that begins with what was typed, or begins its value with it."""
        if isinstance(button.slot.holds, Pick):
            self._open(button, typed)
            return
        button.click()
        if self.editor:
            self.editor.setText(typed)

    def _open(self, button: SlotButton, typed: str = "") -> None:
        """Opens a slot; `typed` is what was typed on it, to find an option by."""
        slot = button.slot
        if isinstance(slot.holds, Pick):

            def picked(value: object) -> None:
                self._opened = slot.name  # the list took the focus; it comes back to the slot
                self.slot_set.emit(slot.name, value)
                back = self.button(slot.name)
                if back:
                    back.setFocus()

            popup = PickList(self.theme, slot.holds.options, slot.value, slot.label, picked, self)
            popup.open_at(button.mapToGlobal(QPoint(0, button.height() + 2)))
            popup.begin(typed)
        elif isinstance(slot.holds, PickSeveral):
            many = PickMany(
                self.theme,
                slot.holds.options,
                slot.value,
                slot.label,
                lambda value: self.slot_set.emit(slot.name, value),
                self,
            )
            self._opened = slot.name
            many.open_at(button.mapToGlobal(QPoint(0, button.height() + 2)))
        else:
            self._type(button, slot.holds)

    def _type(self, button: SlotButton, holds: TypeNumber | TypeText) -> None:
        self._end_editing()
        value: Any = button.slot.value
        self._editing = button
        if isinstance(holds, TypeFormula):
            self.editor = FormulaEdit(value, holds.columns, self)
            self.editor.textChanged.connect(lambda _: self._pause.start())
        elif isinstance(holds, TypeText):
            self.editor = QLineEdit(value, self)
            self.editor.textChanged.connect(lambda _: self._pause.start())
            if holds.suggestions:
                completer = QCompleter(list(holds.suggestions), self.editor)
                completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
                completer.setFilterMode(Qt.MatchFlag.MatchContains)
                completer.popup().setObjectName("completions")
                self.editor.setCompleter(completer)
        else:
            self.editor = QLineEdit(holds.typed(value), self)
        self.editor.setFont(self.theme.font(self._size - 3))
        self.editor.setAccessibleName(button.slot.label)
        self.editor.setAccessibleDescription(_said_of(holds))
        self._arrange()
        self.updateGeometry()
        self.editor.selectAll()
        self.editor.returnPressed.connect(self._typed)
        self.editor.installEventFilter(self)
        self.editor.show()
        self.editor.setFocus()
        self.say(_said_of(holds))
        if isinstance(holds, TypeText) and holds.suggestions and not value:
            self.editor.completer().setCompletionPrefix("")
            self.editor.completer().complete()

    def eventFilter(self, watched, event) -> bool:
        if watched is self.editor:
            if isinstance(watched, FormulaEdit) and watched.popup_open:
                return False  # keys belong to the list of names
            if event.type() == event.Type.KeyPress and event.key() == Qt.Key.Key_Escape:
                self._put_back()
                return True
            if event.type() == event.Type.KeyPress and event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab):
                back, by = self._editing, 1 if event.key() == Qt.Key.Key_Tab else -1
                self._typed()
                if self.editor is None and back is not None:
                    here = self.button(back.slot.name)
                    if here:
                        self._walk(here, by)
                return True
            if event.type() == event.Type.FocusOut and self.editor is not None:
                self._typed(leaving=True)
        return False

    def _put_back(self) -> None:
        button = self._editing
        self._end_editing()
        self._message_for_problem()
        self._arrange()
        if button:
            button.setFocus()

    def _typed(self, *, leaving: bool = False) -> None:
        if self.editor is None or self._editing is None:
            return
        slot = self._editing.slot
        if isinstance(slot.holds, TypeText):
            self._typed_text(slot, slot.holds, leaving=leaving)
            return
        assert isinstance(slot.holds, TypeNumber)
        value, problem = slot.holds.read(self.editor.text())
        if problem and not self.editor.text().strip():
            problem = f"{slot.label}: {problem}"
        if problem and not leaving:
            self.editor.setProperty("wrong", True)
            self.editor.style().polish(self.editor)
            self.say(problem, "bad")
            return
        button = self._editing
        self._end_editing()
        self._message_for_problem()
        if not leaving:
            button.setFocus()
        if not problem and slot.holds.typed(value) != slot.holds.typed(slot.value):
            self.slot_set.emit(slot.name, value)

    def _typed_text(self, slot: Slot, holds: TypeText, *, leaving: bool) -> None:
        assert self.editor is not None
        text = self.editor.text().strip()
        problem, place = holds.problem(text), None
        if isinstance(holds, TypeFormula) and text:
            from theoros.table.formula import FormulaError, parse

            try:
                parse(text, holds.columns)
            except FormulaError as found:
                problem, place = f"{found} {pointed(text, found.at, found.end)}", found
        if problem and not leaving:
            self.editor.setProperty("wrong", True)
            self.editor.style().polish(self.editor)
            self.say(problem, "bad")
            if place is not None and isinstance(self.editor, FormulaEdit):
                self.editor.select_fault(place.at, place.end)
            return
        button = self._editing
        self._end_editing()
        self._message_for_problem()
        if not leaving and button is not None:
            button.setFocus()
        if text != slot.value:
            self.slot_set.emit(slot.name, text)

    def _tell_typing(self) -> None:
        if self.editor is not None and self._editing is not None:
            self.typing.emit(self._editing.slot.name, self.editor.text().strip())

    def _end_editing(self) -> None:
        self._pause.stop()
        editor, self.editor, self._editing = self.editor, None, None
        if editor:
            editor.removeEventFilter(self)
            editor.hide()
            editor.deleteLater()

    def _message_for_problem(self) -> None:
        problem = next((b.slot.problem for b in self.slots_shown() if b.slot.problem), "")
        self.say(problem, "bad" if problem else "mute")


def _said_of(holds: TypeNumber | TypeText) -> str:
    """What is said while a slot is typed into."""
    if isinstance(holds, TypeNumber):
        return f"{holds.range_words} {holds.help}".strip()
    return holds.help
