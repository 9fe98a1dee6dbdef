"""Reading a file in a process of its own, with a bound on memory and time.

Run as `python -m theoros.files.sandbox READER FILE OPTIONS FOLDER`; what it reads it leaves in
the folder: `about.json`, and cells as Arrow files. A file that is a trap (a zip that unpacks
to the size of a disk, a cell a million rows away) ends the child and not the desk.
"""

from __future__ import annotations

import json
import resource
import subprocess
import sys
import tempfile
from collections.abc import Iterable, Mapping
from pathlib import Path
from typing import Any

from theoros.files.errors import ReadError
from theoros.files.form import MOST_COLUMNS
from theoros.lazy_imports import pl

MEMORY = 4 << 30
SECONDS = 120
MOST_CELLS = 60_000_000
REFUSED = 3
"""Exit code for a file that the reader itself refuses, with a sentence."""


def run(reader: str, path: Path, options: Mapping[str, Any]) -> tuple[dict[str, Any], Any]:
    """What a reader of this module makes of a file: facts, and cells as a frame of text or None.

    Raises ReadError where it cannot be read, or takes too much memory or time.
    """
    with tempfile.TemporaryDirectory(prefix="theoros-") as folder:
        command = [sys.executable, "-m", "theoros.files.sandbox", reader, str(path)]
        try:
            done = subprocess.run(
                [*command, json.dumps(dict(options)), folder],
                stdin=subprocess.DEVNULL, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE,
                timeout=SECONDS + 30, check=False,
            )  # fmt: skip
        except subprocess.TimeoutExpired:
            raise ReadError(_too_much(path)) from None
        about = Path(folder) / "about.json"
        if done.returncode == REFUSED and about.exists():
            raise ReadError(json.loads(about.read_text())["refused"])
        if done.returncode or not about.exists():
            raise ReadError(_too_much(path))
        frame = None
        if (Path(folder) / "cells.arrow").exists():
            frame = pl.read_ipc(Path(folder) / "cells.arrow")
        return json.loads(about.read_text()), frame


def _too_much(path: Path) -> str:
    return (
        f"{path.name} cannot be read: it is damaged, or takes more memory or time than a table "
        f"should. Open it in the program it comes from and save it as CSV."
    )


def sheets(path: Path, options: Mapping[str, Any]) -> tuple[dict[str, Any], pl.DataFrame]:
    """The names of the sheets of a spreadsheet, and the cells of one as text."""
    import zipfile

    from python_calamine import CalamineError, CalamineWorkbook

    if not zipfile.is_zipfile(path):
        raise ReadError(f"{path.name} is not a spreadsheet, or is damaged.")
    try:
        with zipfile.ZipFile(path) as archive:
            if sum(info.file_size for info in archive.infolist()) > 2_000_000_000:
                raise ReadError(f"{path.name} unpacks to more than Theoros opens (2 GB).")
        book = CalamineWorkbook.from_path(str(path))
        names = book.sheet_names
        if not names:
            raise ReadError(f"{path.name} has no sheet.")
        wanted = options.get("sheet") or ""
        if wanted and wanted not in names:
            raise ReadError(f"{path.name} has no sheet “{wanted}”. Sheets: {', '.join(names)}.")
        for name in [wanted] if wanted else names:
            sheet = book.get_sheet_by_name(name)
            if sheet.height or name == names[-1]:
                break
        if sheet.height * sheet.width > MOST_CELLS or sheet.width > 3 * MOST_COLUMNS:
            raise ReadError(
                f"The sheet {name} of {path.name} spans {sheet.height} rows and {sheet.width} "
                f"columns, more than Theoros opens. Choose a range, or delete what stands far out."
            )
        start = sheet.start or (0, 0)
        rows = sheet.iter_rows() if sheet.height else iter(())
        frame = _columns(([_text(cell) for cell in row] for row in rows), sheet.width)
    except (CalamineError, zipfile.BadZipFile, NotImplementedError, ValueError) as problem:
        if isinstance(problem, ReadError):
            raise
        raise ReadError(f"{path.name} cannot be read as a spreadsheet ({problem}).") from None
    # empty rows above the first that holds something are given, empty columns are not
    row = start[0] if frame.height == sheet.height else 0
    return {"sheets": names, "sheet": name, "row": row, "column": start[1]}, frame


def _columns(rows: Iterable[list[str | None]], width: int) -> pl.DataFrame:
    """Rows of cells as columns, a piece at a time, so that Python holds few of them at once."""
    pieces: list[pl.DataFrame] = []
    schema = {f"c{at}": pl.String for at in range(width)}
    held: list[list[str | None]] = []
    for row in rows:
        held.append(row)
        if len(held) == 20_000:
            pieces.append(pl.DataFrame(held, schema=schema, orient="row"))
            held = []
    pieces.append(pl.DataFrame(held, schema=schema, orient="row"))
    return pl.concat(pieces)


def _text(cell: Any) -> str | None:
    """A cell as it would be typed: dates as ISO, numbers in full."""
    from datetime import date, datetime

    if cell is None or cell == "":
        return None
    if isinstance(cell, bool):
        return "true" if cell else "false"
    if isinstance(cell, float):
        return repr(int(cell)) if cell.is_integer() and abs(cell) < 1e15 else repr(cell)
    if isinstance(cell, datetime):
        midnight = (cell.hour, cell.minute, cell.second, cell.microsecond) == (0, 0, 0, 0)
        return cell.date().isoformat() if midnight else cell.isoformat(" ")
    return cell.isoformat() if isinstance(cell, date) else str(cell)


def parquet(path: Path, options: Mapping[str, Any]) -> tuple[dict[str, Any], pl.DataFrame]:
    """A Parquet file: its columns as numbers, dates or text, and what Theoros wrote about them."""
    try:
        scan = pl.scan_parquet(path)
        schema = scan.collect_schema()
        rows = scan.select(pl.len()).collect().item()
        if len(schema) > MOST_COLUMNS or rows * max(1, len(schema)) > 4 * MOST_CELLS:
            raise ReadError(
                f"{path.name} has {rows} rows and {len(schema)} columns, more than Theoros opens."
            )
        known = pl.read_parquet_metadata(path).get("theoros", "")
        raw = pl.read_parquet(path)
    except (pl.exceptions.PolarsError, OSError, ValueError) as problem:
        said = str(problem).splitlines()[0][:120]
        raise ReadError(f"{path.name} cannot be read as Parquet ({said}).") from None
    series, types = [], []
    for at, name in enumerate(raw.columns):
        values = raw.to_series(at)
        dtype = values.dtype
        if dtype.is_numeric() or dtype == pl.Null:
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
            raise ReadError(
                f"The column {name} of {path.name} holds lists or bytes, which a table here cannot."
            )
        else:
            kind, values = "text", values.cast(pl.String)
        levels = dtype.categories.to_list() if isinstance(dtype, pl.Enum) else []
        types.append([name, kind, levels])
        series.append(values.alias(f"c{at}"))
    return {"columns": types, "theoros": known}, pl.DataFrame(series)


def _midnights(values: pl.Series) -> bool:
    there = values.drop_nulls()
    return bool((there.dt.truncate("1d") == there).all())


def records(path: Path, options: Mapping[str, Any]) -> tuple[dict[str, Any], pl.DataFrame | None]:
    """JSON: a list of records, an object that holds one, or an object of columns."""
    try:
        if path.stat().st_size > 500_000_000:
            raise ReadError(f"{path.name} is larger than Theoros opens as JSON (500 MB).")
        loaded = json.loads(path.read_bytes().decode("utf-8-sig"), parse_constant=_constant)
    except (ValueError, RecursionError) as problem:
        reason = "it is nested too deep" if isinstance(problem, RecursionError) else str(problem)
        raise ReadError(f"{path.name} is not valid JSON ({reason}).") from None
    rows = _find_records(loaded, path)
    names = list(dict.fromkeys(str(key) for row in rows for key in row))
    if len(names) > MOST_COLUMNS:
        raise ReadError(f"{path.name} has {len(names)} names; {MOST_COLUMNS} columns are the most.")
    if not names:
        raise ReadError(f"{path.name} holds no record with a name and a value.")
    columns, series, nested = [], [], []
    for at, name in enumerate(names):
        cells = [row.get(name) for row in rows]
        there = [cell for cell in cells if cell is not None]
        numbers = all(isinstance(c, int | float) and not isinstance(c, bool) for c in there)
        if numbers:
            floats = [None if c is None else _float(c) for c in cells]
            series.append(pl.Series(f"c{at}", floats, dtype=pl.Float64))
        else:
            if any(isinstance(c, dict | list) for c in there):
                nested.append(name)
            texts = [
                None if c is None else c if isinstance(c, str) else json.dumps(c) for c in cells
            ]
            series.append(pl.Series(f"c{at}", texts, dtype=pl.String))
        columns.append([name, "number" if numbers else "guess"])
    return {"columns": columns, "nested": nested}, pl.DataFrame(series)


def _words(value: Any) -> str | None:
    """A value as text; lists and objects as JSON."""
    return value if value is None or isinstance(value, str) else json.dumps(value)


def _constant(name: str) -> None:
    """NaN and the infinities are no JSON, yet written by some; they stand for no value."""


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
            return [
                {k: held[at] for k, held in loaded.items() if at < len(held)}
                for at in range(height)
            ]
        lists = [h for h in loaded.values() if isinstance(h, list) and h and isinstance(h[0], dict)]
        if len(lists) == 1:
            loaded = lists[0]
    if isinstance(loaded, list) and loaded and all(isinstance(one, dict) for one in loaded):
        return list(loaded)
    raise ReadError(
        f"{path.name} does not hold a table: Theoros reads a list of records such as "
        f'[{{"tea": "Amber", "mass": 2.5}}], or an object of columns.'
    )


READERS = {"sheets": sheets, "parquet": parquet, "records": records}


def main(arguments: list[str]) -> int:
    """The child itself."""
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    reader, path, options, folder = arguments
    about = Path(folder) / "about.json"
    try:
        facts, frame = READERS[reader](Path(path), json.loads(options))
    except ReadError as problem:
        about.write_text(json.dumps({"refused": str(problem)}))
        return REFUSED
    except OSError as problem:
        reason = (problem.strerror or str(problem)).lower()
        said = f"{Path(path).name} could not be opened ({reason})."
        about.write_text(json.dumps({"refused": said}))
        return REFUSED
    if frame is not None:
        frame.write_ipc(Path(folder) / "cells.arrow")
    about.write_text(json.dumps(facts))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
