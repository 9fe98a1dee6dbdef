"""Tables in delimited text: CSV, TSV and what is pasted from a spreadsheet.

What cannot be known is guessed, and the guess is part of the result, so that it can be
shown and changed: the encoding, the delimiter, whether the first line names the columns,
and the decimal sign.
"""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass, replace
from pathlib import Path

from theoros.heavy import pl
from theoros.table.changes import split_unit
from theoros.table.kinds import MISSING_CODES, Kind, guess_kind, parse_number, parse_series
from theoros.table.table import Column, Table, free_name

DELIMITERS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}
LARGEST = 2_000_000_000
MOST_COLUMNS = 5_000
_SAMPLE = 200_000
"""Letters looked at to guess the form."""


class ReadError(ValueError):
    """A file that cannot be read as a table, with what is wrong and what to do."""


@dataclass(frozen=True)
class Form:
    """How delimited text is written."""

    delimiter: str = ","
    header: bool = True
    decimal_comma: bool = False
    encoding: str = "utf-8"


@dataclass(frozen=True)
class Opened:
    """A table that was read, the form it was read by, and what was noticed on the way."""

    table: Table
    form: Form
    notes: tuple[str, ...]


def read_bytes(path: Path) -> bytes:
    """The contents of a file; raises ReadError with the reason in words."""
    try:
        if path.stat().st_size > LARGEST:
            raise ReadError(f"{path.name} is larger than Theoros opens (2 GB).")
        return path.read_bytes()
    except OSError as problem:
        reason = (problem.strerror or str(problem)).lower()
        raise ReadError(f"{path.name} could not be opened ({reason}).") from None


def decode(data: bytes) -> tuple[str, str]:
    """Text and the encoding it was in: by its byte order mark, UTF-8, else Western (cp1252).

    Raises ReadError for what is not text.
    """
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        try:
            return data.decode("utf-16"), "utf-16"
        except UnicodeDecodeError:
            raise ReadError(
                "The file begins like UTF-16 text but is broken. Save it again as UTF-8."
            ) from None
    if b"\x00" in data:
        raise ReadError(
            "The file holds NUL bytes, so it is not a text table. If it comes from a spreadsheet, "
            "save it there as CSV."
        )
    try:
        return data.decode("utf-8-sig"), "utf-8"
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace"), "cp1252"


def guess_form(text: str, encoding: str = "utf-8") -> Form:
    """The form that text is most likely written in."""
    sample = text[:_SAMPLE]
    if len(text) > _SAMPLE:
        sample = sample[: sample.rfind("\n") + 1] or sample
    best, score = ",", (-1.0, 0)
    for delimiter in DELIMITERS:
        widths = [len(line) for line in _lines(sample, delimiter)[:200] if line]
        if not widths:
            continue
        usual = max(set(widths), key=widths.count)
        agree = widths.count(usual) / len(widths)
        # a delimiter that never occurs splits nothing, however well the lines agree
        mark = (agree if usual > 1 else 0.0, usual)
        if mark > score:
            best, score = delimiter, mark
    lines = [line for line in _lines(sample, best)[:200] if any(cell.strip() for cell in line)]
    comma = _decimal_comma(lines, best)
    return Form(best, _has_header(lines), comma, encoding)


def parse_text(text: str, form: Form, name: str) -> Opened:
    """A table from text by a form, its kinds guessed. Raises ReadError with what is wrong."""
    if not text.strip():
        raise ReadError(f"{name} is empty: there is no line in it to make a table of.")
    if "\x00" in text:
        raise ReadError("The text holds NUL bytes, so it is not a table of text.")
    width, names, notes = _head(text, form)
    if width > MOST_COLUMNS:
        raise ReadError(
            f"{name} would have {width} columns, more than the {MOST_COLUMNS} that Theoros opens. "
            f"Choose another delimiter."
        )
    frame = _frame(text, form, width, name)
    short = _short_lines(frame, text, form)
    if short:
        notes.append(short)
    frame = frame.filter(~pl.all_horizontal(pl.all().is_null()))
    columns: list[Column] = []
    series: list[pl.Series] = []
    for at, given in enumerate(names):
        texts = frame.to_series(at)
        kind = guess_kind(texts, decimal_comma=form.decimal_comma)
        values = parse_series(texts, kind, decimal_comma=form.decimal_comma)
        title = free_name(given, [c.name for c in columns])
        if title != given:
            notes.append(f"There are two columns called “{given}”; the second is “{title}” now.")
        # only a number has a unit; brackets in another name are part of it
        measured = form.header and kind is Kind.NUMBER
        bare, unit = split_unit(title) if measured else (title, "")
        if bare in [c.name for c in columns]:
            bare, unit = title, ""
        columns.append(Column(bare, kind, unit))
        series.append(values.alias(columns[-1].name))
    if form.encoding == "cp1252":
        notes.append("Read as Western European text (cp1252), since it is not UTF-8.")
    return Opened(Table(name, tuple(columns), pl.DataFrame(series)), form, tuple(notes))


def open_delimited(path: Path, form: Form | None = None) -> Opened:
    """A table from a file, by a given form or by the one guessed. Raises ReadError."""
    text, encoding = decode(read_bytes(path))
    form = replace(form, encoding=encoding) if form else guess_form(text, encoding)
    return parse_text(text, form, path.stem)


def with_kinds(opened: Opened, text: str, kinds: dict[str, Kind]) -> Table:
    """The table with kinds chosen instead of guessed, read anew so that no text is lost."""
    form = opened.form
    width, _, _ = _head(text, form)
    frame = _frame(text, form, width, opened.table.name)
    frame = frame.filter(~pl.all_horizontal(pl.all().is_null()))
    columns, series = [], []
    for at, column in enumerate(opened.table.columns):
        kind = kinds.get(column.name, column.kind)
        texts = frame.to_series(at)
        values = parse_series(texts, kind, decimal_comma=form.decimal_comma)
        columns.append(replace(column, kind=kind))
        series.append(values.alias(column.name))
    return Table(opened.table.name, tuple(columns), pl.DataFrame(series), opened.table.noun)


def paste_block(text: str) -> tuple[tuple[str, ...], ...]:
    """What is pasted from a spreadsheet, as rows of cells: tabs between them, quotes honoured."""
    if not text:
        return ()
    lines = _lines(text.replace("\r\n", "\n").removesuffix("\n"), "\t")
    return tuple(tuple(line) or ("",) for line in lines)


def block_has_header(block: tuple[tuple[str, ...], ...]) -> bool:
    """Whether the first row of a pasted block names its columns."""
    return _has_header([list(line) for line in block])


def table_text(rows: list[list[str]], delimiter: str = "\t") -> str:
    """Rows of cells as delimited text, quoted where needed; an empty cell is nothing at all."""
    special = (delimiter, '"', "\n", "\r")

    def written(cell: str) -> str:
        if any(mark in cell for mark in special):
            return '"' + cell.replace('"', '""') + '"'
        return cell

    return "".join(delimiter.join(map(written, row)) + "\n" for row in rows)


def _lines(text: str, delimiter: str) -> list[list[str]]:
    try:
        return list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter))
    except csv.Error:
        return [line.split(delimiter) for line in text.splitlines()]


def _is_number(cell: str) -> bool:
    try:
        parse_number(cell)
    except ValueError:
        return False
    return True


def _has_header(lines: list[list[str]]) -> bool:
    """A first line of names: text, each once, over columns of which one is not like it."""
    if not lines:
        return False
    first = [cell.strip() for cell in lines[0]]
    if any(_is_number(cell) for cell in first if cell) or not any(first):
        return False
    if len(lines) == 1:
        return len(first) > 1
    rest = [[c.strip() for c in line] for line in lines[1:]]
    for at, name in enumerate(first):
        cells = [line[at] for line in rest if at < len(line) and line[at] not in MISSING_CODES]
        if cells and all(_is_number(cell) for cell in cells):
            return True
        if name and cells and len(set(cells)) < len(cells) and name not in cells:
            return True
    return len(first) > 1 and len(set(first)) == len(first)


def _decimal_comma(lines: list[list[str]], delimiter: str) -> bool:
    """Whether numbers are written with a decimal comma rather than a point.

    Between commas, a quoted 1,234 parts thousands; elsewhere it is more likely a decimal comma.
    """
    cells = [cell.strip() for line in lines for cell in line if "," in cell]
    if delimiter == ",":
        cells = [cell for cell in cells if not re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+", cell)]
    numbers = [cell for cell in cells if _is_number(cell)]
    points = [c for line in lines for c in line if "." in c and _is_number(c)]
    return len(numbers) > len(points)


def _head(text: str, form: Form) -> tuple[int, list[str], list[str]]:
    """How many columns there are, their names, and what was noticed about them."""
    first = next((line for line in _lines(text[:_SAMPLE], form.delimiter) if any(line)), [])
    notes: list[str] = []
    if not form.header:
        return len(first), [f"column {k}" for k in range(1, len(first) + 1)], notes
    names = []
    for number, cell in enumerate(first, 1):
        name = " ".join(cell.split())[:200]
        if not name:
            name = f"column {number}"
            notes.append(f"Column {number} has no name in the file; it is called “{name}”.")
        names.append(name)
    return len(first), names, notes


def _frame(text: str, form: Form, width: int, name: str) -> pl.DataFrame:
    """All cells as text, by Polars; where that fails, the line at fault is looked for."""
    try:
        frame = pl.read_csv(
            io.BytesIO(text.lstrip("\r\n").encode()),
            separator=form.delimiter,
            has_header=False,
            skip_rows=0,
            infer_schema=False,
            schema={f"c{k}": pl.String for k in range(width)},
            null_values=[""],
            truncate_ragged_lines=False,
        )
    except pl.exceptions.PolarsError:
        raise ReadError(_what_is_wrong(text, form, width, name)) from None
    # empty lines before the header are not rows
    blank = frame.select(pl.all_horizontal(pl.all().is_null())).to_series()
    skip = int((~blank).arg_max() or 0) if blank.len() else 0
    return frame[skip + (1 if form.header else 0) :]


def _what_is_wrong(text: str, form: Form, width: int, name: str) -> str:
    """Which line does not fit, in a sentence."""
    delimiter = DELIMITERS.get(form.delimiter, form.delimiter)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=form.delimiter, strict=True)
        for line in reader:
            if len(line) > width:
                return (
                    f"Line {reader.line_num} of {name} has {len(line)} values, but the first line "
                    f"has {width}. Correct that line, or choose another delimiter than the "
                    f"{delimiter}."
                )
    except csv.Error:
        return (
            f"A quotation mark is opened in {name} and not closed where a value ends, near line "
            f"{reader.line_num}. Correct that line, or choose another delimiter."
        )
    return f"{name} cannot be read as a table with the {delimiter} between values."


def _short_lines(frame: pl.DataFrame, text: str, form: Form) -> str:
    """What is said of lines with fewer values than there are columns."""
    if frame.width < 2 or not frame.to_series(frame.width - 1).null_count():
        return ""
    short, first = 0, 0
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=form.delimiter)
    try:
        for line in reader:
            if line and len(line) < frame.width and any(line):
                short += 1
                first = first or reader.line_num
            if reader.line_num > 200_000:
                break
    except csv.Error:
        return ""
    if not short:
        return ""
    lines = "1 line is" if short == 1 else f"{short} lines are"
    return f"{lines} shorter than the first (line {first}); missing values fill them up."
