"""Spreadsheets: XLSX and ODS, a sheet or a range of one."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from pathlib import Path
from typing import Any

from theoros.files.errors import ReadError, reason
from theoros.files.form import Form, Opened
from theoros.files.formats import Format
from theoros.files.grid import CellGrid, guess_decimal_comma, guess_lines, guess_month_first, tabulate
from theoros.files.sheet_cells import SheetCells, sheet_cells
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.table import Table

MOST_ROWS = 1_048_576
"""Rows that a sheet can have, the line of names with them."""
_RANGE = re.compile(r"\$?([A-Z]{1,3})\$?(\d{1,7})(?::\$?([A-Z]{1,3})\$?(\d{1,7}))?")


@dataclass
class Book:
    """A spreadsheet file: the names of its sheets, and those read so far."""

    path: Path
    first: str
    """The first sheet that holds something."""
    sheets: tuple[str, ...]
    read: dict[str, SheetCells] = field(default_factory=dict)

    def sheet(self, name: str) -> SheetCells:
        name = name or self.first
        if name not in self.read:
            self.read[name] = sheet_cells(self.path, name)
        return self.read[name]


def load(path: Path) -> Book:
    """A spreadsheet with its first sheet that holds something. Raises ReadError."""
    first = sheet_cells(path)
    return Book(path, first.sheet, first.sheets, {first.sheet: first})


def guess(book: Book) -> Form:
    """The lines of names and the decimal sign of the first sheet that holds something."""
    return guess_sheet(book, Form(sheet=book.first))


def guess_sheet(book: Book, form: Form) -> Form:
    """The same for the sheet and range that a form names."""
    frame, _, _ = _cells(book, form)
    lines = [[cell or "" for cell in line] for line in frame.head(300).rows()]
    skip, header = guess_lines(lines)
    body = lines[skip + header :]
    comma = guess_decimal_comma(body, comma_parts=True, points=False)
    return replace(form, skip=skip, header=header, decimal_comma=comma, month_first=guess_month_first(body))


def read(book: Book, form: Form, name: str, kinds: Mapping[int, Kind] | None = None) -> Opened:
    """A table from a sheet, or a range of one. Raises ReadError with what is wrong."""
    frame, row, _ = _cells(book, form)
    top = form.skip + form.header
    names = [[cell or "" for cell in line] for line in frame[form.skip : top].rows()]
    columns = list(frame[top:].get_columns())
    # columns that hold nothing at all are the gaps between and beside what was typed
    used = [
        at
        for at, column in enumerate(columns)
        if column.null_count() < column.len() or any(line[at].strip() for line in names)
    ]
    kept = [[line[at] for at in used] for line in names]
    grid = CellGrid(kept, [columns[at] for at in used], row + top + 1)
    if not used:
        sheet = form.sheet or book.first
        where = f"The range {form.cells}" if form.cells else f"The sheet {sheet}"
        raise ReadError(f"{where} of {book.path.name} is empty. Choose another sheet or range.")
    return tabulate(grid, replace(form, sheet=form.sheet or book.first), name, kinds)


def _cells(book: Book, form: Form) -> tuple[pl.DataFrame, int, int]:
    sheet = book.sheet(form.sheet)
    frame, row, column = sheet.frame, sheet.row, sheet.column
    if not form.cells.strip():
        return frame, row, column
    top, left, bottom, right = parse_range(form.cells)
    rows = frame[max(0, top - row) : max(0, bottom - row + 1)]
    wanted = [c for at, c in enumerate(rows.get_columns()) if left <= at + column <= right]
    return pl.DataFrame(wanted), max(top, row), max(left, column)


def parse_range(text: str) -> tuple[int, int, int, int]:
    """ "B3:F40" as top, left, bottom, right from 0; "B3" reaches to the end. Raises ReadError."""
    found = _RANGE.fullmatch(text.strip().upper().replace(" ", ""))
    if not found:
        raise ReadError(f"“{text}” is not a range of cells, such as B3:F40.")
    left, top = _column(found[1]), int(found[2]) - 1
    right = _column(found[3]) if found[3] else 10**6
    bottom = int(found[4]) - 1 if found[4] else 10**8
    if bottom < top or right < left or top < 0:
        raise ReadError(f"“{text}” is not a range: the first cell is the upper left one.")
    return top, left, bottom, right


def _column(letters: str) -> int:
    number = 0
    for letter in letters:
        number = number * 26 + ord(letter) - 64
    return number - 1


def write_xlsx(table: Table, path: Path) -> None:
    """A workbook with one sheet. Text is written as text, never as a formula."""
    import xlsxwriter

    check_size(table)
    book = xlsxwriter.Workbook(str(path), {"constant_memory": True, "strings_to_formulas": False})
    sheet = book.add_worksheet(sheet_name(table.name))
    bold, days = book.add_format({"bold": True}), book.add_format({"num_format": "yyyy-mm-dd"})
    for at, column in enumerate(table.columns):
        sheet.write_string(0, at, column.label, bold)
    kinds = [column.kind for column in table.columns]
    for number, row in enumerate(table.frame.iter_rows(), 1):
        for at, value in enumerate(row):
            if value is None:
                continue
            if kinds[at] is Kind.NUMBER:
                sheet.write_number(number, at, value)
            elif kinds[at] is Kind.DATE and value.year >= 1900:
                sheet.write_datetime(number, at, value, days)
            else:
                sheet.write_string(number, at, str(value))
    try:
        book.close()
    except xlsxwriter.exceptions.FileCreateError as problem:  # its own word for a full disk
        inner = problem.args[0] if problem.args else problem
        raise inner if isinstance(inner, OSError) else OSError(reason(problem)) from None


def check_size(table: Table) -> None:
    """Raises ReadError for a table that no sheet can hold."""
    if table.rows + 1 > MOST_ROWS or len(table.columns) > 16_384:
        raise ReadError(
            f"{table.name} has {table.rows} rows and {len(table.columns)} columns; a sheet holds "
            f"1 048 575 rows and 16 384 columns. Save it as CSV or Parquet."
        )
    for column in table.columns:
        if column.kind not in (Kind.NUMBER, Kind.DATE):
            longest = table.frame[column.name].str.len_chars().max()
            if isinstance(longest, int) and longest > 32_767:
                raise ReadError(
                    f"A text in {column.name} has {longest} letters; a cell holds 32 767. Save it as CSV or Parquet."
                )


def sheet_name(name: str) -> str:
    """A name that a sheet can have."""
    clean = re.sub(r"[\[\]:*?/\\']", " ", name).strip()[:31].strip()
    return clean or "table"


def write_ods(table: Table, path: Path) -> None:
    """An OpenDocument spreadsheet with one sheet; values with their types, nothing to be run."""
    import zipfile

    check_size(table)
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        # the standard wants this first and uncompressed
        archive.writestr("mimetype", _ODS, zipfile.ZIP_STORED)
        archive.writestr("META-INF/manifest.xml", _MANIFEST)
        with archive.open("content.xml", "w", force_zip64=True) as content:
            content.write(_ODS_BEGIN.encode())
            content.write(f"<table:table table:name={_attribute(sheet_name(table.name))}>".encode())
            names = "".join(_ods_cell(column.label, Kind.TEXT) for column in table.columns)
            content.write(f"<table:table-row>{names}</table:table-row>".encode())
            kinds = [column.kind for column in table.columns]
            for row in table.frame.iter_rows():
                cells = "".join(_ods_cell(v, k) for v, k in zip(row, kinds, strict=True))
                content.write(f"<table:table-row>{cells}</table:table-row>".encode())
            content.write(_ODS_END.encode())


def _ods_cell(value: Any, kind: Kind) -> str:
    from xml.sax.saxutils import escape

    if value is None:
        return "<table:table-cell/>"
    if kind is Kind.NUMBER:
        return (
            f'<table:table-cell office:value-type="float" office:value="{value!r}">'
            f"<text:p>{value:.15g}</text:p></table:table-cell>"
        )
    if isinstance(value, date):
        day = value.isoformat()
        return (
            f'<table:table-cell office:value-type="date" office:date-value="{day}">'
            f"<text:p>{day}</text:p></table:table-cell>"
        )
    # characters that XML cannot hold are left out; spaces in a row and line ends have marks
    clean = re.sub(r"[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]", "", str(value))
    lines = "".join(
        f"<text:p>{re.sub('  +', _spaces, escape(line)).replace(chr(9), '<text:tab/>')}</text:p>"
        for line in re.split(r"\r\n|\r|\n", clean)
    )
    return f'<table:table-cell office:value-type="string">{lines}</table:table-cell>'


def _spaces(found: re.Match[str]) -> str:
    return f' <text:s text:c="{len(found[0]) - 1}"/>'


def _attribute(text: str) -> str:
    from xml.sax.saxutils import quoteattr

    return quoteattr(text)


_ODS = "application/vnd.oasis.opendocument.spreadsheet"
_MANIFEST = f"""<?xml version="1.0" encoding="UTF-8"?>
<manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"
 manifest:version="1.2">
<manifest:file-entry manifest:full-path="/" manifest:media-type="{_ODS}"/>
<manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/>
</manifest:manifest>
"""
_ODS_BEGIN = """<?xml version="1.0" encoding="UTF-8"?>
<office:document-content office:version="1.2"
 xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0"
 xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
 xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0">
<office:body><office:spreadsheet>"""
_ODS_END = "</table:table></office:spreadsheet></office:body></office:document-content>"

_CHOICES = frozenset({"header", "skip", "decimal_comma", "month_first", "missing", "sheet", "cells"})
FORMATS = (
    Format("XLSX", (".xlsx",), load, guess, read, write_xlsx, _CHOICES, frozenset({"units"}), 3),
    Format("ODS", (".ods",), load, guess, read, write_ods, _CHOICES, frozenset({"units"}), 4),
)
