"""When the rows of a series were: from dates, texts such as 2017M06, or a year and a month.

A time is a whole number of steps (days, weeks, months, quarters, years) since a beginning, so that
gaps and doubled times are seen, and what comes next can be named.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import pairwise
from typing import Literal

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table

Step = Literal["day", "week", "month", "quarter", "year", "row"]
CYCLES: dict[str, int] = {"day": 7, "week": 52, "month": 12, "quarter": 4, "year": 1, "row": 1}
"""How many steps a cycle of seasons usually has; 1 for none."""
MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September",
    "October", "November", "December",
)  # fmt: skip
_MONDAY = date(1, 1, 1).toordinal()  # which was one
NOWHERE = -(2**62)
"""Stands for the time of a row that has none."""


@dataclass(frozen=True)
class Times:
    """The times of rows."""

    step: Step
    places: Ints
    """Of each row, in steps; NOWHERE where it has no time."""

    @property
    def there(self) -> Ints:
        """The rows that have a time."""
        return np.flatnonzero(self.places != NOWHERE)

    @property
    def in_order(self) -> bool:
        """Whether the rows stand in the order of time."""
        return bool((np.diff(self.places[self.there]) >= 0).all())

    @property
    def doubled(self) -> Ints:
        """The times that several rows have."""
        found, counts = np.unique(self.places[self.there], return_counts=True)
        return np.asarray(found[counts > 1])

    @property
    def gaps(self) -> Ints:
        """The times between the first and the last that no row has."""
        found = np.unique(self.places[self.there])
        if not found.size:
            return found
        return np.setdiff1d(np.arange(found[0], found[-1] + 1), found)

    def named(self, place: int) -> str:
        """A time in words: "June 2026", "the second quarter of 2026", "4 May 2026", "row 7"."""
        return _NAMED[self.step](place)

    def season(self, place: int, cycle: int) -> str:
        """The season that a time falls into, by its name where it has one: "June", "Monday"."""
        if self.step == "month" and cycle == 12:
            return MONTHS[place % 12]
        if self.step == "quarter" and cycle == 4:
            return f"quarter {place % 4 + 1}"
        if self.step == "day" and cycle == 7:
            return _DAYS[(place - _MONDAY) % 7]
        return f"{self.step} {place % cycle + 1} of {cycle}"


_DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
_QUARTERS = ("first", "second", "third", "fourth")


def _day(place: int) -> str:
    when = date.fromordinal(place)
    return f"{when.day} {MONTHS[when.month - 1]} {when.year}"


_NAMED: dict[str, Callable[[int], str]] = {
    "day": _day,
    "week": lambda place: f"the week of {_day(_MONDAY + 7 * place)}",
    "month": lambda place: f"{MONTHS[place % 12]} {place // 12}",
    "quarter": lambda place: f"the {_QUARTERS[place % 4]} quarter of {place // 4}",
    "year": str,
    "row": lambda place: f"row {place + 1}",
}


def times_of(table: Table, column: str, also: str = "") -> Times | None:
    """The times in a column, or in two (a year and a month or quarter); None where it has none.

    Every value that is there must be a time, all of them of one step.
    """
    kind = table.column(column).kind
    if also:
        return _of_two(table, column, also)
    if kind is Kind.DATE:
        days = table.frame[column].to_list()
        return _of_dates(days)
    if kind is Kind.NUMBER:
        return _of_years(table.frame[column])
    return _of_texts(table.frame[column].to_list())


def by_rows(table: Table) -> Times:
    """The order of the rows as times, where there is no other."""
    return Times("row", np.arange(table.rows))


def find_times(table: Table) -> tuple[str, str, Times]:
    """The column (or the two) that says when each row was, and its times.

    A column of dates first, then texts that are times, a year with a month or quarter beside it,
    years alone; else the order of the rows, and no column.
    """
    order = (Kind.DATE, Kind.ORDERED, Kind.CATEGORY, Kind.TEXT)
    for column in sorted(table.of_kind(*order), key=lambda c: order.index(c.kind)):
        found = times_of(table, column.name)
        if found is not None and found.there.size > 2:
            return column.name, "", found
    numbers = table.of_kind(Kind.NUMBER)
    years = [c.name for c in numbers if _of_years(table.frame[c.name]) is not None]
    pairs = [
        (year, other.name, found)
        for year in years for other in table.columns
        if other.name != year and (found := _of_two(table, year, other.name)) is not None
    ]  # fmt: skip
    # a month beside a year makes a series; another small whole number leaves it full of holes
    pairs = [one for one in pairs if one[2].gaps.size + one[2].doubled.size < table.rows / 4]
    if pairs:
        return min(pairs, key=lambda one: one[2].gaps.size + one[2].doubled.size)
    for year in years:
        found = times_of(table, year)
        if found is not None and not found.doubled.size and found.there.size > 2:
            return year, "", found
    return "", "", by_rows(table)


def _of_dates(days: Sequence[date | None]) -> Times | None:
    there = [day for day in days if day is not None]
    if not there:
        return None
    months = sorted({day.year * 12 + day.month - 1 for day in there})
    one_a_month = len(months) == len(set(there)) and len({_in_month(day) for day in there}) == 1
    steps = {later - earlier for earlier, later in pairwise(months)}
    if one_a_month and steps and all(step % 12 == 0 for step in steps):
        return _times("year", days, lambda day: day.year)
    if one_a_month and steps and all(step % 3 == 0 for step in steps):
        return _times("quarter", days, lambda day: day.year * 4 + (day.month - 1) // 3)
    if one_a_month and len(months) > 1:
        return _times("month", days, lambda day: day.year * 12 + day.month - 1)
    ordinals = sorted({day.toordinal() for day in there})
    apart = {later - earlier for earlier, later in pairwise(ordinals)}
    if apart and all(step % 7 == 0 for step in apart):
        return _times("week", days, lambda day: (day.toordinal() - _MONDAY) // 7)
    return _times("day", days, lambda day: day.toordinal())


def _in_month(day: date) -> int:
    """The day of the month; the last of any month is the same."""
    last = (day + timedelta(days=1)).month != day.month if day != date.max else True
    return 31 if last else day.day


def _times(step: Step, values: Sequence[date | None], place: Callable[[date], int]) -> Times:
    return Times(step, np.array([NOWHERE if v is None else place(v) for v in values]))


def _of_years(values: pl.Series) -> Times | None:
    there = values.drop_nulls()
    if not there.len() or not bool(((there == there.floor()) & there.is_between(1000, 2999)).all()):
        return None
    found = there.to_numpy()
    if found.max() - found.min() >= 2 * values.len():
        return None  # whole numbers of that size that are far apart are something else
    filled = values.fill_null(float(NOWHERE)).to_numpy()
    return Times("year", np.where(filled < 0, NOWHERE, filled).astype(np.int64))


_MONTH_NAMES = {name[:size].lower(): at for at, name in enumerate(MONTHS) for size in range(3, 10)}
_FORMS: tuple[tuple[Step, re.Pattern[str], Callable[[re.Match[str]], int | None]], ...] = (
    ("month", re.compile(r"(\d{4})[ -]?[Mm](\d{1,2})"), lambda m: _month(int(m[1]), int(m[2]))),
    ("month", re.compile(r"(\d{4})[-/. ](\d{1,2})"), lambda m: _month(int(m[1]), int(m[2]))),
    ("month", re.compile(r"(\d{1,2})[-/.](\d{4})"), lambda m: _month(int(m[2]), int(m[1]))),
    (
        "month", re.compile(r"([^\W\d]{3,9})\.?[ -](\d{4})"),
        lambda m: _named_month(m[1], int(m[2])),
    ),
    (
        "month", re.compile(r"(\d{4})[ -]([^\W\d]{3,9})\.?"),
        lambda m: _named_month(m[2], int(m[1])),
    ),
    ("quarter", re.compile(r"(\d{4})[ -]?[Qq]([1-4])"), lambda m: int(m[1]) * 4 + int(m[2]) - 1),
    ("quarter", re.compile(r"[Qq]([1-4])[ -/]?(\d{4})"), lambda m: int(m[2]) * 4 + int(m[1]) - 1),
    ("week", re.compile(r"(\d{4})[ -]?[Ww](\d{1,2})"), lambda m: _week(int(m[1]), int(m[2]))),
    ("row", re.compile(r"(?:week|month|quarter|day) (\d{1,4})", re.I), lambda m: int(m[1]) - 1),
    ("year", re.compile(r"(1\d{3}|2\d{3})"), lambda m: int(m[1])),
)  # fmt: skip


def _month(year: int, month: int) -> int | None:
    return year * 12 + month - 1 if 1 <= month <= 12 else None


def _named_month(name: str, year: int) -> int | None:
    at = _MONTH_NAMES.get(name.lower())
    return None if at is None else year * 12 + at


def _week(year: int, week: int) -> int | None:
    """Weeks by ISO 8601."""
    try:
        return (date.fromisocalendar(year, week, 1).toordinal() - _MONDAY) // 7
    except ValueError:
        return None


def _of_texts(texts: Sequence[str | None]) -> Times | None:
    there = {text for text in texts if text is not None}
    for step, pattern, place in _FORMS:
        known = {}
        for text in there:
            found = pattern.fullmatch(text.strip())
            at = place(found) if found else None
            if at is None:
                break
            known[text] = at
        if there and len(known) == len(there):
            return Times(step, np.array([NOWHERE if t is None else known[t] for t in texts]))
    return None


def _of_two(table: Table, year: str, part: str) -> Times | None:
    """A year beside a month (1 to 12, or by name) or a quarter (1 to 4)."""
    years = _of_years(table.frame[year]) if table.column(year).kind is Kind.NUMBER else None
    if years is None:
        return None
    parts = _parts(table, part)
    if parts is None:
        return None
    found = [p for p in parts if p is not None]
    if not found or min(found) < 0 or max(found) > 11 or len(set(found)) < 2:
        return None
    quarters = max(found) <= 3
    step: Step = "quarter" if quarters else "month"
    size = CYCLES[step]
    places = [
        NOWHERE if p is None or y == NOWHERE else int(y) * size + p
        for y, p in zip(years.places.tolist(), parts, strict=True)
    ]
    return Times(step, np.array(places))


def _parts(table: Table, column: str) -> list[int | None] | None:
    """Months or quarters of a column, from 0; None where it holds something else."""
    values = table.frame[column]
    made: list[int | None]
    if values.dtype == pl.Float64:
        made = [None if v is None or v != int(v) else int(v) - 1 for v in values.to_list()]
    elif values.dtype == pl.String:
        made = [None if v is None else _part(v) for v in values.to_list()]
    else:
        return None
    return made if sum(p is None for p in made) == values.null_count() else None


def _part(text: str) -> int | None:
    """A month by its name, or a quarter such as Q3, from 0."""
    quarter = re.fullmatch(r"[Qq]([1-4])", text.strip())
    return int(quarter[1]) - 1 if quarter else _MONTH_NAMES.get(text.strip().rstrip(".").lower())
