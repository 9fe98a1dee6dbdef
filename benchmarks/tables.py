"""Tables of a million rows: opened, scrolled, edited, arranged, and what memory they take."""

from __future__ import annotations

import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import polars as pl

from benchmarks.measure import Figure, judged, leave, quiet_window, settle, until_painted

ROWS = 1_000_000


def figures() -> list[Figure]:
    return [_csv(), *judged(_sheet), *judged(_edit_to_painted), *_arranging(), *_memory()]


def ratio(ours: Callable[[], object], bare: Callable[[], object], times: int = 7) -> float:
    """Median time of one call over that of another, taken in turns so that noise meets both."""
    one, two = [], []
    for _ in range(times + 1):
        for call, taken in ((bare, two), (ours, one)):
            begun = time.perf_counter()
            call()
            taken.append(time.perf_counter() - begun)
    return statistics.median(one[1:]) / statistics.median(two[1:])


def frame(rows: int = ROWS) -> pl.DataFrame:
    """Ten columns: seven numbers, two categories, a date."""
    rng = np.random.default_rng(7)
    columns: dict[str, object] = {f"x{k}": rng.normal(50, 10, rows).round(3) for k in range(6)}
    columns["whole"] = rng.integers(0, 1000, rows).astype(float)
    columns["shed"] = rng.choice(["north", "south", "west"], rows)
    columns["method"] = rng.choice(["slow", "quick"], rows)
    days = pl.Series(rng.integers(10_000, 20_000, rows)).cast(pl.Int32).cast(pl.Date)
    return pl.DataFrame({**columns, "picked": days})


def table(rows: int = ROWS):
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    data = frame(rows)
    kinds = {pl.String: Kind.CATEGORY, pl.Date: Kind.DATE}
    columns = tuple(
        Column(name, kinds.get(type(dtype), kinds.get(dtype, Kind.NUMBER))) for name, dtype in data.schema.items()
    )
    return Table("leaves", columns, data, "leaf")


def _csv() -> Figure:
    from theoros.files.delimited import open_delimited

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "leaves.csv"
        frame().write_csv(path)
        value = ratio(lambda: open_delimited(path), lambda: pl.read_csv(path, try_parse_dates=True), 9)
    return Figure("CSV of 1 000 000 x 10 / polars.read_csv", value, 1.5, "x")


def _sheet() -> list[Figure]:
    from PySide6.QtWidgets import QApplication

    from theoros.study.edits import AddTable, SetCells

    window = quiet_window()
    window.session.do(AddTable(table()))
    window.show_target(("table", "leaves"))
    settle(window)
    sheet = window.table_page.sheet
    paints = []
    for k in range(60):
        sheet.verticalScrollBar().setValue((k * 7919 * 13) % ROWS)
        begun = time.perf_counter()
        sheet.viewport().repaint()
        paints.append(time.perf_counter() - begun)
    edits = []
    for k in range(40):
        row = (k * 7919 * 13) % ROWS
        settle(window)
        begun = time.perf_counter()
        window.session.do(SetCells("leaves", row, k % 6, ((str(k),),)))
        edits.append(time.perf_counter() - begun)
        QApplication.processEvents()
    settle(window)
    leave(window)
    return [
        Figure("repaint while scrolling 1 000 000 rows", _middle(paints), 16, "ms"),
        Figure("cell edit with its undo step, 1 000 000 rows", _middle(edits), 10, "ms"),
    ]


BEFORE = 570
"""Milliseconds, corrected, from a cell edit to painted answers while answers were worked out on a
thread of the window's process."""


def _edit_to_painted() -> list[Figure]:
    """A cell edited at a million rows, until two open entries are painted anew."""
    from theoros.study.edits import AddTable, SetCells
    from theoros.verbs.core.registry import make

    window = quiet_window()
    window.session.do(AddTable(table()))
    plot = make("plot", table="leaves", what="x0", by="shed", shape="histogram")
    for statement in (plot, make("describe", table="leaves", what="x1", by="method")):
        window.asking.add_entry(statement)
        settle(window)
    window.show_target(("entry", "e1"))
    settle(window)
    window.put_beside("e2")
    settle(window)
    taken, link = [], window.answers.link
    written = link.columns_written
    for k in range(12):
        edit = SetCells("leaves", 5 + k, k % 2, ((str(40 + k),),))
        taken.append(until_painted(list(window.entry_pages.pages), lambda e=edit: window.session.do(e)))
        settle(window)
    sent = (link.columns_written - written) / 12
    leave(window)
    name = "a cell edited at 1 000 000 x 10, until both entries are painted"
    return [
        Figure(name, _middle(taken), BEFORE * 1.3, "ms"),
        Figure("columns handed over for each of these edits", sent, 1.0),
    ]


def _middle(seconds: list[float]) -> float:
    return statistics.median(seconds[3:]) * 1000


def _arranging() -> list[Figure]:
    from theoros.table.recalculation import settled
    from theoros.verbs.arrange.answering import arranged
    from theoros.verbs.core.registry import make

    data = table()
    tables, bare = {"leaves": data}, data.frame
    xs = [f"x{k}" for k in range(6)]
    rest = ["whole", "shed", "method", "picked"]
    cases = (
        ("sort", make("sort", table="leaves", first="x0"), lambda: bare.sort("x0", maintain_order=True)),
        ("make long", make("make long", table="leaves", columns=xs), lambda: bare.unpivot(on=xs, index=rest)),
        (
            "filter",
            make("keep rows", table="leaves", column1="x0", relation1="above", value1="50"),
            lambda: bare.filter(pl.col("x0") > 50),
        ),
    )
    made = []
    for name, statement, call in cases:
        value = ratio(lambda s=statement: settled(arranged(s, tables).table, data), call, 5)
        made.append(Figure(f"{name}, 1 000 000 rows / the bare Polars call", value, 2, "x"))
    return made


def _memory() -> list[Figure]:
    """What a table adds to the window and its engine at rest, over what the bare frame adds."""
    ours = _resident("window", ROWS) - _resident("window", 10)
    bare = _resident("frame", ROWS) - _resident("frame", 10)
    name = "memory of both processes at rest, 1 000 000 x 10 / the bare frame"
    return [Figure(name, ours / bare, 2.3, "x")]


def _resident(what: str, rows: int) -> int:
    """Bytes that a process of its own holds once it is at rest."""
    done = subprocess.run(
        [sys.executable, "-m", "benchmarks.tables", what, str(rows)], capture_output=True, text=True, check=True
    )
    return int(done.stdout.split()[-1])


def _rest(what: str, rows: int) -> int:
    """The process itself: a window with a table of so many rows, or the frame alone."""
    import gc

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "leaves.parquet"
        # made by another process, so that what making it takes is not counted
        code = f"from benchmarks.tables import frame; frame({rows}).write_parquet({str(path)!r})"
        subprocess.run([sys.executable, "-c", code], check=True)
        if what == "frame":
            held: object = pl.read_parquet(path)
        else:
            from theoros.files.formats import open_table
            from theoros.study.edits import AddTable

            window = quiet_window()
            held = window
            window.session.do(AddTable(open_table(path).table))
            window.show_target(("table", "leaves"))
            settle(window)
    gc.collect()
    time.sleep(1.5)
    total = _private("self")
    if what == "window":
        link = held.answers.link
        # pages that both map count once; those of the handed columns that nobody maps count too
        total += _private(str(link.pid))
        leave(held)
    return total


def _private(process: str) -> int:
    """Bytes of a process, pages that it shares counted by its part of them."""
    for line in Path(f"/proc/{process}/smaps_rollup").read_text().splitlines():
        if line.startswith("Pss:"):
            return int(line.split()[1]) * 1024
    raise ValueError("no share of memory is told here")


if __name__ == "__main__":
    print(_rest(sys.argv[1], int(sys.argv[2])))
