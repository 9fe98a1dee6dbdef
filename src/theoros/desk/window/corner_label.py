"""What stands at the end of the menu bar: the study, and whether its changes are kept."""

from __future__ import annotations

from PySide6.QtCore import Qt

from theoros.answer.wording import shortened
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel


class CornerLabel(PlainLabel):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setProperty("tone", "mute")
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setContentsMargins(8, 5, 12, 2)

    def show_session(self, session: Session, name: str) -> None:
        kept = "all changes kept"
        if session.dirty:
            where = "in memory only" if session.unkept else "in the journal"
            kept = f"changes not saved yet, kept {where}"
        self.setMinimumWidth(self._theme.px(470))
        self.setText(f"{shortened(session.study.title or name, 40)}  ·  {kept}")
        self.setToolTip(session.unkept)
        tone = "bad" if session.dirty and session.unkept else "mute"
        if self.property("tone") != tone:
            self.setProperty("tone", tone)
            self.style().polish(self)
