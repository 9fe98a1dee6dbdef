"""Changes to the levels of a category: other names, levels merged, their order."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

from theoros.lazy_imports import pl
from theoros.table.changes import refuse_live
from theoros.table.kinds import Kind
from theoros.table.plain_text import storable
from theoros.table.table import Table, TableError


def recoded(values: pl.Series, mapping: Mapping[str, str]) -> pl.Series:
    """Values with other names for some; the empty name makes them missing."""
    new = [text or None for text in mapping.values()]
    return values.replace(pl.Series(list(mapping), dtype=pl.String), pl.Series(new, dtype=pl.String))


def recode(table: Table, name: str, mapping: Mapping[str, str]) -> Table:
    """Other names for levels. Two that get the same name become one level.

    Raises TableError if the column has no levels, is worked out by a formula, or a level that is
    named is not there.
    """
    column = table.column(name)
    refuse_live(column)
    if not column.kind.is_grouping:
        raise TableError(f"{name} is a {column.kind} column; only a category has levels.")
    levels = table.levels(name)
    clean = {old: storable(" ".join(new.split())) for old, new in mapping.items()}
    for old in clean:
        if old not in levels:
            raise TableError(f"{name} has no level “{old}”. Its levels are: {', '.join(levels)}.")
    order = tuple(dict.fromkeys(clean.get(level, level) for level in levels))
    given = tuple(level for level in order if level) if column.levels else ()
    place = table.place(name)
    columns = (*table.columns[:place], replace(column, levels=given), *table.columns[place + 1 :])
    values = recoded(table.frame[name], clean).alias(name)
    return table.with_(columns=columns, frame=table.frame.clone().replace_column(place, values))


def order_levels(table: Table, name: str, levels: Sequence[str]) -> Table:
    """The levels in a given order, which the column keeps."""
    column = table.column(name)
    if not column.kind.is_grouping:
        raise TableError(f"{name} is a {column.kind} column; only a category has levels.")
    have = table.levels(name)
    if sorted(levels) != sorted(have):
        raise TableError(f"The levels of {name} are: {', '.join(have)}. Each has one place.")
    place = table.place(name)
    ordered = replace(column, levels=tuple(levels))
    columns = (*table.columns[:place], ordered, *table.columns[place + 1 :])
    return table.with_(columns=columns)


FEW_NUMBERS = 5
"""So few different whole numbers may well be codes for groups."""


def doubtful_kind(table: Table, name: str) -> str:
    """Why the kind of a column may be wrong, in a sentence; empty where nothing speaks for it.

    A number column with very few different whole numbers may hold codes for groups; a category
    of nothing but numbers may hold measurements.
    """
    column = table.column(name)
    if column.checked or column.formula or table.counts == name:
        return ""
    values = table.frame[name].drop_nulls()
    if values.len() < 6:
        return ""
    distinct = values.head(20_000).unique()
    if column.kind is Kind.NUMBER:
        if distinct.len() > FEW_NUMBERS or values.len() < 3 * distinct.len():
            return ""
        if not (distinct == distinct.floor()).all() or values.n_unique() > FEW_NUMBERS:
            return ""
        shown = ", ".join(f"{value:.0f}" for value in sorted(distinct.to_list()))
        many = "numbers" if distinct.len() > 1 else "number"
        return (
            f"{name} holds only the {many} {shown}. If they stand for groups, it should be a "
            f"category: a mean of group numbers means nothing."
        )
    if column.kind.is_grouping:
        numbers = values.cast(pl.Float64, strict=False)
        if numbers.null_count() or distinct.len() <= FEW_NUMBERS:
            return ""
        return (
            f"Every value of {name} is a number, yet it is kept as a {column.kind}. If it was "
            f"measured or counted, it should be a number column."
        )
    return ""
