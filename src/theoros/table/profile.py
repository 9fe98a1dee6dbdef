"""A small profile of a column: how its values are spread, in a few bars."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.bins import counts_in
from theoros.table.kinds import Kind
from theoros.table.table import Table

NUMBER_BARS = 9
MOST_LEVELS = 12


@dataclass(frozen=True, slots=True)
class Profile:
    """Bar heights between 0 and 1, in order, and how many values are there and missing."""

    bars: tuple[float, ...]
    present: int
    missing: int


def level_counts(table: Table, name: str) -> dict[str, int]:
    """How many cases in use have each level, in the order of the levels."""
    levels = table.levels(name)
    if table.whole:
        # counted where it is, without a code for every row that would stay in memory
        found = dict(table.frame[name].drop_nulls().value_counts().iter_rows())
        return {level: int(found.get(level, 0)) for level in levels}
    codes = table.codes(name)[table.cases]
    counts = np.bincount(codes[codes >= 0], minlength=len(levels))
    return dict(zip(levels, counts.tolist(), strict=True))


def profile(table: Table, name: str) -> Profile:
    """The profile of a column: bins for numbers and dates, levels for categories."""
    column = table.column(name)
    missing = table.missing(name)
    present = table.rows - missing
    if not present or column.kind is Kind.TEXT:
        return Profile((), present, missing)
    if column.kind.is_grouping:
        counts = np.array(list(level_counts(table, name).values())[:MOST_LEVELS] or [0])
    else:
        if column.kind is Kind.NUMBER:
            values = table.numbers(name)
            values = values if table.whole else values[table.cases]
        else:
            values = table.series(name).drop_nulls().to_physical().to_numpy().astype(np.float64)
        values = values[np.isfinite(values)]
        if not values.size:
            return Profile((), present, missing)
        low, high = float(values.min()), float(values.max())
        if low == high:
            return Profile((1.0,), present, missing)
        counts = counts_in(values / 2, low / 2, high / 2, NUMBER_BARS)  # halves cannot overflow
    return Profile(tuple((counts / max(1, counts.max())).tolist()), present, missing)
