"""Pairs of values that belong together, in two columns of one row."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import plural, sentence_case
from theoros.numeric.arrays import subtract
from theoros.table.table import Table
from theoros.verbs.core.slots import Phrase, Slot, Tables
from theoros.verbs.core.statement import column_field
from theoros.verbs.data.columns import known_in, lost_words, workable_sample
from theoros.verbs.data.data import Data, Design, Family, Place, Sides
from theoros.verbs.data.groups import Group, Split, said_unused
from theoros.verbs.data.two_samples import TwoColumns, changed_places, filled_columns, one_unit, two_columns

if TYPE_CHECKING:
    from theoros.verbs.data.samples import Paired


@dataclass(frozen=True)
class Pairs(Data):
    """Two number columns in one unit, both values of a row belonging together."""

    kind: ClassVar[str] = "pairs"
    label: ClassVar[str] = "pairs in two columns"
    help: ClassVar[str] = "Both values of a row belong to one case or one matched pair."
    family: ClassVar[Family] = "pairs"
    order: ClassVar[int] = 12
    stands_for: ClassVar[str] = "two columns"
    what: str | None = column_field()
    other: str | None = column_field()
    design: Design = "matched"

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return two_columns(place, self.what, self.other)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, other = self.slots(place)
        return Sides((*parameter, " of the differences ", what, " minus ", other))

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        if self.design != "matched":
            return TwoColumns(self.what, self.other, self.design), []
        return (self.filled(place.own) if place.own is not None else self), []

    def filled(self, table: Table) -> Pairs:
        what, other = filled_columns(table, self.what, self.other)
        return replace(self, what=what, other=other)

    def put(self, field: str, value: Any, table: Table | None) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "other")

    def swapped(self) -> Pairs:
        return replace(self, what=self.other, other=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what or 'test')} and {self.other or '…'}"

    def read(self, tables: Tables, table: str) -> Paired:
        from theoros.verbs.data.samples import Paired, Sample

        own, what, other = tables[table], str(self.what), str(self.other)
        unit, places = one_unit(own, what, other)
        rows, lost = known_in(own, what, other)
        if rows.size == 0:
            raise CannotAnswer(f"No row has both {what} and {other}.", "data.other")
        left_out = [*lost_words(own, lost, f"{what} or {other}"), *said_unused(own)]
        first, second = (Sample(n, n, own.numbers(n)[rows], rows) for n in (what, other))
        for sample in (first, second):
            workable_sample(sample, what, "data.first")
        gaps = subtract(first.values, second.values)
        differences = Sample("the differences", "the differences", gaps, rows, many=True)
        group = Group("difference", plural(own.noun), gaps, rows, 0)
        label = f"{what} − {other}"
        return Paired(
            measure=what,
            unit=unit,
            decimals=places,
            noun=own.noun,
            axis=f"{label} ({unit})" if unit else label,
            cases=Split((group,), tuple(left_out)),
            first=first,
            second=second,
            differences=differences,
        )


DATA = (Pairs,)
