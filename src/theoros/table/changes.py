"""Changes to the cells and columns of a table: each gives another table, or raises TableError.

A column whose values are unchanged is shared between the two.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from theoros.lazy_imports import pl
from theoros.numeric.arrays import Ints
from theoros.table.kinds import Kind, NotAValue, Value, parse, parse_series, unfit
from theoros.table.plain_text import clean_name
from theoros.table.rows import moved
from theoros.table.table import Column, Table, TableError, free_name

LONGEST_NAME = 200


def empty_table(name: str, columns: Sequence[Column] = (), rows: int = 0) -> Table:
    """A table of missing values."""
    frame = pl.DataFrame({c.name: pl.Series([None] * rows, dtype=c.kind.dtype) for c in columns})
    return Table(name, tuple(columns), frame)


def check_name(name: str, what: str, taken: Sequence[str]) -> str:
    """The name without surrounding spaces; raises TableError where it cannot serve."""
    clean = clean_name(name)
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
        refuse_live(target)
        if target.name != table.counts and _unused(series[target.name]):
            # nothing has been typed into it yet, so its first value says what it is
            target = columns[place] = replace(target, kind=_first_kind(target, texts))
            series[target.name] = series[target.name].cast(target.kind.dtype)
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
    more = height - table.rows
    origin = table.origin
    if origin is not None and more:
        origin = pl.concat([origin, pl.Series([2**32 - 1] * more, dtype=origin.dtype)])
    changes = {"columns": tuple(columns), "frame": frame, "origin": origin}
    if more:
        return table.with_(**changes)
    return table.with_values([c.name for c in columns[column : column + width]], **changes)


def fill_down(table: Table, top: int, bottom: int, names: Sequence[str]) -> Table:
    """The values in row `top` put into every row below it, to row `bottom`."""
    if not 0 <= top <= bottom < table.rows:
        raise TableError(f"{table.name} has {table.rows} rows; none beyond can be filled.")
    frame = table.frame.clone()
    for name in names:
        refuse_live(table.column(name))
        values = table.frame[name]
        same = pl.Series(name, [values[top]] * (bottom - top), dtype=values.dtype)
        filled = pl.concat([values[: top + 1], same, values[bottom + 1 :]], rechunk=True)
        frame = frame.replace_column(table.place(name), filled)
    return table.with_values(names, frame=frame)


def refuse_live(column: Column) -> None:
    """Raises TableError for a column whose values follow a formula."""
    if column.formula:
        raise TableError(
            f"{column.name} is calculated by the formula “{column.formula}”, so nothing can be "
            f"typed into it. Change the formula, or keep its values as they are first."
        )


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


def add_column(table: Table, column: Column, at: int | None = None) -> Table:
    """A column of missing values, at a position or at the end."""
    name = check_name(column.name, "column", table.frame.columns)
    at = len(table.columns) if at is None else at
    series = pl.Series(name, [None] * table.rows, dtype=column.kind.dtype)
    named = replace(column, name=name)
    columns = (*table.columns[:at], named, *table.columns[at:])
    frame = table.frame.clone().insert_column(at, series)
    return table.with_values([name], columns=columns, frame=frame)


def delete_columns(table: Table, names: Sequence[str]) -> Table:
    """The table without these columns.

    What was worked out from them keeps its values and no longer follows. Raises TableError if
    the rows in use or their counts rest on one of them.
    """
    for name in names:
        table.column(name)
        if name == table.counts:
            raise TableError(
                f"Rows count as often as {name} says. Say first that each row counts once, then delete it."
            )
        if table.keep and name in _used_by(table.keep, table):
            raise TableError(
                f"The rows of {table.name} are kept by “{table.keep}”, which uses {name}. Keep all "
                f"rows first, then delete it."
            )
    gone = set(names)
    left = tuple(
        replace(c, formula="") if c.formula and gone & set(_used_by(c.formula, table)) else c
        for c in table.columns
        if c.name not in gone
    )
    frame = pl.DataFrame([table.frame[c.name] for c in left])
    # what no longer follows a formula is another column, of the same values
    return table.with_values(names, columns=left, frame=frame)


def frozen_by(table: Table, names: Sequence[str]) -> list[str]:
    """The live columns that would no longer follow if these were deleted."""
    gone = set(names)
    return [
        c.name for c in table.columns if c.formula and c.name not in gone and gone & set(_used_by(c.formula, table))
    ]


def _used_by(formula: str, table: Table) -> tuple[str, ...]:
    from theoros.table.formula import columns_in

    return columns_in(formula, table.by_name)


def duplicate_columns(table: Table, names: Sequence[str]) -> Table:
    """A copy of each column right behind it, under a name of its own; copies are not live."""
    made = table
    for name in names:
        column, place = table.column(name), made.place(name)
        copy = free_name(f"{name} copy", made.by_name)
        columns = list(made.columns)
        columns.insert(place + 1, replace(column, name=copy, formula=""))
        frame = made.frame.clone().insert_column(place + 1, table.frame[name].alias(copy))
        made = made.with_values([copy], columns=tuple(columns), frame=frame)
    return made


def move_columns(table: Table, names: Sequence[str], to: int) -> Table:
    """These columns, in their order, put before the one that is at `to` now."""
    order: Ints = moved(len(table.columns), [table.place(name) for name in names], to)
    columns = tuple(table.columns[at] for at in order)
    frame = table.frame[[c.name for c in columns]]
    return table.with_values([], columns=columns, frame=frame)


def change_column(table: Table, name: str, new: Column) -> Table:
    """Another name, unit, meaning, kind, order of levels or formula for a column.

    With a new kind, values that do not fit become missing: `lost_by` tells which beforehand.
    Formulas and conditions that use the column follow a new name.
    """
    old = table.column(name)
    place = table.place(name)
    clean = new.name
    if new.name != name:
        clean = check_name(new.name, "column", [c.name for c in table.columns if c is not old])
    if new.kind is not old.kind and new.formula:
        raise TableError(
            f"{name} is calculated by a formula, which decides its kind. Keep its values as they are first."
        )
    changed = replace(new, name=clean, unit=new.unit.strip(), meaning=new.meaning.strip())
    columns = (*table.columns[:place], changed, *table.columns[place + 1 :])
    if new.kind is old.kind:
        frame = table.frame.rename({name: clean}) if clean != name else table.frame
    else:
        values = _converted(table, old, new.kind).alias(clean)
        frame = table.frame.clone().replace_column(place, values)
    made = table.with_values([name, clean], columns=columns, frame=frame)
    return _followed_name(made, name, clean, table) if clean != name else made


def _followed_name(made: Table, old: str, new: str, before: Table) -> Table:
    """Formulas, condition and counts after a column was renamed."""
    from theoros.table.formula import renamed

    def follow(text: str) -> str:
        return renamed(text, old, new, before.by_name) if text else text

    columns = tuple(replace(c, formula=follow(c.formula)) if c.formula else c for c in made.columns)
    counts = new if made.counts == old else made.counts
    return made.with_(columns=columns, keep=follow(made.keep), counts=counts)


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


def _unused(series: pl.Series) -> bool:
    return series.null_count() == series.len()


def _first_kind(column: Column, texts: Sequence[str]) -> Kind:
    """The kind of a column that gets its first values: its own if they fit it."""
    if column.kind is not Kind.NUMBER:
        return column.kind
    return _kind_of(texts)


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
