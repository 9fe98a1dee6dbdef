"""A line to type a formula in: names of columns and functions complete as they are typed."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QStringListModel, Qt
from PySide6.QtWidgets import QCompleter, QLineEdit, QWidget

MOST_SHOWN = 12


class FormulaEdit(QLineEdit):
    """A line edit that offers columns and functions for the word before the cursor."""

    def __init__(self, text: str, columns: Sequence[str], parent: QWidget | None = None) -> None:
        super().__init__(text, parent)
        self.columns = tuple(columns)
        self._words = QStringListModel(self)
        self._completer = QCompleter(self._words, self)
        self._completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        self._completer.setWidget(self)
        self._completer.popup().setObjectName("completions")
        self._completer.activated.connect(self._complete)
        self.textEdited.connect(lambda _: self._offer())

    @property
    def offered(self) -> list[str]:
        """What is offered now."""
        return self._words.stringList()

    @property
    def popup_open(self) -> bool:
        return self._completer.popup().isVisible()

    def select_fault(self, at: int, end: int) -> None:
        """Selects the letters that something is wrong with."""
        self.setSelection(at, max(1, end - at))

    def _offer(self) -> None:
        word, fitting = completions(self.text()[: self.cursorPosition()], self.columns)
        self._words.setStringList(fitting)
        if fitting and word:
            self._completer.complete()
        else:
            self._completer.popup().hide()

    def _complete(self, chosen: str) -> None:
        from theoros.table.formula import quoted

        at = self.cursorPosition()
        word, _ = completions(self.text()[:at], self.columns)
        written = chosen if chosen not in self.columns else quoted(chosen, self.columns)
        before = self.text()[: at - len(word)]
        self.setText(before + written + self.text()[at:])
        self.setCursorPosition(len(before) + len(written))

    def event(self, event) -> bool:
        # Tab is asked for here, before it moves the focus
        tab = event.type() == event.Type.KeyPress and event.key() == Qt.Key.Key_Tab
        if tab and self.popup_open:
            self.keyPressEvent(event)
            return True
        return super().event(event)

    def keyPressEvent(self, event) -> None:
        popup = self._completer.popup()
        if popup.isVisible() and event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Tab):
            index = popup.currentIndex()
            if index.isValid() or event.key() == Qt.Key.Key_Tab:
                self._complete(index.data() or self.offered[0])
                popup.hide()
                return
            popup.hide()
        super().keyPressEvent(event)


def completions(before: str, columns: Sequence[str]) -> tuple[str, list[str]]:
    """The word at the end of what is typed, and the columns and functions that it may become.

    A name with spaces counts as one word as long as some column begins like it.
    """
    from theoros.table.formula.known_functions import FUNCTIONS

    starts = [0] + [at + 1 for at, letter in enumerate(before) if not _in_word(letter)]
    for start in starts:
        word = before[start:]
        if not word or not word.strip() or word != word.lstrip():
            continue
        wanted = word.casefold()
        names = [name for name in columns if name.casefold().startswith(wanted) and name != word]
        names += [name for name in columns if f" {wanted}" in name.casefold() and name not in names]
        functions = [f"{name}(" for name in FUNCTIONS if name.startswith(wanted)]
        if names or (functions and " " not in word):
            return word, [*names, *functions][:MOST_SHOWN]
    return "", []


def _in_word(letter: str) -> bool:
    return letter.isalnum() or letter == "_"


def pointed(text: str, at: int, end: int) -> str:
    """The place of a fault within a formula: "leaf mass ▸+◂ 2"."""
    if at >= len(text):
        return f"{text} ▸◂"
    return f"{text[:at]}▸{text[at:end]}◂{text[end:]}"
