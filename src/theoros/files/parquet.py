"""Parquet files, with what Theoros knows of a table in their metadata."""

from __future__ import annotations

import json
from pathlib import Path

from theoros.files.errors import ReadError, brief, reason
from theoros.files.form import CELLS_OF_A_BYTE, MOST_CELLS, MOST_COLUMNS
from theoros.files.formats import EVERYTHING, Format
from theoros.files.read_columns import ReadColumns, guess, read
from theoros.files.table_schema import about_json, column_json
from theoros.lazy_imports import pl
from theoros.table.table import Table

EQUAL_CELLS = 16_000_000
"""Cells that a file of any size may hold: equal values pack to almost nothing."""


def load(path: Path) -> ReadColumns:
    """A Parquet file: its columns as numbers, dates or text, and what Theoros wrote about them.

    Raises ReadError.
    """
    try:
        scan = pl.scan_parquet(path)
        schema = scan.collect_schema()
        rows = scan.select(pl.len()).collect().item()
        cells = rows * max(1, len(schema))
        if len(schema) > MOST_COLUMNS or cells > 4 * MOST_CELLS:
            raise ReadError(f"{path.name} has {rows} rows and {len(schema)} columns, more than Theoros opens.")
        if cells > EQUAL_CELLS + CELLS_OF_A_BYTE * path.stat().st_size:
            raise ReadError(
                f"{path.name} has {rows} rows and {len(schema)} columns, more than Theoros opens from a file "
                f"of its size. If you trust it, save its table as CSV, and open that."
            )
        known = pl.read_parquet_metadata(path).get("theoros", "")
        raw = pl.read_parquet(path)
    except ReadError:
        raise
    except pl.exceptions.PanicException:  # of the library, at what it takes for impossible
        raise ReadError(f"{path.name} cannot be read as Parquet (it is damaged).") from None
    except (pl.exceptions.PolarsError, OSError, ValueError) as problem:
        raise ReadError(f"{path.name} cannot be read as Parquet ({reason(problem)}).") from None
    series, types = [], []
    for at, name in enumerate(raw.columns):
        values = raw.to_series(at)
        dtype = values.dtype
        if dtype.is_integer() and _would_be_rounded(values):
            values, kind = values.cast(pl.String), "guess"
        elif dtype.is_numeric() or dtype == pl.Null:
            values, kind = values.cast(pl.Float64, strict=False), "number"
        elif dtype == pl.Date or (isinstance(dtype, pl.Datetime) and _midnights(values)):
            values, kind = values.cast(pl.Date), "date"
        elif dtype == pl.Boolean:
            values, kind = values.cast(pl.String), "category"
        elif isinstance(dtype, pl.Enum):
            kind, values = "ordered", values.cast(pl.String)
        elif dtype == pl.Categorical:
            kind, values = "category", values.cast(pl.String)
        elif dtype == pl.String:
            kind = "guess"
        elif dtype.is_nested() or dtype in (pl.Binary, pl.Object):
            raise ReadError(f"The column {brief(name)} of {path.name} holds lists or bytes, which a table here cannot.")
        else:
            kind, values = "text", values.cast(pl.String)
        levels = dtype.categories.to_list() if isinstance(dtype, pl.Enum) else []
        types.append((name, kind, levels))
        series.append(values.alias(f"c{at}"))
    return ReadColumns(path, types, pl.DataFrame(series), written=known)


def _would_be_rounded(values: pl.Series) -> bool:
    """Whether some of these whole numbers are none that a number can hold."""
    return not values.cast(pl.Float64).cast(values.dtype, strict=False).equals(values)


def _midnights(values: pl.Series) -> bool:
    there = values.drop_nulls()
    return bool((there.dt.truncate("1d") == there).all())


def write(table: Table, path: Path) -> None:
    """Parquet, with all that Theoros knows of the table in its metadata."""
    if not table.columns:
        raise ReadError(f"{table.name} has no columns, so there is nothing to save.")
    fields = [column_json(table, column) for column in table.columns]
    known = json.dumps({**about_json(table), "fields": fields}, ensure_ascii=False)
    table.frame.write_parquet(path, metadata={"theoros": known})


FORMATS = (Format("Parquet", (".parquet",), load, guess, read, write, frozenset({"missing"}), EVERYTHING, 6),)
