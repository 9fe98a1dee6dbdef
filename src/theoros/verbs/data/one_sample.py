"""One sample of a number, or several by the levels of a category."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.wording import sentence_case
from theoros.verbs.core.fields import category_column, number_column
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.data.columns import workable_sample
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import split
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import OneSample, SeveralSamples, samples_of


@dataclass(frozen=True)
class OneColumn(Data):
    """All values of a number column."""

    kind: ClassVar[str] = "one column"
    label: ClassVar[str] = "one column"
    help: ClassVar[str] = "All rows in use, as one sample."
    family: ClassVar[Family] = "one sample"
    order: ClassVar[int] = 5
    what: str | None = number_column("the number")

    @property
    def title(self) -> str:
        return sentence_case(self.what) if self.what else ""

    def read(self, tables: Tables, table: str) -> OneSample:
        own, what = tables[table], str(self.what)
        cases = split(own, what, None)
        (sample,) = (Sample(what, group.phrase, group.values, group.rows) for group in cases.groups)
        workable_sample(sample, what, "data.what")
        return OneSample.of_column(own, what, cases, sample=sample)


@dataclass(frozen=True)
class Levels(Data):
    """A number in every level of a category."""

    kind: ClassVar[str] = "levels"
    label: ClassVar[str] = "the levels of a category"
    help: ClassVar[str] = "Each row is a case; a column says which of several groups it is in."
    family: ClassVar[Family] = "several samples"
    order: ClassVar[int] = 20
    what: str | None = number_column("the number to compare")
    by: str | None = category_column("the groups")

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, by = self.slots(place)
        return Sides((*parameter, " of ", what, " for the levels of ", by))

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)} by {self.by}" if self.what and self.by else ""

    def read(self, tables: Tables, table: str) -> SeveralSamples:
        own, what = tables[table], str(self.what)
        cases = split(own, what, self.by)
        groups = samples_of(cases)
        for sample in groups:
            workable_sample(sample, what, "data.by")
        return SeveralSamples.of_column(own, what, cases, groups=groups)


DATA = (OneColumn, Levels)
