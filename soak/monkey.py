"""A monkey in the real window: clicks, keys, drags, typing, menus, dialogs and sizes by chance."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from soak.tally import Budget, Tally

ROUND = 2000
"""Actions before a new window is begun."""
PATIENCE = 60.0
"""Seconds without an action after which a window counts as frozen."""


def run(budget: Budget) -> Tally:
    tally = Tally(
        "a monkey in the window", "20 000 actions: no crash, no exception, no bad words, nothing cut or left behind"
    )
    late, round_, held_up = time.monotonic() + budget.seconds, 0, 0
    began = time.monotonic()
    while time.monotonic() < late and tally.tried < budget.most:
        left = max(5.0, late - time.monotonic())
        actions = min(ROUND, budget.most - tally.tried)
        with tempfile.TemporaryDirectory() as folder:
            tried, more = _round(Path(folder), budget.seed * 1000 + round_, actions, left, tally)
        tally.tried += tried
        held_up += more
        round_ += 1
        if not tried:
            break
    tally.seconds = time.monotonic() - began
    tally.notes.append(f"{round_} windows; held up {held_up} times")
    return tally


def _round(home: Path, seed: int, actions: int, seconds: float, tally: Tally) -> tuple[int, int]:
    """Actions done by one window, and how often it was held up."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "XDG_RUNTIME_DIR": str(home)}
    log = home / "log"
    child = subprocess.Popen(
        [sys.executable, "-m", "soak.monkey_child", str(home), str(seed), str(actions), str(seconds)],
        env=environment,
        stderr=subprocess.DEVNULL,
    )
    size, since = -1, time.monotonic()
    while child.poll() is None:
        time.sleep(0.2)
        now = log.stat().st_size if log.exists() else 0
        if now != size:
            size, since = now, time.monotonic()
        elif time.monotonic() - since > PATIENCE:
            tally.fail(f"seed {seed}: frozen after {_last(log)}")
            child.kill()
            child.wait()
            break
    lines = log.read_text(errors="replace").splitlines() if log.exists() else []
    for line in lines:
        what, _, said = line.partition("\t")
        if what == "fault":
            tally.fail(f"seed {seed}: {said}")
    if child.returncode not in (0, -9):
        tally.fail(f"seed {seed}: crashed ({child.returncode}) after {_last(log)}: {_trail(home / 'crash')}")
    if child.returncode == 0:
        for what in _left_behind(home):
            tally.fail(f"seed {seed}: after leaving there is {what}")
    return sum(line.startswith("done\t") for line in lines), sum(line.startswith("held up\t") for line in lines)


def _last(log: Path) -> str:
    lines = log.read_text(errors="replace").splitlines() if log.exists() else []
    return next((line.partition("\t")[2] for line in reversed(lines) if line.startswith("do\t")), "the start")


def _trail(crash: Path) -> str:
    """Where Python was when the window crashed, innermost call first."""
    lines = crash.read_text(errors="replace").splitlines() if crash.exists() else []
    return " < ".join(line.strip() for line in lines if line.startswith("  File"))[:1500]


def _left_behind(home: Path) -> list[str]:
    """Files of a session and processes that outlive their window by more than ten seconds."""
    late = time.monotonic() + 10
    found = []
    while time.monotonic() < late:
        found = [f"the folder {one.name}" for one in home.glob("theoros-*")]
        found += [f"process {one.parent.name}" for one in Path("/proc").glob("[0-9]*/environ") if _of(one, home)]
        if not found:
            break
        time.sleep(0.2)
    return found


def _of(environ: Path, home: Path) -> bool:
    try:
        return f"XDG_RUNTIME_DIR={home}\0".encode() in environ.read_bytes()
    except OSError:
        return False
