"""From a changed slot to the new answer painted, and whether the window is ever held up."""

from __future__ import annotations

import statistics
import time

import numpy as np
import polars as pl

from benchmarks.measure import Figure, judged, leave, quiet_window, settle, until_painted

BEFORE = {"plot": 70, "describe": 60, "test": 110}
"""Milliseconds, corrected, while answers were worked out on a thread of the window's process."""


def figures() -> list[Figure]:
    return [*judged(_slot_changes), *judged(_held_up)]


def _held_up() -> list[Figure]:
    # the median of three sessions: other work on the machine holds a window up, too
    worst = statistics.median(_longest_hold_up() for _ in range(3)) * 1000
    name = "longest hold-up, 200 000 rows, while 1 000 000 shuffles run"
    return [Figure(name, worst, 30, "ms")]


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


def _probabilities(window) -> list[Figure]:  # type: ignore[no-untyped-def]
    """A parameter changed, for every family: the slowest by its median, and a million trials."""
    from theoros.verbs.core.registry import make
    from theoros.verbs.laws.law import Law
    from theoros.verbs.probability.data import situations

    tried = {
        kind: {name: _usual(told) for name, told in cls.parameters().items()}
        for kind, cls in situations().items()
        if issubclass(cls, Law) and cls.parameters()
    }
    tried["hypergeometric"] = {"population": 50, "successes": 20, "drawn": 10}
    tried["uniform"] = tried["discrete uniform"] = {"low": 1, "high": 9}
    found = {}
    for name, kind, held in [
        *((kind, kind, held) for kind, held in tried.items()),
        ("n = 1 000 000", "binomial", {"n": 10**6, "p": 0.3}),
        ("two events", "two events", {"value": 0.2, "p_one": 0.3, "p_two": 0.4}),
        (
            "tree",
            "tree",
            {"first": "mite, none", "second": "spotted, clean", "chances": [0.02, 0.9, 0.15], "chances.0": 0.03},
        ),
    ]:
        part = {"two events": "A or B", "tree": "mite given spotted"}.get(kind, "at least 1")
        given = {slot: value for slot, value in held.items() if "." not in slot}
        statement = make("probability", situation={"kind": kind, **given}, parts=[part])
        window.asking.add_entry(statement)
        page, taken = window.entry_page, []
        slot, value = next(reversed(held.items()))
        for at in range(15):
            settle(window)
            step = 1 if isinstance(value, int) else 0.01
            wanted = value + (1 - at % 2) * step
            taken.append(until_painted([page], lambda p=page, s=slot, v=wanted: p.set_slot(f"situation.{s}", v)))
        found[name] = statistics.median(taken[3:]) * 1000
        window.session.undo()
    slowest = max(found, key=lambda name: found[name])
    return [
        Figure(f"parameter to painted answer, probability, slowest: {slowest}", found[slowest], 30, "ms"),
        Figure("parameter to painted answer, binomial, n = 1 000 000", found["n = 1 000 000"], 30, "ms"),
    ]


def _usual(one) -> float:  # type: ignore[no-untyped-def]
    """A value of a parameter that fits any family."""
    if one.holds.whole:
        return 12
    return 0.4 if one.holds.high == 1 else 3.0


def _slot_changes() -> list[Figure]:
    """Median time from setting a slot to the picture of the new answer painted."""
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.warm_up()
    window.session.do(AddTable(_table("trays", 1000)))
    made = []
    for name, statement, slot, values in (
        ("plot", make("plot", table="trays", what="loss", by="shed"), "bins", [2.0, 3.0, 4.0]),
        ("describe", make("describe", table="trays", what="loss"), "by", ["shed", None]),
        (
            "test",
            make("test", table="trays", what="loss", by="shed", first="north", second="south"),
            "alternative",
            ["less", "greater", "different"],
        ),
    ):
        window.asking.add_entry(statement)
        page, taken = window.entry_page, []
        for at in range(25):
            settle(window)
            value = values[at % len(values)]
            taken.append(until_painted([page], lambda p=page, s=slot, v=value: p.set_slot(s, v)))
        middle = statistics.median(taken[3:]) * 1000
        limit = BEFORE[name] + 5
        title = f"changed slot to painted answer, {name}, 1 000 rows"
        made.append(Figure(title, middle, limit, "ms"))
    made += _probabilities(window)
    settle(window)
    there = statistics.median(_way_there_and_back(window) for _ in range(25)) * 1000
    leave(window)
    made.append(Figure("of that, the way between the processes and back", there, unit="ms"))
    return made


def _way_there_and_back(window) -> float:
    """Seconds for a task that does nothing."""
    from PySide6.QtCore import QEventLoop

    from theoros.engine.tasks.task import Nothing

    loop = QEventLoop()
    window.answers.finished.connect(loop.quit)
    begun = time.perf_counter()
    window.answers.run("nothing", Nothing())
    loop.exec()
    window.answers.finished.disconnect(loop.quit)
    return time.perf_counter() - begun


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
    _shuffle_meanwhile(window)
    beats: list[float] = []
    timer = QTimer(interval=1)
    timer.timeout.connect(lambda: beats.append(time.perf_counter()))
    timer.start()
    script = [
        lambda: window.asking.add_entry(make("plot", table="trays", what="loss", by="shed")),
        lambda: window.entry_page.set_slot("bins", 3.0),
        lambda: window.asking.add_entry(make("plot", table="trays", what="mass", against="loss", shape="scatter")),
        lambda: window.asking.add_entry(make("describe", table="trays", what="loss", by="shed")),
        lambda: window.asking.add_entry(
            make("test", table="trays", what="loss", by="shed", first="north", second="south", replicates=200)
        ),
        lambda: window.entry_page.set_slot("method", "rank sum"),
        lambda: window.entry_page.set_slot("method", "shuffled labels"),
        lambda: window.show_target(("table", "trays")),
        lambda: window.session.do(SetCells("trays", 5, 0, (("44.5",),))),
        window.session.undo,
        lambda: window.show_target(("entry", "e1")),
    ]
    worst = 0.0
    for step in script:
        _calm(window)
        beats.clear()
        loop, end = QEventLoop(), time.monotonic() + 0.1
        look = QTimer(interval=20)
        look.timeout.connect(
            lambda loop=loop, end=end: loop.quit() if time.monotonic() > end and _at_rest(window) else None
        )
        look.start()
        QTimer.singleShot(0, step)
        loop.exec()  # the event loop as it runs on a desktop, asleep between events
        look.stop()
        worst = max(worst, float(np.diff(beats).max(initial=0.0)))
    timer.stop()
    leave(window)
    return worst


def _shuffle_meanwhile(window) -> None:
    """A simulation that runs in the engine all the while, as of another entry."""
    from theoros.engine.tasks.answers import AnswerStatement
    from theoros.verbs.core.registry import make

    statement = make(
        "test",
        table="trays",
        what="loss",
        by="shed",
        first="north",
        second="south",
        method="shuffled labels",
        replicates=1_000_000,
    )
    window.answers.run(MEANWHILE, AnswerStatement(statement), window.session.study.by_name)


MEANWHILE = "meanwhile"


def _at_rest(window) -> bool:
    """Whether nothing runs but the simulation."""
    others = [key for key in window.answers.wanted if key != MEANWHILE]
    return not others and window.writer.idle and window.reader.idle and window.side_work.idle


def _calm(window) -> None:
    from PySide6.QtWidgets import QApplication

    end = time.monotonic() + 120
    while time.monotonic() < end:
        QApplication.processEvents()
        if _at_rest(window):
            return
        time.sleep(0.001)
    raise TimeoutError("the window did not come to rest")
