"""A table: named columns with kinds and units over one immutable frame."""

from __future__ import annotations

import math
import re
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TypeVar, cast

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.table.kinds import Kind, Value, show

T = TypeVar("T")

MOST_DECIMALS = 6
COMPUTED_FIGURES = 5
"""Figures that usual values of a computed column are shown with."""
MOST_CASES = 20_000_000
"""Cases that rows may stand for where they count more than once."""

GOT = ("", "random sample", "random assignment", "observed", "whole population")
"""How rows can have been got; the empty text where it is not said."""


class TableError(ValueError):
    """A change or request that a table cannot meet, said in a sentence for its user."""


@dataclass(frozen=True)
class Column:
    """What is known of a column besides its values."""

    name: str
    kind: Kind = Kind.NUMBER
    unit: str = ""
    meaning: str = ""
    levels: tuple[str, ...] = ()
    """The order of the levels, where it was given; others follow in natural order."""
    formula: str = ""
    """What it is worked out by, where it is; its values then follow what it uses."""
    checked: bool = False
    """Whether its user has said that its kind is right, so that it is not doubted again."""
    below_zero: str = ""
    """Whether its values can be below 0: "no" or "yes"; empty where that is not said."""

    @property
    def label(self) -> str:
        """The name with its unit, as on an axis and in a statement."""
        return f"{self.name} ({self.unit})" if self.unit else self.name


@dataclass(frozen=True, eq=False)
class Table:
    """Rows of cases. Changing one makes another; what is unchanged is shared.

    `frame` holds one Polars series for each column, in the same order: Float64 for
    numbers (null where missing, never NaN), Date for dates, String for the rest.
    """

    name: str
    columns: tuple[Column, ...]
    frame: pl.DataFrame
    noun: str = "row"
    """What one row is: "each row is one bush"."""
    aside: frozenset[int] = frozenset()
    """Rows (from 0) that are set aside: still there, and out of every analysis."""
    sampling: str = ""
    """How the rows were got: one of GOT."""
    counts: str = ""
    """The column that says how often each row counts; empty where each counts once."""
    keep: str = ""
    """The condition (a formula) on the rows that are kept for analysis; empty for all."""
    kept: pl.Series | None = field(default=None, repr=False)
    """For which rows `keep` holds; worked out anew with every change, see `live`."""
    provenance: tuple[str, ...] = ()
    """How the table came to be as it is: a line for each arrangement."""
    origin: pl.Series | None = field(default=None, repr=False)
    """Once sorted: the place that each row had before, to be put back by."""
    _cache: dict[tuple[str, str], object] = field(default_factory=dict, repr=False)

    def __post_init__(self) -> None:
        if [column.name for column in self.columns] != self.frame.columns:
            raise TableError("A table's columns must be those of its frame, in the same order.")

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Table)
            and all(getattr(self, name) == getattr(other, name) for name in ABOUT)
            and _same(self.origin, other.origin)
            and self.frame.equals(other.frame)
        )

    __hash__ = None  # type: ignore[assignment]

    @property
    def rows(self) -> int:
        return self.frame.height

    @cached_property
    def by_name(self) -> Mapping[str, Column]:
        return {column.name: column for column in self.columns}

    def column(self, name: str) -> Column:
        """The column of that name; raises TableError with the names there are."""
        try:
            return self.by_name[name]
        except KeyError:
            have = ", ".join(c.name for c in self.columns) or "none yet"
            raise TableError(
                f"There is no column “{' '.join(name[:60].split())}” in {self.name}. Its columns are: {have}."
            ) from None

    def place(self, name: str) -> int:
        """The position of a column, from 0."""
        return self.columns.index(self.column(name))

    def of_kind(self, *kinds: Kind) -> tuple[Column, ...]:
        return tuple(column for column in self.columns if column.kind in kinds)

    def series(self, name: str) -> pl.Series:
        self.column(name)
        return self.frame[name]

    def numbers(self, name: str) -> Floats:
        """A number column as an array, NaN where missing."""
        column = self.column(name)
        if column.kind is not Kind.NUMBER:
            raise TableError(f"{name} is a {column.kind} column, and numbers were asked of it.")
        # where no value is missing, the array is the column itself and takes no memory
        return self.remembered("numbers", name, lambda: np.asarray(self.frame[name].to_numpy(), dtype=np.float64))

    def levels(self, name: str) -> tuple[str, ...]:
        """The levels that occur, in the given order, then in natural order."""

        def find() -> tuple[str, ...]:
            if self.frame[name].dtype != pl.String:
                return ()  # numbers and dates have no levels
            present = set(self.frame[name].drop_nulls().unique().to_list())
            given = tuple(level for level in self.column(name).levels if level in present)
            return given + tuple(sorted(present - set(given), key=natural_order))

        return self.remembered("levels", name, find)

    def codes(self, name: str) -> Ints:
        """For each row the position of its level in `levels`; -1 where missing."""

        def find() -> Ints:
            levels = list(self.levels(name))
            if not levels:
                return np.full(self.rows, -1, dtype=np.int64)
            codes = self.frame[name].cast(pl.Enum(levels)).to_physical().cast(pl.Int64)
            return np.asarray(codes.fill_null(-1).to_numpy(), dtype=np.int64)

        return self.remembered("codes", name, find)

    def decimals(self, name: str) -> int:
        """How many decimals its numbers are written with: the fewest that lose nothing, to 6."""

        def find() -> int:
            values = self.numbers(name)
            values = values[np.isfinite(values)][:20_000]
            if np.abs(values).max(initial=0.0) > 1e15:  # whole as far as a float can tell
                return 0
            for places in range(MOST_DECIMALS):
                if np.all(np.abs(np.round(values, places) - values) <= 1e-9 * np.abs(values)):
                    return places
            if self.computed(name):
                usual = float(np.median(np.abs(values[values != 0])))
                return min(MOST_DECIMALS, max(0, COMPUTED_FIGURES - 1 - math.floor(math.log10(usual))))
            return MOST_DECIMALS

        return self.remembered("decimals", name, find)

    def computed(self, name: str) -> bool:
        """Whether its numbers have no end of decimals, as what is worked out or drawn has.

        Such a column is shown with some figures; one that was typed is shown as it was typed.
        """

        def find() -> bool:
            values = self.numbers(name)[:2000]
            values = values[np.isfinite(values) & (values != 0)]
            if not values.size or not 1e-3 <= np.median(np.abs(values)) < 1e12:
                return False
            rounded = np.round(values, MOST_DECIMALS)
            return bool(np.mean(np.abs(rounded - values) > 1e-13 * np.abs(values)) > 0.5)

        return self.remembered("computed", name, find)

    @cached_property
    def in_use(self) -> Bools:
        """Which rows are kept for analysis and not set aside."""
        used = np.ones(self.rows, dtype=np.bool_)
        used[[row for row in self.aside if row < self.rows]] = False
        return used if self.kept is None else used & self.kept.to_numpy()

    @property
    def whole(self) -> bool:
        """Whether every row is in use and counts once."""
        return not (self.aside or self.counts or self.keep)

    @cached_property
    def weights(self) -> Ints | None:
        """How often each row counts (0 where the count is missing); None for once each."""
        if not self.counts:
            return None
        found = self.frame[self.counts].fill_null(0).cast(pl.Int64)
        return np.asarray(found.to_numpy(), dtype=np.int64)

    @cached_property
    def cases(self) -> Ints:
        """The rows in use, each as often as it counts. Raises TableError if they are too many."""
        rows = np.flatnonzero(self.in_use)
        if self.weights is None:
            return rows
        weights = self.weights[rows]
        total = float(weights.astype(np.float64).sum())
        if total > MOST_CASES:
            raise TableError(
                f"By the column {self.counts}, the rows of {self.name} count as {total:.3g} cases; "
                f"{MOST_CASES:,} are the most that can be worked with.".replace(",", "\u202f")
            )
        return np.repeat(rows, weights)

    @property
    def case_noun(self) -> str:
        """What one case is: of rows that each count a kind of order, an order."""
        return _KIND_OF.sub("", self.noun) if self.counts else self.noun

    def missing(self, name: str) -> int:
        return self.frame[name].null_count()

    @property
    def ready(self) -> bool:
        """Whether the values are at hand; see `theoros.table.unread`."""
        return True

    def cell_text(self, row: int, name: str) -> str:
        """A value as it stands in a cell: numbers with the decimals of their column."""
        return self.cell_texts(name, row, 1)[0]

    def cell_texts(self, name: str, first: int, count: int) -> list[str]:
        """The texts of the cells of a column from a row on, fewer where the table ends."""
        values = self.frame[name].slice(first, count).to_list()
        if self.by_name[name].kind is not Kind.NUMBER:
            return [show(value) for value in values]
        places, computed = self.decimals(name), self.computed(name)
        return [_number_text(value, places, computed=computed) for value in values]

    def value(self, row: int, name: str) -> Value:
        return self.frame[name][row]  # type: ignore[no-any-return]

    def with_(self, **changes: object) -> Table:
        """A copy with fields replaced; what was worked out is kept as far as it still holds."""
        if {"frame", "columns"} & set(changes):
            kept = {}
        elif {"aside", "kept", "counts"} & set(changes):
            known = list(self._cache.items())  # at once: other threads add to it
            kept = {key: found for key, found in known if key[0] in OF_ONE_COLUMN}
        else:
            kept = self._cache
        return replace(self, _cache=kept, **changes)  # type: ignore[arg-type]

    def with_values(self, touched: Collection[str], **changes: object) -> Table:
        """A copy with another frame of as many rows, in which only these columns are others.

        What was worked out from one of the rest is kept: it would come out the same.
        """
        kept = {
            (what, name): found
            for (what, name), found in list(self._cache.items())
            if name not in touched and what in OF_ONE_COLUMN
        }
        return replace(self, _cache=kept, **changes)  # type: ignore[arg-type]

    def rest_on(self, columns: Sequence[pl.Series]) -> None:
        """Lets go of its own memory for these columns: the same values, held elsewhere.

        For values that another process holds in memory that both can map.
        """
        object.__setattr__(self, "frame", self.frame.with_columns(columns))
        for series in columns:
            self._cache.pop(("numbers", series.name), None)

    def remembered(self, what: str, name: str, make: Callable[[], T]) -> T:
        """Something worked out from a column, kept as long as this table is."""
        key = (what, self.column(name).name)
        if key not in self._cache:
            self._cache[key] = make()
        return cast(T, self._cache[key])


def _number_text(value: Value, places: int, *, computed: bool) -> str:
    # what arithmetic adds at the sixteenth figure is not shown, anything typed is
    if not isinstance(value, float):
        return show(value, places)
    if not computed and abs(round(value, places) - value) > 1e-13 * abs(value):
        return show(value)
    return show(value, places)


_KIND_OF = re.compile(r"^(kind|type|sort|group|class|level)s? of ", re.IGNORECASE)
HANDED = "handed"
"""What the engine knows a column by."""
OF_ONE_COLUMN = frozenset(
    {"numbers", "levels", "codes", "decimals", "computed", "sizes", "bin width", HANDED, "profile"}
)
"""What is worked out from the values of a column alone, whatever the others hold."""
ABOUT = ("name", "columns", "noun", "aside", "sampling", "counts", "keep", "provenance")
"""The fields of a table that say what it is, besides its values."""


def _same(one: pl.Series | None, two: pl.Series | None) -> bool:
    return one is two or (one is not None and two is not None and one.equals(two))


def natural_order(text: str) -> tuple[tuple[int, float, str], ...]:
    """A sorting key that puts 2 before 10, Plot 2 before Plot 10, and under 20 before 20 to 29."""
    parts = re.findall(r"[0-9]+(?:\.[0-9]+)?|[^0-9]+", text)
    key = tuple((0, float(part), "") if part[0] in "0123456789" else (1, 0.0, part.casefold()) for part in parts)
    below = _BELOW.fullmatch(text)
    # among the numbers, just ahead of the one that it lies below
    return ((0, float(below[1]) - 1e-9, ""), *key) if below else key


_BELOW = re.compile(r"\s*(?:under|below|less than|up to|<|≤)\s*([0-9]+(?:\.[0-9]+)?)\D*", re.I)


def free_name(wanted: str, taken: Iterable[str]) -> str:
    """`wanted`, or with the first number behind it that makes it new."""
    names = set(taken)
    if wanted not in names:
        return wanted
    number = 2
    while f"{wanted} {number}" in names:
        number += 1
    return f"{wanted} {number}"
