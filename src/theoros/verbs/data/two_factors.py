"""A number by two categories: a sample in each pair of levels."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.verbs.core.fields import category_column, number_column
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.data.columns import workable_sample
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import split
from theoros.verbs.data.samples import TwoFactorSamples, samples_of


@dataclass(frozen=True)
class TwoFactors(Data):
    """A number column and two category columns."""

    kind: ClassVar[str] = "two factors"
    label: ClassVar[str] = "the levels of two categories"
    help: ClassVar[str] = "One row a case; two columns say which level of each."
    family: ClassVar[Family] = "two factors"
    order: ClassVar[int] = 21
    what: str | None = number_column("the number to compare")
    by: str | None = category_column("the first category")
    and_by: str | None = category_column("the second category", other_than=("by",))

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, by, and_by = self.slots(place)
        return Sides((*parameter, " of ", what, " for the levels of ", by, " and ", and_by))

    def swapped(self) -> TwoFactors:
        return replace(self, by=self.and_by, and_by=self.by)

    @property
    def title(self) -> str:
        if not (self.what and self.by and self.and_by):
            return ""
        return f"{sentence_case(self.what)} by {self.by} and {self.and_by}"

    def read(self, tables: Tables, table: str) -> TwoFactorSamples:
        own, what, names = tables[table], str(self.what), (str(self.by), str(self.and_by))
        cases = split(own, what, names[0], and_by=names[1])
        groups = samples_of(cases)
        for sample in groups:
            workable_sample(sample, what, "data.by")
        rows = np.concatenate([group.rows for group in groups])
        levels, codes = [], []
        for name in names:  # levels without a value are no levels of these data
            found, places = np.unique(own.codes(name)[rows], return_inverse=True)
            levels.append(tuple(own.levels(name)[at] for at in found.tolist()))
            codes.append(places.reshape(-1))
        return TwoFactorSamples.of_column(
            own,
            what,
            cases,
            groups=groups,
            factors=names,
            levels=(levels[0], levels[1]),
            codes=(codes[0], codes[1]),
            values=np.concatenate([group.values for group in groups]),
        )


DATA = (TwoFactors,)
