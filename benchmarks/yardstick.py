"""A fixed piece of work, to tell how busy the machine is while something is measured.

It is of the kinds that Theoros does: Python objects, arrays, and painting a window. It is timed
right before and after each figure; a figure in milliseconds is judged after it is divided by how
much slower the yardstick went than on a quiet machine.
"""

from __future__ import annotations

import json
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np

QUIET = Path(__file__).parent / "quiet.json"
"""Milliseconds of each part on a quiet machine; written by `python -m benchmarks.yardstick`."""


@dataclass(frozen=True)
class _Thing:
    name: str
    place: int


def objects() -> object:
    """Small values made, named, sorted and looked up."""
    made = [_Thing(f"thing {k % 997}", k) for k in range(6000)]
    found = {(one.name, one.place): one for one in made}
    ordered = sorted(found, key=lambda key: (key[0], -key[1]))
    return sum(found[key].place for key in ordered)


def arrays() -> object:
    """Numbers drawn, sorted, counted and added."""
    values = np.random.default_rng(1).normal(size=120_000)
    ordered = np.sort(values)
    counts, _ = np.histogram(values, bins=60)
    return float(np.cumsum(ordered)[-1]) + int(counts.max())


@cache
def _window():  # type: ignore[no-untyped-def]
    from PySide6.QtWidgets import QLabel, QTableWidget, QTableWidgetItem, QVBoxLayout, QWidget

    from theoros.desk.application import make_application

    make_application()
    window = QWidget()
    layout = QVBoxLayout(window)
    for k in range(12):
        layout.addWidget(QLabel(f"A line of text, number {k}, that is laid out and painted"))
    table = QTableWidget(12, 6)
    for row in range(12):
        for column in range(6):
            table.setItem(row, column, QTableWidgetItem(f"{row * column}"))
    layout.addWidget(table)
    window.resize(900, 700)
    window.show()
    return window


def painting() -> object:
    """A window of words and cells laid out and painted."""
    window = _window()
    for wide in (880, 900, 890):
        window.resize(wide, 700)
        window.grab()
    return window


PARTS: dict[str, Callable[[], object]] = {"objects": objects, "arrays": arrays, "painting": painting}


def milliseconds(times: int = 3) -> dict[str, float]:
    """What each part takes now: the median of a few runs, the first left out."""
    made = {}
    for name, part in PARTS.items():
        part()
        taken = []
        for _ in range(times):
            begun = time.perf_counter()
            part()
            taken.append(time.perf_counter() - begun)
        made[name] = statistics.median(taken) * 1000
    return made


def slowness() -> float:
    """How many times slower the yardstick goes than on a quiet machine (geometric mean)."""
    quiet, now = json.loads(QUIET.read_text()), milliseconds()
    return float(np.exp(np.mean([np.log(now[name] / quiet[name]) for name in PARTS])))


if __name__ == "__main__":
    least = {name: float("inf") for name in PARTS}
    for _ in range(12):
        least = {name: min(least[name], took) for name, took in milliseconds().items()}
        time.sleep(0.3)
    QUIET.write_text(json.dumps({n: round(took, 3) for n, took in least.items()}) + "\n")
    print(least)
