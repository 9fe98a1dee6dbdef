"""JSON: records, or columns, as other programs write them."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from theoros.files import json_text
from theoros.files.errors import ReadError, reason
from theoros.files.form import CELLS_ANYWAY, CELLS_OF_A_BYTE, MOST_CELLS, MOST_COLUMNS
from theoros.files.formats import Format
from theoros.files.read_columns import ReadColumns, guess, read
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.table import Table


def load(path: Path) -> ReadColumns:
    """JSON: a list of records, an object that holds one, or an object of columns.

    Raises ReadError.
    """
    try:
        size = path.stat().st_size
        if size > 500_000_000:
            raise ReadError(f"{path.name} is larger than Theoros opens as JSON (500 MB).")
        loaded = json_text.load(path.read_bytes(), parse_constant=_constant, parse_int=_whole)
    except (ValueError, RecursionError) as problem:
        deep = isinstance(problem, RecursionError)
        said = "it is nested too deep" if deep else reason(problem)
        raise ReadError(f"{path.name} is not valid JSON ({said}).") from None
    rows = _find_records(loaded, path)
    names = list(dict.fromkeys(str(key) for row in rows for key in row))
    if len(names) > MOST_COLUMNS:
        raise ReadError(f"{path.name} has {len(names)} names; {MOST_COLUMNS} columns are the most.")
    if len(names) * len(rows) > min(MOST_CELLS, CELLS_ANYWAY + CELLS_OF_A_BYTE * size):
        raise ReadError(
            f"{path.name} has {len(names)} names in {len(rows)} records, and nearly all cells of "
            f"such a table would be empty. Give it a record for each value instead."
        )
    if not names:
        raise ReadError(f"{path.name} holds no record with a name and a value.")
    columns: list[tuple[str, str, list[str]]] = []
    series, nested = [], []
    for at, name in enumerate(names):
        cells = [row.get(name) for row in rows]
        there = [cell for cell in cells if cell is not None]
        numbers = all(map(_is_number, there))
        if numbers:
            floats = [None if c is None else _float(c) for c in cells]
            series.append(pl.Series(f"c{at}", floats, dtype=pl.Float64))
        else:
            if any(isinstance(c, dict | list) for c in there):
                nested.append(name)
            texts = [None if c is None else c if isinstance(c, str) else json.dumps(c) for c in cells]
            series.append(pl.Series(f"c{at}", texts, dtype=pl.String))
        columns.append((name, "number" if numbers else "guess", []))
    return ReadColumns(path, columns, pl.DataFrame(series), nested=tuple(nested))


def _constant(name: str) -> None:
    """NaN and the infinities are no JSON, yet written by some; they stand for no value."""


def _is_number(cell: Any) -> bool:
    """Whether it is a number that can be held; a whole one that would be rounded is not."""
    if isinstance(cell, bool) or not isinstance(cell, int | float):
        return False
    return isinstance(cell, float) or (abs(cell) < 10**300 and int(float(cell)) == cell)


def _whole(digits: str) -> int | str:
    """A whole number; one of very many digits as it is written."""
    return int(digits) if len(digits) < 400 else digits


def _float(value: float) -> float | None:
    try:
        made = float(value)
    except OverflowError:
        return None
    return made if made - made == 0 else None


def _find_records(loaded: Any, path: Path) -> list[dict[str, Any]]:
    if isinstance(loaded, dict):
        if loaded and all(isinstance(held, list) for held in loaded.values()):
            if len(loaded) == 1:
                (held,) = loaded.values()
                if held and all(isinstance(one, dict) for one in held):
                    return list(held)
            height = max(len(held) for held in loaded.values())
            return [{k: held[at] for k, held in loaded.items() if at < len(held)} for at in range(height)]
        lists = [h for h in loaded.values() if isinstance(h, list) and h and isinstance(h[0], dict)]
        if len(lists) == 1:
            loaded = lists[0]
    if isinstance(loaded, list) and loaded and all(isinstance(one, dict) for one in loaded):
        return list(loaded)
    raise ReadError(
        f"{path.name} does not hold a table: Theoros reads a list of records such as "
        f'[{{"tea": "Amber", "mass": 2.5}}], or an object of columns.'
    )


def write(table: Table, path: Path) -> None:
    """A list of records; a missing value is null."""
    frame = table.frame.clone()
    for column in table.columns:
        if column.kind is Kind.DATE:
            at = table.place(column.name)
            frame.replace_column(at, table.frame[column.name].cast(pl.String).alias(column.name))
    path.write_text(frame.write_json() if frame.height else "[]\n", encoding="utf-8")


FORMATS = (Format("JSON records", (".json",), load, guess, read, write, frozenset({"missing"}), frozenset(), 5),)
