"""The engine as the desk knows it: the newest request of a key is heard of, older ones stop."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Qt, Signal

from theoros.engine.link import EngineLink

if TYPE_CHECKING:
    from theoros.engine.tasks.task import Task
    from theoros.table.table import Table


@dataclass(frozen=True)
class _Wanted:
    number: int
    tag: object


SOON_MS = 200
"""What takes longer is told, with a way to stop it."""
AnyLink = EngineLink | Callable[[], EngineLink]
"""A link that is up, or a way to get one when it is first needed."""


class Engine(QObject):
    """Runs tasks in a process of its own. Signals arrive on the interface thread.

    They carry the key, what the step gave (or a message), and the tag given with the request.
    """

    stepped = Signal(str, object, object)
    failed = Signal(str, str)
    finished = Signal(str)
    _told = Signal(str, int, str, object)

    def __init__(self, link: AnyLink) -> None:
        """`link` may be a way to get one, which is then started when it is first needed.

        Until `release`, requests wait: the first picture of the window comes first.
        """
        super().__init__()
        self._link = link if isinstance(link, EngineLink) else None
        self._make = None if isinstance(link, EngineLink) else link
        self._held: list[Callable[[], None]] | None = []
        self._wanted: dict[str, _Wanted] = {}
        self._serial = 0
        self._numbers: dict[int, int] = {}
        self._told.connect(self._tell, Qt.ConnectionType.QueuedConnection)

    @property
    def link(self) -> EngineLink:
        """The link itself, started if it is not yet."""
        if self._link is None:
            assert self._make is not None
            self._link = self._make()
        return self._link

    def run(self, key: str, task: Task, tables: Mapping[str, Table] | None = None, tag: object = None) -> None:
        """Asks for a task; an earlier one of the same key is cancelled."""
        self.cancel(key)
        self._serial += 1
        serial = self._serial
        self._wanted[key] = _Wanted(serial, tag)
        given = dict(tables or {})

        def begin() -> None:
            wanted = self._wanted.get(key)
            if wanted is not None and wanted.number == serial:
                self._numbers[serial] = self.link.run(
                    task, given, lambda how, value: self._told.emit(key, serial, how, value)
                )

        if self._held is None:
            begin()
        else:
            self._held.append(begin)

    def cancel(self, key: str) -> None:
        """Nothing more is heard of the task of a key."""
        wanted = self._wanted.pop(key, None)
        if wanted is not None and wanted.number in self._numbers:
            self.link.cancel(self._numbers.pop(wanted.number))

    def release(self) -> None:
        """Begins what was held back."""
        held, self._held = self._held, None
        for begin in held or ():
            begin()

    @property
    def wanted(self) -> tuple[str, ...]:
        """The keys of the tasks that are under way."""
        return tuple(self._wanted)

    def tag(self, key: str) -> object:
        """The tag that was given with the task of a key that is under way; None for none."""
        wanted = self._wanted.get(key)
        return None if wanted is None else wanted.tag

    @property
    def idle(self) -> bool:
        """Whether nothing is wanted."""
        return not self._wanted

    def end(self) -> None:
        """Cancels everything; the link itself is ended by whoever made it."""
        for key in list(self._wanted):
            self.cancel(key)

    def _tell(self, key: str, serial: int, how: str, value: Any) -> None:
        wanted = self._wanted.get(key)
        if wanted is None or wanted.number != serial:
            return
        if how == "step":
            self.stepped.emit(key, value, wanted.tag)
            return
        self._wanted.pop(key)
        self._numbers.pop(serial, None)
        if how == "end":
            self.finished.emit(key)
        else:
            self.failed.emit(key, str(value))
