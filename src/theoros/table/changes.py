"""Changes to a table: each takes a table and gives another, or raises TableError.

A column whose values are unchanged is shared between the two.
"""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Sequence

from theoros.heavy import pl
from theoros.table.kinds import Kind, NotAValue, Value, parse, parse_series, unfit
from theoros.table.table import Column, Table, TableError, free_name

LONGEST_NAME = 200


def empty_table(name: str, columns: Sequence[Column] = (), rows: int = 0) -> Table:
    """A table of missing values."""
    frame = pl.DataFrame({c.name: pl.Series([None] * rows, dtype=c.kind.dtype) for c in columns})
    return Table(name, tuple(columns), frame)


def check_name(name: str, what: str, taken: Sequence[str]) -> str:
    """The name without surrounding spaces; raises TableError where it cannot serve."""
    clean = " ".join(name.split())
    if not clean:
        raise TableError(f"A {what} needs a name. Type one.")
    if len(clean) > LONGEST_NAME:
        raise TableError(f"A {what}'s name can have {LONGEST_NAME} letters at most.")
    if clean in taken:
        raise TableError(f"There is a {what} called “{clean}” already. Choose another name.")
    return clean


def set_cells(table: Table, row: int, column: int, block: Sequence[Sequence[str]]) -> Table:
    """Typed or pasted text put in from a cell on, rightwards and down.

    Rows and columns that are not there yet are added; a new column takes the kind that its
    values suggest. Raises TableError, and changes nothing, if a value does not fit.
    """
    width = max((len(line) for line in block), default=0)
    if not width:
        return table
    series = {c.name: table.frame[c.name] for c in table.columns}
    columns = list(table.columns)
    height = max(table.rows, row + len(block))
    for offset in range(width):
        texts = [line[offset] if offset < len(line) else "" for line in block]
        place = column + offset
        while place >= len(columns):
            name = free_name(f"column {len(columns) + 1}", [c.name for c in columns])
            kind = _kind_of(texts) if place == len(columns) else Kind.NUMBER
            columns.append(Column(name, kind))
            series[name] = pl.Series(name, [None] * height, dtype=kind.dtype)
        target = columns[place]
        values: list[Value] = []
        for down, text in enumerate(texts):
            try:
                values.append(parse(text, target.kind))
            except NotAValue as problem:
                raise TableError(
                    f"Row {row + down + 1}, {target.name}: {problem}. "
                    f"Correct it, leave it empty for a missing value, or change the column’s kind."
                ) from None
        series[target.name] = _put(_grow(series[target.name], height), row, values, target.kind)
    frame = pl.DataFrame([_grow(series[c.name], height).alias(c.name) for c in columns])
    return table.with_(columns=tuple(columns), frame=frame)


def paste_columns(table: Table, block: Sequence[Sequence[str]]) -> Table:
    """A block with names in its first line, put in from the first row on.

    A name the table has takes the values into that column; others become new columns of the
    kind their values suggest, with a unit where the name ends in one, as in "leaf mass (g)".
    """
    names = [" ".join(cell.split())[:LONGEST_NAME] for cell in block[0]]
    width = max(len(line) for line in block)
    names += [""] * (width - len(names))
    made = table
    for at, title in enumerate(names):
        texts = [line[at] if at < len(line) else "" for line in block[1:]]
        kind = _kind_of(texts)
        name, unit = split_unit(title) if kind is Kind.NUMBER else (title, "")
        if name not in made.by_name:
            name = free_name(name or f"column {len(made.columns) + 1}", made.by_name)
            made = add_column(made, Column(name, kind, unit))
        made = set_cells(made, 0, made.place(name), [[text] for text in texts])
    return made


def split_unit(title: str) -> tuple[str, str]:
    """ "leaf mass (g)" or "leaf mass [g]" as name and unit; no unit where there is none."""
    for opening, closing in (("(", ")"), ("[", "]")):
        if title.endswith(closing) and opening in title:
            name, _, unit = title[:-1].rpartition(opening)
            if name.strip() and unit.strip() and len(unit) <= 20:
                return name.strip(), unit.strip()
    return title, ""


def insert_rows(table: Table, at: int, count: int) -> Table:
    """`count` rows of missing values before row `at` (from 0)."""
    blank = pl.DataFrame(
        {c.name: pl.Series([None] * count, dtype=c.kind.dtype) for c in table.columns}
    )
    aside = frozenset(row + count if row >= at else row for row in table.aside)
    return table.with_(frame=pl.concat([table.frame[:at], blank, table.frame[at:]]), aside=aside)


def delete_rows(table: Table, rows: Sequence[int]) -> Table:
    """The table without the rows at these positions."""
    if rows and not 0 <= min(rows) <= max(rows) < table.rows:
        raise TableError(f"{table.name} has {table.rows} rows; none beyond can be deleted.")
    keep = pl.Series([True] * table.rows, dtype=pl.Boolean)
    if rows:
        keep = keep.scatter(pl.Series(rows, dtype=pl.UInt32), False)
    gone = sorted(rows)
    aside = frozenset(row - bisect_left(gone, row) for row in table.aside if row not in set(gone))
    return table.with_(frame=table.frame.filter(keep), aside=aside)


def set_aside(table: Table, rows: Sequence[int], *, aside: bool = True) -> Table:
    """Rows put out of every analysis, or taken back into it. They stay in the table."""
    if rows and not 0 <= min(rows) <= max(rows) < table.rows:
        raise TableError(f"{table.name} has {table.rows} rows; none beyond can be set aside.")
    now = table.aside | set(rows) if aside else table.aside - set(rows)
    return table.with_(aside=frozenset(now))


def add_column(table: Table, column: Column, at: int | None = None) -> Table:
    """A column of missing values, at a position or at the end."""
    name = check_name(column.name, "column", table.frame.columns)
    at = len(table.columns) if at is None else at
    series = pl.Series(name, [None] * table.rows, dtype=column.kind.dtype)
    named = Column(name, column.kind, column.unit, column.meaning, column.levels)
    columns = (*table.columns[:at], named, *table.columns[at:])
    return table.with_(columns=columns, frame=table.frame.clone().insert_column(at, series))


def delete_columns(table: Table, names: Sequence[str]) -> Table:
    """The table without these columns."""
    for name in names:
        table.column(name)
    left = tuple(c for c in table.columns if c.name not in names)
    return table.with_(columns=left, frame=pl.DataFrame([table.frame[c.name] for c in left]))


def change_column(table: Table, name: str, new: Column) -> Table:
    """Another name, unit, meaning, kind or order of levels for a column.

    With a new kind, values that do not fit become missing: `lost_by` tells which beforehand.
    """
    old = table.column(name)
    place = table.place(name)
    clean = new.name
    if new.name != name:
        clean = check_name(new.name, "column", [c.name for c in table.columns if c is not old])
    changed = Column(clean, new.kind, new.unit.strip(), new.meaning.strip(), new.levels)
    columns = (*table.columns[:place], changed, *table.columns[place + 1 :])
    if new.kind is old.kind:
        frame = table.frame.rename({name: clean}) if clean != name else table.frame
    else:
        values = _converted(table, old, new.kind).alias(clean)
        frame = table.frame.clone().replace_column(place, values)
    return table.with_(columns=columns, frame=frame)


def lost_by(table: Table, name: str, kind: Kind) -> list[int]:
    """The rows (from 0) whose value would become missing if the column were of that kind."""
    old = table.column(name)
    if old.kind is kind:
        return []
    texts = _texts(table, old)
    return unfit(texts, parse_series(texts, kind)).arg_true().to_list()


def _texts(table: Table, column: Column) -> pl.Series:
    texts = table.frame[column.name].cast(pl.String)
    # 13.0 reads as 13; nothing else is rounded
    return texts.str.replace(r"\.0$", "") if column.kind is Kind.NUMBER else texts


def _converted(table: Table, old: Column, kind: Kind) -> pl.Series:
    if kind.dtype == old.kind.dtype:
        return table.frame[old.name]
    return parse_series(_texts(table, old), kind)


def _kind_of(texts: Sequence[str]) -> Kind:
    for kind in (Kind.NUMBER, Kind.DATE):
        try:
            for text in texts:
                parse(text, kind)
        except NotAValue:
            continue
        return kind
    return Kind.CATEGORY


def _grow(series: pl.Series, height: int) -> pl.Series:
    short = height - series.len()
    if short <= 0:
        return series
    return pl.concat([series, pl.Series(series.name, [None] * short, dtype=series.dtype)])


def _put(series: pl.Series, row: int, values: Sequence[Value], kind: Kind) -> pl.Series:
    new = pl.Series(series.name, values, dtype=kind.dtype)
    if row == 0 and new.len() == series.len():
        return new
    return pl.concat([series[:row], new, series[row + new.len() :]], rechunk=True)
