"""Another form of the same data: long, wide, counted up, spread out, turned over.

Each takes a table and gives one that stands on its own: nothing in it is live, and rows are
all in use. Raises TableError where it cannot be done.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Ints
from theoros.table.kinds import Kind
from theoros.table.rows import take
from theoros.table.table import MOST_CASES, Column, Table, TableError, free_name

MOST_COLUMNS = 5000


def standing(table: Table) -> Table:
    """The table with only the rows in use, without what is live or remembered in it."""
    made = table
    if not table.in_use.all():
        made = take(table, np.flatnonzero(table.in_use))
    columns = tuple(replace(c, formula="") if c.formula else c for c in made.columns)
    return made.with_(columns=columns, aside=frozenset(), keep="", kept=None, origin=None, provenance=())


def common_kind(table: Table, names: Sequence[str]) -> Kind:
    """The kind that values of several columns can share: their own, or category, or text."""
    kinds = {table.column(name).kind for name in names}
    if len(kinds) == 1:
        return kinds.pop()
    return Kind.TEXT if Kind.TEXT in kinds else Kind.CATEGORY


def common_unit(table: Table, names: Sequence[str]) -> str:
    """The unit that several columns share; empty if they differ."""
    units = {table.column(name).unit for name in names}
    return units.pop() if len(units) == 1 else ""


def as_kind(table: Table, name: str, kind: Kind) -> pl.Series:
    """The values of a column as values of a kind that can hold them."""
    column, values = table.column(name), table.frame[name]
    if column.kind.dtype == kind.dtype:
        return values
    if column.kind is Kind.NUMBER:
        return values.cast(pl.String).str.replace(r"\.0$", "")
    return values.cast(pl.String)


def make_long(table: Table, names: Sequence[str], value: str, source: str) -> Table:
    """Several columns put one below the other into `value`; `source` says where each came from.

    The other columns are repeated. Missing values keep their rows, so that `make_wide` gives
    the table back. The new columns stand where the first of the old ones stood.
    """
    names = [c.name for c in table.columns if c.name in set(names)]
    if len(names) < 2:
        raise TableError("Choose two columns or more to put into one.")
    rest = [c for c in table.columns if c.name not in names]
    value, source = _new_names((value, source), [c.name for c in rest])
    if table.rows * len(names) > MOST_CASES:
        raise TableError(f"That would make more than {MOST_CASES:,} rows.".replace(",", "\u202f"))
    kind = common_kind(table, names)
    values = pl.concat([as_kind(table, n, kind).alias(value) for n in names], rechunk=True)
    sources = pl.concat([pl.repeat(n, table.rows, dtype=pl.String, eager=True).alias(source) for n in names])
    levels: tuple[str, ...] = ()
    if kind.is_grouping:
        given = (level for n in names for level in table.column(n).levels)
        levels = tuple(dict.fromkeys(given))
    made = {
        source: (Column(source, Kind.CATEGORY, levels=tuple(names)), sources),
        value: (Column(value, kind, common_unit(table, names), levels=levels), values),
    }
    columns: list[Column] = []
    series: list[pl.Series] = []
    for column in table.columns:
        if column.name == names[0]:
            for about, new in made.values():
                columns.append(about)
                series.append(new)
        elif column.name not in names:
            columns.append(column)
            series.append(pl.concat([table.frame[column.name]] * len(names), rechunk=True))
    return table.with_(columns=tuple(columns), frame=pl.DataFrame(series), noun="row")


def make_wide(table: Table, value: str, by: str) -> tuple[Table, int]:
    """A column of `value` for each level of `by`; rows that agree in all else become one.

    Where several rows agree in all else and in `by`, the first of each level make one row, the
    second another, and so on; groups may be of unequal size. Gives also how many rows were left
    out since `by` is missing in them.
    """
    column = table.column(value)
    if value == by or not table.column(by).kind.is_grouping:
        raise TableError("Choose a category to make columns by, other than the values.")
    codes, levels = table.codes(by), table.levels(by)
    if len(levels) > MOST_COLUMNS:
        raise TableError(f"{by} has {len(levels)} levels; {MOST_COLUMNS} columns are the most.")
    rest = [c for c in table.columns if c.name not in (value, by)]
    homeless = int((codes < 0).sum())
    rows = np.flatnonzero(codes >= 0)
    keys = pl.DataFrame(
        [pl.Series("code", codes[rows])]
        + [table.frame[c.name].gather(rows).alias(f"k{at}") for at, c in enumerate(rest)]
    )
    ids = [f"k{at}" for at in range(len(rest))]
    keys = keys.with_columns(turn=pl.int_range(pl.len()).over([*ids, "code"]))
    first = keys.select(*ids, "turn").with_row_index("at").unique([*ids, "turn"], keep="first")
    first = first.sort("at").with_row_index("to")
    found = keys.join(first, on=[*ids, "turn"], how="left", nulls_equal=True, maintain_order="left")
    target = found["to"].to_numpy().astype(np.int64)
    height = first.height
    names = _level_names(levels, [c.name for c in rest])
    wide: list[tuple[Column, pl.Series]] = []
    values = table.frame[value].gather(rows)
    for code, name in enumerate(names):
        where = codes[rows] == code
        places = np.full(height, -1, dtype=np.int64)
        places[target[where]] = np.flatnonzero(where)
        gathered = values.gather(pl.Series(places).replace(-1, None)).alias(name)
        wide.append((replace(column, name=name, formula="", meaning=""), gathered))
    old = first["at"].to_numpy()
    series: list[pl.Series] = []
    columns: list[Column] = []
    begin = min(table.place(value), table.place(by))
    for at, about in enumerate(table.columns):
        if at == begin:
            columns += [about for about, _ in wide]
            series += [values for _, values in wide]
        if about.name not in (value, by):
            columns.append(about)
            series.append(table.frame[about.name].gather(rows[old]))
    made = table.with_(columns=tuple(columns), frame=pl.DataFrame(series), noun="row", counts="")
    return made, homeless


def count_up(table: Table, by: Sequence[str], count: str = "count") -> tuple[Table, int]:
    """How many cases there are of each level, or of each combination of levels.

    Combinations that do not occur are there with a count of 0. Rows of the result count as often
    as `count` says. Gives also how many cases were left out for a missing level.
    """
    sizes = [len(table.levels(name)) for name in by]
    total = int(np.prod(sizes)) if sizes else 0
    if not total:
        raise TableError(f"{' and '.join(by) or 'Nothing'} has no levels to count.")
    if total > 100_000:
        raise TableError(f"There would be {total} combinations; 100 000 are the most.")
    cases = table.cases
    flat = np.zeros(cases.size, dtype=np.int64)
    known = np.ones(cases.size, dtype=np.bool_)
    for name, size in zip(by, sizes, strict=True):
        codes = table.codes(name)[cases]
        known &= codes >= 0
        flat = flat * size + codes
    counts = np.bincount(flat[known], minlength=total)
    grid = np.indices(sizes).reshape(len(sizes), -1)
    series, columns = [], []
    for name, places in zip(by, grid, strict=True):
        levels = table.levels(name)
        series.append(pl.Series(name, [levels[k] for k in places], dtype=pl.String))
        columns.append(replace(table.column(name), levels=levels, formula=""))
    name = free_name(count, by)
    series.append(pl.Series(name, counts, dtype=pl.Float64))
    columns.append(Column(name))
    frame = pl.DataFrame(series)
    made = Table(table.name, tuple(columns), frame, sampling=table.sampling, counts=name)
    return made, int((~known).sum())


def spread_out(table: Table, count: str) -> Table:
    """A row for each case: every row as often as `count` says, and that column gone."""
    if table.counts != count:
        from theoros.table.recalculation import check_counts

        check_counts(table, count)
        table = table.with_(counts=count)
    cases: Ints = table.cases
    made = take(table.with_(counts=""), cases)
    left = tuple(c for c in made.columns if c.name != count)
    if not left:
        raise TableError(f"{table.name} has no column besides {count} to repeat.")
    return made.with_(columns=left, frame=pl.DataFrame([made.frame[c.name] for c in left]))


def transpose(table: Table, names_from: str | None) -> Table:
    """Rows become columns; the first column of the result holds the names of the old ones."""
    if table.rows > MOST_COLUMNS:
        raise TableError(
            f"{table.name} has {table.rows} rows, and they would become columns; {MOST_COLUMNS} are the most."
        )
    body = [c.name for c in table.columns if c.name != names_from]
    if not body or not table.rows:
        raise TableError(f"{table.name} has nothing to turn over.")
    kind = common_kind(table, body)
    names: list[str] = []
    for row in range(table.rows):
        wanted = table.cell_text(row, names_from) if names_from else f"row {row + 1}"
        names.append(free_name(" ".join(wanted.split())[:200] or f"row {row + 1}", names))
    first = free_name("column", names)
    unit = common_unit(table, body)
    cells = [as_kind(table, name, kind).to_list() for name in body]
    series = [pl.Series(first, body, dtype=pl.String)]
    columns = [Column(first, Kind.CATEGORY, levels=tuple(body))]
    for row, name in enumerate(names):
        series.append(pl.Series(name, [column[row] for column in cells], dtype=kind.dtype))
        columns.append(Column(name, kind, unit))
    return Table(table.name, tuple(columns), pl.DataFrame(series), sampling=table.sampling)


def indicators(table: Table, by: str, levels: Sequence[str]) -> list[tuple[Column, pl.Series]]:
    """A 0/1 column for each of these levels, named after it; missing where the level is."""
    codes, have = table.codes(by), table.levels(by)
    made: list[tuple[Column, pl.Series]] = []
    taken = list(table.by_name)
    for level in levels:
        if level not in have:
            raise TableError(f"{by} has no level “{level}”. Its levels are: {', '.join(have)}.")
        name = level if level not in taken else free_name(f"{by} {level}", taken)
        taken.append(name)
        flags = np.where(codes < 0, np.nan, (codes == have.index(level)).astype(np.float64))
        values = pl.Series(name, flags, nan_to_null=True)
        about = Column(name, meaning=f"1 where {by} is {level}, else 0", checked=True)
        made.append((about, values))
    return made


def with_columns(table: Table, made: Sequence[tuple[Column, pl.Series]], behind: str) -> Table:
    """The table with new columns right behind one of its own."""
    at = table.place(behind) + 1 if behind else len(table.columns)
    columns = (*table.columns[:at], *(about for about, _ in made), *table.columns[at:])
    new = {about.name: values.alias(about.name) for about, values in made}
    frame = pl.DataFrame([new[c.name] if c.name in new else table.frame[c.name] for c in columns])
    return table.with_(columns=columns, frame=frame)


def _new_names(wanted: Sequence[str], taken: Sequence[str]) -> list[str]:
    made: list[str] = []
    for name in wanted:
        clean = " ".join(name.split())[:200]
        if not clean:
            raise TableError("A new column needs a name.")
        made.append(free_name(clean, [*taken, *made]))
    return made


def _level_names(levels: Sequence[str], taken: Sequence[str]) -> list[str]:
    made: list[str] = []
    for level in levels:
        clean = " ".join(level.split())[:200] or "level"
        made.append(free_name(clean, [*taken, *made]))
    return made
