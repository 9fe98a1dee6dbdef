"""Finding text in the cells of a table, and putting another in its place."""

from __future__ import annotations

import re
from dataclasses import dataclass

from theoros.lazy_imports import np, pl
from theoros.table.changes import refuse_live
from theoros.table.kinds import Kind, NotAValue, Value, parse
from theoros.table.plain_text import storable
from theoros.table.table import Table, TableError

SHOWN_UP_TO = 50_000
"""Numbers of so many rows are searched as they are shown, of more as they are."""


@dataclass(frozen=True)
class Search:
    """What is looked for in cells."""

    text: str
    whole: bool = False
    """Whether it must be the whole of a cell."""
    case: bool = False
    """Whether capitals matter."""

    @property
    def pattern(self) -> str:
        """As a regular expression of the data frame library, and of Python."""
        body = re.escape(self.text)
        return f"{'' if self.case else '(?i)'}{f'^{body}$' if self.whole else body}"

    def replaced(self, text: str, by: str) -> str:
        """A cell's text with what is looked for replaced."""
        return re.sub(self.pattern, lambda _: storable(by), text)


def find_cells(table: Table, search: Search) -> list[tuple[int, int]]:
    """The cells in which the text stands, row by row: (row, column) from 0."""
    found = [(row, at) for at, column in enumerate(table.columns) for row in _rows(table, column.name, search)]
    return sorted(found)


def replace_in_cells(table: Table, search: Search, by: str) -> tuple[Table, int]:
    """The table with the text replaced wherever it stands, and in how many cells.

    Raises TableError, and changes nothing, if a value would not fit its column.
    """
    frame, count, touched = table.frame, 0, []
    for column in table.columns:
        rows = _rows(table, column.name, search)
        if not rows:
            continue
        refuse_live(column)
        values: list[Value] = []
        for row in rows:
            text = search.replaced(table.cell_text(row, column.name), by)
            try:
                values.append(parse(text, column.kind))
            except NotAValue as problem:
                raise TableError(f"Row {row + 1}, {column.name}: {problem}. Nothing was replaced.") from None
        own = frame[column.name].clone()
        new = pl.Series(values, dtype=own.dtype)
        frame = frame.with_columns(own.scatter(rows, new).alias(column.name))
        touched.append(column.name)
        count += len(rows)
    return (table.with_values(touched, frame=frame) if touched else table), count


def _rows(table: Table, name: str, search: Search) -> list[int]:
    """The rows of a column in which the text stands."""
    if not search.text:
        return []
    column, series = table.column(name), table.frame[name]
    if column.kind is Kind.NUMBER:
        if table.rows <= SHOWN_UP_TO:
            series = pl.Series(table.cell_texts(name, 0, table.rows), dtype=pl.String)
        else:
            series = series.cast(pl.String).str.replace(r"\.0$", "")
    elif series.dtype != pl.String:
        series = series.cast(pl.String)
    there = series.str.contains(search.pattern).fill_null(value=False)
    return [int(row) for row in np.flatnonzero(there.to_numpy())]
