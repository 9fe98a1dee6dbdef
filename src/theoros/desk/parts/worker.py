"""Work off the interface thread: the newest request for a key runs, older ones stop."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from PySide6.QtCore import QObject, Qt, Signal

log = logging.getLogger(__name__)

LONGEST_WAIT = 0.25
"""Seconds that a job waits for the interface to take in a step."""

Steps = Callable[[], Iterator[object]]


@dataclass
class _SideWork:
    key: str
    serial: int
    steps: Steps
    begun: Iterator[object] | None = None
    """What is left of the steps, once some have been taken."""


class Worker(QObject):
    """One thread that runs jobs in steps. A job stops between steps when it is outdated.

    Signals arrive on the interface thread, only for jobs that are still the newest of their
    key: (key, what the step gave), (key, message), (key).
    """

    stepped = Signal(str, object)
    failed = Signal(str, str)
    finished = Signal(str)
    _told = Signal(str, int, str, object)

    def __init__(self, name: str, *, held: bool = False, in_turns: bool = False) -> None:
        """With `held`, work waits until `release`: the first picture of the window comes first.

        With `in_turns`, jobs take their steps in turns, so that a long one does not keep a short
        one waiting; otherwise each is done before the next is begun.
        """
        super().__init__()
        self._held, self._in_turns = held, in_turns
        self._newest: dict[str, int] = {}
        self._waiting: list[_SideWork] = []
        self._serial = 0
        self._wake = threading.Condition()
        self._ended = False
        self._busy = 0
        self._taken = threading.Event()
        self._told.connect(self._tell, Qt.ConnectionType.QueuedConnection)
        self._thread = threading.Thread(target=self._loop, name=name, daemon=True)
        self._thread.start()

    def run(self, key: str, steps: Steps) -> None:
        """Runs `steps` after what is waiting; an earlier job of the same key is dropped."""
        with self._wake:
            self._serial += 1
            self._newest[key] = self._serial
            self._waiting = [job for job in self._waiting if job.key != key]
            self._waiting.append(_SideWork(key, self._serial, steps))
            self._busy += 1
            self._wake.notify()

    def release(self) -> None:
        """Begins the work that was held back."""
        with self._wake:
            self._held = False
            self._wake.notify()

    def cancel(self, key: str) -> None:
        """Stops the job of a key at its next step; nothing more is heard of it."""
        with self._wake:
            self._serial += 1
            self._newest[key] = self._serial
            self._waiting = [job for job in self._waiting if job.key != key]

    @property
    def idle(self) -> bool:
        """Whether nothing is running, waiting, or still to be told."""
        with self._wake:
            return not self._waiting and self._busy == 0

    def end(self) -> None:
        with self._wake:
            self._ended = True
            self._waiting.clear()
            self._newest.clear()
            self._wake.notify()
        self._taken.set()
        self._thread.join(timeout=2)

    def _loop(self) -> None:
        while True:
            with self._wake:
                while (self._held or not self._waiting) and not self._ended:
                    self._busy = 0
                    self._wake.wait()
                if self._ended:
                    return
                job = self._waiting.pop(0)
            try:
                job.begun = job.begun or job.steps()
                for step in job.begun:
                    if self._newest.get(job.key) != job.serial:
                        break
                    # the interface takes in each step before the next is begun: array routines
                    # let go of the interpreter and have it back before a waiting thread has woken
                    self._taken.clear()
                    self._told.emit(job.key, job.serial, "step", step)
                    self._taken.wait(LONGEST_WAIT)
                    if self._in_turns and self._waits_behind(job):
                        break
                else:
                    self._told.emit(job.key, job.serial, "end", None)
            except Exception as problem:
                log.exception("while working on %s", job.key)
                self._told.emit(job.key, job.serial, "fail", f"{type(problem).__name__}: {problem}")

    def _waits_behind(self, job: _SideWork) -> bool:
        """Puts a job behind the others that wait; whether there were any."""
        with self._wake:
            if not self._waiting or self._newest.get(job.key) != job.serial:
                return False
            self._waiting.append(job)
            return True

    def _tell(self, key: str, serial: int, what: str, value: object) -> None:
        try:
            if self._newest.get(key) == serial:
                self._pass_on(key, what, value)
        finally:
            self._taken.set()

    def _pass_on(self, key: str, what: str, value: object) -> None:
        if what == "step":
            self.stepped.emit(key, value)
        elif what == "end":
            self.finished.emit(key)
        else:
            self.failed.emit(key, str(value))
