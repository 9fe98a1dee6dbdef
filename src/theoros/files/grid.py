"""From a grid of cells to a table: names, units, kinds, missing values, and what does not fit."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from theoros.files.errors import ReadError
from theoros.files.form import MOST_COLUMNS, MOST_MISFITS, Form, Misfit, Opened
from theoros.lazy_imports import pl
from theoros.table.changes import split_unit
from theoros.table.kinds import (
    MISSING_CODES,
    Kind,
    finite_only,
    guess_kind,
    is_clean,
    is_exact,
    parse_number,
    parse_series,
    unfit,
)
from theoros.table.plain_text import clean_name
from theoros.table.table import Column, Table, free_name

Lines = Sequence[Sequence[str]]
MOST_HEADER = 3
MANY = 10_000
_RUN = r"[=+\-@\t\r\n＝＋－＠]"
"""What begins a formula in a spreadsheet, at home or in a wide alphabet."""
RISKY = f"^'*{_RUN}"
"""Text that needs a guard: such, and such as is guarded already."""
GUARD = f"^'('*{_RUN})"
_UNIT = re.compile(r"^[^\s\d(\[][^\s(\[]{0,9}$|^%$|^°C$")


@dataclass(frozen=True)
class CellGrid:
    """The lines of names, and the columns of cells below them.

    A column is text as it stands in the file, or numbers or dates where they were read already.
    """

    names: Lines
    columns: Sequence[pl.Series]
    first_line: int = 1
    """Where the first line of cells stands in the file, counted from 1."""


def tabulate(
    grid: CellGrid, form: Form, name: str, kinds: Mapping[int, Kind] | None = None, notes: Sequence[str] = ()
) -> Opened:
    """A table from a grid, its kinds guessed where they are not given.

    Empty lines are no rows. Raises ReadError if there are too many columns, or none.
    """
    if len(grid.columns) > MOST_COLUMNS:
        raise ReadError(
            f"{name} would have {len(grid.columns)} columns, more than the {MOST_COLUMNS} that "
            f"Theoros opens. Choose another delimiter, or fewer columns."
        )
    if not grid.columns:
        raise ReadError(f"{name} is empty: there is nothing in it to make a table of.")
    said = list(notes)
    titles = merged_names(grid.names, len(grid.columns))
    body, lines = _without_empty_lines(grid)
    columns: list[Column] = []
    series: list[pl.Series] = []
    misfits: list[Misfit] = []
    count = 0
    for at, cells in enumerate(body):
        title = titles[at]
        if not title:
            title = f"column {at + 1}"
            if grid.names:
                said.append(f"Column {at + 1} has no name in the file; it is called “{title}”.")
        wanted = (kinds or {}).get(at)
        text = cells.dtype == pl.String
        made = _read_text(cells, wanted, form, title, lines) if text else _read_values(cells, wanted, form, title)
        said += made.said
        if made.wrong is not None and made.wrong.any():
            places = made.wrong.arg_true()
            count += places.len()
            room = MOST_MISFITS - len(misfits)
            misfits += [Misfit(lines[row], title, made.cells[row]) for row in places[:room]]
        columns.append(_named(title, made.kind, columns, bool(grid.names), said))
        series.append(made.values.alias(columns[-1].name))
    table = Table(name, tuple(columns), pl.DataFrame(series))
    first = lines[0] if len(lines) else grid.first_line
    return Opened(table, form, tuple(said), tuple(misfits), count, first)


@dataclass(frozen=True)
class _Read:
    """A column as it was read, and what is said of that."""

    cells: pl.Series
    values: pl.Series
    kind: Kind
    said: Sequence[str] = ()
    wrong: pl.Series | None = None
    """Which of its cells do not fit its kind, where that was given."""


def _read_text(texts: pl.Series, wanted: Kind | None, form: Form, title: str, lines: Sequence[int]) -> _Read:
    said = []
    codes = MISSING_CODES | set(form.missing)
    few = _few(texts)
    if few.str.starts_with("'").any():
        texts = few = _unguarded(texts)
    kind = wanted or _guessed(few, form, texts.len())
    if kind is Kind.DATE and not form.month_first and _either_way(few):
        said.append(f"In {title}, 3/4/2026 is read as the 3rd of April.")
    if kind.is_grouping and few is not texts and is_clean(few, missing=codes):
        values = texts
    else:
        values = parse_series(
            texts, kind, decimal_comma=form.decimal_comma, month_first=form.month_first, missing=codes
        )
    if kind is not Kind.NUMBER and _has_long_keys(few):
        said.append(
            f"{title} holds whole numbers that would be rounded as numbers (beyond "
            f"9 007 199 254 740 992), so it is kept as {kind}, exactly."
        )
    elif wanted is None and kind in (Kind.CATEGORY, Kind.TEXT):
        said += _nearly_numbers(texts, title, form, lines, codes)
    return _Read(texts, values, kind, said, unfit(texts, values, missing=codes) if wanted else None)


def _read_values(cells: pl.Series, wanted: Kind | None, form: Form, title: str) -> _Read:
    values, kind = _typed(cells, wanted, form)
    values, infinite = finite_only(values)
    said = []
    if infinite and kind is Kind.DATE:
        many = "1 date is" if infinite == 1 else f"{infinite} dates are"
        said.append(f"{title}: {many} beyond the years 1 to 9999, and read as missing.")
    elif infinite:
        many = "1 infinite value is" if infinite == 1 else f"{infinite} infinite values are"
        said.append(f"{title}: {many} read as missing; nothing can be calculated with it.")
    return _Read(cells, values, kind, said)


def _typed(values: pl.Series, wanted: Kind | None, form: Form) -> tuple[pl.Series, Kind]:
    """Numbers and dates that were read already, as the kind that is wanted."""
    own = Kind.DATE if values.dtype == pl.Date else Kind.NUMBER
    if wanted is None or wanted is own:
        if own is Kind.NUMBER and values.dtype != pl.Float64:
            values = values.cast(pl.Float64)
        codes = [_number(code) for code in form.missing]
        numbers = [code for code in codes if code is not None]
        if own is Kind.NUMBER and numbers:
            values = pl.select(pl.when(~values.is_in(numbers)).then(values)).to_series()
        return values, own
    texts = values.cast(pl.String).str.replace(r"\.0$", "")
    return parse_series(texts, wanted, missing=MISSING_CODES | set(form.missing)), wanted


def _either_way(texts: pl.Series) -> bool:
    """Whether dates could be read with the day or with the month first."""
    there = texts.drop_nulls().str.strip_chars()
    slashed = there.filter(there.str.contains(r"^\d{1,2}/\d{1,2}/\d{4}$"))
    return bool(slashed.len()) and not slashed.str.contains(r"^(1[3-9]|[23]\d)/").any()


def _has_long_keys(texts: pl.Series) -> bool:
    there = texts.drop_nulls()
    long = there.filter(there.str.contains(r"^\s*[-+−]?[0-9]{16,}\s*$"))
    return not all(map(is_exact, long))


def _few(texts: pl.Series) -> pl.Series:
    """The different values of a long column, where they are few: all that is asked of them."""
    if texts.len() <= MANY:
        return texts
    few = texts.unique()
    return few if few.len() <= MANY else texts


def _guessed(texts: pl.Series, form: Form, rows: int) -> Kind:
    plain = texts
    if form.missing:
        plain = pl.select(pl.when(~texts.is_in(list(form.missing))).then(texts)).to_series()
    return guess_kind(plain, decimal_comma=form.decimal_comma, month_first=form.month_first, rows=rows)


def _named(title: str, kind: Kind, before: Sequence[Column], named: bool, said: list[str]) -> Column:
    taken = [column.name for column in before]
    whole = free_name(title, taken)
    if whole != title:
        said.append(f"There are two columns called “{title}”; the second is “{whole}” now.")
    # only a number has a unit; brackets in another name are part of it
    name, unit = split_unit(whole) if named and kind is Kind.NUMBER else (whole, "")
    if name in taken:
        name, unit = whole, ""
    return Column(name, kind, unit)


def merged_names(lines: Lines, width: int) -> list[str]:
    """One name for each column from one or several lines of names.

    A second line of units goes into brackets; otherwise the names above are those of groups of
    columns, and hold until the next.
    """
    padded = [[clean_name(cell) for cell in line][:width] for line in lines]
    padded = [line + [""] * (width - len(line)) for line in padded]
    if not padded:
        return [""] * width
    if len(padded) == 2 and _is_unit_line(padded):
        return [f"{name} ({unit.strip('()[]')})" if unit else name for name, unit in zip(*padded, strict=True)]
    pieces: list[list[str]] = [[] for _ in range(width)]
    for number, line in enumerate(padded):
        held = ""
        for at, cell in enumerate(line):
            last = number == len(padded) - 1
            below = any(other[at] for other in padded[number + 1 :])
            held = cell or ("" if last or not below else held)
            if held and held not in pieces[at]:
                pieces[at].append(held)
    return [" ".join(parts)[:200] for parts in pieces]


def _is_unit_line(lines: Sequence[Sequence[str]]) -> bool:
    names, units = lines
    given = [unit.strip("()[]") for unit in units if unit]
    named = [name for name in names if name]
    return (
        bool(given)
        and len(named) == len(names)
        and len(set(named)) == len(named)
        and all(_UNIT.match(unit) for unit in given)
        and len(given) < len(names) + 1
        and not set(given) & set(named)
    )


def guess_lines(lines: Lines) -> tuple[int, int]:
    """How many lines stand above the names, and how many lines of names there are."""
    skip = 0
    widths = [sum(1 for cell in line if cell.strip()) for line in lines]
    usual = sorted(widths)[len(widths) // 2] if widths else 0
    # a title, or nothing, above the names
    while skip < min(len(lines) - 1, 20) and (widths[skip] == 0 or widths[skip] == 1 < usual):
        skip += 1
    rest = [[cell.strip() for cell in line] for line in lines[skip:]]
    return skip, _header_lines(rest)


def _header_lines(lines: Sequence[Sequence[str]]) -> int:
    """Lines of text above columns of numbers; else one line of names that looks like one."""
    body = lines[MOST_HEADER:]
    width = max((len(line) for line in lines), default=0)
    numeric = []
    for at in range(width):
        cells = [line[at] for line in body if at < len(line) and line[at] not in MISSING_CODES]
        if cells and sum(map(is_number, cells)) >= 0.8 * len(cells):
            numeric.append(at)
    if numeric:
        count = 0
        for line in lines[:MOST_HEADER]:
            cells = [line[at] for at in numeric if at < len(line)]
            if any(is_number(cell) for cell in line) or not any(c not in MISSING_CODES for c in cells):
                break
            count += 1
        if count > 1 or not has_header(lines):
            return count
    return 1 if has_header(lines) else 0


def has_header(lines: Sequence[Sequence[str]]) -> bool:
    """A first line of names: text, each once, over columns of which one is not like it."""
    if not lines:
        return False
    first = [cell.strip() for cell in lines[0]]
    if any(is_number(cell) for cell in first if cell) or not any(first):
        return False
    if len(lines) == 1:
        return len(first) > 1
    rest = [[cell.strip() for cell in line] for line in lines[1:]]
    for at, name in enumerate(first):
        cells = [line[at] for line in rest if at < len(line) and line[at] not in MISSING_CODES]
        if cells and all(is_number(cell) for cell in cells):
            return True
        if name and cells and len(set(cells)) < len(cells) and name not in cells:
            return True
    return len(first) > 1 and len(set(first)) == len(first)


def guess_decimal_comma(lines: Lines, *, comma_parts: bool, points: bool = True) -> bool:
    """Whether numbers are written with a decimal comma rather than a point.

    With `comma_parts` (between commas, and where numbers have points) 1,234 parts thousands.
    Without `points`, numbers with a point say nothing, as where the reader has written them.
    """
    cells = [cell.strip() for line in lines for cell in line if "," in cell]
    pointed = sum("." in c and is_number(c) for line in lines for c in line) if points else 0
    if comma_parts or any(re.fullmatch(r"\s*[-+]?\d{1,3}(,\d{3})+\.\d+\s*", c) for c in cells):
        cells = [cell for cell in cells if not re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+", cell)]
    numbers = [cell for cell in cells if is_number(cell)]
    return len(numbers) > pointed


def guess_month_first(lines: Lines) -> bool:
    """Whether dates such as 3/31/2026 show that the month stands before the day."""
    for line in lines:
        for cell in line:
            found = re.fullmatch(r"\s*(\d{1,2})/(\d{1,2})/\d{4}\s*", cell)
            if found and int(found[2]) > 12:
                return True
            if found and int(found[1]) > 12:
                return False
    return False


def is_number(cell: str) -> bool:
    try:
        parse_number(cell)
    except ValueError:
        return False
    return True


def guarded(text: str) -> str:
    """Text that a spreadsheet would take for a formula, with an apostrophe before it."""
    return f"'{text}" if re.match(RISKY, text) and not is_number(text) else text


def _unguarded(texts: pl.Series) -> pl.Series:
    """Without the apostrophe that keeps a spreadsheet from running a text."""
    return texts.str.replace(GUARD, "$1")


def _without_empty_lines(grid: CellGrid) -> tuple[list[pl.Series], Sequence[int]]:
    """The columns without lines that hold nothing, and the line in the file of each row."""
    columns = list(grid.columns)
    height = columns[0].len()
    places = range(grid.first_line, grid.first_line + height)
    if any(column.null_count() == 0 for column in columns):
        return columns, places
    frame = pl.DataFrame([column.alias(f"c{at}") for at, column in enumerate(columns)])
    keep = ~frame.select(pl.all_horizontal(pl.all().is_null())).to_series()
    if keep.all():
        return columns, places
    kept = frame.filter(keep)
    lines = keep.arg_true().to_list()
    return kept.get_columns(), [grid.first_line + line for line in lines]


def _nearly_numbers(
    texts: pl.Series, title: str, form: Form, lines: Sequence[int], codes: set[str] | frozenset[str]
) -> list[str]:
    """What is said of a column that is numbers but for a few values."""
    sample = texts.head(2000)
    some = parse_series(sample, Kind.NUMBER, decimal_comma=form.decimal_comma, missing=codes)
    if not some.len() or some.len() - some.null_count() < 0.5 * some.len():
        return []
    values = parse_series(texts, Kind.NUMBER, decimal_comma=form.decimal_comma, missing=codes)
    wrong = unfit(texts, values, missing=codes).arg_true()
    present = texts.len() - texts.null_count()
    if not wrong.len() or wrong.len() > 0.2 * present:
        return []
    shown = ", ".join(f"line {lines[row]} (“{texts[row]}”)" for row in wrong[:3])
    more = f" and {wrong.len() - 3} more" if wrong.len() > 3 else ""
    it = "it" if wrong.len() == 1 else "them"
    return [f"{title} is numbers but for {shown}{more}. Choose number to make {it} missing."]


def _number(text: str) -> float | None:
    try:
        return parse_number(text)
    except ValueError:
        return None
