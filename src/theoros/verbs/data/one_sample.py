"""One sample of a number, or several by the levels of a category."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, ClassVar

from theoros.answer.wording import sentence_case
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
from theoros.verbs.data.samples import OneSample, Sample, SeveralSamples


@dataclass(frozen=True)
class OneColumn(Data):
    """All values of a number column."""

    kind: ClassVar[str] = "one column"
    label: ClassVar[str] = "one column"
    help: ClassVar[str] = "All rows in use, as one sample."
    family: ClassVar[Family] = "one sample"
    order: ClassVar[int] = 5
    what: str | None = column_field()

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (number_slot_of(place, "what", "the number", self.what, elsewhere=True),)

    def filled(self, table: Table) -> OneColumn:
        return self if is_number(table, self.what) else replace(self, what=first_number(table))

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        return (self.filled(place.own) if place.own is not None else self), []

    @property
    def title(self) -> str:
        return sentence_case(self.what) if self.what else ""

    @property
    def about(self) -> dict[str, Any]:
        return {"what": self.what}

    def read(self, tables: Tables, table: str) -> OneSample:
        own, what = tables[table], str(self.what)
        column, cases = own.column(what), split(own, what, None)
        group = cases.groups[0]
        sample = Sample(what, group.phrase, group.values, group.rows)
        workable_sample(sample, what, "data.what")
        return OneSample(
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what),
            noun=own.noun,
            axis=column.label,
            column=what,
            cases=cases,
            sample=sample,
        )


@dataclass(frozen=True)
class Levels(Data):
    """A number in every level of a category."""

    kind: ClassVar[str] = "levels"
    label: ClassVar[str] = "the levels of a category"
    help: ClassVar[str] = "One row a case; a column says which group."
    family: ClassVar[Family] = "several samples"
    order: ClassVar[int] = 20
    what: str | None = column_field()
    by: str | None = column_field()

    def slots(self, place: Place) -> tuple[Slot, ...]:
        what = number_slot_of(place, "what", "the number to compare", self.what, elsewhere=True)
        by = column_slot("by", "the groups", self.by, place.tables, place.table, GROUPING)
        return what, place.slot(by)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, by = self.slots(place)
        return Sides((*parameter, " of ", what, " for the levels of ", by))

    def filled(self, table: Table) -> Levels:
        what = self.what if is_number(table, self.what) else first_number(table)
        by = self.by if is_grouping(table, self.by) else first_grouping(table)
        return replace(self, what=what, by=by)

    def mended(self, field: str, place: Place) -> tuple[Data, list[str]]:
        return (self.filled(place.own) if place.own is not None else self), []

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)} by {self.by}" if self.what and self.by else ""

    @property
    def about(self) -> dict[str, Any]:
        return {"what": self.what, "by": self.by}

    def read(self, tables: Tables, table: str) -> SeveralSamples:
        own, what = tables[table], str(self.what)
        column, cases = own.column(what), split(own, what, self.by)
        groups = tuple(Sample(g.label, g.phrase, g.values, g.rows) for g in cases.groups)
        for sample in groups:
            workable_sample(sample, what, "data.by")
        return SeveralSamples(
            measure=what,
            unit=column.unit,
            decimals=own.decimals(what),
            noun=own.noun,
            axis=column.label,
            column=what,
            cases=cases,
            groups=groups,
        )


DATA = (OneColumn, Levels)
