"""Formats that say themselves what kind each column is: Parquet, JSON records."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from theoros.files import json_text
from theoros.files.form import Form, Opened
from theoros.files.grid import CellGrid, tabulate
from theoros.files.table_schema import about_from, column_from
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind, finite_only
from theoros.table.recalculation import settled
from theoros.table.table import Table


@dataclass(frozen=True)
class ReadColumns:
    """Columns as they were read: names, kinds where they are known, and values."""

    path: Path
    described: Sequence[tuple[str, str, list[str]]]
    """Name, kind ("guess" where that is not known) and levels of each."""
    frame: pl.DataFrame
    written: str = ""
    """What Theoros wrote about the table, if it did."""
    nested: tuple[str, ...] = ()
    """Columns that hold lists or objects."""


def guess(source: ReadColumns) -> Form:
    """There is nothing to guess but what is missing."""
    return Form(header=1)


def read(source: ReadColumns, form: Form, name: str, kinds: Mapping[int, Kind] | None = None) -> Opened:
    """A table of the columns, with the kinds that the file knows. Raises ReadError."""
    chosen = dict(kinds or {})
    known = _own(source, name)
    if known is not None and not chosen and not form.missing:
        return Opened(known, form)
    levels: dict[int, list[str]] = {}
    for at, (_, kind, known_levels) in enumerate(source.described):
        if kind in ("category", "ordered", "text") and at not in chosen:
            chosen[at] = Kind(kind)
        elif kind == "guess" and at not in chosen:
            chosen[at] = _text_kind(source.frame.to_series(at))
        if known_levels:
            levels[at] = known_levels
    names = [[described[0] for described in source.described]]
    notes = [f"{one} holds lists or objects, which are kept as text." for one in source.nested]
    opened = tabulate(CellGrid(names, source.frame.get_columns()), form, name, chosen, notes)
    if not levels:
        return opened
    columns = tuple(replace(c, levels=tuple(levels.get(at, ()))) for at, c in enumerate(opened.table.columns))
    return replace(opened, table=opened.table.with_(columns=columns))


def _text_kind(texts: pl.Series) -> Kind:
    """The kind of a column that the file says is text: a date, a category, or text."""
    from theoros.table.kinds import guess_kind

    kind = guess_kind(texts, decimal_comma=False)
    if kind is Kind.DATE and texts.null_count() < texts.len():
        return kind
    if kind is Kind.TEXT:
        return kind
    return Kind.CATEGORY


def _own(source: ReadColumns, name: str) -> Table | None:
    """The table exactly as Theoros wrote it, if it did."""
    if not source.written:
        return None
    try:
        known = json_text.load(source.written)
        columns = tuple(column_from(field) for field in known["fields"])
        frame = pl.DataFrame(
            [
                finite_only(values.cast(column.kind.dtype))[0].alias(column.name)
                for column, values in zip(columns, source.frame.get_columns(), strict=True)
            ]
        )
        return settled(Table(name, columns, frame, **about_from(known)))
    except (ValueError, KeyError, TypeError, AttributeError, pl.exceptions.PolarsError):
        return None  # another program's use of the name, or an older file: read it like any other
