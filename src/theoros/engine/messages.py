"""What passes between a link and its engine. Both ends are this program; pipes join them."""

from __future__ import annotations

import pickle
from collections.abc import Mapping
from dataclasses import dataclass
from typing import IO, TYPE_CHECKING, Any

if TYPE_CHECKING:
    from theoros.engine.tables import Handed, Head
    from theoros.engine.tasks.task import Task

PROTOCOL = 5


@dataclass(frozen=True)
class Run:
    """Do a task, with the tables it needs."""

    id: int
    task: Task
    tables: Mapping[str, Handed | Head]


@dataclass(frozen=True)
class Cancel:
    """Stop a task; its end is still told."""

    id: int


@dataclass(frozen=True)
class TaskStep:
    """Something that a task gave."""

    id: int
    value: Any


@dataclass(frozen=True)
class Ended:
    """A task is over: done, cancelled, or failed with a message."""

    id: int
    failure: str = ""


def send(stream: IO[bytes], message: object) -> None:
    """Writes a message; raises OSError or ValueError where the other end is gone."""
    pickle.dump(message, stream, PROTOCOL)
    stream.flush()


def receive(stream: IO[bytes]) -> Any:
    """The next message; raises EOFError at the end."""
    return pickle.load(stream)
