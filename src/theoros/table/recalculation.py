"""What holds of a table after any change: live columns follow, kept rows too, counts are counts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.table import MOST_CASES, Column, Table, TableError


def settled(table: Table, before: Table | None = None) -> Table:
    """The table with live columns and kept rows worked out anew, where what they use is new.

    `before` is the table from before the change, itself settled. Raises TableError if a formula
    goes in a circle or no longer works, or a column of counts holds something else.
    """
    live = [column for column in table.columns if column.formula]
    counted = table.counts if table.counts in table.by_name else ""
    if counted and not table.column(counted).formula:
        check_counts(table, counted)  # before any formula counts rows by it
    if live:
        table = _followed(table, live, before)
    if table.counts:
        check_counts(table, table.counts)
    if not table.keep:
        return table if table.kept is None else table.with_(kept=None)
    return table.with_(kept=_kept(table))


def _followed(table: Table, live: Sequence[Column], before: Table | None) -> Table:
    from theoros.table.formula import columns_in, evaluate

    uses = {column.name: columns_in(column.formula, table.by_name) for column in live}
    weights_changed = before is None or before.counts != table.counts
    if before is not None and table.counts and not weights_changed:
        weights_changed = not _equal(before, table, table.counts)
    new: set[str] = set()
    for name in _in_order(uses):
        column = table.column(name)
        known = before.by_name.get(name) if before is not None else None
        stale = (
            known is None
            or known.formula != column.formula
            or weights_changed
            or any(used in new or not _equal(before, table, used) for used in uses[name])
            or not _equal(before, table, name)
        )
        if not stale:
            continue
        try:
            worked = evaluate(column.formula, table)
        except TableError as problem:
            raise TableError(
                f"{name} is calculated by “{column.formula}”, and that would no longer work. {problem}"
            ) from None
        new.add(name)
        table = _with_values(table, column, worked.values, worked.type)
    return table


def _with_values(table: Table, column: Column, values: pl.Series, made: str) -> Table:
    kind = kind_for(made, column.kind)
    if made == "truth":
        values = pl.select(pl.when(values).then(pl.lit("yes")).when(~values).then(pl.lit("no"))).to_series()
    place = table.place(column.name)
    changed = replace(column, kind=kind)
    columns = (*table.columns[:place], changed, *table.columns[place + 1 :])
    frame = table.frame.clone().replace_column(place, values.alias(column.name))
    return table.with_values([column.name], columns=columns, frame=frame)


def kind_for(made: str, now: Kind | None = None) -> Kind:
    """The kind of a column that holds values of a formula's type."""
    if made in ("number", "date"):
        return Kind.NUMBER if made == "number" else Kind.DATE
    return now if now in (Kind.ORDERED, Kind.TEXT) else Kind.CATEGORY


def _equal(before: Table | None, after: Table, name: str) -> bool:
    if before is None or name not in before.by_name:
        return False
    was, now = before.by_name[name], after.by_name[name]
    if was.kind is not now.kind or was.levels != now.levels:
        return False
    one, two = before.frame[name], after.frame[name]
    return one.len() == two.len() and one.equals(two)


def _in_order(uses: dict[str, tuple[str, ...]]) -> list[str]:
    """Live columns in an order in which each comes after those it uses."""
    import graphlib

    inner = {name: [u for u in used if u in uses] for name, used in uses.items()}
    try:
        return list(graphlib.TopologicalSorter(inner).static_order())
    except graphlib.CycleError as circle:
        names = list(reversed(circle.args[1]))
        chain = " needs ".join(names)
        if len(names) == 2:
            chain = f"{names[0]} would need itself"
        raise TableError(f"The formulas go in a circle: {chain}. Change one of them so that it does not.") from None


def _kept(table: Table) -> pl.Series:
    from theoros.table.formula import truth

    try:
        return truth(table.keep, table).rename("")
    except TableError as problem:
        raise TableError(
            f"The rows of {table.name} are kept by “{table.keep}”, and that would no longer work. {problem}"
        ) from None


def check_counts(table: Table, name: str) -> None:
    """Raises TableError unless the column holds whole, non-negative counts."""
    if table.column(name).kind is not Kind.NUMBER:
        raise TableError(
            f"Rows count as often as {name} says, so {name} has to stay a number column. Say first "
            f"that each row counts once."
        )
    values = table.frame[name]
    wrong = ((values < 0) | (values > MOST_CASES) | (values != values.floor())).arg_true()
    if wrong.len():
        row = int(wrong[0])
        most = f"{MOST_CASES:,}".replace(",", "\u202f")
        raise TableError(
            f"Row {row + 1}, {name}: {table.cell_text(row, name)} is not a count. Rows count as "
            f"often as this column says, so it takes whole numbers from 0 to {most}."
        )
