"""The kinds a column can have, and how typed text becomes a value of each.

A number may be typed with a decimal point or a decimal comma and with spaces between
thousands; anything else is not a number, and is never quietly made one.
"""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass
from datetime import date, datetime
from enum import StrEnum

from theoros.lazy_imports import pl
from theoros.table.plain_text import storable


class Kind(StrEnum):
    """What the values of a column are, in the words shown to its user."""

    NUMBER = "number"
    CATEGORY = "category"
    ORDERED = "ordered"
    DATE = "date"
    TEXT = "text"

    @property
    def is_grouping(self) -> bool:
        """Whether its values are levels that cases can be grouped by."""
        return self in (Kind.CATEGORY, Kind.ORDERED)

    @property
    def dtype(self) -> pl.DataType:
        """How values of this kind are stored."""
        if self is Kind.NUMBER:
            return pl.Float64()
        return pl.Date() if self is Kind.DATE else pl.String()

    @property
    def example(self) -> str:
        """What a value of this kind may look like, for a sentence about one that is not."""
        return {Kind.NUMBER: "12.5", Kind.DATE: "2026-04-30"}.get(self, "any text")


LARGEST_WHOLE = 2.0**53
"""Beyond it, not every whole number is a number that can be held."""
MOST_DIGITS = 308
"""Of a whole number; longer ones are beyond the largest number there is."""
_LONG = re.compile(r"[+-]?[0-9]{16,}", re.ASCII)
MISSING_CODES = frozenset({"", "NA", "N/A", "n/a", "na", "NaN", "nan", "null", "NULL", ".", "-", "—"})
"""What stands for a missing value where people type or export tables."""

DATE_FORMATS = ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y", "%m/%d/%Y", "%Y/%m/%d", "%d %b %Y")

_NUMBER = re.compile(
    r"""[+-]?(
        (\d{1,3}([\x20\u00a0\u202f]\d{3})+|\d+)([.,]\d*)? | [.,]\d+
    )([eE][+-]?\d+)?""",
    re.VERBOSE | re.ASCII,
)
_WHOLE_NUMBER = f"(?x)^(?:{_NUMBER.pattern})$".replace(r"\d", "[0-9]")
_PLAUSIBLE = {
    Kind.NUMBER: "^[-+−]?[0-9., \u00a0\u202f]+([eE][-+]?[0-9]+)?$",
    Kind.DATE: "^[0-9]{1,4}[-./ ][0-9A-Za-z]{1,9}[-./ ][0-9]{1,4}$",
}
_WHITE = "\t\n\x0b\x0c\r \x85\xa0\u1680\u2028\u2029\u202f\u205f\u3000" + "".join(map(chr, range(0x2000, 0x200B)))
"""What Unicode and Polars call white space; Python's own idea of it is a little wider."""
_THOUSANDS = r"^[-+−]?[0-9]{1,3}(,[0-9]{3})+(\.[0-9]*)?$"
_SPACES = str.maketrans("", "", " \u00a0\u202f")

Value = float | str | date | None


@dataclass(frozen=True)
class NotAValue(ValueError):
    """Text that cannot be a value of the kind of its column."""

    text: str
    kind: Kind

    def __str__(self) -> str:
        if self.kind is Kind.NUMBER and not is_exact(self.text):
            return (
                f"{self.text[:40]} is a whole number that a number here cannot hold exactly "
                f"(beyond 9 007 199 254 740 992). In a column of text it is kept as it is"
            )
        return f"“{self.text}” is not a {self.kind}, such as {self.kind.example}"


def parse(text: str, kind: Kind) -> Value:
    """The value that typed text stands for; None if it is a code for missing.

    Raises NotAValue where the text does not fit the kind.
    """
    stripped = text.strip(_WHITE)
    if stripped in MISSING_CODES:
        return None
    if kind is Kind.NUMBER:
        return parse_number(stripped)
    if kind is Kind.DATE:
        return parse_date(stripped)
    return storable(stripped if kind.is_grouping else text)


def parse_number(text: str) -> float:
    """A finite number from text with a decimal point or comma; raises NotAValue."""
    plain = text.strip(_WHITE).replace("−", "-")
    if _NUMBER.fullmatch(plain) and is_exact(plain):
        value = float(plain.translate(_SPACES).replace(",", "."))
        if value not in (float("inf"), float("-inf")):
            return value
    raise NotAValue(text, Kind.NUMBER)


def is_exact(text: str) -> bool:
    """Whether text is not a whole number that would be rounded; long numbers are most often keys.

    What has a decimal point or an exponent is a measurement, which is rounded as all are.
    """
    digits = text.strip(_WHITE).replace("−", "-").translate(_SPACES)
    if not _LONG.fullmatch(digits):
        return True
    digits = digits.lstrip("+-").lstrip("0") or "0"
    return len(digits) <= MOST_DIGITS and int(float(digits)) == int(digits)


def parse_date(text: str, *, month_first: bool = False) -> date:
    """A date in one of DATE_FORMATS, the first that fits; raises NotAValue.

    With `month_first`, 3/4/2026 is the 4th of March.
    """
    forms: tuple[str, ...] = DATE_FORMATS if re.fullmatch(_PLAUSIBLE[Kind.DATE], text) else ()
    if month_first and forms:
        forms = ("%m/%d/%Y", *(form for form in forms if form != "%d/%m/%Y"))
    for form in forms:
        try:
            return datetime.strptime(text, form).date()
        except ValueError:
            continue
    raise NotAValue(text, Kind.DATE)


def show(value: Value, decimals: int | None = None) -> str:
    """A value as it stands in a cell; the empty string for a missing one."""
    if value is None:
        return ""
    if isinstance(value, float):
        if value != value:
            return ""
        if decimals is not None and abs(value) < 1e15:
            text = f"{value:.{decimals}f}"
            return "0" if float(text) == 0 and decimals == 0 else text
        return repr(int(value)) if value.is_integer() and abs(value) < 1e15 else repr(value)
    return value.isoformat() if isinstance(value, date) else str(value)


def parse_series(
    texts: pl.Series,
    kind: Kind,
    *,
    decimal_comma: bool | None = None,
    month_first: bool = False,
    missing: Collection[str] = MISSING_CODES,
) -> pl.Series:
    """A whole column of text as values of `kind`; what does not fit becomes missing.

    The fast road for many rows: plain numbers and ISO dates are read by Polars, and only
    what it leaves over is parsed value by value. Where the meaning of a comma is known it is
    given: True for a decimal comma, False for one that can only part thousands (1,234.5). None
    takes it as people type it, as a decimal comma. `missing` are the codes for no value.
    """
    clean = texts.cast(pl.String).str.strip_chars()
    clean = _kept(clean, ~clean.is_in(list(missing)))
    if kind not in (Kind.NUMBER, Kind.DATE):
        # text keeps its surrounding spaces, a level loses them
        values = clean if kind.is_grouping else _kept(texts.cast(pl.String), clean.is_not_null())
        return values.alias(texts.name)
    if kind is Kind.NUMBER:
        plain = clean
        if decimal_comma is False:
            parted = clean.str.contains(_THOUSANDS)
            plain = pl.select(
                pl.when(parted)
                .then(clean.str.replace_all(",", "", literal=True))
                .when(clean.str.contains(",", literal=True))
                .then(None)
                .otherwise(clean)
            ).to_series()
            clean = _kept(plain, plain.is_not_null())
        elif decimal_comma:
            plain = clean.str.replace_all(",", ".", literal=True)
        values = plain.cast(pl.Float64, strict=False)
        values = _kept(values, values.is_finite())
    else:
        values = clean.str.to_date("%Y-%m-%d", strict=False)
    # only what could be a value is worth parsing piece by piece
    clean = _kept(clean, clean.str.contains(_PLAUSIBLE[kind]))
    left = (values.is_null() & clean.is_not_null()).arg_true()
    if left.len() and kind is Kind.NUMBER:  # spaces between thousands, decimal commas, minus signs
        some = clean.gather(left).str.replace_all("−", "-", literal=True)
        bare = some.str.replace_all("[ \u00a0\u202f]", "").str.replace(",", ".", literal=True)
        read = _kept(bare, some.str.contains(_WHOLE_NUMBER)).cast(pl.Float64, strict=False)
        values = values.scatter(left, _kept(read, read.is_finite()))
    elif left.len():
        found: dict[str, Value] = {}
        for text in clean.gather(left).unique():
            try:
                found[text] = parse_date(text, month_first=month_first)
            except NotAValue:
                found[text] = None
        extra = [found[text] for text in clean.gather(left)]
        if any(value is not None for value in extra):
            values = values.scatter(left, pl.Series(extra, dtype=kind.dtype))
    if kind is Kind.NUMBER:
        values = _without_rounded(values, clean)
    return values.alias(texts.name)


def _without_rounded(values: pl.Series, texts: pl.Series) -> pl.Series:
    """The numbers without those that are not the whole number that was written."""
    largest = values.abs().max()
    if not isinstance(largest, float) or largest < LARGEST_WHOLE:
        return values
    rows = (values.abs() >= LARGEST_WHOLE).arg_true()
    wrong = [row for row, text in zip(rows, texts.gather(rows), strict=True) if not is_exact(text)]
    return values.scatter(wrong, None)


def is_clean(levels: pl.Series, *, missing: Collection[str] = MISSING_CODES) -> bool:
    """Whether these texts are levels just as they stand: no spaces around them, no codes."""
    there = levels.drop_nulls()
    stripped = bool((there == there.str.strip_chars()).all())
    return stripped and not there.is_in(list(missing)).any()


def _kept(values: pl.Series, keep: pl.Series) -> pl.Series:
    """The values where `keep` is true, missing elsewhere."""
    return pl.select(pl.when(keep).then(values).otherwise(None).alias(values.name)).to_series()


def unfit(texts: pl.Series, values: pl.Series, *, missing: Collection[str] = MISSING_CODES) -> pl.Series:
    """Which rows held text that `parse_series` could not make a value of."""
    stripped = texts.cast(pl.String).str.strip_chars()
    return values.is_null() & stripped.is_not_null() & ~stripped.is_in(list(missing))


FEW_LEVELS = 30


def guess_kind(
    texts: pl.Series, *, decimal_comma: bool | None = None, month_first: bool = False, rows: int | None = None
) -> Kind:
    """The kind that a column of text most likely is: every value must fit it.

    Numbers and dates where all values are; a category where values repeat enough to group
    by; else text. An all-missing column is a number, since it may be typed into yet. Where
    `texts` are only the different values of a column, `rows` says how many rows it has.
    """
    sample = texts.head(100)
    for kind in (Kind.NUMBER, Kind.DATE):
        if not any(
            unfit(some, parse_series(some, kind, decimal_comma=decimal_comma, month_first=month_first)).any()
            for some in (sample, texts)
        ):
            return kind
    distinct = texts.n_unique()
    rows = texts.len() if rows is None else rows
    return Kind.CATEGORY if distinct <= max(FEW_LEVELS, rows // 20) else Kind.TEXT


def finite_only(values: pl.Series) -> tuple[pl.Series, int]:
    """Values with null for numbers that are none or infinite and for days that no calendar has.

    Beside them how many are infinite, or beyond the years 1 to 9999.
    """
    if values.dtype == pl.Date:
        beyond = ~pl.select(values.is_between(date.min, date.max)).to_series()
        many = int(beyond.sum() or 0)
        return (_kept(values, ~beyond) if many else values), many
    if values.dtype != pl.Float64:
        return values, 0
    infinite = int(values.is_infinite().sum() or 0)
    return pl.select(pl.when(values.is_finite()).then(values)).to_series(), infinite
