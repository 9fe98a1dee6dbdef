"""Several columns that hold the same cases under different conditions."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import groupby
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import listed_briefly, sentence_case
from theoros.lazy_imports import np
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import columns_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.data.columns import known_in, lost_words, squarable
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import Group, Split, said_unused
from theoros.verbs.data.samples import ANY_VALUE
from theoros.verbs.data.two_columns import one_unit

if TYPE_CHECKING:
    from theoros.verbs.data.samples import RepeatedSamples


@dataclass(frozen=True)
class SeveralColumns(Data):
    """Number columns in one unit; all values of a row belong to one case."""

    kind: ClassVar[str] = "several columns"
    label: ClassVar[str] = "several columns of the same cases"
    help: ClassVar[str] = "Each row is one case, measured in every column."
    family: ClassVar[Family] = "repeated"
    order: ClassVar[int] = 22
    columns: tuple[str, ...] = columns_field("the columns", (Kind.NUMBER,), least=2)

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        return Sides((*parameter, " of ", *self.slots(place)))

    def filled(self, table: Table) -> SeveralColumns:
        numbers = [c for c in table.of_kind(Kind.NUMBER) if c.name != table.counts]
        known = tuple(name for name in self.columns if name in {c.name for c in numbers})
        if len(known) >= 2:
            return replace(self, columns=known)
        by_unit = [list(own) for _, own in groupby(sorted(numbers, key=lambda c: c.unit), key=lambda c: c.unit)]
        most = max(by_unit, key=len, default=[])
        return replace(self, columns=tuple(c.name for c in most) if len(most) >= 2 else known)

    @property
    def title(self) -> str:
        return sentence_case(listed_briefly(list(self.columns), 3)) if self.columns else ""

    def read(self, tables: Tables, table: str) -> RepeatedSamples:
        from theoros.verbs.data.sample import Sample
        from theoros.verbs.data.samples import RepeatedSamples

        own, names = tables[table], self.columns
        units = [one_unit(own, names[0], name) for name in names[1:]]
        unit, places = units[0][0], max(places for _, places in units)
        rows, lost = known_in(own, *names)
        if rows.size == 0:
            raise CannotAnswer("No row has a value in every column.", "data.columns")
        values = [own.numbers(name)[rows] for name in names]
        for name, column in zip(names, values, strict=True):
            squarable(column, name, "data.columns")
        groups = tuple(Sample(n, n, v, rows) for n, v in zip(names, values, strict=True))
        cases = tuple(Group(n, n, v, rows, 0) for n, v in zip(names, values, strict=True))
        left_out = (*lost_words(own, lost, "a value"), *said_unused(own))
        return RepeatedSamples(
            measure=ANY_VALUE,
            unit=unit,
            decimals=places,
            noun=own.noun,
            axis=f"{ANY_VALUE} ({unit})" if unit else ANY_VALUE,
            cases=Split(cases, tuple(left_out)),
            groups=groups,
            matrix=np.column_stack(values),
        )


DATA = (SeveralColumns,)
