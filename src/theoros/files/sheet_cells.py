"""The cells of a spreadsheet as text, as they would be typed."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from theoros.files.errors import ReadError, brief, reason
from theoros.files.form import MOST_CELLS, MOST_COLUMNS
from theoros.files.unpacking import check_zip
from theoros.lazy_imports import pl

OF_SHEETS = 120
"""Times that a spreadsheet may be larger unpacked, whose marks repeat themselves."""


@dataclass(frozen=True)
class SheetCells:
    """One sheet of a spreadsheet, and the names of all of them."""

    sheets: tuple[str, ...]
    sheet: str
    frame: pl.DataFrame
    row: int
    column: int
    """Where the first cell stands, counted from 0."""


def sheet_cells(path: Path, wanted: str = "") -> SheetCells:
    """The cells of a sheet as text; without a name, of the first that holds something.

    Raises ReadError for what is no spreadsheet, or spans more than is opened.
    """
    import zipfile

    from python_calamine import CalamineError, CalamineWorkbook

    if not zipfile.is_zipfile(path):
        raise ReadError(f"{path.name} is not a spreadsheet, or is damaged.")
    try:
        with zipfile.ZipFile(path) as archive:
            check_zip(archive, path, times=OF_SHEETS)
        book = CalamineWorkbook.from_path(str(path))
        names = book.sheet_names
        if not names:
            raise ReadError(f"{path.name} has no sheet.")
        if wanted and wanted not in names:
            raise ReadError(f"{path.name} has no sheet “{brief(wanted)}”. Sheets: {brief(', '.join(names), 600)}.")
        for name in [wanted] if wanted else names:
            sheet = book.get_sheet_by_name(name)
            if sheet.height or name == names[-1]:
                break
        if sheet.height * sheet.width > MOST_CELLS or sheet.width > 3 * MOST_COLUMNS:
            raise ReadError(
                f"The sheet {brief(name)} of {path.name} spans {sheet.height} rows and "
                f"{sheet.width} columns, more than Theoros opens. Choose a range, or "
                f"delete what stands far out."
            )
        start = sheet.start or (0, 0)
        rows = sheet.iter_rows() if sheet.height else iter(())
        frame = _columns(([_text(cell) for cell in row] for row in rows), sheet.width)
    except (CalamineError, zipfile.BadZipFile, NotImplementedError, ValueError, OSError) as problem:
        if isinstance(problem, ReadError):
            raise
        raise ReadError(f"{path.name} cannot be read as a spreadsheet ({reason(problem)}).") from None
    # empty rows above the first that holds something are given, empty columns are not
    row = start[0] if frame.height == sheet.height else 0
    return SheetCells(tuple(names), name, frame, row, start[1])


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
