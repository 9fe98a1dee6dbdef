"""The link to an engine: requests go out, steps come in; the process is begun anew when it dies.

Light to import, so that the engine is started first thing. All work of the link is done on two
threads of its own; `tell` is called on one of them.
"""

from __future__ import annotations

import contextlib
import itertools
import logging
import os
import queue
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from theoros.engine.folder import RUNNING, RuntimeFolder, sweep
from theoros.engine.limits import CRASH, MEMORY, TIME, WATCH, Limits, most_memory, taken
from theoros.engine.messages import Cancel, Ended, Run, TaskStep, receive, send

if TYPE_CHECKING:
    from theoros.engine.tables import Handed, Sender
    from theoros.engine.tasks.task import Task
    from theoros.table.table import Table

log = logging.getLogger(__name__)

PATIENCE = 1.0
"""Seconds that a cancelled task may take to end before its process is ended."""
IDLE_WATCH = 0.5
"""Seconds between two looks at the memory of a process whose task has no limits of its own."""
MOST_CRASHES = 2
"""A task with which the process died so often is not tried again."""
HEAP = {"MALLOC_MMAP_THRESHOLD_": str(32 << 20), "MALLOC_TRIM_THRESHOLD_": str(256 << 20)}
"""Lets the engine keep the memory that arrays of a few hundred kilobytes leave behind.

By default the C library gives it back at once and asks for it anew, page by page, which takes
longer than to fill it with random numbers.
"""

ONE_THREAD = dict.fromkeys(("OPENBLAS_NUM_THREADS", "OMP_NUM_THREADS", "MKL_NUM_THREADS"), "1")
"""The arrays of answers are small: threads of the linear algebra library cost more in waiting for each
other than they save, and seven times as much on a machine that is busy elsewhere."""
BACKGROUND = 5
"""So much a process stands back whose work nobody waits for."""

QUIET = {"RUST_BACKTRACE": "0"}
"""A library that breaks down says so in a line, not in a page."""


@dataclass
class _AskedTask:
    id: int
    task: Task
    tables: Mapping[str, Table]
    tell: Callable[[str, Any], None]
    """Called with "step" and a value, "end" and None, or "fail" and a message."""
    crashes: int = 0
    cancelled_at: float = 0.0
    sent_to: _Process | None = None
    handed: tuple[Handed, ...] = ()
    """The tables that it needs, whose columns must stay until it is done."""
    limits: Limits | None = None
    began: tuple[float, float] | None = None
    """The clock, and the processor time of its process, when it was first seen at work."""


@dataclass
class _Process:
    popen: subprocess.Popen[bytes]
    reader: threading.Thread = field(init=False)


class EngineLink:
    """One engine, as its program sees it."""

    def __init__(self, name: str = "engine", home: Path | None = None, nice: int = 0) -> None:
        self.name, self._nice = name, nice
        self.folder = RuntimeFolder(home)
        self.starts = 0
        """How often a process was started."""
        self._home = home
        self._ids = itertools.count(1)
        self._jobs: dict[int, _AskedTask] = {}
        self._lock = threading.RLock()
        self._todo: queue.SimpleQueue[Callable[[], None] | None] = queue.SimpleQueue()
        self._process: _Process | None = None
        self._sender: Sender | None = None
        self._ended = False
        self._thread = threading.Thread(target=self._loop, name=f"{name} out", daemon=True)

    def start(self) -> None:
        """Starts the process at once; what is asked of it is sent on a thread."""
        self._begin()
        self._thread.start()

    def run(self, task: Task, tables: Mapping[str, Table], tell: Callable[[str, Any], None]) -> int:
        """Asks for a task; gives its number. `tell` hears of it from a thread of the link."""
        job = _AskedTask(next(self._ids), task, tables, tell)
        with self._lock:
            self._jobs[job.id] = job
        self._todo.put(lambda: self._send_job(job))
        return job.id

    def cancel(self, number: int) -> None:
        """Stops a task: nothing more is heard of it. A process that does not end it is ended."""
        with self._lock:
            job = self._jobs.get(number)
            if job is None or job.cancelled_at:
                return
            patience = 0.0 if job.limits is not None else PATIENCE
            job.cancelled_at = time.monotonic() - PATIENCE + patience
        self._todo.put(lambda: self._send(Cancel(number)))

    def end(self) -> None:
        """Ends the process, and clears its folder."""
        with self._lock:
            if self._ended:
                return
            self._ended = True
            process = self._process
            self._jobs.clear()
        self._todo.put(None)
        if process is not None:
            process.popen.kill()
            process.popen.wait()
        if self._thread.is_alive():
            self._thread.join(timeout=2)
        self.folder.remove()

    @property
    def pid(self) -> int:
        """Of the process that works now; 0 for none."""
        return self._process.popen.pid if self._process else 0

    @property
    def columns_written(self) -> int:
        """How many columns were handed over so far."""
        return self._sender.written if self._sender else 0

    # on the thread that sends

    def _loop(self) -> None:
        sweep(self._home)
        while True:
            try:
                action = self._todo.get(timeout=self._until_impatient())
            except queue.Empty:
                self._end_unresponsive()
                self._end_excessive()
                continue
            if action is None:
                return
            try:
                action()
            except Exception:
                log.exception("while asking the %s", self.name)
            self._end_unresponsive()
            self._end_excessive()

    def _send_job(self, job: _AskedTask) -> None:
        from theoros.engine.tables import Handed, Sender, head_of

        with self._lock:
            if job.id not in self._jobs or job.cancelled_at:
                self._jobs.pop(job.id, None)
                return
            if job.sent_to is self._process:
                return
            job.sent_to, job.began, job.limits = self._process, None, job.task.limits
        if self._sender is None:
            self._sender = Sender(self.folder.path)
        needs = set(job.task.needs)
        try:
            handed = {
                name: self._sender.hand(table) if name in needs else head_of(table)
                for name, table in job.tables.items()
            }
        except OSError as problem:
            self._over(job.id, "fail", f"the table could not be handed over: {problem.strerror}")
            return
        job.handed = tuple(one for one in handed.values() if isinstance(one, Handed))
        with self._lock:
            waiting = [one for other in self._jobs.values() for one in other.handed]
        self._sender.clear(waiting)
        self._send(Run(job.id, job.task, handed))

    def _send(self, message: Run | Cancel) -> None:
        process = self._process
        if process is None or process.popen.stdin is None:
            return
        with contextlib.suppress(OSError, ValueError):  # its death is dealt with where it is read
            send(process.popen.stdin, message)

    def _until_impatient(self) -> float | None:
        with self._lock:
            waits = [job.cancelled_at for job in self._jobs.values() if job.cancelled_at]
            watched = any(job.limits is not None for job in self._jobs.values())
            busy = bool(self._jobs)
        rest = max(0.05, min(waits) + PATIENCE - time.monotonic()) if waits else None
        if watched:
            return WATCH
        return min(rest or IDLE_WATCH, IDLE_WATCH) if busy else rest

    def _end_unresponsive(self) -> None:
        """Ends a process that works on after a cancelled task should have ended."""
        now = time.monotonic()
        with self._lock:
            late = {
                number for number, job in self._jobs.items() if job.cancelled_at and now - job.cancelled_at >= PATIENCE
            }
            process = self._process
            # one that only waits behind another is dropped once its turn comes
            if process is None or self._at_work() not in late:
                return
            self._jobs = {k: job for k, job in self._jobs.items() if not job.cancelled_at}
        process.popen.kill()

    def _end_excessive(self) -> None:
        """Ends a process whose task takes more than it may; the task is told so at once."""
        process, at_work = self._process, self._at_work()
        with self._lock:
            job = self._jobs.get(at_work)
        if process is None or job is None or job.cancelled_at:
            return
        now = taken(process.popen.pid)
        if now is None:
            return
        why = ""
        if job.limits is None:
            why = MEMORY if now.memory > most_memory() else ""
        elif job.began is None:
            job.began = time.monotonic(), now.seconds
        elif now.memory > job.limits.memory:
            why = MEMORY
        elif now.seconds - job.began[1] > job.limits.seconds or time.monotonic() - job.began[0] > job.limits.patience:
            why = TIME
        if why and self._at_work() == at_work:
            log.warning("the %s is ended: too much %s for %s", self.name, why, job.task)
            process.popen.kill()
            self._over(job.id, "fail", job.task.ended(why))

    # the process

    def _begin(self) -> None:
        popen = subprocess.Popen(
            [sys.executable, "-m", "theoros.engine", str(self.folder.path), str(self._nice)],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            env={**HEAP, **ONE_THREAD, **os.environ, **QUIET},
        )
        self.starts += 1
        process = _Process(popen)
        process.reader = threading.Thread(target=self._read, args=(process,), name=f"{self.name} in", daemon=True)
        self._process = process
        process.reader.start()

    def _read(self, process: _Process) -> None:
        assert process.popen.stdout is not None
        try:
            while True:
                message = receive(process.popen.stdout)
                if isinstance(message, TaskStep):
                    self._step(message)
                elif isinstance(message, Ended):
                    how = "fail" if message.failure else "end"
                    self._over(message.id, how, message.failure or None)
        except Exception as problem:  # the end of the pipe, or of a message that was cut
            if not isinstance(problem, EOFError) and not self._ended:
                log.warning("the %s was cut short: %r", self.name, problem)
        self._died(process)

    def _step(self, step: TaskStep) -> None:
        with self._lock:
            job = self._jobs.get(step.id)
            if job is None or job.cancelled_at:
                return
        job.tell("step", step.value)

    def _over(self, number: int, how: str, message: str | None) -> None:
        with self._lock:
            job = self._jobs.pop(number, None)
        if job is not None and not job.cancelled_at:
            job.tell(how, message)

    def _died(self, process: _Process) -> None:
        """Begins another process, and asks it again for what was not done yet."""
        process.popen.wait()
        with self._lock:
            if self._ended or self._process is not process:
                return
            at_work = self._at_work()
            guilty = self._jobs.get(at_work)
            if guilty is not None:
                guilty.crashes += 1
            self._begin()
            left = list(self._jobs.values())
        for job in left:
            if job.crashes >= MOST_CRASHES:
                self._over(job.id, "fail", job.task.ended(CRASH))
            else:
                self._todo.put(lambda j=job: self._send_job(j))  # type: ignore[misc]

    def _at_work(self) -> int:
        """The task that the process was working on when it died."""
        try:
            return int((self.folder.path / RUNNING).read_text() or 0)
        except (OSError, ValueError):
            return 0
