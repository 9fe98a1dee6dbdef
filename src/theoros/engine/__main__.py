"""The engine's process: takes tasks from one pipe, does them in turns, gives steps to another.

Run as `python -m theoros.engine FOLDER [NICE]`, with how far it stands back for others; it ends
with its program, whose end of the pipe closes.
"""

from __future__ import annotations

import contextlib
import os
import queue
import sys
import threading
import traceback
import warnings
from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import IO, TYPE_CHECKING

from theoros.engine.folder import RUNNING
from theoros.engine.messages import Cancel, Ended, Run, TaskStep, receive, send

if TYPE_CHECKING:
    from theoros.engine.tables import Receiver


@dataclass
class _RunningTask:
    id: int
    steps: Iterator[object]


class Process:
    """Jobs take their steps in turns, so that a long one does not keep a short one waiting."""

    def __init__(self, folder: Path, requests: IO[bytes], replies: IO[bytes]) -> None:
        self.folder, self._requests, self._replies = folder, requests, replies
        self._inbox: queue.SimpleQueue[Run | Cancel] = queue.SimpleQueue()
        self._jobs: deque[_RunningTask] = deque()
        self._mark = os.open(folder / RUNNING, os.O_CREAT | os.O_WRONLY, 0o600)

    def serve(self) -> None:
        threading.Thread(target=self._listen, name="requests", daemon=True).start()
        while True:
            self._take_in()
            job = self._jobs.popleft()
            os.pwrite(self._mark, b"%20d" % job.id, 0)
            try:
                value = next(job.steps)
            except StopIteration:
                self._say(Ended(job.id))
            except KeyboardInterrupt:
                return
            except BaseException as problem:  # a panic of a library among them
                traceback.print_exc()
                self._say(Ended(job.id, f"{type(problem).__name__}: {problem}"))
            else:
                if value is not None:
                    self._say(TaskStep(job.id, value))
                self._jobs.append(job)
            os.pwrite(self._mark, b"%20d" % 0, 0)

    def _listen(self) -> None:
        with contextlib.suppress(EOFError, OSError):
            while True:
                self._inbox.put(receive(self._requests))
        os._exit(0)  # the program is gone, and nobody waits for what is being worked out

    def _take_in(self) -> None:
        """All messages there are; with nothing to do, waits for one."""
        while not self._jobs or not self._inbox.empty():
            message = self._inbox.get()
            if isinstance(message, Cancel):
                for job in [job for job in self._jobs if job.id == message.id]:
                    self._jobs.remove(job)
                    self._say(Ended(job.id))
                continue
            self._jobs.append(_RunningTask(message.id, self._steps(message)))

    @cached_property
    def _receiver(self) -> Receiver:
        """Made with the first task: until then the window needs the processor more."""
        from theoros.engine.tables import Receiver

        return Receiver(self.folder)

    def _steps(self, run: Run) -> Iterator[object]:
        """Lazily, so that tables too are mapped as a step of the job."""
        yield from run.task.steps(self._receiver.tables(run.tables), self.folder)

    def _say(self, message: TaskStep | Ended) -> None:
        try:
            send(self._replies, message)
        except (OSError, ValueError):
            os._exit(0)


def main() -> None:
    requests = sys.stdin.buffer
    replies = os.fdopen(os.dup(1), "wb")
    os.dup2(2, 1)  # what libraries print is not for the pipe
    os.nice(int(sys.argv[2]) if len(sys.argv) > 2 else 0)
    warnings.filterwarnings("ignore", category=RuntimeWarning)  # what overflows is dealt with where it is told
    Process(Path(sys.argv[1]), requests, replies).serve()


if __name__ == "__main__":
    main()
