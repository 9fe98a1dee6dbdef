"""Changes to the rows of a table: each takes a table and gives another, or raises TableError."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Ints
from theoros.table.table import Table, TableError


def check_rows(table: Table, rows: Sequence[int], what: str) -> None:
    """Raises TableError if one of these rows is not there."""
    if len(rows) and not 0 <= min(rows) <= max(rows) < table.rows:
        raise TableError(f"{table.name} has {table.rows} rows; none beyond can be {what}.")


def take(table: Table, rows: Ints, *, of_use: bool = True) -> Table:
    """These rows in this order, some perhaps more than once. Rows set aside stay so.

    Without `of_use` the result has no rows set aside: they are told apart some other way.
    """
    rows = np.asarray(rows, dtype=np.int64)
    aside: frozenset[int] = frozenset()
    if of_use and table.aside:
        away = np.zeros(table.rows, dtype=np.bool_)
        away[list(table.aside)] = True
        aside = frozenset(np.flatnonzero(away[rows]).tolist())
    origin = table.origin.gather(rows) if table.origin is not None else None
    kept = table.kept.gather(rows) if table.kept is not None else None
    frame = table.frame[rows] if table.columns else table.frame
    return table.with_(frame=frame, aside=aside, origin=origin, kept=kept)


def insert_rows(table: Table, at: int, count: int) -> Table:
    """`count` rows of missing values before row `at` (from 0), or at the end where it is beyond."""
    at = min(max(at, 0), table.rows)
    blank = pl.DataFrame({c.name: pl.Series([None] * count, dtype=c.kind.dtype) for c in table.columns})
    aside = frozenset(row + count if row >= at else row for row in table.aside)

    def with_gap(series: pl.Series | None, filling: object) -> pl.Series | None:
        if series is None:
            return None
        gap = pl.Series([filling] * count, dtype=series.dtype)
        return pl.concat([series[:at], gap, series[at:]])

    # a row put in goes back behind the one it was put under
    above = 0 if table.origin is None or at == 0 else table.origin[at - 1]
    return table.with_(
        frame=pl.concat([table.frame[:at], blank, table.frame[at:]]),
        aside=aside,
        origin=with_gap(table.origin, above),
        kept=with_gap(table.kept, False),
    )


def delete_rows(table: Table, rows: Sequence[int]) -> Table:
    """The table without the rows at these positions."""
    check_rows(table, rows, "deleted")
    left = np.ones(table.rows, dtype=np.bool_)
    left[np.asarray(rows, dtype=np.int64)] = False
    return take(table, np.flatnonzero(left))


def duplicate_rows(table: Table, rows: Sequence[int]) -> Table:
    """Each of these rows once more, below the last of them."""
    check_rows(table, rows, "duplicated")
    if not rows:
        return table
    everything, last = np.arange(table.rows), max(rows) + 1
    return take(table, np.concatenate([everything[:last], np.array(sorted(rows)), everything[last:]]))


def move_rows(table: Table, rows: Sequence[int], to: int) -> Table:
    """These rows, in their order, put before the row that is at `to` now."""
    check_rows(table, rows, "moved")
    return take(table, moved(table.rows, rows, to))


def moved(count: int, places: Sequence[int], to: int) -> Ints:
    """The order of `count` things after those at `places` are put before the one at `to`."""
    chosen = np.array(sorted(places), dtype=np.int64)
    rest = np.delete(np.arange(count), chosen)
    before = int((rest < to).sum())
    return np.concatenate([rest[:before], chosen, rest[before:]])


def set_aside(table: Table, rows: Sequence[int], *, aside: bool = True) -> Table:
    """Rows put out of every analysis, or taken back into it. They stay in the table."""
    check_rows(table, rows, "set aside")
    now = table.aside | set(rows) if aside else table.aside - set(rows)
    return table.with_(aside=frozenset(now))


def sort_rows(table: Table, by: Sequence[tuple[str, bool]]) -> Table:
    """Sorted by columns, each from the least up or (True) from the greatest down.

    Equal rows keep their order; missing values come last. Categories go by the order of their
    levels. The order from before can be had back with `original_order`.
    """
    frame = pl.DataFrame([_sorting_key(table, name).alias(f"k{at}") for at, (name, _) in enumerate(by)])
    order = frame.select(
        pl.arg_sort_by(
            [pl.col(f"k{at}") for at in range(len(by))],
            descending=[down for _, down in by],
            nulls_last=True,
            maintain_order=True,
        )
    ).to_series()
    remembered = table
    if table.origin is None:
        places = pl.Series(np.arange(table.rows), dtype=pl.UInt32)
        remembered = table.with_(origin=places)
    return take(remembered, order.to_numpy())


def _sorting_key(table: Table, name: str) -> pl.Series:
    if not table.column(name).kind.is_grouping:
        return table.frame[name]
    codes = pl.Series(table.codes(name))
    return pl.select(pl.when(codes >= 0).then(codes)).to_series()


def original_order(table: Table) -> Table:
    """The order from before sorting; rows that came since stand under the one they came under."""
    if table.origin is None:
        raise TableError(f"{table.name} has not been sorted, so it is in its own order.")
    order = table.origin.to_frame("o").select(pl.arg_sort_by("o", maintain_order=True)).to_series()
    return take(table, order.to_numpy()).with_(origin=None)
