"""A study as named parts: a Frictionless Data Package with one CSV for each table.

`datapackage.json` follows the Data Package standard, version 2 (Table Schema with
`categories` and `categoriesOrdered`), so that other programs can read the tables;
`study.json` adds entries and report. The parts lie in a zip (a study file) or in a
folder (the demo). They are data only.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Generator, Mapping
from contextlib import suppress
from dataclasses import asdict
from typing import Any

from theoros.answer.digits import BY_RULE, Digits
from theoros.files import json_text
from theoros.files.errors import ReadError, reason
from theoros.files.form import MOST_COLUMNS
from theoros.files.plain_csv import frame_of
from theoros.files.table_schema import about_from, about_json, column_from, column_json
from theoros.lazy_imports import pl
from theoros.study.entries import Block, Entry, EntryBlock, Study, StudyError, TextBlock
from theoros.table.kinds import Kind, finite_only
from theoros.table.plain_text import held_name
from theoros.table.recalculation import settled
from theoros.table.table import MOST_DECIMALS, Column, Table
from theoros.table.unread import UnreadTable
from theoros.verbs.core.registry import known_statement
from theoros.verbs.core.unreadable import read_statement

VERSION = 3
"""Raised when a study can hold something that older versions would lose."""

MOST_TABLES, MOST_ENTRIES = 1_000, 5_000
"""More than anyone keeps together; what has more is a mistake or a trap."""
LONGEST_TITLE = 5_000
MOST_JSON = 100_000_000
"""Bytes of the description of a study."""

Parts = dict[str, bytes]
Reading = Generator[tuple[int, int], None, Study]
"""Gives how many tables are read, and of how many; comes to the study."""


def write_parts(study: Study) -> Parts:
    """The parts of a study by file name."""
    parts: Parts = {}
    resources = []
    for number, table in enumerate(study.tables, 1):
        slug = re.sub(r"[^a-z0-9]+", "-", table.name.lower()).strip("-") or "table"
        path = f"tables/{number}-{slug}.csv"
        parts[path] = table_csv(table)
        resources.append(
            {
                "name": f"{number}-{slug}",
                "title": table.name,
                "type": "table",
                "path": path,
                "format": "csv",
                "mediatype": "text/csv",
                "encoding": "utf-8",
                **about_json(table),
                "schema": {
                    "$schema": "https://datapackage.org/profiles/2.0/tableschema.json",
                    "fields": [column_json(table, column) for column in table.columns],
                    "missingValues": [""],
                },
            }
        )
    package = {
        "$schema": "https://datapackage.org/profiles/2.0/datapackage.json",
        "title": study.title,
        "resources": resources,
    }
    about: dict[str, Any] = {
        "theoros": VERSION,
        "title": study.title,
        "entries": [
            {"id": entry.id, "title": entry.title, "question": entry.question, "statement": entry.statement.to_json()}
            for entry in study.entries
        ],
        "report": [_block_json(block) for block in study.report],
    }
    if study.digits != BY_RULE:
        about["decimals"] = asdict(study.digits)
    return {"datapackage.json": _json(package), "study.json": _json(about), **parts}


def read_parts(parts: Mapping[str, bytes], *, lazily: bool = False) -> Study:
    """The study that `write_parts` gave, at once: see `reading_parts`."""
    return whole(reading_parts(parts, lazily=lazily))


def whole(reading: Reading) -> Study:
    """What a reading comes to, without looking at how far it has come."""
    while True:
        try:
            next(reading)
        except StopIteration as end:
            study: Study = end.value
            return study


def reading_parts(parts: Mapping[str, bytes], *, lazily: bool = False) -> Reading:
    """Reads the study that `write_parts` gave; tells how many of its tables it has read.

    Raises StudyError with what is wrong. With `lazily` the values of tables are read when they
    are first needed; for parts that are known to be sound.
    """
    about = _load(parts, "study.json")
    version = about.get("theoros")
    if not isinstance(version, int):
        raise StudyError("This is not a study of Theoros: its study.json does not say so.")
    if version > VERSION:
        raise StudyError(
            f"This study was saved by a newer Theoros (format {version}; this one reads up to "
            f"{VERSION}). Open it there, or install the newer version here."
        )
    package = _load(parts, "datapackage.json")
    try:
        read = _unread_table if lazily else _table
        resources = _few(package.get("resources", []), MOST_TABLES, "tables")
        tables: tuple[Table, ...] = ()
        for at, resource in enumerate(resources):
            yield at, len(resources)
            tables += (read(resource, parts),)
        held = _few(about.get("entries", []), MOST_ENTRIES, "entries")
        entries = tuple(_entry(item, sound=lazily) for item in held)
        blocks = _few(about.get("report", []), MOST_ENTRIES, "parts of the report")
        known = {entry.id for entry in entries}
        report = tuple(block for block in map(_block, blocks) if isinstance(block, TextBlock) or block.entry in known)
    except ReadError as problem:
        raise StudyError(f"The study is damaged. {problem}") from None
    except (LookupError, TypeError, AttributeError, ValueError) as problem:
        if isinstance(problem, StudyError):
            raise
        said = reason(problem)
        raise StudyError(f"The study is damaged: a part of it is missing ({said}).") from None
    names = [table.name for table in tables]
    if len(set(names)) < len(names):
        raise StudyError("The study is damaged: two of its tables have the same name.")
    return Study(_title(about.get("title", "")), tables, entries, report, _digits(about))


def table_csv(table: Table) -> bytes:
    """A table as CSV in UTF-8: missing values empty, numbers as in cells but at full precision."""
    if not table.columns:
        return b""
    buffer = io.BytesIO()
    frame = table.frame.with_columns(
        _numbers_as_written(table, column.name) for column in table.columns if column.kind is Kind.NUMBER
    )
    # quoting every text keeps a lone missing value apart from an empty line
    frame.write_csv(buffer, quote_style="always")
    return buffer.getvalue()


def _numbers_as_written(table: Table, name: str) -> pl.Series:
    """Numbers with the decimals of their column, where that loses nothing; else in full."""
    values, places = table.frame[name], table.decimals(name)
    largest = values.abs().max()
    if places == MOST_DECIMALS or largest is None or float(largest) > 1e12:  # type: ignore[arg-type]
        return values
    if places == 0:
        texts = values.cast(pl.Int64).cast(pl.String)
    else:
        texts = values.cast(pl.Decimal(38, places)).cast(pl.String)
    return texts if texts.cast(pl.Float64).equals(values) else values


def _unread_table(resource: Mapping[str, Any], parts: Mapping[str, bytes]) -> Table:
    """A table of which only the text is known yet."""
    columns = tuple(column_from(field) for field in resource["schema"]["fields"])
    cells = list(csv.reader(io.StringIO(parts[str(resource["path"])].decode())))[1:]
    about = about_from(resource)
    return UnreadTable(str(resource["title"]), columns, cells, lambda: _table(resource, parts), **about)


def _table(resource: Mapping[str, Any], parts: Mapping[str, bytes]) -> Table:
    name, path = _title(resource["title"]), str(resource["path"])
    fields = _few(resource["schema"]["fields"], MOST_COLUMNS, "columns in one table")
    columns = tuple(column_from(field) for field in fields)
    if path not in parts:
        raise StudyError(f"The study is damaged: its table {name} is missing.")
    if not columns:
        return Table(name, (), pl.DataFrame(), **about_from(resource))
    try:
        # names are read as a row, so that quotation marks in them are taken like those of cells
        texts = frame_of(parts[path], has_header=False, infer_schema=False)
    except (pl.exceptions.PolarsError, UnicodeDecodeError, ValueError):
        raise StudyError(f"The study is damaged: its table {name} cannot be read.") from None
    names = [column.name for column in columns]
    if texts.height == 0 or [held_name(str(name)) for name in texts.row(0)] != names:
        raise StudyError(f"The study is damaged: the columns of {name} are not those it lists.")
    texts = texts[1:].rename(dict(zip(texts.columns, names, strict=True)))
    try:
        frame = pl.DataFrame([_values(texts[column.name], column) for column in columns])
    except pl.exceptions.PolarsError:
        raise StudyError(f"The study is damaged: a value in table {name} does not fit its column.") from None
    return settled_table(name, columns, frame, about_from(resource))


def settled_table(name: str, columns: tuple[Column, ...], frame: pl.DataFrame, about: dict[str, Any]) -> Table:
    """A table read from a file, its kept rows worked out. Live values are those that were saved."""
    table = Table(name, columns, frame, **about)
    order = table.origin
    if order is not None and order.len() != table.rows:
        raise StudyError(f"The study is damaged: the order of rows of {name} does not fit it.")
    return settled(table, table) if table.counts or table.keep else table


def _values(texts: pl.Series, column: Column) -> pl.Series:
    """A column of text as its values; casting fails where one does not fit.

    By series, never by an expression on names: a name such as * has a meaning there.
    """
    text = pl.select(pl.when(texts == "").then(None).otherwise(texts)).to_series()
    if column.kind is Kind.DATE:
        return text.str.to_date("%Y-%m-%d", strict=True).alias(column.name)
    return finite_only(text.cast(column.kind.dtype))[0].alias(column.name)


def _entry(item: Mapping[str, Any], *, sound: bool) -> Entry:
    """An entry. One whose statement cannot be read is kept as it is, and says what is wrong.

    With `sound`, statements are taken without a check.
    """
    held = item["statement"]
    statement = known_statement(held) if sound else read_statement(held)
    return Entry(str(item["id"]), statement, _title(item.get("title", "")), str(item.get("question", "")))


def _digits(about: Mapping[str, Any]) -> Digits:
    """Decimals as they were set; by rule where that cannot be read."""
    held = about.get("decimals")
    if isinstance(held, dict):
        with suppress(ValueError, TypeError):
            return Digits(**held)
    return BY_RULE


def _block_json(block: Block) -> dict[str, Any]:
    if isinstance(block, TextBlock):
        return {"id": block.id, "text": block.text}
    made: dict[str, Any] = {"id": block.id, "entry": block.entry}
    return made if block.parts is None else {**made, "parts": list(block.parts)}


def _block(item: Mapping[str, Any]) -> Block:
    if "text" in item:
        return TextBlock(str(item["id"]), str(item["text"]))
    parts = item.get("parts")
    held = tuple(map(str, parts)) if isinstance(parts, list) else None
    return EntryBlock(str(item["id"]), str(item["entry"]), held)


def _json(value: object) -> bytes:
    return json_text.dump(value)


def _title(text: Any) -> str:
    if len(str(text)) > LONGEST_TITLE:
        raise StudyError("The study is damaged: a title in it is longer than any title.")
    return str(text)


def _few(items: Any, most: int, what: str) -> list[Any]:
    """A list from a file, if it is one and not endless."""
    if not isinstance(items, list):
        raise StudyError(f"The study is damaged: its {what} are not listed as they should be.")
    if len(items) > most:
        raise StudyError(f"The study has {len(items)} {what}; {most} are the most that is opened.")
    return items


def _load(parts: Mapping[str, bytes], name: str) -> dict[str, Any]:
    if name not in parts:
        raise StudyError(f"This is not a study of Theoros: it has no {name}.")
    if len(parts[name]) > MOST_JSON:
        raise StudyError(f"The study is damaged: its {name} is larger than any study's.")
    try:
        loaded = json_text.load(parts[name])
    except (ValueError, RecursionError):
        raise StudyError(f"The study is damaged: its {name} cannot be read.") from None
    if not isinstance(loaded, dict):
        raise StudyError(f"The study is damaged: its {name} cannot be read.")
    return loaded
