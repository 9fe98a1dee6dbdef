"""Looking at data: from a changed statement to the painted picture, at three sizes."""

from __future__ import annotations

import statistics

import numpy as np
import polars as pl

from benchmarks.measure import Figure, judged, leave, quiet_window, settle, until_painted
from benchmarks.tables import ratio

SIZES = ((1_000, 30), (100_000, 120), (1_000_000, 400))


def figures() -> list[Figure]:
    return [*judged(_changes), _describing()]


def table(rows: int):
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    rng = np.random.default_rng(7)
    frame = pl.DataFrame(
        {
            "loss": rng.normal(50, 9, rows).round(1),
            "mass": rng.gamma(3, 4, rows).round(2),
            "shed": rng.choice([f"shed {k}" for k in range(10)], rows),
        }
    )
    columns = (Column("loss", unit="%"), Column("mass", unit="g"), Column("shed", Kind.CATEGORY))
    return Table(f"trays {rows}", columns, frame, "tray")


def _changes() -> list[Figure]:
    """Statement change to painted picture, and a handle being dragged."""
    from theoros.study.edits import AddTable
    from theoros.verbs.core.registry import make

    window = quiet_window()
    made = []
    for rows, limit in SIZES:
        data = table(rows)
        window.session.do(AddTable(data))
        for shape in ("histogram", "box plot") if rows > 1_000 else ("stacked dots", "histogram"):
            window.asking.add_entry(make("plot", table=data.name, what="loss", shape=shape))
            settle(window)
            slot, values = ("what", ["mass", "loss"])
            taken = [_painted(window, slot, values[k % 2]) for k in range(13)]
            middle = statistics.median(taken[3:]) * 1000
            made.append(
                Figure(
                    f"changed statement to painted picture, {shape}, {rows:,} rows".replace(",", " "),
                    middle,
                    limit,
                    "ms",
                )
            )
        if rows == 1_000:
            made += _drags(window, data.name)
        elif rows == 100_000:
            window.asking.add_entry(make("plot", table=data.name, what="loss", against="mass", shape="scatter"))
            settle(window)
            taken = [_painted(window, "what", ["mass", "loss"][k % 2]) for k in range(9)]
            middle = statistics.median(taken[3:]) * 1000
            made.append(Figure("changed statement to painted scatter, 100 000 rows", middle, 120, "ms"))
    leave(window)
    return made


def _painted(window, slot: str, value: object) -> float:
    """Seconds from setting a slot to the picture of the new answer painted."""
    settle(window)
    return until_painted([window.entry_page], lambda: window.entry_page.set_slot(slot, value))


def _drags(window, name: str) -> list[Figure]:
    """Every move of a handle, from the hand to the paint."""
    from theoros.verbs.core.registry import make

    made = []
    for slot, statement in (
        ("bins", make("plot", table=name, what="loss", shape="stacked dots")),
        ("cut", make("plot", table=name, what="loss", shape="stacked dots", cut=50.0)),
    ):
        window.asking.add_entry(statement)
        settle(window)
        page, taken = window.entry_page, []
        handle = next(h for h in page.picture.drawing.handles if h.slot == slot)
        for k in range(40):
            value = handle.value_at(handle.x + 3 + k * 3)
            taken.append(until_painted([page], lambda v=value, p=page, s=slot: p.handle_moved(s, v, False)))
        middle = statistics.median(taken[3:]) * 1000
        made.append(Figure(f"each move of the {slot} handle painted, 1 000 rows", middle, 16, "ms"))
    return made


def _describing() -> Figure:
    """Describe by 10 groups at a million rows, over the NumPy calls that its figures need."""
    from theoros.verbs.core.answering import answer
    from theoros.verbs.core.registry import make

    data = table(1_000_000)
    statement = make("describe", table=data.name, what="loss", by="shed")
    values = data.numbers("loss")
    codes = data.frame["shed"].cast(pl.Categorical).to_physical().to_numpy()

    def bare() -> None:
        for code in range(10):
            own = np.sort(values[codes == code])
            own.mean()
            own.std(ddof=1)
            np.quantile(own, [0.25, 0.5, 0.75])

    value = ratio(lambda: answer(statement, {data.name: data}), bare, 5)
    return Figure("describe 1 000 000 rows by 10 groups / the bare calls", value, 1.5, "x")
