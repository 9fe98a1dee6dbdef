"""Tables in delimited text: CSV, TSV and what is pasted from a spreadsheet.

What cannot be known is guessed, and the guess is part of the result, so that it can be
shown and changed: the encoding, the delimiter, the lines of names, the decimal sign.
"""

from __future__ import annotations

import csv
import io
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from pathlib import Path

from theoros.files.errors import ReadError, reason
from theoros.files.form import CELLS_ANYWAY, CELLS_OF_A_BYTE, MOST_CELLS, MOST_COLUMNS, Form, Opened
from theoros.files.formats import Format
from theoros.files.grid import RISKY, CellGrid, guarded, guess_decimal_comma, guess_lines, guess_month_first, tabulate
from theoros.files.lines_of_cells import cell_reader, lines_of_cells, table_text
from theoros.files.plain_csv import frame_of
from theoros.files.regular import check_file
from theoros.lazy_imports import pl
from theoros.table.kinds import LARGEST_WHOLE, MISSING_CODES, Kind
from theoros.table.table import Table

QUOTES = {'"': "double quotes", "'": "single quotes", "": "nothing"}
DELIMITERS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}
LONGEST_LINE = 16_000_000
"""Bytes; a file with a longer line is not a table."""
ENCODINGS = ("utf-8", "cp1252", "utf-16", "latin-1", "cp437", "mac_roman")
_SAMPLE = 200_000
"""Letters looked at to guess the form."""
_LINES = 300
_PLAIN_NUMBER = re.compile(r"[-+]?\d+(\.\d+)?([eE][-+]?\d+)?", re.ASCII)
_ISO_DATE = re.compile(r"\d{4}-\d\d-\d\d", re.ASCII)
_AT_FIRST = 200_000_000
"""Bytes read before it is known that they are a table."""


@dataclass(frozen=True)
class Delimited:
    """The bytes of a file of text, and the encoding that they are most likely in."""

    data: bytes
    encoding: str

    def text(self, encoding: str, size: int | None = None) -> str:
        """The text, or the beginning of it."""
        data = self.data if size is None else self.data[:size]
        mark = "utf-8-sig" if encoding == "utf-8" else encoding
        return data.decode(mark, errors="ignore" if size else "replace")


def read_bytes(path: Path) -> bytes:
    """The contents of a file of text; raises ReadError with the reason in words.

    Stops at the first sign that it is no table, so that a file that is one long line, or no
    text at all, is refused without being read whole.
    """
    try:
        check_file(path)
        with open(path, "rb") as file:
            begun = file.read(_AT_FIRST)
            _check(begun, path.name)
            rest = file.read()
        if not rest:
            return begun
        data = begun + rest
    except OSError as problem:
        raise ReadError(f"{path.name} could not be opened ({reason(problem)}).") from None
    _check(data, path.name)
    return data


def _check(data: bytes, name: str) -> None:
    """Raises ReadError for a line that is far too long."""
    begin = 0
    while len(data) - begin > LONGEST_LINE:
        end = begin + LONGEST_LINE
        last = max(data.rfind(b"\n", begin, end), data.rfind(b"\r", begin, end))
        if last < 0:
            raise ReadError(
                f"{name} has a line of more than 16 million letters, so it is not a table. Check "
                f"that it is the right file."
            )
        begin = last + 1


_NUL = (
    "The file holds NUL bytes, so it is not a text table. If it comes from a spreadsheet, open the "
    "spreadsheet itself, or save it there as CSV."
)


def load(path: Path) -> Delimited:
    """The bytes of a file, with the guessed encoding. Raises ReadError for what is not text."""
    return delimited(read_bytes(path))


def delimited(data: bytes) -> Delimited:
    """Bytes of text with their encoding: by the byte order mark, UTF-8, else Western (cp1252)."""
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            data.decode("utf-16")
        except UnicodeDecodeError:
            raise ReadError("The file begins like UTF-16 text but is broken. Save it again as UTF-8.") from None
        return Delimited(data, "utf-16")
    if b"\x00" in data:
        raise ReadError(_NUL)
    data = _one_line_end(data)
    if data.isascii():
        return Delimited(data, "utf-8")
    try:
        data.decode("utf-8")
    except UnicodeDecodeError:
        return Delimited(data, "cp1252")
    return Delimited(data, "utf-8")


def _one_line_end(data: bytes) -> bytes:
    """The text with line feeds alone, where lines end with a carriage return, or some of them."""
    if data.count(b"\r") == data.count(b"\r\n"):
        return data
    return data.replace(b"\r\n", b"\n").replace(b"\r", b"\n")


def decode(data: bytes) -> tuple[str, str]:
    """Text and the encoding it was in. Raises ReadError for what is not text."""
    found = delimited(data)
    return found.text(found.encoding), found.encoding


def guess(source: Delimited) -> Form:
    """The form that a file is most likely written in."""
    sample = source.text(source.encoding, _SAMPLE)
    return guess_form(sample, source.encoding, whole=len(source.data) <= _SAMPLE)


def guess_form(text: str, encoding: str = "utf-8", *, whole: bool = True) -> Form:
    """The form that text is most likely written in."""
    sample = text[:_SAMPLE]
    if len(text) > _SAMPLE or not whole:
        sample = sample[: sample.rfind("\n") + 1] or sample
    sample = "".join(sample.splitlines(keepends=True)[: _LINES + 50])
    quote = _guess_quote(sample)
    best, score = ",", (-1.0, 0)
    for delimiter in DELIMITERS:
        widths = [len(line) for line in lines_of_cells(sample, delimiter, quote)[:200] if line]
        if not widths:
            continue
        usual = max(set(widths), key=widths.count)
        agree = widths.count(usual) / len(widths)
        # a delimiter that never occurs splits nothing, however well the lines agree
        mark = (agree if usual > 1 else 0.0, usual)
        if mark > score:
            best, score = delimiter, mark
    lines = lines_of_cells(sample, best, quote)[:_LINES]
    skip, header = guess_lines(lines)
    body = [line for line in lines[skip + header :] if any(cell.strip() for cell in line)]
    return Form(
        best,
        quote,
        header,
        skip,
        decimal_comma=guess_decimal_comma(body, comma_parts=best == ","),
        month_first=guess_month_first(body),
        encoding=encoding,
    )


def _guess_quote(sample: str) -> str:
    """Double quotes, unless values stand in single ones."""
    double = len(re.findall(r'(?:^|[,;\t|])"', sample, re.M))
    single = len(re.findall(r"(?:^|[,;\t|])'[^'\n]*'(?=$|[,;\t|\r])", sample, re.M))
    return "'" if single > 2 and not double else '"'


def read(source: Delimited, form: Form, name: str, kinds: Mapping[int, Kind] | None = None) -> Opened:
    """A table from delimited text by a form. Raises ReadError with what is wrong."""
    data = source.data.removeprefix(b"\xef\xbb\xbf")
    if form.encoding != "utf-8":
        data = _one_line_end(source.text(form.encoding).encode())
    elif source.encoding not in ("utf-8",):
        data = source.text("utf-8").encode()
    if not data[:_SAMPLE].strip() and not data.strip():
        raise ReadError(f"{name} is empty: there is no line in it to make a table of.")
    if data is not source.data and b"\x00" in data:
        raise ReadError("The text holds NUL bytes, so it is not a table of text.")
    sample = data[:_SAMPLE].decode(errors="ignore")
    top, used = _top(sample, form)
    named = top[form.skip : form.skip + max(1, form.header)]
    width = max((len(line) for line in named), default=0)
    notes: list[str] = []
    if form.encoding == "cp1252":
        notes.append("Read as Western European text (cp1252), since it is not UTF-8.")
    if width > MOST_COLUMNS:
        raise ReadError(
            f"{name} would have {width} columns, more than the {MOST_COLUMNS} that Theoros opens. "
            f"Choose another delimiter."
        )
    names = top[form.skip : form.skip + form.header]
    columns = None
    if kinds is None:
        columns = _at_once(data, form, width, used, sample)
    if columns is None:
        columns, wider = _as_text(data, form, width, used, name)
        notes += wider
        notes += _short_lines(columns, data, form, used)
    return tabulate(CellGrid(names, columns, used + 1), form, name, kinds, notes)


def parse_text(text: str, form: Form, name: str) -> Opened:
    """A table from text by a form, its kinds guessed. Raises ReadError with what is wrong."""
    return read(Delimited(text.encode(), "utf-8"), replace(form, encoding="utf-8"), name)


def open_delimited(path: Path, form: Form | None = None) -> Opened:
    """A table from a file, by a given form or by the one guessed. Raises ReadError."""
    source = load(path)
    return read(source, form or guess(source), path.stem)


def write(table: Table, path: Path) -> None:
    """Writes a table as delimited text, with tabs where the ending of the file says so."""
    delimiter = "\t" if path.suffix.lower() in (".tsv", ".tab") else ","
    path.write_bytes(table_bytes(table, delimiter))


def table_bytes(table: Table, delimiter: str = ",") -> bytes:
    """A table as delimited text in UTF-8: names with units, missing values empty."""
    if not table.columns:
        return b""
    series = []
    for column in table.columns:
        values = table.frame[column.name]
        if column.kind is Kind.NUMBER:
            texts = values.cast(pl.String).str.replace(r"\.0$", "")
        elif column.kind is Kind.DATE:
            texts = values.cast(pl.String)
        else:
            texts = values
            risky = texts.str.contains(RISKY)
            if risky.any():
                texts = pl.Series([None if t is None else guarded(t) for t in texts])
        series.append(texts)
    frame = pl.DataFrame([s.alias(f"c{at}") for at, s in enumerate(series)])
    buffer = io.BytesIO()
    header = table_text([[guarded(c.label) for c in table.columns]], delimiter)
    buffer.write(header.encode())
    # a lone missing value is written as quotes, since an empty line is no row
    frame.write_csv(
        buffer,
        include_header=False,
        separator=delimiter,
        null_value='""' if frame.width == 1 else "",
        quote_style="never" if frame.width == 1 and frame.to_series().null_count() else "necessary",
    )
    return buffer.getvalue()


def _top(sample: str, form: Form) -> tuple[list[list[str]], int]:
    """The first lines of cells, and how many lines of text stand before the first row."""
    reader = cell_reader(sample, form.delimiter, form.quote)
    lines: list[list[str]] = []
    used = 0
    try:
        for line in reader:
            blank = not any(cell.strip() for cell in line)
            if blank and form.header and not used and len(lines) == form.skip:
                continue  # nothing stands above the names
            lines.append(line)
            if len(lines) == form.skip + form.header:
                used = reader.line_num
            if len(lines) > form.skip + form.header + _LINES:
                break
    except csv.Error:
        lines = [line.split(form.delimiter) for line in sample.splitlines()[:_LINES]]
        used = form.skip + form.header
    if form.skip + form.header == 0:
        used = 0
    return lines, used


def _at_once(data: bytes, form: Form, width: int, used: int, sample: str) -> list[pl.Series] | None:
    """Columns read with the types that a sample suggests; None where they do not hold.

    The fast road for large files: numbers go straight from bytes to floats.
    """
    if form.decimal_comma or form.missing:
        return None
    some = "".join(sample.splitlines(keepends=True)[: used + _LINES])
    lines = lines_of_cells(some, form.delimiter, form.quote)[form.skip + form.header :]
    lines = [line for line in lines[:-1] or lines if any(line)]
    if len(lines) < 2:
        return None
    schema: dict[str, pl.DataType] = {}
    for at in range(width):
        cells = [line[at] for line in lines if at < len(line)]
        cells = [cell for cell in cells if cell not in MISSING_CODES]
        dtype: pl.DataType = pl.String()
        if cells and all(map(_PLAIN_NUMBER.fullmatch, cells)):
            dtype = pl.Float64()
        elif cells and all(map(_ISO_DATE.fullmatch, cells)):
            dtype = pl.Date()
        schema[f"c{at}"] = dtype
    columns = _typed_columns(data, form, schema, used, codes=False)
    if columns is None:
        columns = _typed_columns(data, form, schema, used, codes=True)
    if columns is None:
        return None
    for column in columns:
        if column.dtype == pl.Float64 and not math.isfinite(column.sum() or 0.0):
            return None
        if column.dtype == pl.Float64 and (column.abs().max() or 0.0) >= LARGEST_WHOLE:  # type: ignore[operator]
            return None  # keys that would be rounded: looked at with care
    if columns and columns[-1].null_count():
        return None  # perhaps lines that are too short: looked at with care
    if any(c.dtype == pl.String and c.str.contains("\n", literal=True).any() for c in columns[:1]):
        return None  # line numbers would be wrong
    return columns


def _typed_columns(
    data: bytes, form: Form, schema: dict[str, pl.DataType], used: int, *, codes: bool
) -> list[pl.Series] | None:
    """Columns of these types; None where a value does not fit. Knowing codes takes longer."""
    try:
        return frame_of(
            data,
            separator=form.delimiter,
            quote_char=form.quote or None,
            has_header=False,
            skip_lines=used,
            schema=schema,
            null_values=list(MISSING_CODES) if codes else None,
            truncate_ragged_lines=False,
        ).get_columns()
    except pl.exceptions.PolarsError:
        return None


def _as_text(data: bytes, form: Form, width: int, used: int, name: str) -> tuple[list[pl.Series], list[str]]:
    """All cells as text, by Polars; lines that are too long make more columns."""

    def attempt(columns: int) -> list[pl.Series]:
        return frame_of(
            data,
            separator=form.delimiter,
            quote_char=form.quote or None,
            has_header=False,
            skip_lines=used,
            schema={f"c{at}": pl.String for at in range(columns)},
            null_values=[""],
            truncate_ragged_lines=False,
            missing_columns="insert",
        ).get_columns()

    if len(data.split(b"\n", used)[-1].strip()) == 0:
        return [pl.Series([], dtype=pl.String) for _ in range(width)], []
    try:
        return attempt(width), []
    except pl.exceptions.PolarsError:
        wider, line = _widest(data, form, used, name)
    if wider <= width:
        raise ReadError(f"{name} cannot be read as a table with the {_word(form)} between values.")
    if wider > MOST_COLUMNS:
        raise ReadError(
            f"Line {line} of {name} has {wider} values, more than the {MOST_COLUMNS} columns that "
            f"Theoros opens. Choose another delimiter."
        )
    if data.count(b"\n") * wider > min(MOST_CELLS, CELLS_ANYWAY + CELLS_OF_A_BYTE * len(data)):
        raise ReadError(
            f"Line {line} of {name} has {wider} values, and the first line {width}; with so many "
            f"columns, nearly all cells would be empty. Correct that line, or choose another "
            f"delimiter."
        )
    note = (
        f"Line {line} has {wider} values, and the first line {width}: what is beyond stands in a "
        f"column of its own. Check the delimiter."
    )
    try:
        return attempt(wider), [note]
    except pl.exceptions.PolarsError:
        raise ReadError(f"{name} cannot be read as a table with the {_word(form)} between values.") from None


def _widest(data: bytes, form: Form, used: int, name: str) -> tuple[int, int]:
    """The most values in a line, and the first line that has them. Raises ReadError for quotes."""
    text = data.decode(errors="replace")
    widest, where = 0, 0
    reader = cell_reader(text, form.delimiter, form.quote, strict=True)
    try:
        for line in reader:
            if len(line) > widest and reader.line_num > used:
                widest, where = len(line), reader.line_num
    except csv.Error:
        raise ReadError(
            f"A quotation mark is opened in {name} and not closed where a value ends, near line "
            f"{reader.line_num}. Correct that line, or choose another delimiter."
        ) from None
    return widest, where


def _word(form: Form) -> str:
    return DELIMITERS.get(form.delimiter, form.delimiter)


def _short_lines(columns: list[pl.Series], data: bytes, form: Form, used: int) -> list[str]:
    """What is said of lines with fewer values than there are columns."""
    if len(columns) < 2 or not columns[-1].null_count():
        return []
    short, first = 0, 0
    text = data.decode(errors="replace")
    reader = cell_reader(text, form.delimiter, form.quote)
    try:
        for line in reader:
            if reader.line_num > used and line and len(line) < len(columns) and any(line):
                short += 1
                first = first or reader.line_num
            if reader.line_num > 200_000:
                break
    except csv.Error:
        return []
    if not short:
        return []
    lines = "1 line is" if short == 1 else f"{short} lines are"
    return [f"{lines} shorter than the first (line {first}); missing values fill them up."]


_CHOICES = frozenset({"delimiter", "quote", "encoding", "header", "skip", "decimal_comma", "month_first", "missing"})
_HOLDS = frozenset({"units"})
FORMATS = (
    Format("CSV", (".csv", ".txt", ".dat"), load, guess, read, write, _CHOICES, _HOLDS, 1),
    Format("TSV", (".tsv", ".tab"), load, guess, read, write, _CHOICES, _HOLDS, 2),
)
