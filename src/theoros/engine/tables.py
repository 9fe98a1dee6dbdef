"""Handing tables from one process to another: column by column, only what is new.

A column is written once, as Arrow in a file of its own, and named by a token. The token stays
with the table's other results about the column, so that a table in which other columns were
edited names the same one again, and its file need not be written again. The other process maps
the files into memory; what it has worked out from a column stays good as long as its token does.
"""

from __future__ import annotations

import os
from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, NoReturn

from theoros.engine.folder import discard
from theoros.lazy_imports import pl
from theoros.table.table import ABOUT, HANDED, OF_ONE_COLUMN, Column, Table, TableError

LARGE = 500_000
"""A table of so many rows is held but once: both processes map the same files."""
MOST_KEPT = 6
"""Versions of tables that the receiver keeps at hand."""


@dataclass(frozen=True)
class Handed:
    """A table by its columns' tokens; equal for tables that hold the same."""

    name: str
    columns: tuple[Column, ...]
    tokens: tuple[str, ...]
    about: tuple[tuple[str, Any], ...]
    kept: str = ""
    """Token of which rows are kept; empty where all are."""
    rows: int = 0


@dataclass(frozen=True)
class Head:
    """A table that is only named: its columns without their values."""

    name: str
    columns: tuple[Column, ...]
    noun: str


class HeadTable(Table):
    """What the receiver knows of a table of which only the head was handed over."""

    def __init__(self, head: Head) -> None:
        object.__setattr__(self, "name", head.name)
        object.__setattr__(self, "columns", head.columns)
        object.__setattr__(self, "noun", head.noun)
        for name, value in (
            ("aside", frozenset()),
            ("sampling", ""),
            ("counts", ""),
            ("keep", ""),
            ("kept", None),
            ("provenance", ()),
            ("origin", None),
            ("_cache", {}),
        ):
            object.__setattr__(self, name, value)

    @property
    def frame(self) -> NoReturn:
        raise TableError(f"The values of {self.name} are not at hand here.")


def head_of(table: Table) -> Head:
    return Head(table.name, table.columns, table.noun)


class Sender:
    """Writes the columns of tables into a folder, each once, and deletes those out of use."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.written = 0
        """Columns written so far."""
        self._there: set[str] = set()
        self._series: dict[int, tuple[pl.Series, str]] = {}
        self._in_use: OrderedDict[str, Handed] = OrderedDict()

    def hand(self, table: Table) -> Handed:
        """The table as it can be handed over; what of it is new is in the folder then."""
        tokens, written = [], []
        for column in table.columns:
            token = table.remembered(HANDED, column.name, new_token)
            if token not in self._there:
                self._write(table.frame[column.name], token)
                written.append((column.name, token))
            tokens.append(token)
        if table.rows >= LARGE and written:
            table.rest_on([map_column(self.folder, token).alias(name) for name, token in written])
        kept = self._of_series(table.kept) if table.kept is not None else ""
        about = tuple((name, getattr(table, name)) for name in ABOUT if name not in _SAID)
        made = Handed(table.name, table.columns, tuple(tokens), about, kept, table.rows)
        self._in_use[table.name] = made
        self._in_use.move_to_end(table.name)
        return made

    def _of_series(self, series: pl.Series) -> str:
        known = self._series.get(id(series))
        if known is None or known[0] is not series:
            known = self._series[id(series)] = series, new_token()
        if known[1] not in self._there:
            self._write(series.alias("kept"), known[1])
        return known[1]

    def _write(self, series: pl.Series, token: str) -> None:
        write_column(series, self.folder, token)
        self._there.add(token)
        self.written += 1

    def clear(self, waiting: Iterable[Handed]) -> None:
        """Deletes columns that no table handed over last holds any more.

        Nor one of those that are `waiting`: handed over with a task that is not done yet.
        """
        held = (*self._in_use.values(), *waiting)
        used = {t for handed in held for t in (*handed.tokens, handed.kept)}
        for token in self._there - used:
            discard(self.folder / token)
        self._there &= used
        self._series = {k: held for k, held in self._series.items() if held[1] in used}


_SAID = ("name", "columns")


class Receiver:
    """Makes tables of what was handed over, and keeps what was worked out from their columns."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self._known: OrderedDict[Handed, Table] = OrderedDict()

    def table(self, handed: Handed | Head) -> Table:
        if isinstance(handed, Head):
            return HeadTable(handed)
        known = self._known.get(handed)
        if known is None:
            known = self._known[handed] = self._made(handed)
            while len(self._known) > MOST_KEPT:
                self._known.popitem(last=False)
        self._known.move_to_end(handed)
        return known

    def tables(self, handed: Mapping[str, Handed | Head]) -> dict[str, Table]:
        return {name: self.table(one) for name, one in handed.items()}

    def _made(self, handed: Handed) -> Table:
        before = next((h for h in reversed(self._known) if h.name == handed.name), None)
        cache: dict[tuple[str, str], object] = {}
        series = {}
        if before is not None:  # what is known of columns that are the same, and the columns
            old = self._known[before]
            same = set(zip(before.tokens, before.columns, strict=True)) & set(
                zip(handed.tokens, handed.columns, strict=True)
            )
            names = {column.name for _, column in same}
            cache = {key: found for key, found in old._cache.items() if key[1] in names and key[0] in OF_ONE_COLUMN}
            series = {c.name: old.frame[c.name] for _, c in same}
        columns = [
            series[c.name] if c.name in series else map_column(self.folder, token).alias(c.name)
            for c, token in zip(handed.columns, handed.tokens, strict=True)
        ]
        kept = map_column(self.folder, handed.kept).alias("") if handed.kept else None
        return Table(handed.name, handed.columns, pl.DataFrame(columns), kept=kept, _cache=cache, **dict(handed.about))


def new_token() -> str:
    return os.urandom(12).hex()


def write_column(series: pl.Series, folder: Path, token: str) -> None:
    """A column as one batch of Arrow, uncompressed, so that it can be mapped as it is."""
    frame = series.rechunk().to_frame("values")
    frame.write_ipc(folder / token, compression="uncompressed", record_batch_size=max(1, series.len()))


def map_column(folder: Path, token: str) -> pl.Series:
    """A column, mapped into memory: pages come in as they are used, none is copied."""
    import pyarrow as pa
    from pyarrow import ipc

    with pa.memory_map(str(folder / token)) as source:
        made = pl.from_arrow(ipc.open_file(source).read_all())
    assert isinstance(made, pl.DataFrame)
    return made.to_series()


def hand_back(table: Table, folder: Path) -> Handed:
    """A table made on the other side, as it is handed back: every column in a file."""
    tokens = []
    for column in table.columns:
        token = new_token()
        write_column(table.frame[column.name], folder, token)
        tokens.append(token)
    kept = ""
    if table.kept is not None:
        kept = new_token()
        write_column(table.kept, folder, kept)
    about = tuple((name, getattr(table, name)) for name in ABOUT if name not in _SAID)
    return Handed(table.name, table.columns, tuple(tokens), about, kept, table.rows)


def take_back(handed: Handed, folder: Path) -> Table:
    """That table on this side; its files are gone afterwards."""
    columns = [
        _taken(folder, token).alias(column.name) for column, token in zip(handed.columns, handed.tokens, strict=True)
    ]
    kept = _taken(folder, handed.kept).alias("") if handed.kept else None
    frame = pl.DataFrame(columns) if columns else pl.DataFrame()
    return Table(handed.name, handed.columns, frame, kept=kept, **dict(handed.about))


def _taken(folder: Path, token: str) -> pl.Series:
    values = pl.read_ipc(folder / token).to_series().rechunk()
    discard(folder / token)
    return values
