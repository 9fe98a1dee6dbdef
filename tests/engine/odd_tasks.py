"""Tasks that misbehave; in a module of their own, since the engine imports it."""

from __future__ import annotations

import os
import signal
import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path

from theoros.engine.limits import Limits
from theoros.engine.tasks.task import Task
from theoros.table.table import Table


@dataclass(frozen=True)
class Count(Task):
    """So many steps, each after a while."""

    to: int
    pause: float = 0.0

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        for at in range(self.to):
            time.sleep(self.pause)
            yield at


@dataclass(frozen=True)
class Hang(Task):
    """A call that does not return for long."""

    seconds: float = 60.0

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        yield "begun"
        end = time.monotonic() + self.seconds
        while time.monotonic() < end:
            time.sleep(0.05)
        yield "done"


@dataclass(frozen=True)
class HangWithin(Hang):
    """The same with limits that it does not reach."""

    @property
    def limits(self) -> Limits:
        return Limits(4_000_000_000, 600.0)


@dataclass(frozen=True)
class Fail(Task):
    statement: object = None
    digits: object = None

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        raise RuntimeError("the abacus broke")
        yield


@dataclass(frozen=True)
class Die(Task):
    """Kills its own process: until a file is there, or always."""

    until: Path | None = None
    quiet: bool = False

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        yield None if self.quiet else os.getpid()
        if self.until is None or not self.until.exists():
            if self.until is not None:
                self.until.touch()
            os.kill(os.getpid(), signal.SIGKILL)
        yield "survived"


@dataclass(frozen=True)
class Total(Task):
    """The sum of a column, and how the table came."""

    table: str
    column: str

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.table,)

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        table = tables[self.table]
        cached = sorted(what for what, name in table._cache if name == self.column)
        yield float(table.numbers(self.column).sum()), cached, dict.fromkeys(tables)
