"""Models: from a change to the painted answer, a reading line that is dragged, and bare fits."""

from __future__ import annotations

import statistics
import time

import numpy as np
import polars as pl
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from benchmarks.measure import Figure, judged, leave, median_seconds, quiet_window, settle, until_painted

LIMITS = {1000: 60, 100_000: 150}
"""Milliseconds, corrected, by the number of rows."""


def figures() -> list[Figure]:
    return [*_bare(), *judged(_painted), *judged(_dragged)]


def _table(rows: int):  # type: ignore[no-untyped-def]
    from theoros.table.table import Column, Table

    rng = np.random.default_rng(7)
    length = np.round(rng.uniform(36, 97, rows), 2)
    mass = np.round(-7.5 + 0.41 * length + rng.normal(0, 2.5, rows), 3)
    frame = pl.DataFrame({"length": length, "mass": mass})
    return Table("leaves", (Column("length", unit="mm"), Column("mass", unit="g")), frame, "leaf")


def _asked(rows: int):  # type: ignore[no-untyped-def]
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.warm_up()
    window.session.do(AddTable(_table(rows)))
    window.asking.add_entry(make("model", table="leaves", what="mass", against="length", read=70.0))
    settle(window, 300)
    return window


def _painted() -> list[Figure]:
    """Medians over changes of the confidence."""
    made = []
    for rows, limit in LIMITS.items():
        window = _asked(rows)
        page, taken = window.entry_page, []
        for at in range(15):
            level = 0.80 + 0.03 * (at % 5)
            taken.append(until_painted([page], lambda p=page, v=level: p.set_slot("confidence", v)))
            settle(window)
        leave(window)
        what = "all curves" if rows < 20_000 else "line"
        title = f"changed model to painted answer, {rows:,} rows, {what}".replace(",", " ", 1)
        made.append(Figure(title, statistics.median(taken[3:]) * 1000, limit, "ms"))
    return made


def _dragged() -> list[Figure]:
    """How long each move of the reading line holds the window, at the worst of most of them."""
    window = _asked(1000)
    view = window.entry_page.picture
    one = next(one for one in view.drawing.handles if one.slot == "read")
    start, taken = QPoint(round(one.x), round(one.y)), []
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for step in range(1, 61):
        begun = time.perf_counter()
        QTest.mouseMove(view, start + QPoint(step, 0))
        view.repaint()
        taken.append((time.perf_counter() - begun) * 1000)
        QApplication.processEvents()
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start + QPoint(60, 0))
    settle(window)
    leave(window)
    taken.sort()
    return [Figure("a move of the reading line, 19 of 20 within", taken[56], 16, "ms")]


def _bare() -> list[Figure]:
    from theoros.verbs.model.curves.curve import curves

    rng = np.random.default_rng(7)
    n = 1_000_000
    x = rng.uniform(36, 97, n)
    y = -7.5 + 0.41 * x + rng.normal(0, 2.5, n)
    line, at = curves()["line"], np.linspace(36, 97, 161)

    def ours() -> None:
        found = line.fit(x, y)
        for single in (False, True):
            found.band(at, 0.95, single=single)

    def bare() -> None:
        np.linalg.lstsq(np.column_stack([np.ones(n), x]), y, rcond=None)

    made = [
        Figure(
            "line with bands, 1 000 000 rows / numpy lstsq", median_seconds(ours, 7) / median_seconds(bare, 7), 1.5, "×"
        )
    ]
    from theoros.numeric.regression.least_squares import fit

    many = np.column_stack([np.ones(100_000), rng.normal(size=(100_000, 10))])
    end = many @ rng.normal(size=11) + rng.normal(size=100_000)

    def by_pseudo_inverse() -> None:  # what ordinary least squares of statsmodels does
        inverse = np.linalg.pinv(many)
        _ = inverse @ end, inverse @ inverse.T

    ratio = median_seconds(lambda: fit(many, end).standard_errors, 7) / median_seconds(by_pseudo_inverse, 7)
    made.append(Figure("10 predictors, 100 000 rows / a fit by the pseudo-inverse", ratio, 1.3, "×"))
    return made
