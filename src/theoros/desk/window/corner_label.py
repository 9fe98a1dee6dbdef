"""What stands at the end of the menu bar: the study, and whether its changes are kept."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QApplication, QMenuBar

from theoros.answer.wording import shortened
from theoros.desk.parts.session import Session
from theoros.desk.parts.widgets import PlainLabel

NAME_LENGTHS = 40, 25, 12
"""Letters of a study's name, where there is room."""
SLACK = 12
"""Pixels that a label keeps for itself."""
MENU_ROOM = 24
"""Pixels between the titles of two menus."""


class CornerLabel(PlainLabel):
    def __init__(self, bar: QMenuBar) -> None:
        super().__init__()
        self._bar = bar
        bar.installEventFilter(self)
        self._told = "", ""
        self.setProperty("tone", "mute")
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setContentsMargins(8, 5, 12, 2)

    def eventFilter(self, watched, event) -> bool:
        if watched is self._bar and event.type() == event.Type.Resize:
            self._fit()
        return super().eventFilter(watched, event)

    def changeEvent(self, event) -> None:
        super().changeEvent(event)
        if event.type() in (event.Type.FontChange, event.Type.StyleChange):
            QTimer.singleShot(0, self, self._refit)  # the menus may not have their letters yet

    def sizeHint(self) -> QSize:
        """The width that it was given: a label remembers the one before."""
        return QSize(self.minimumWidth(), super().sizeHint().height())

    def _refit(self) -> None:
        """The bar places what stands at its end only when it is sized itself."""
        QApplication.sendEvent(self._bar, QResizeEvent(self._bar.size(), self._bar.size()))

    def _fit(self) -> None:
        """All that the menus leave is for the label."""
        letters, menus = self._bar.fontMetrics(), 0
        for one in self._bar.actions():
            shown = self._bar.actionGeometry(one).width()
            menus += max(shown, letters.horizontalAdvance(one.text()) + MENU_ROOM)
        self.setFixedWidth(max(self._bar.width() - menus, 0))
        self._tell()

    def _tell(self) -> None:
        """No more than there is room for: whether changes are kept before what the study is called."""
        name, kept = self._told
        texts = [f"{shortened(name, most)}  ·  {kept}" for most in NAME_LENGTHS]
        texts += [kept, kept.partition(", ")[2] or kept]
        margins = self.contentsMargins()
        room = self.width() - margins.left() - margins.right() - SLACK
        fitting = (text for text in texts if self.fontMetrics().horizontalAdvance(text) <= room)
        self.setText(next(fitting, texts[-1]))

    def show_session(self, session: Session, name: str) -> None:
        kept = "all changes kept"
        if session.dirty:
            where = "in memory only" if session.unkept else "in the journal"
            kept = f"changes not saved yet, kept {where}"
        self._told = session.study.title or name, kept
        self._tell()
        self.setToolTip(session.unkept)
        tone = "bad" if session.dirty and session.unkept else "mute"
        if self.property("tone") != tone:
            self.setProperty("tone", tone)
            self.style().polish(self)
