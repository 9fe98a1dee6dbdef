"""The statistics of a simulation, or its samples, as a table of the study."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.wording import counted, whole
from theoros.lazy_imports import np, pl
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.core.slots import Tables
from theoros.verbs.simulate.ready import Ready

if TYPE_CHECKING:
    from theoros.verbs.simulate.statement import SimulateStatement

MOST_STATISTICS, MOST_CASES = 1_000_000, 200_000


def drawn_table(s: SimulateStatement, what: str, tables: Tables) -> tuple[Table, str]:
    """The table, and what is to be said of it. Raises CannotAnswer."""
    from theoros.verbs.simulate.watched import ready_for

    ready = ready_for(s, tables)
    if what == "statistics":
        return _statistics(ready)
    if what == "sample":
        at = min(s.opened or s.repeats, s.repeats)
        return _cases(ready, range(at, at + 1), f"{ready.each} {at} by chance"), ""
    return _samples(ready)


def _told(ready: Ready) -> str:
    s = ready.s
    return f"simulated from seed {s.seed}: {s.model.title()}"


def _statistics(ready: Ready) -> tuple[Table, str]:
    s = ready.s
    for _ in ready.growing.grow(s.repeats):
        pass
    rows = ready.growing.first(s.repeats)
    columns = [Column(ready.each, Kind.NUMBER)]
    series = [pl.Series(ready.each, np.arange(1.0, s.repeats + 1))]
    for at, label in enumerate(ready.labels):
        name = free_name(label, [c.name for c in columns])
        unit = ready.unit if at == 0 else ""
        columns.append(Column(name, Kind.NUMBER, unit=unit))
        held = pl.Series(name, np.ascontiguousarray(rows[:, at])).fill_nan(None)
        series.append(held)
    name = f"{ready.each}s by chance"
    made = Table(name, tuple(columns), pl.DataFrame(series), noun=ready.each, provenance=(_told(ready),))
    return made, ""


def _samples(ready: Ready) -> tuple[Table, str]:
    s = ready.s
    per = max(1, ready.values_in_one)
    many = max(1, min(s.repeats, MOST_CASES // per))
    note = ""
    if many < s.repeats:
        note = (
            f"It holds the first {counted(many, ready.each)} of {whole(s.repeats)}, as a table of "
            f"all cases would have more than {whole(MOST_CASES)} rows."
        )
    return _cases(ready, range(1, many + 1), f"cases of {ready.each}s by chance"), note


def _cases(ready: Ready, numbers: range, name: str) -> Table:
    """A row for each case of these samples."""
    found = ready.columns(numbers)
    names: list[str] = []
    columns, series = [], []
    for column, held in found:
        called = free_name(column.name, names)
        names.append(called)
        columns.append(Column(called, column.kind, unit=column.unit))
        series.append(held.alias(called))
    return Table(name, tuple(columns), pl.DataFrame(series), provenance=(_told(ready),))
