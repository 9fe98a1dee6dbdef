"""Formats that say themselves what kind each column is: Parquet, JSON records."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from theoros.files import sandbox
from theoros.files.errors import ReadError
from theoros.files.form import Form, Opened
from theoros.files.formats import EVERYTHING, Format
from theoros.files.grid import Grid, tabulate
from theoros.files.table_schema import about_from, about_json, column_from, column_json
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind, finite_only
from theoros.table.live import settled
from theoros.table.table import Table


@dataclass(frozen=True)
class Columns:
    """Columns as they were read: names, kinds where they are known, and values."""

    path: Path
    about: Mapping[str, Any]
    frame: pl.DataFrame


def load_parquet(path: Path) -> Columns:
    """A Parquet file. Raises ReadError."""
    return Columns(path, *sandbox.run("parquet", path, {}))


def load_json(path: Path) -> Columns:
    """A JSON file of records or columns. Raises ReadError."""
    return Columns(path, *sandbox.run("records", path, {}))


def guess(source: Columns) -> Form:
    """There is nothing to guess but what is missing."""
    return Form(header=1)


def read(source: Columns, form: Form, name: str, kinds: Mapping[int, Kind] | None = None) -> Opened:
    """A table of the columns, with the kinds that the file knows. Raises ReadError."""
    chosen = dict(kinds or {})
    known = _own(source, name)
    if known is not None and not chosen and not form.missing:
        return Opened(known, form)
    levels: dict[int, list[str]] = {}
    for at, column in enumerate(source.about["columns"]):
        kind = column[1]
        if kind in ("category", "ordered", "text") and at not in chosen:
            chosen[at] = Kind(kind)
        elif kind == "guess" and at not in chosen:
            chosen[at] = _text_kind(source.frame.to_series(at))
        if len(column) > 2 and column[2]:
            levels[at] = column[2]
    names = [[str(column[0]) for column in source.about["columns"]]]
    nested = source.about.get("nested", [])
    notes = [f"{one} holds lists or objects, which are kept as text." for one in nested]
    opened = tabulate(Grid(names, source.frame.get_columns()), form, name, chosen, notes)
    if not levels:
        return opened
    from dataclasses import replace

    columns = tuple(
        replace(c, levels=tuple(levels.get(at, ()))) for at, c in enumerate(opened.table.columns)
    )
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


def _own(source: Columns, name: str) -> Table | None:
    """The table exactly as Theoros wrote it, if it did."""
    written = source.about.get("theoros", "")
    if not written:
        return None
    try:
        known = json.loads(written)
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


def write_parquet(table: Table, path: Path) -> None:
    """Parquet, with all that Theoros knows of the table in its metadata."""
    if not table.columns:
        raise ReadError(f"{table.name} has no columns, so there is nothing to save.")
    fields = [column_json(table, column) for column in table.columns]
    known = json.dumps({**about_json(table), "fields": fields}, ensure_ascii=False)
    table.frame.write_parquet(path, metadata={"theoros": known})


def write_json(table: Table, path: Path) -> None:
    """A list of records; a missing value is null."""
    frame = table.frame.clone()
    for column in table.columns:
        if column.kind is Kind.DATE:
            at = table.place(column.name)
            frame.replace_column(at, table.frame[column.name].cast(pl.String).alias(column.name))
    path.write_text(frame.write_json() if frame.height else "[]\n", encoding="utf-8")


FORMATS = (
    Format(
        "JSON records", (".json",), load_json, guess, read, write_json, frozenset({"missing"}),
        frozenset(), 5,
    ),
    Format(
        "Parquet", (".parquet",), load_parquet, guess, read, write_parquet, frozenset({"missing"}),
        EVERYTHING, 6,
    ),
)  # fmt: skip
