"""Two levels of a category: two samples, or pairs where a column names the cases."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted, plural
from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints, subtract
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import GROUPING, category_column, column_field, level_field, number_column
from theoros.verbs.core.nested import Nested
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables
from theoros.verbs.data.columns import ELSEWHERE, level_slot, workable_sample
from theoros.verbs.data.data import Data, Design, Family, Sides
from theoros.verbs.data.groups import Group, Split, group_labels, said_unused, split
from theoros.verbs.data.samples import Paired

if TYPE_CHECKING:
    from theoros.verbs.data.samples import TwoSamples


NAMING = (Kind.CATEGORY, Kind.ORDERED, Kind.TEXT, Kind.NUMBER, Kind.DATE)
"""Any column may name the cases."""


@dataclass(frozen=True)
class TwoLevels(Data):
    """A number, in two levels of a category or of the combinations of two categories."""

    kind: ClassVar[str] = "two levels"
    label: ClassVar[str] = "two levels of a category"
    help: ClassVar[str] = "Each row is a case; a column says which of two groups it is in."
    family: ClassVar[Family] = "two samples"
    order: ClassVar[int] = 10
    what: str | None = number_column("the number to compare")
    by: str | None = category_column("the category")
    and_by: str | None = column_field("each combination with", GROUPING, none="no second category", other_than=("by",))
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
        return (self.field_slot("and_by", place),) if self.by is not None else ()

    def _what(self, place: Place) -> Slot:
        return self.field_slot("what", place)

    def _levels(self, place: Place) -> tuple[Slot, Slot]:
        by, both = self.by, self.and_by
        one = level_slot(place, "first", "the first group", self.first, by, both, anywhere=True)
        two = level_slot(place, "second", "the second group", self.second, by, both, other=self.first)
        return one, two

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        """A level of another category brings it along; the other's level means changing places."""
        if field not in ("first", "second") or not isinstance(value, str):
            return None
        if ELSEWHERE in value:
            by, _, level = value.partition(ELSEWHERE)
            moved = replace(self, by=by, and_by=None, first=level, second=None)
            return moved.filled(place.own) if place.own is not None else moved, [f"The groups are levels of {by} now."]
        if value == getattr(self, "second" if field == "first" else "first"):
            return self.swapped(), ["The two groups were swapped."]
        return None

    def mended(self, field: str, place: Place) -> tuple[Nested, list[str]]:
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

        made = LongPairs(self.what, self.by, self.first, self.second)
        case = naming_column(table, made) if self.and_by is None else None
        if case is None:
            return self, []
        return replace(made, case=case), [f"Rows with the same {case} are pairs now."]

    def filled(self, table: Table) -> TwoLevels:
        made = self.with_columns_of(table)
        if made.and_by is not None and not group_labels(table, made.by, made.and_by):
            made = replace(made, and_by=None)
        if made.by is None:
            return made if made.by == self.by else replace(made, first=None, second=None)
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
        return f"{sentence_case(self.what)}: {self.first or '…'} and {self.second or '…'}" if self.what else ""

    def read(self, tables: Tables, table: str) -> TwoSamples:
        from theoros.verbs.data.samples import TwoSamples, samples_of

        own = tables[table]
        if self.design == "matched":
            raise CannotAnswer(self._matched(own), "data")
        what, by = str(self.what), str(self.by)
        cases = split(own, what, by, (str(self.first), str(self.second)), self.and_by)
        first, second = samples_of(cases)
        for sample in (first, second):
            workable_sample(sample, what, "data.first")
        return TwoSamples.of_column(own, what, cases, first=first, second=second)

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
            f"its own, so the pairs of {self.first} and {self.second} values are not known. "
            f"{advice}, or answer that the samples were picked separately."
        )


@dataclass(frozen=True)
class LongPairs(Data):
    """A number in two levels of a category, and a column that says which values are a pair."""

    kind: ClassVar[str] = "pairs by name"
    label: ClassVar[str] = "pairs in rows of their own"
    help: ClassVar[str] = "A column names the case that both of its rows belong to."
    family: ClassVar[Family] = "pairs"
    order: ClassVar[int] = 13
    what: str | None = number_column("the number to compare")
    by: str | None = category_column("the category")
    first: str | None = level_field("by")
    second: str | None = level_field("by")
    case: str | None = column_field("what names a case", NAMING, other_than=("what", "by"))
    design: Design = "matched"

    def slots(self, place: Place) -> tuple[Slot, ...]:
        one = level_slot(place, "first", "the first group", self.first, self.by, anywhere=True)
        two = level_slot(place, "second", "the second group", self.second, self.by, other=self.first)
        return self.field_slot("what", place), one, two, self.field_slot("case", place)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, one, two, case = self.slots(place)
        return Sides((*parameter, " of the differences of ", what, ", ", one, " minus ", two, ", for each ", case, ","))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        """As of two levels: one of another category brings it along, the other's is a swap."""
        made = TwoLevels(self.what, self.by, None, self.first, self.second)
        found = made.put(field, value, place)
        if found is None:
            return None
        new, notes = found
        if not isinstance(new, TwoLevels):
            return None
        return replace(self, by=new.by, first=new.first, second=new.second), notes

    def mended(self, field: str, place: Place) -> tuple[Nested, list[str]]:
        if self.design != "matched":
            return TwoLevels(self.what, self.by, None, self.first, self.second, self.design), []
        return super().mended(field, place)

    def filled(self, table: Table) -> LongPairs:
        levels = TwoLevels(self.what, self.by, None, self.first, self.second).filled(table)
        what, by = levels.what, levels.by
        made = replace(self, what=what, by=by, first=levels.first, second=levels.second)
        if self.case in table.by_name and self.case not in (what, by):
            return made
        return replace(made, case=naming_column(table, made))

    def swapped(self) -> LongPairs:
        return replace(self, first=self.second, second=self.first)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)}: {self.first or '…'} and {self.second or '…'}" if self.what else ""

    def read(self, tables: Tables, table: str) -> Paired:
        from theoros.verbs.data.sample import Sample
        from theoros.verbs.data.samples import Paired

        own, what, case = tables[table], str(self.what), str(self.case)
        one, two, odd = _matched(own, what, str(self.by), (str(self.first), str(self.second)), case)
        if odd:
            raise CannotAnswer(
                f"{sentence_case(case)} {odd} has more than one row with {self.first}, or with "
                f"{self.second}: every {case} can have one of each.",
                "data.case",
            )
        if one.size == 0:
            raise CannotAnswer(
                f"No {case} has a value of {what} both with {self.first} and with {self.second}.", "data.case"
            )
        codes = own.codes(str(self.by))
        wanted = [own.levels(str(self.by)).index(str(n)) for n in (self.first, self.second)]
        there = own.in_use & np.isin(codes, wanted) & np.isfinite(own.numbers(what))
        alone = int(there.sum()) - one.size - two.size
        said = f"{counted(alone, 'row')} left out: no other with the same {case}"
        left_out = [said] if alone else []
        numbers, column = own.numbers(what), own.column(what)
        first = Sample(str(self.first), str(self.first), numbers[one], one)
        second = Sample(str(self.second), str(self.second), numbers[two], two)
        for sample in (first, second):
            workable_sample(sample, what, "data.first")
        gaps = subtract(first.values, second.values)
        label = f"{what}: {self.first} − {self.second}"
        return Paired(
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what),
            noun=own.noun,
            axis=f"{label} ({column.unit})" if column.unit else label,
            cases=Split((Group("difference", plural(own.noun), gaps, one, 0),), (*left_out, *said_unused(own))),
            first=first,
            second=second,
            matched_by=case,
            differences=Sample("the differences", "the differences", gaps, one, many=True),
        )


def naming_column(table: Table, data: LongPairs) -> str | None:
    """The column that names pairs best: most of its values have one row in each of two levels."""
    best, most = None, 0
    if not (data.what and data.by and data.first and data.second):
        return None
    for column in table.of_kind(*NAMING):
        if column.name in (data.what, data.by, table.counts):
            continue
        levels = data.first, data.second
        one, _, odd = _matched(table, data.what, data.by, levels, column.name)
        if not odd and one.size > most:
            best, most = column.name, one.size
    return best


def _matched(table: Table, what: str, by: str, levels: tuple[str, str], case: str) -> tuple[Ints, Ints, str]:
    """The rows of the first and of the second value of each pair, in one order.

    Last comes a case that has several rows in one of the levels, as text; empty for none.
    """
    names = table.frame[case].cast(str).to_list()
    codes, all_levels = table.codes(by), table.levels(by)
    known = table.in_use & np.isfinite(table.numbers(what))
    places: list[dict[str, int]] = []
    for level in levels:
        held: dict[str, int] = {}
        at = all_levels.index(level) if level in all_levels else -2
        for row in np.flatnonzero(known & (codes == at)).tolist():
            name = names[row]
            if name is None:
                continue
            if name in held:
                return np.zeros(0, np.int64), np.zeros(0, np.int64), name
            held[name] = row
        places.append(held)
    both = [name for name in places[0] if name in places[1]]
    one = np.array([places[0][name] for name in both], dtype=np.int64)
    return one, np.array([places[1][name] for name in both], dtype=np.int64), ""


DATA = (TwoLevels, LongPairs)
