"""Two samples of a number: two levels of a category, or two columns."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.slots import Phrase, Slot, Tables
from theoros.verbs.core.splitting import and_by_slot_at
from theoros.verbs.core.statement import column_field, level_field
from theoros.verbs.data.columns import (
    ELSEWHERE,
    first_grouping,
    first_number,
    is_grouping,
    is_number,
    level_slot,
    lost_words,
    number_slot_of,
    workable_sample,
)
from theoros.verbs.data.data import Data, Design, Family, Place, Sides
from theoros.verbs.data.groups import Group, Split, group_labels, said_unused, split

if TYPE_CHECKING:
    from theoros.verbs.data.samples import TwoSamples


@dataclass(frozen=True)
class TwoLevels(Data):
    """A number, in two levels of a category or of the combinations of two categories."""

    kind: ClassVar[str] = "two levels"
    label: ClassVar[str] = "two levels of a category"
    help: ClassVar[str] = "One row a case; a column says which group."
    family: ClassVar[Family] = "two samples"
    order: ClassVar[int] = 10
    what: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    first: str | None = level_field("by")
    second: str | None = level_field("by")
    design: Design = "not said"

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (self._what(place), *self._levels(place))

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        one, two = self._levels(place)
        first: Phrase = (*parameter, " of ", self._what(place), " for ", one)
        return Sides(first, ("that for ", two), ("for ", two))

    def settings(self, place: Place) -> tuple[Slot, ...]:
        if self.by is None:
            return ()
        slot = and_by_slot_at(self.by, self.and_by, place.tables, place.table)
        return (place.slot(slot),)

    def _what(self, place: Place) -> Slot:
        return number_slot_of(place, "what", "the number to compare", self.what, elsewhere=True)

    def _levels(self, place: Place) -> tuple[Slot, Slot]:
        by, both = self.by, self.and_by
        one = level_slot(place, "first", "the first group", self.first, by, both, anywhere=True)
        two = level_slot(place, "second", "the second group", self.second, by, both, other=self.first)
        return one, two

    def put(self, field: str, value: Any, table: Table | None) -> tuple[Data, list[str]] | None:
        """A level of another category brings it along; the other's level means changing places."""
        if field not in ("first", "second") or not isinstance(value, str):
            return None
        if ELSEWHERE in value:
            by, _, level = value.partition(ELSEWHERE)
            moved = replace(self, by=by, and_by=None, first=level, second=None)
            moved = moved.filled(table) if table is not None else moved
            return moved, [f"The groups are levels of {by} now."]
        if value == getattr(self, "second" if field == "first" else "first"):
            return self.swapped(), ["The two groups have changed places."]
        return None

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        table = place.own
        if table is not None and field == "design" and self.design == "matched":
            return self._by_name(table)
        if table is None or field in ("first", "second", "design"):
            return self, []
        made = self.filled(table)
        if made == self:
            return self, []
        notes = []
        if field == "what" and made.first is not None and self.first not in (None, made.first):
            notes.append(f"The groups are {made.first} and {made.second} now.")
        return made, notes

    def _by_name(self, table: Table) -> tuple[Data, list[str]]:
        """The same as pairs, where some column names the cases that two rows belong to."""
        from theoros.verbs.data.long_pairs import LongPairs, naming_column

        made = LongPairs(self.what, self.by, self.first, self.second)
        case = naming_column(table, made) if self.and_by is None else None
        if case is None:
            return self, []
        return replace(made, case=case), [f"Rows with the same {case} are pairs now."]

    def filled(self, table: Table) -> TwoLevels:
        made = self
        if not is_number(table, made.what):
            made = replace(made, what=first_number(table))
        if not is_grouping(table, made.by):
            made = replace(made, by=first_grouping(table), first=None, second=None)
        if made.and_by is not None and (made.and_by == made.by or not group_labels(table, made.by, made.and_by)):
            made = replace(made, and_by=None)
        if made.by is None:
            return made
        levels = group_labels(table, made.by, made.and_by)
        first = made.first if made.first in levels else None
        second = made.second if made.second in levels else None
        rest = [level for level in levels if level not in (first, second)]
        first = first or (rest.pop(0) if rest else None)
        second = second or (rest.pop(0) if rest else None)
        return replace(made, first=first, second=second)

    def swapped(self) -> TwoLevels:
        return replace(self, first=self.second, second=self.first)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)}: {self.first} and {self.second}" if self.what else ""

    @property
    def about(self) -> dict[str, Any]:
        return {"what": self.what, "by": self.by}

    def read(self, tables: Tables, table: str) -> TwoSamples:
        from theoros.verbs.data.samples import Sample, TwoSamples

        own = tables[table]
        if self.design == "matched":
            raise CannotAnswer(self._matched(own), "data")
        what, by = str(self.what), str(self.by)
        levels = str(self.first), str(self.second)
        column = own.column(what)
        cases = split(own, what, by, levels, self.and_by)
        first, second = (Sample(g.label, g.phrase, g.values, g.rows) for g in cases.groups)
        for sample in (first, second):
            workable_sample(sample, what, "data.first")
        return TwoSamples(
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what),
            noun=own.noun,
            axis=column.label,
            column=what,
            cases=cases,
            first=first,
            second=second,
        )

    def _matched(self, table: Table) -> str:
        """Why matched values cannot be told apart by levels, and what to do about it."""
        advice = (
            "Set “the two groups” to two columns"
            if len(table.of_kind(Kind.NUMBER)) >= 2
            else "Put the two measurements of each case beside each other, in two columns of one "
            "row, and set “the two groups” to two columns"
        )
        return (
            f"Matched values belong together in one row, and here each {table.noun} has a row of "
            f"its own, so nothing says which {self.first} value goes with which {self.second} one. "
            f"{advice}; or answer that the samples were picked separately."
        )


@dataclass(frozen=True)
class TwoColumns(Data):
    """Two number columns in one unit, each a sample of its own."""

    kind: ClassVar[str] = "two columns"
    label: ClassVar[str] = "two columns"
    help: ClassVar[str] = "Each group, or each measurement, has its own column."
    family: ClassVar[Family] = "two samples"
    order: ClassVar[int] = 11
    what: str | None = column_field()
    other: str | None = column_field()
    design: Design = "not said"

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return two_columns(place, self.what, self.other)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, other = self.slots(place)
        said = "".join(part if isinstance(part, str) else part.shown for part in parameter)
        return Sides((*parameter, " ", what), (f"{said} ", other))

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        if self.design == "matched":
            from theoros.verbs.data.pairs import Pairs

            return Pairs(self.what, self.other), []
        return (self.filled(place.own) if place.own is not None else self), []

    def filled(self, table: Table) -> TwoColumns:
        what, other = filled_columns(table, self.what, self.other)
        return replace(self, what=what, other=other)

    def put(self, field: str, value: Any, table: Table | None) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "other")

    def swapped(self) -> TwoColumns:
        return replace(self, what=self.other, other=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what or 'test')} and {self.other or '…'}"

    def read(self, tables: Tables, table: str) -> TwoSamples:
        from theoros.verbs.data.samples import Sample, TwoSamples

        own, what, other = tables[table], str(self.what), str(self.other)
        unit, places = one_unit(own, what, other)
        cases, left_out, made = own.cases, [], []
        for name in (what, other):
            values = own.numbers(name)
            rows = cases[np.isfinite(values)[cases]]
            left_out += lost_words(own, int(cases.size - rows.size), name)
            made.append(Sample(name, name, values[rows], rows))
        left_out += said_unused(own)
        for sample in made:
            workable_sample(sample, what, "data.first")
        groups = tuple(Group(s.label, s.phrase, s.values, s.rows, 0) for s in made)
        return TwoSamples(
            measure=what,
            unit=unit,
            decimals=places,
            noun=own.noun,
            axis=unit or f"{what} and {other}",
            cases=Split(groups, tuple(left_out)),
            first=made[0],
            second=made[1],
            columns=True,
        )


def two_columns(place: Place, what: str | None, other: str | None) -> tuple[Slot, Slot]:
    """The slots of two number columns, the second another than the first."""
    return (
        number_slot_of(place, "what", "the first column", what, elsewhere=True),
        number_slot_of(place, "other", "the second column", other, exclude=what),
    )


def changed_places(data: Data, field: str, value: Any, other: str) -> tuple[Data, list[str]] | None:
    """Data with their two columns in each other's place, where the first becomes the second."""
    if field != "what" or value is None or value != getattr(data, other):
        return None
    return data.swapped(), ["The two columns have changed places."]


def filled_columns(table: Table, what: str | None, other: str | None) -> tuple[str | None, str | None]:
    """Two different number columns, those that are given where they are there."""
    what = what if is_number(table, what) else first_number(table)
    if not is_number(table, other) or other == what:
        other = first_number(table, but=what)
    return what, other


def one_unit(table: Table, what: str, other: str) -> tuple[str, int]:
    """The unit that two columns share, and the decimals of both. Raises CannotAnswer."""
    one, two = table.column(what), table.column(other)
    if one.unit != two.unit:
        raise CannotAnswer(
            f"{what} is in {one.unit or 'no unit'} and {other} in {two.unit or 'no unit'}; only "
            f"values in one unit can be compared. Choose another column, or put the units right in "
            f"the table.",
            "data.other",
        )
    return one.unit, max(table.decimals(what), table.decimals(other))


DATA = (TwoLevels, TwoColumns)
