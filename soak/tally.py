"""What a trial counts: how much was tried, and what gave way."""

from __future__ import annotations

import contextlib
import random
import signal
import time
import traceback
from collections.abc import Iterator
from dataclasses import dataclass, field

MOST_SHOWN = 60


@dataclass
class Tally:
    """The result of one trial."""

    name: str
    goal: str
    tried: int = 0
    failures: list[str] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)
    seconds: float = 0.0
    _kinds: set[str] = field(default_factory=set)

    def fail(self, what: str) -> None:
        if what not in self.failures:
            self.failures.append(what)

    def fault(self, where: str, problem: BaseException) -> None:
        """An exception that nobody should have seen, with the place it comes from."""
        frames = [f for f in traceback.extract_tb(problem.__traceback__) if "theoros" in f.filename]
        trail = " < ".join(f"{f.filename.rpartition('theoros/')[2]}:{f.lineno}" for f in reversed(frames[-4:]))
        kind = f"{type(problem).__name__} [{trail}]"
        if kind not in self._kinds:  # once for each place
            self._kinds.add(kind)
            self.fail(f"{kind} {str(problem)[:120]} at {where[:700]}")


class TooLong(Exception):
    """A try that was stopped after its time."""


@contextlib.contextmanager
def at_most(seconds: float) -> Iterator[None]:
    """Stops what takes more of the processor, with TooLong, once Python has its turn again."""

    def stop(*_: object) -> None:
        raise TooLong(f"over {seconds:.0f} s")

    signal.signal(signal.SIGPROF, stop)
    signal.setitimer(signal.ITIMER_PROF, seconds)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_PROF, 0)


@dataclass
class Budget:
    """For how long a trial goes on, and the chance it draws from."""

    seconds: float
    seed: int
    most: int = 10**9
    """How many tries at most."""

    def __post_init__(self) -> None:
        self.chance = random.Random(self.seed)
        self._began = time.monotonic()

    def rounds(self, tally: Tally) -> Iterator[int]:
        """Counts until the time is over."""
        self._began = time.monotonic()
        while tally.tried < self.most and time.monotonic() - self._began < self.seconds:
            yield tally.tried
            tally.tried += 1
        tally.seconds = time.monotonic() - self._began
