"""A task asked of a process with limits, and what that took."""

from __future__ import annotations

import queue
import threading
from dataclasses import dataclass
from typing import Any

from theoros.engine.limits import taken
from theoros.engine.link import EngineLink
from theoros.engine.tasks.task import Task


@dataclass(frozen=True)
class Watched:
    """How a task ended."""

    how: str
    """ "end", or "fail"."""
    value: Any
    """The last step, or the message."""
    seconds: float
    """Of the processor, so that a busy machine makes nothing slower."""
    memory: int
    """The most bytes that its process held."""


def watched(link: EngineLink, task: Task, patience: float = 700.0) -> Watched:
    """Runs a task, and looks on from beside."""
    told: queue.SimpleQueue[tuple[str, Any]] = queue.SimpleQueue()
    most, over = 0, threading.Event()
    first = taken(link.pid)
    times: dict[int, float] = {link.pid: first.seconds if first else 0.0}
    used: dict[int, float] = {}

    def look() -> None:
        """Of each process that works on it: one that is killed is followed by another."""
        nonlocal most
        while not over.wait(0.005):
            pid = link.pid
            now = taken(pid)
            if now is not None:
                most = max(most, now.memory)
                used[pid] = now.seconds - times.get(pid, 0.0)

    beside = threading.Thread(target=look, daemon=True)
    beside.start()
    link.run(task, {}, lambda how, value: told.put((how, value)))
    last: Any = None
    while True:
        how, value = told.get(timeout=patience)
        if how != "step":
            break
        last = value
    over.set()
    beside.join()
    return Watched(how, last if how == "end" else value, sum(used.values()), most)
