"""Two tables joined by a key."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.lazy_imports import pl
from theoros.table.kinds import Kind, show
from theoros.table.table import MOST_CASES, Table, TableError, free_name


@dataclass(frozen=True)
class Joined:
    """Two tables as one, and the keys that found no partner."""

    table: Table
    left_alone: tuple[str, ...]
    """Keys of the first table that are not in the second."""
    right_alone: tuple[str, ...]
    keyless: int
    """Rows of the first table without a key."""
    repeated: tuple[str, ...]
    """Keys that stand in several rows of the second table, so that rows of the first repeat."""


def join(left: Table, right: Table, key: str, right_key: str, *, keep_all: bool = True) -> Joined:
    """The rows of `left` with the columns of `right` beside them where the keys are equal.

    With `keep_all`, rows of `left` without a partner stay, with missing values; without, they
    are left out. A missing key has no partner. Raises TableError if the keys are of kinds that
    cannot be equal, or there would be too many rows.
    """
    one, two = left.column(key), right.column(right_key)
    if one.kind.dtype != two.kind.dtype:
        raise TableError(
            f"{key} in {left.name} is a {one.kind} column and {right_key} in {right.name} is a "
            f"{two.kind} column. Give both the same kind first."
        )
    a = pl.DataFrame([left.frame[key].alias("key")]).with_row_index("left")
    b = pl.DataFrame([right.frame[right_key].alias("key")]).with_row_index("right")
    sizes = (
        a.drop_nulls()
        .group_by("key")
        .len("m")
        .join(b.drop_nulls().group_by("key").len("n"), on="key")
        .select((pl.col("m").cast(pl.Float64) * pl.col("n").cast(pl.Float64)).sum())
        .item()
    )
    if (sizes or 0) + left.rows > MOST_CASES:
        raise TableError(
            f"Joined by {key}, the tables would have {sizes:.3g} rows, since keys repeat in both. "
            f"Choose a key that stands in each row of one table once."
        )
    how = "left" if keep_all else "inner"
    pairs = a.join(b, on="key", how=how, maintain_order="left_right")  # type: ignore[arg-type]
    columns, series = list(left.columns), [left.frame[c.name].gather(pairs["left"]) for c in left.columns]
    for about in right.columns:
        if about.name == right_key:
            continue
        taken = [c.name for c in columns]
        name = about.name if about.name not in taken else free_name(f"{about.name} of {right.name}", taken)
        columns.append(replace(about, name=name, formula=""))
        series.append(right.frame[about.name].gather(pairs["right"]).alias(name))
    known_right = set(right.frame[right_key].drop_nulls().unique().to_list())
    known_left = set(left.frame[key].drop_nulls().unique().to_list())
    counts = b.drop_nulls().group_by("key", maintain_order=True).len()
    repeated = [k for k, n in counts.iter_rows() if n > 1 and k in known_left]
    table = left.with_(columns=tuple(columns), frame=pl.DataFrame(series))
    return Joined(
        table,
        _said(left, key, known_left - known_right),
        _said(right, right_key, known_right - known_left),
        int(left.frame[key].null_count()),
        tuple(show(k) for k in repeated),
    )


def _said(table: Table, key: str, alone: set[object]) -> tuple[str, ...]:
    """Keys in the order in which they stand in the table, as text."""
    if not alone:
        return ()
    values = table.frame[key].drop_nulls().unique(maintain_order=True).to_list()
    places = table.decimals(key) if table.column(key).kind is Kind.NUMBER else None
    return tuple(show(value, places) for value in values if value in alone)
