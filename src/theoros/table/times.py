"""When the rows of a series were: from dates, texts such as 2017M06, or a year and a month.

A time is a whole number of steps (days, weeks, months, quarters, years) since a beginning, so that
gaps and doubled times are seen, and what comes next can be named.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Literal

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Dates, Floats, Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table

Step = Literal["day", "week", "month", "quarter", "year", "row"]
CYCLES: dict[str, int] = {"day": 7, "week": 52, "month": 12, "quarter": 4, "year": 1, "row": 1}
"""How many steps a cycle of seasons usually has; 1 for none."""
MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
"""In English, whatever the language of the desktop."""
_MONDAY = date(1, 1, 1).toordinal()  # which was one
EPOCH = date(1970, 1, 1).toordinal()
COARSER: dict[Step, tuple[Step, ...]] = {
    "day": ("week", "month", "quarter", "year"),
    "week": ("month", "quarter", "year"),
    "month": ("quarter", "year"),
    "quarter": ("year",),
}
"""The longer steps that rows may be joined into."""
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

    @property
    def on_calendar(self) -> bool:
        """Whether its times are dates on an axis of days."""
        return self.step in ("day", "week", "month", "quarter")

    def day(self, places: Ints) -> Dates:
        """The first days of times on the calendar."""
        if self.step in ("month", "quarter"):
            months = places * (1 if self.step == "month" else 3) - 1970 * 12
            return np.asarray(months.astype("datetime64[M]").astype("datetime64[D]"))
        ordinals = places if self.step == "day" else _MONDAY + 7 * places
        return np.asarray((ordinals - EPOCH).astype("datetime64[D]"))

    def along(self, places: Ints) -> Floats:
        """Where times stand on an axis: days since 1970-01-01, years, or numbers of rows."""
        if self.on_calendar:
            return np.asarray(self.day(places).astype(np.int64).astype(np.float64))
        return np.asarray(places + (1.0 if self.step == "row" else 0.0))

    def coarser(self, step: Step) -> Times:
        """The longer steps that these fall into; raises ValueError where they have none."""
        if step == self.step:
            return self
        if step not in COARSER.get(self.step, ()):
            raise ValueError(f"{step} is not longer than {self.step}")
        there = self.there
        made = np.full(self.places.size, NOWHERE)
        made[there] = _places(self.day(self.places[there]), step)
        return Times(step, made)

    def short(self, place: int) -> str:
        """A time as in the column of a table: "June 2026", "2026 Q2", "4 May 2026", "7"."""
        if self.step == "quarter":
            return f"{place // 4} Q{place % 4 + 1}"
        if self.step == "week":
            return _day(_MONDAY + 7 * place)
        return str(place + 1) if self.step == "row" else self.named(place)

    def season_short(self, place: int, cycle: int) -> str:
        """The same as `season`, for an axis: "Jun", "Mon", "Q2", "7"."""
        said = self.season(place, cycle)
        if self.step == "quarter" and cycle == 4:
            return f"Q{place % 4 + 1}"
        return said[:3] if said in MONTHS or said in _DAYS else str(place % cycle + 1)

    def season(self, place: int, cycle: int) -> str:
        """The season that a time falls into, by its name where it has one: "June", "Monday"."""
        if self.step == "month" and cycle == 12:
            return MONTHS[place % 12]
        if self.step == "quarter" and cycle == 4:
            return f"quarter {place % 4 + 1}"
        if self.step == "day" and cycle == 7:
            return _DAYS[(place - _MONDAY) % 7]
        if self.step == "week" and cycle == 52:  # no week of the year has a name that is known
            return f"the weeks around {_day(_MONDAY + 7 * place).rpartition(' ')[0]}"
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


def times_of(table: Table, column: str) -> Times | None:
    """The times in a column; None where it has none.

    Every value that is there must be a time, all of them of one step.
    """
    kind = table.column(column).kind
    if kind is Kind.DATE:
        return _of_dates(table.frame[column])
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
        for year in years
        for other in table.columns
        if other.name != year and (found := _of_two(table, year, other.name)) is not None
    ]
    # a month beside a year makes a series; another small whole number leaves it full of holes
    pairs = [one for one in pairs if one[2].gaps.size + one[2].doubled.size < table.rows / 4]
    if pairs:
        return min(pairs, key=lambda one: one[2].gaps.size + one[2].doubled.size)
    for year in years:
        found = times_of(table, year)
        if found is not None and not found.doubled.size and found.there.size > 2:
            return year, "", found
    return "", "", by_rows(table)


def _of_dates(days: pl.Series) -> Times | None:
    """Dates as months, quarters or years where there is one in each, else weeks or days."""
    missing = days.is_null().to_numpy()
    held = days.to_physical().fill_null(0).to_numpy().astype("datetime64[D]")
    there = np.unique(held[~missing])
    if not there.size:
        return None
    months = there.astype("datetime64[M]")
    last = (there + np.timedelta64(1, "D")).astype("datetime64[M]") != months
    in_month = (there - months.astype("datetime64[D]")).astype(np.int64)
    # one date a month, always on the same day or always on the last
    one_a_month = np.unique(months).size == there.size and (np.unique(in_month).size == 1 or bool(last.all()))
    apart = _apart(months)
    step: Step = "day"
    if one_a_month and apart.size:
        step = "month"
        if (apart % 3 == 0).all():
            step = "year" if (apart % 12 == 0).all() else "quarter"
    else:
        days_apart = _apart(there)
        step = "week" if days_apart.size and (days_apart % 7 == 0).all() else "day"
    return Times(step, np.where(missing, NOWHERE, _places(held, step)))


def _apart(dates: Dates) -> Ints:
    """How far each is from the one before, in their unit."""
    numbers: Ints = dates.astype(np.int64)
    return np.asarray(numbers[1:] - numbers[:-1])


def _places(days: Dates, step: Step) -> Ints:
    """The times that dates fall into."""
    if step == "year":
        return np.asarray(days.astype("datetime64[Y]").astype(np.int64) + 1970)
    if step in ("month", "quarter"):
        months = days.astype("datetime64[M]").astype(np.int64) + 1970 * 12
        return np.asarray(months if step == "month" else months // 3)
    ordinals = days.astype(np.int64) + EPOCH
    return np.asarray((ordinals - _MONDAY) // 7 if step == "week" else ordinals)


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
    ("month", re.compile(r"([^\W\d]{3,9})\.?[ -](\d{4})"), lambda m: _named_month(m[1], int(m[2]))),
    ("month", re.compile(r"(\d{4})[ -]([^\W\d]{3,9})\.?"), lambda m: _named_month(m[2], int(m[1]))),
    ("quarter", re.compile(r"(\d{4})[ -]?[Qq]([1-4])"), lambda m: int(m[1]) * 4 + int(m[2]) - 1),
    ("quarter", re.compile(r"[Qq]([1-4])[ -/]?(\d{4})"), lambda m: int(m[2]) * 4 + int(m[1]) - 1),
    ("week", re.compile(r"(\d{4})[ -]?[Ww](\d{1,2})"), lambda m: _week(int(m[1]), int(m[2]))),
    ("row", re.compile(r"(?:week|month|quarter|day) (\d{1,4})", re.I), lambda m: int(m[1]) - 1),
    ("year", re.compile(r"(1\d{3}|2\d{3})"), lambda m: int(m[1])),
)


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
