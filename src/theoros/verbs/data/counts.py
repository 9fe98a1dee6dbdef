"""Counts of one category, or of two at once: from rows, or typed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, TypeVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import category_column, column_field, text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, SlotGrid, Tables, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.columns import is_grouping, lost_words
from theoros.verbs.data.count_column import counts_in_rows
from theoros.verbs.data.data import Data, Family, Sides, row_field, waiting, with_row
from theoros.verbs.data.groups import said_unused, why_none
from theoros.verbs.data.observed_counts import CountsOfLevels, TwoWayCounts

MOST_LINES = 12
"""As many rows and columns a typed table can have."""
COUNTED_BY = column_field("rows counted by", (Kind.NUMBER,), none="each row once")
_COUNT = TypeNumber(0, 1e12, whole=True, help="How many cases.")


def count_slot(name: str, label: str, value: int | None) -> Slot:
    """A slot for a count; it has to be typed."""
    shown = whole(value) if value is not None else "…"
    slot = number_slot(name, label, value, _COUNT, shown)
    return slot if value is not None else replace(slot, missing=f"Type the {label}.")


def _weights(table: Table, count: str | None) -> Floats:
    """How many cases each of `table.cases` stands for."""
    if count is None or table.counts:
        return np.ones(table.cases.size)
    return counts_in_rows(table, count, "data.count")[table.cases].astype(np.float64)


def _has_order(table: Table, column: str) -> bool:
    return table.by_name[column].kind is Kind.ORDERED


def _name_slot(name: str, label: str, value: str, empty: str) -> Slot:
    return text_slot(name, label, value, TypeText(longest=120), empty=empty)


class _Counted(Data):
    """Cases of a table, counted; each row once, or as often as the column in `count` says."""

    count: str | None

    def settings(self, place: Place) -> tuple[Slot, ...]:
        own = place.own  # a table may say itself how often its rows count
        return (self.field_slot("count", place),) if own is not None and not own.counts else ()


Held = TypeVar("Held")


@dataclass(frozen=True)
class LevelCounts(_Counted):
    """How many cases have each level of a category column."""

    kind: ClassVar[str] = "counts of levels"
    label: ClassVar[str] = "the levels of a category"
    help: ClassVar[str] = "Cases are counted, each row as often as it counts."
    family: ClassVar[Family] = "counts"
    order: ClassVar[int] = 30
    what: str | None = category_column("the category", elsewhere=True)
    count: str | None = COUNTED_BY

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("what", place),)

    def levels_of(self, place: Place) -> tuple[str, ...]:
        own = place.own
        known = own is not None and is_grouping(own, self.what)
        return own.levels(str(self.what)) if own is not None and known else ()

    @property
    def title(self) -> str:
        return sentence_case(self.what) if self.what else ""

    def read(self, tables: Tables, table: str) -> CountsOfLevels:
        own, what = tables[table], str(self.what)
        levels, codes = own.levels(what), own.codes(what)[own.cases]
        there = codes >= 0
        if not there.any():
            raise CannotAnswer(why_none(own, what), "data.what")
        counts = np.bincount(codes[there], _weights(own, self.count)[there], len(levels))
        counts = counts.astype(np.int64)
        left_out = (*lost_words(own, int((~there).sum()), what), *said_unused(own))
        return CountsOfLevels(
            name=what,
            levels=levels,
            counts=counts,
            noun=own.noun,
            left_out=left_out,
            from_rows=True,
            ordered=_has_order(own, what),
        )


@dataclass(frozen=True)
class TypedCount:
    """A level and how many cases have it."""

    name: str = ""
    count: int | None = None


@dataclass(frozen=True)
class TypedCounts(Data):
    """Counts of the levels of one category, typed into a grid."""

    kind: ClassVar[str] = "typed counts"
    label: ClassVar[str] = "typed counts"
    help: ClassVar[str] = "No rows: how many cases have each level is typed."
    family: ClassVar[Family] = "counts"
    typed: ClassVar[bool] = True
    order: ClassVar[int] = 31
    name: str = text_field("what was counted", TypeText(longest=120), empty="the outcome")
    levels: tuple[TypedCount, ...] = (TypedCount(), TypedCount())

    def slots(self, place: Place) -> tuple[Slot, ...]:
        grid = self.grid(place)
        return (self._name(place), *grid.slots)

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        """What is typed behind the last level is one more."""
        found = row_field(field, "levels")
        if found is None or found[1] not in ("name", "count"):
            return None
        return replace(self, levels=with_row(self.levels, TypedCount(), *found, value, 2)), []

    def levels_of(self, place: Place) -> tuple[str, ...]:
        return tuple(level.name or f"level {at + 1}" for at, level in enumerate(self.levels))

    def _name(self, place: Place) -> Slot:
        return self.field_slot("name", place)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        return Sides((*parameter, " of ", self._name(place)))

    def grid(self, place: Place) -> SlotGrid:
        rows = []
        for at, level in enumerate((*self.levels, TypedCount())):
            path = f"levels.{at}"
            said = level.name or f"level {at + 1}"
            name = _name_slot(f"{path}.name", f"name of level {at + 1}", level.name, said)
            count = count_slot(f"{path}.count", f"count of {said}", level.count)
            if at == len(self.levels):
                name, count = waiting(replace(name, shown="one more")), waiting(count)
            rows.append((place.slot(name), place.slot(count)))
        return SlotGrid("counts of the levels", (self.name or "level", "count"), tuple(rows))

    @property
    def title(self) -> str:
        return sentence_case(self.name or "typed counts")

    def read(self, tables: Tables, table: str) -> CountsOfLevels:
        names = tuple(level.name or f"level {at + 1}" for at, level in enumerate(self.levels))
        if len(set(names)) < len(names):
            raise CannotAnswer("Two levels have the same name. Give each one of its own.", "data")
        counts = np.array([level.count or 0 for level in self.levels], dtype=np.int64)
        return CountsOfLevels(name=self.name.strip() or "the outcome", levels=names, counts=counts)


@dataclass(frozen=True)
class TwoCategories(_Counted):
    """How many cases have each level of one category together with each of another."""

    kind: ClassVar[str] = "two categories"
    label: ClassVar[str] = "two categories"
    help: ClassVar[str] = "Cases are counted by both, each row as often as it counts."
    family: ClassVar[Family] = "two-way counts"
    order: ClassVar[int] = 40
    what: str | None = category_column("the first category", elsewhere=True)
    by: str | None = category_column("the second category", other_than=("what",))
    count: str | None = COUNTED_BY

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return self.field_slot("what", place), self.field_slot("by", place)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, by = self.slots(place)
        return Sides((what, " and ", by))

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)} and {self.by}" if self.what and self.by else ""

    def read(self, tables: Tables, table: str) -> TwoWayCounts:
        own, one, two = tables[table], str(self.what), str(self.by)
        rows, columns = own.levels(one), own.levels(two)
        first, second = own.codes(one)[own.cases], own.codes(two)[own.cases]
        there = (first >= 0) & (second >= 0)
        if not there.any():
            raise CannotAnswer(f"No row has both {one} and {two}.", "data.by")
        flat = np.bincount(
            first[there] * len(columns) + second[there], _weights(own, self.count)[there], len(rows) * len(columns)
        ).astype(np.int64)
        left_out = (*lost_words(own, int((~there).sum()), f"{one} or {two}"), *said_unused(own))
        counts = flat.reshape(len(rows), len(columns))
        return TwoWayCounts(
            names=(one, two),
            rows=rows,
            columns=columns,
            counts=counts,
            noun=own.noun,
            left_out=left_out,
            from_rows=True,
            ordered=(_has_order(own, one), _has_order(own, two)),
        )


@dataclass(frozen=True)
class TypedTable(Data):
    """A two-way table of counts, typed into a grid."""

    kind: ClassVar[str] = "typed two-way counts"
    label: ClassVar[str] = "a typed table of counts"
    help: ClassVar[str] = "No rows: the counts of a two-way table are typed."
    family: ClassVar[Family] = "two-way counts"
    typed: ClassVar[bool] = True
    order: ClassVar[int] = 41
    one: str = text_field("what the rows are", TypeText(longest=120), empty="the rows")
    two: str = text_field("what the columns are", TypeText(longest=120), empty="the columns")
    rows: tuple[str, ...] = ("", "")
    columns: tuple[str, ...] = ("", "")
    counts: tuple[tuple[int | None, ...], ...] = ((None, None), (None, None))
    """A line for each row, a count for each column."""

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (*self._names(place), *self._heads(place), *self.grid(place).slots)

    def _names(self, place: Place) -> tuple[Slot, Slot]:
        return self.field_slot("one", place), self.field_slot("two", place)

    def _heads(self, place: Place) -> tuple[Slot, ...]:
        """Names of the columns; those of the rows stand in the grid."""
        return tuple(
            place.slot(_name_slot(f"columns.{at}", f"name of column {at + 1}", name, said))
            for at, (name, said) in enumerate(zip(self.columns, self._said("column"), strict=True))
        )

    def _said(self, what: str) -> list[str]:
        names = self.rows if what == "row" else self.columns
        return [name.strip() or f"{what} {at + 1}" for at, name in enumerate(names)]

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        one, two = self._names(place)
        return Sides((one, " and ", two))

    def settings(self, place: Place) -> tuple[Slot, ...]:
        size = TypeNumber(2, MOST_LINES, whole=True)
        sizes = (
            number_slot("size.rows", "rows", len(self.rows), size),
            number_slot("size.columns", "columns", len(self.columns), size),
        )
        return (*map(place.slot, sizes), *self._heads(place))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        """Another number of rows or columns; counts that are there stay."""
        if field not in ("size.rows", "size.columns") or not isinstance(value, int):
            return None
        rows, columns = len(self.rows), len(self.columns)
        if field == "size.rows":
            rows = min(max(value, 2), MOST_LINES)
        else:
            columns = min(max(value, 2), MOST_LINES)

        lines = _sized(self.counts, rows, ())
        made = replace(
            self,
            rows=_sized(self.rows, rows, ""),
            columns=_sized(self.columns, columns, ""),
            counts=tuple(_sized(line, columns, None) for line in lines),
        )
        return made, []

    def grid(self, place: Place) -> SlotGrid:
        lines = []
        rows, columns = self._said("row"), self._said("column")
        for at, line in enumerate(self.counts):
            name = _name_slot(f"rows.{at}", f"name of row {at + 1}", self.rows[at], rows[at])
            cells = [
                place.slot(count_slot(f"counts.{at}.{k}", f"count of {rows[at]} and {columns[k]}", count))
                for k, count in enumerate(line)
            ]
            lines.append((place.slot(name), *cells))
        return SlotGrid("counts", ("", *columns), tuple(lines))

    @property
    def title(self) -> str:
        return f"{sentence_case(self.one or 'rows')} and {self.two or 'columns'}"

    def read(self, tables: Tables, table: str) -> TwoWayCounts:
        if {len(line) for line in self.counts} != {len(self.columns)} or len(self.counts) != len(self.rows):
            raise CannotAnswer("The table of counts has lines of different lengths.", "data")
        rows, columns = tuple(self._said("row")), tuple(self._said("column"))
        for names in (rows, columns):
            if len(set(names)) < len(names):
                raise CannotAnswer("Two lines have the same name. Give each one its own.", "data")
        counts = np.array([[n or 0 for n in line] for line in self.counts], dtype=np.int64)
        names = self.one.strip() or "row", self.two.strip() or "column"
        named = any((*self.rows, *self.columns))
        return TwoWayCounts(names=names, rows=rows, columns=columns, counts=counts, named=named)


DATA = (LevelCounts, TypedCounts, TwoCategories, TypedTable)


def _sized(held: tuple[Held, ...], size: int, empty: Held) -> tuple[Held, ...]:
    return (*held[:size], *([empty] * (size - len(held))))
