"""The real window, killed at random instants: at most the edit in flight is lost."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import tempfile
import threading
import time
from pathlib import Path

from soak.tally import Budget, Tally
from theoros.study.atomic import PART
from theoros.study.entries import StudyError
from theoros.study.file import open_study

LANES = 2
LONGEST = 1.2
"""Seconds that a window is left at work, at most."""


def run(budget: Budget) -> Tally:
    tally = Tally("kill -9 of the window", "1 000: at most the edit in flight lost, 0 damaged files")
    lock = threading.Lock()
    lanes = [_Lane(at, budget, tally, lock) for at in range(LANES)]
    began = time.monotonic()
    threads = [threading.Thread(target=lane.run, daemon=True) for lane in lanes]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    tally.seconds = time.monotonic() - began
    tally.notes.append(f"{sum(lane.edits for lane in lanes)} edits")
    tally.notes.append(f"{sum(lane.recoveries for lane in lanes)} recoveries")
    tally.notes.append(f"{sum(lane.early for lane in lanes)} killed before they were up")
    return tally


class _Lane:
    """One student with one folder, whose laptop dies again and again."""

    def __init__(self, at: int, budget: Budget, tally: Tally, lock: threading.Lock) -> None:
        self.at, self.budget, self.tally, self.lock = at, budget, tally, lock
        self.edits = self.recoveries = self.early = 0
        self.may_be: set[str] = set()
        """What the study may be after the last kill; empty before the first."""

    def run(self) -> None:
        late = time.monotonic() + self.budget.seconds
        with tempfile.TemporaryDirectory() as folder:
            round_ = 0
            while time.monotonic() < late and self.tally.tried < self.budget.most:
                self._once(Path(folder), round_)
                round_ += 1
                with self.lock:
                    self.tally.tried += 1

    def _once(self, home: Path, round_: int) -> None:
        log = home / "log"
        log.unlink(missing_ok=True)
        seed = self.budget.seed * 1000 + round_ * LANES + self.at
        environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_RUNTIME_DIR": str(home)}
        child = subprocess.Popen(
            [sys.executable, "-m", "soak.window_child", str(home), str(seed)],
            env=environment,
            stderr=subprocess.PIPE,
            start_new_session=True,
        )
        with self.lock:
            rest = self.budget.chance.random() * LONGEST
            early = self.budget.chance.random() < 0.15
        patience = time.monotonic() + 60
        while not early and time.monotonic() < patience:
            if child.poll() is not None or (log.exists() and b"ready" in log.read_bytes()):
                break
            time.sleep(0.01)
        time.sleep(rest)
        ended = child.poll()
        os.killpg(child.pid, signal.SIGKILL)  # a dead laptop spares no process
        _, said = child.communicate()
        where = f"lane {self.at}, round {round_}, seed {self.budget.seed}"
        if ended is not None:
            self.tally.fail(f"the window ended by itself ({ended}), {where}: {said.decode()[-600:]}")
        if b"Traceback" in said:
            self.tally.fail(f"{where}: {said.decode()[-600:]}")
        self._judge(log.read_text().splitlines() if log.exists() else [], where)
        try:
            if (home / "study.theoros").exists():
                open_study(home / "study.theoros")
        except StudyError as problem:
            self.tally.fail(f"{where}: {problem}")
        if len(list(home.glob(f"{PART}*"))) > 1:
            self.tally.fail(f"{where}: files half written are not cleared")

    def _judge(self, lines: list[str], where: str) -> None:
        found = [line.split() for line in lines]
        ready = next((said for what, *said in found if what == "ready"), None)
        if ready is None:
            self.early += 1
            return  # what was there is there still, to be looked at by the next
        if self.may_be:
            self.recoveries += 1
            if ready[0] not in self.may_be:
                self.tally.fail(f"{where}: what came back is neither before nor after the last edit")
        self.may_be = {ready[0]}
        for what, *said in found:
            if what == "intends" and said:
                self.may_be.add(said[0])
            elif what == "did" and said:
                self.edits += 1
                self.may_be = {said[0]}
