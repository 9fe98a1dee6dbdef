"""Names that were typed into the first row of a table, made the names of its columns."""

from __future__ import annotations

import re
from dataclasses import replace

from theoros.lazy_imports import pl
from theoros.table.changes import LONGEST_NAME, split_unit
from theoros.table.kinds import Kind, guess_kind, parse_series
from theoros.table.rows import delete_rows
from theoros.table.table import Column, Table, TableError, free_name

_GIVEN = re.compile(r"column \d+")
MOST_LOOKED_AT = 2000


def looks_like_names(table: Table) -> bool:
    """Whether the first row holds names: text in every column, over values that are none.

    Only of a table whose columns have not been named yet.
    """
    if table.rows < 2 or not table.columns:
        return False
    if not all(_GIVEN.fullmatch(column.name) for column in table.columns):
        return False
    if any(column.kind in (Kind.NUMBER, Kind.DATE) for column in table.columns):
        return False
    first = [table.cell_text(0, column.name).strip() for column in table.columns]
    if not all(first) or len(set(first)) < len(first):
        return False
    return any(_kind_below(table, column.name) in (Kind.NUMBER, Kind.DATE) for column in table.columns)


def names_from_first_row(table: Table) -> Table:
    """The first row's texts as names, with units where they end in one; the rest without it.

    Columns take the kind that their remaining values suggest. Raises TableError where a table has
    no row, or a column that follows a formula.
    """
    if not table.rows:
        raise TableError(f"{table.name} has no row whose values could be names.")
    live = next((column.name for column in table.columns if column.formula), "")
    if live:
        raise TableError(f"{live} follows a formula, so its first value is no name.")
    columns: list[Column] = []
    series: list[pl.Series] = []
    for column in table.columns:
        title = " ".join(table.cell_text(0, column.name).split())[:LONGEST_NAME]
        kind = _kind_below(table, column.name) or column.kind
        name, unit = split_unit(title) if kind is Kind.NUMBER else (title, "")
        taken = [one.name for one in columns]
        name = free_name(name or column.name, taken)
        values = table.frame[column.name]
        if kind is not column.kind:
            # all but the first: that one is no value
            rest = parse_series(values[1:].cast(pl.String), kind)
            values = pl.concat([pl.Series([None], dtype=rest.dtype), rest])
        columns.append(replace(column, name=name, unit=unit or column.unit, kind=kind))
        series.append(values.alias(name))
    old = {before.name: after.name for before, after in zip(table.columns, columns, strict=True)}
    made = table.with_(columns=tuple(columns), frame=pl.DataFrame(series), counts=old.get(table.counts, ""))
    return delete_rows(made, (0,))


def _kind_below(table: Table, name: str) -> Kind | None:
    """What the values below the first row suggest; None for none, or where they are typed."""
    column = table.column(name)
    if column.kind not in (Kind.CATEGORY, Kind.TEXT):
        return None
    texts = table.frame[name][1:MOST_LOOKED_AT].drop_nulls()
    return guess_kind(texts, decimal_comma=None) if texts.len() else None
