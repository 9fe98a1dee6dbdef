"""From a changed slot to the new answer painted, and whether the window is ever held up."""

from __future__ import annotations

import statistics
import time

import numpy as np
import polars as pl

from benchmarks.measure import Figure, leave, quiet_window, settle


def figures() -> list[Figure]:
    # the median of three sessions: other work on the machine holds a window up, too
    worst = statistics.median(_longest_hold_up() for _ in range(3)) * 1000
    held = Figure("longest hold-up of the window, 200 000 rows", worst, 50, "ms")
    return [*_slot_changes(), held]


def _table(name: str, rows: int):
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    rng = np.random.default_rng(7)
    group = rng.choice(["north", "south", "west"], rows)
    value = np.round(rng.normal(50, 9, rows) + (group == "north") * 2, 1)
    other = np.round(value * 0.4 + rng.normal(0, 3, rows), 2)
    frame = pl.DataFrame({"loss": value, "mass": other, "shed": group})
    columns = (Column("loss", unit="%"), Column("mass", unit="g"), Column("shed", Kind.CATEGORY))
    return Table(name, columns, frame, "tray")


def _slot_changes() -> list[Figure]:
    """Median time from setting a slot to the picture of the new answer painted."""
    from PySide6.QtWidgets import QApplication

    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.session.do(AddTable(_table("trays", 1000)))
    made = []
    for name, statement, slot, values in (
        ("plot", make("plot", table="trays", what="loss", by="shed"), "bins", [2.0, 3.0, 4.0]),
        ("describe", make("describe", table="trays", what="loss"), "by", ["shed", None]),
        (
            "test",
            make("test", table="trays", what="loss", by="shed", first="north", second="south"),
            "claim",
            ["less", "greater", "different"],
        ),
    ):
        window.asking.add_entry(statement)
        settle(window)
        page, taken = window.entry_page, []
        for at in range(25):
            settle(window)
            painted = []
            shown = []
            page.answered.connect(shown.append)
            page.painted.connect(
                lambda s=shown, p=painted: p.append(time.perf_counter()) if s else None
            )
            begun = time.perf_counter()
            page.set_slot(slot, values[at % len(values)])
            while not painted:
                QApplication.processEvents()
            taken.append(painted[0] - begun)
            page.answered.disconnect()
            page.painted.disconnect()
            page.answered.connect(window.show_words)
            settle(window)
        middle = statistics.median(taken[3:]) * 1000
        made.append(Figure(f"changed slot to painted answer, {name}, 1000 rows", middle, 50, "ms"))
    leave(window)
    return made


def _longest_hold_up() -> float:
    """Seconds between two beats of the interface thread, the longest over a scripted session."""
    from PySide6.QtCore import QEventLoop, QTimer

    from theoros.study.edits import AddTable, SetCells
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.session.do(AddTable(_table("trays", 200_000)))
    settle(window)
    window.warm_up()
    settle(window)
    beats: list[float] = []
    timer = QTimer(interval=1)
    timer.timeout.connect(lambda: beats.append(time.perf_counter()))
    timer.start()
    script = [
        lambda: window.asking.add_entry(make("plot", table="trays", what="loss", by="shed")),
        lambda: window.entry_page.set_slot("bins", 3.0),
        lambda: window.asking.add_entry(make("plot", table="trays", what="mass", against="loss",
                                      shape="scatter")),
        lambda: window.asking.add_entry(make("describe", table="trays", what="loss", by="shed")),
        lambda: window.asking.add_entry(make("test", table="trays", what="loss", by="shed",
                                             first="north", second="south", shuffles=200)),
        lambda: window.entry_page.set_slot("way", "rank sum"),
        lambda: window.entry_page.set_slot("way", "shuffled labels"),
        lambda: window.show_target(("table", "trays")),
        lambda: window.session.do(SetCells("trays", 5, 0, (("44.5",),))),
        window.session.undo,
        lambda: window.show_target(("entry", "e1")),
    ]  # fmt: skip
    worst = 0.0
    for step in script:
        settle(window)
        beats.clear()
        loop, end = QEventLoop(), time.monotonic() + 0.1
        look = QTimer(interval=20)
        look.timeout.connect(
            lambda loop=loop, end=end: (
                loop.quit() if time.monotonic() > end and window.idle else None
            )
        )
        look.start()
        QTimer.singleShot(0, step)
        loop.exec()  # the event loop as it runs on a desktop, asleep between events
        look.stop()
        worst = max(worst, float(np.diff(beats).max(initial=0.0)))
    timer.stop()
    leave(window)
    return worst
