"""A number by two categories: a sample in each pair of levels."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, ClassVar

from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.table.table import Table
from theoros.verbs.core.slots import Phrase, Slot, Tables, column_slot
from theoros.verbs.core.statement import column_field
from theoros.verbs.data.columns import (
    GROUPING,
    first_grouping,
    first_number,
    is_grouping,
    is_number,
    number_slot_of,
    workable_sample,
)
from theoros.verbs.data.data import Data, Family, Place, Sides
from theoros.verbs.data.groups import split
from theoros.verbs.data.samples import Sample, TwoFactorSamples


@dataclass(frozen=True)
class TwoFactors(Data):
    """A number column and two category columns."""

    kind: ClassVar[str] = "two factors"
    label: ClassVar[str] = "the levels of two categories"
    help: ClassVar[str] = "One row a case; two columns say which level of each."
    family: ClassVar[Family] = "two factors"
    order: ClassVar[int] = 21
    what: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()

    def slots(self, place: Place) -> tuple[Slot, ...]:
        what = number_slot_of(place, "what", "the number to compare", self.what, elsewhere=True)
        by = column_slot("by", "the first category", self.by, place.tables, place.table, GROUPING)
        and_by = column_slot(
            "and_by",
            "the second category",
            self.and_by,
            place.tables,
            place.table,
            GROUPING,
            exclude=[self.by] if self.by else [],
        )
        return what, place.slot(by), place.slot(and_by)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, by, and_by = self.slots(place)
        return Sides((*parameter, " of ", what, " for the levels of ", by, " and ", and_by))

    def filled(self, table: Table) -> TwoFactors:
        what = self.what if is_number(table, self.what) else first_number(table)
        by = self.by if is_grouping(table, self.by) else first_grouping(table)
        and_by = self.and_by if is_grouping(table, self.and_by) and self.and_by != by else None
        others = [c.name for c in table.of_kind(*GROUPING) if c.name != by]
        return replace(self, what=what, by=by, and_by=and_by or next(iter(others), None))

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        return (self.filled(place.own) if place.own is not None else self), []

    def swapped(self) -> TwoFactors:
        return replace(self, by=self.and_by, and_by=self.by)

    @property
    def title(self) -> str:
        if not (self.what and self.by and self.and_by):
            return ""
        return f"{sentence_case(self.what)} by {self.by} and {self.and_by}"

    @property
    def about(self) -> dict[str, Any]:
        return {"what": self.what, "by": self.by}

    def read(self, tables: Tables, table: str) -> TwoFactorSamples:
        own, what, names = tables[table], str(self.what), (str(self.by), str(self.and_by))
        cases = split(own, what, names[0], and_by=names[1])
        groups = tuple(Sample(g.label, g.phrase, g.values, g.rows) for g in cases.groups)
        for sample in groups:
            workable_sample(sample, what, "data.by")
        column = own.column(what)
        rows = np.concatenate([group.rows for group in groups])
        levels, codes = [], []
        for name in names:  # levels without a value are no levels of these data
            found, places = np.unique(own.codes(name)[rows], return_inverse=True)
            levels.append(tuple(own.levels(name)[at] for at in found.tolist()))
            codes.append(places.reshape(-1))
        return TwoFactorSamples(
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what),
            noun=own.noun,
            axis=column.label,
            column=what,
            cases=cases,
            groups=groups,
            factors=names,
            levels=(levels[0], levels[1]),
            codes=(codes[0], codes[1]),
            values=np.concatenate([group.values for group in groups]),
        )


DATA = (TwoFactors,)
