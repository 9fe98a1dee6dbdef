"""When the parts of an answer are shown, so that none keeps the window from what comes between."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal

from theoros.answer.parts import Answer

UNSEEN_MS = 100
"""How long an answer waits at most for the picture before it to be painted."""


class Pacing(QObject):
    """Of an answer the picture is shown first; once that is painted, its tables follow.

    A draft that comes while the one before it is not painted yet would only delay that: it waits,
    and gives way to the next.
    """

    picture_due = Signal(object)
    tables_due = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self._next: Answer | None = None
        self._begun: Answer | None = None  # its picture is shown, its tables are not
        self._seen = True
        self._timer = QTimer(self, singleShot=True)
        self._timer.timeout.connect(self._go_on)

    def offer(self, answer: Answer, *, seen: bool) -> None:
        """An answer or a draft of one is there; `seen` says whether anybody looks."""
        self._seen = seen
        if self._timer.isActive():
            self._next = answer
        else:
            self._begin(answer)

    def painted(self) -> None:
        """The picture was painted; called from within a paint event."""
        if self._timer.isActive():
            self._timer.start(0)

    def drop(self) -> None:
        """What waits is of no interest any more."""
        self._next = self._begun = None

    @property
    def waiting(self) -> bool:
        """Whether there is something that is not shown yet."""
        return self._next is not None or self._begun is not None

    def _begin(self, answer: Answer) -> None:
        self._next, self._begun = None, answer
        self._timer.start(UNSEEN_MS if self._seen and answer.picture is not None else 0)
        self.picture_due.emit(answer)

    def _go_on(self) -> None:
        begun, self._begun = self._begun, None
        if begun is not None:
            self.tables_due.emit(begun)
        if self._next is None:
            return
        if begun is not None:
            self._timer.start(0)  # in the turn after this one
        else:
            self._begin(self._next)
