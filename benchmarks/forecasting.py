"""Forecasts: from a change to the first draft and to all ways painted; a handle that is dragged."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from datetime import date, timedelta

import numpy as np
import polars as pl
from PySide6.QtCore import QEventLoop, QPoint, Qt, QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from benchmarks.measure import Figure, busy_core, judged, leave, quiet_window, settle, until_painted

MONTHS, DAYS = 108, 10_000


def figures() -> list[Figure]:
    quiet = judged(_methods)
    return [*quiet, *_beside_others(quiet[1]), *judged(_daily), *judged(_dragged)]


def _beside_others(quiet: Figure) -> list[Figure]:
    """All ways once more with a core kept busy: threads of linear algebra that wait for each other took seven times."""
    with busy_core():
        busy = _methods()[1]
    return [Figure("the same with a core kept busy, over that", busy.value / quiet.value, 3)]


def _table(name: str, step: str, rows: int, seed: int):  # type: ignore[no-untyped-def]
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    rng = np.random.default_rng(seed)
    at, cycle = np.arange(rows), 12 if step == "month" else 7
    values = np.round(600 + 300 * at / rows + 90 * np.sin(2 * np.pi * at / cycle) + rng.normal(0, 30, rows))
    if step == "month":
        days = [date(2017 + k // 12, k % 12 + 1, 1) for k in range(rows)]
    else:
        days = [date(1995, 1, 1) + timedelta(days=k) for k in range(rows)]
    frame = pl.DataFrame({"when": pl.Series(days, dtype=pl.Date), "guests": values})
    return Table(name, (Column("when", Kind.DATE), Column("guests")), frame, step)


def _asked(*tables):  # type: ignore[no-untyped-def]
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.warm_up()
    for table in tables:
        window.session.do(AddTable(table))
    window.asking.add_entry(make("forecast", table=tables[0].name, what="guests"))
    settle(window, 300)
    return window


def _until_all(window, change: Callable[[], None]) -> float:  # type: ignore[no-untyped-def]
    """Seconds from a change to the last painting after it."""
    page, times, loop = window.entry_page, [], QEventLoop()

    def painted() -> None:
        times.append(time.perf_counter())

    rest = QTimer(interval=40)  # seldom, so that looking does not slow what is looked at
    rest.timeout.connect(lambda: loop.quit() if window.idle else None)
    page.painted.connect(painted)
    begun = time.perf_counter()
    change()
    rest.start()
    loop.exec()
    rest.stop()
    page.painted.disconnect(painted)
    return times[-1] - begun


def _methods() -> list[Figure]:
    """Each time of a series that is new, as nothing that was worked out is worked out again."""
    tables = [_table(f"t{k}", "month", MONTHS, k) for k in range(26)]
    window = _asked(*tables)
    page, first, whole = window.entry_page, [], []
    for table in tables[1:13]:
        value = (table.name, "guests")
        first.append(until_painted([page], lambda v=value: page.set_slot("what", v)))
        settle(window)
    for table in tables[13:]:
        value = (table.name, "guests")
        whole.append(_until_all(window, lambda v=value: page.set_slot("what", v)))
    leave(window)
    return [
        Figure("108 months: the parts, painted", statistics.median(first) * 1000, 50, "ms"),
        Figure("108 months: all ways, painted", statistics.median(whole) * 1000, 400, "ms"),
    ]


def _daily() -> list[Figure]:
    tables = [_table(f"t{k}", "day", DAYS if k else 100, k) for k in range(4)]
    window = _asked(*tables)
    page, taken = window.entry_page, []
    for table in tables[1:]:
        value = (table.name, "guests")
        taken.append(_until_all(window, lambda v=value: page.set_slot("what", v)))
    leave(window)
    name = "10 000 days: all ways, painted"
    return [Figure(name, statistics.median(taken) * 1000, 3000, "ms")]


def _dragged() -> list[Figure]:
    """From each move of the handle of what is held back to the picture that follows it."""
    window = _asked(_table("t", "month", MONTHS, 3))
    page = window.entry_page
    view = page.picture
    one = next(one for one in view.drawing.handles if one.slot == "holdout")
    start, taken = QPoint(round(one.x), round(one.y)), []
    step = (one.right - one.left) / (MONTHS + 12)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 25):
        to = start - QPoint(round(k * step), 0)
        taken.append(until_painted([page], lambda at=to: QTest.mouseMove(view, at)))
        QApplication.processEvents()
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=to)
    settle(window)
    leave(window)
    return [Figure("the handle moved: the picture follows", statistics.median(taken[4:]) * 1000, 50, "ms")]
