"""How an answer is worked out, step by step."""

from __future__ import annotations

from PySide6.QtWidgets import QFrame, QVBoxLayout

from theoros.answer.parts import Answer
from theoros.desk.parts.step_view import StepView
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import clear, heading


class WorkingView(QFrame):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(0, 6, 0, 6)
        self._layout.setSpacing(2)
        self.hide()

    def show_answer(self, answer: Answer | None) -> None:
        clear(self._layout)
        if answer is None:
            return
        known = set[str]()
        for title, steps in (("Working", answer.working), ("In five steps", answer.writeup)):
            if steps:
                self._layout.addWidget(heading(title, self._theme))
            for step in steps:
                self._layout.addWidget(StepView(step, self._theme, known))
