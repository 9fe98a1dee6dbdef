"""Two columns of one row: two samples, or pairs of values that belong together."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural
from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.numeric.arrays import subtract
from theoros.table.table import Table
from theoros.verbs.core.fields import number_column
from theoros.verbs.core.nested import Nested
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.data.columns import known_in, lost_words, workable_sample
from theoros.verbs.data.data import Data, Design, Family, Sides
from theoros.verbs.data.groups import Group, Split, said_unused
from theoros.verbs.data.samples import TwoSamples

if TYPE_CHECKING:
    from theoros.verbs.data.samples import Paired


@dataclass(frozen=True)
class PairedColumns(Data):
    """Two number columns in one unit, both values of a row belonging together."""

    kind: ClassVar[str] = "pairs"
    label: ClassVar[str] = "pairs in two columns"
    help: ClassVar[str] = "Both values of a row belong to one case or one matched pair."
    family: ClassVar[Family] = "pairs"
    order: ClassVar[int] = 12
    stands_for: ClassVar[str] = "two columns"
    what: str | None = number_column("the first column")
    other: str | None = number_column("the second column", elsewhere=False, other_than=("what",))
    design: Design = "matched"

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, other = self.slots(place)
        return Sides((*parameter, " of the differences ", what, " minus ", other))

    def agreeing(self) -> Data:
        return self if self.design == "matched" else TwoColumns(self.what, self.other, self.design)

    def mended(self, field: str, place: Place) -> tuple[Nested, list[str]]:
        made = self.agreeing()
        return super().mended(field, place) if made is self else (made, [])

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "other")

    def swapped(self) -> PairedColumns:
        return replace(self, what=self.other, other=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what or 'test')} and {self.other or '…'}"

    def read(self, tables: Tables, table: str) -> Paired:
        from theoros.verbs.data.sample import Sample
        from theoros.verbs.data.samples import Paired

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


@dataclass(frozen=True)
class TwoColumns(Data):
    """Two number columns in one unit, each a sample of its own."""

    kind: ClassVar[str] = "two columns"
    label: ClassVar[str] = "two columns"
    help: ClassVar[str] = "Each group, or each measurement, has its own column."
    family: ClassVar[Family] = "two samples"
    order: ClassVar[int] = 11
    what: str | None = number_column("the first column")
    other: str | None = number_column("the second column", elsewhere=False, other_than=("what",))
    design: Design = "not said"

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, other = self.slots(place)
        said = "".join(part if isinstance(part, str) else part.shown for part in parameter)
        return Sides((*parameter, " ", what), (f"{said} ", other))

    def agreeing(self) -> Data:
        return PairedColumns(self.what, self.other) if self.design == "matched" else self

    def mended(self, field: str, place: Place) -> tuple[Nested, list[str]]:
        made = self.agreeing()
        return super().mended(field, place) if made is self else (made, [])

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "other")

    def swapped(self) -> TwoColumns:
        return replace(self, what=self.other, other=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what or 'test')} and {self.other or '…'}"

    def read(self, tables: Tables, table: str) -> TwoSamples:
        from theoros.verbs.data.sample import Sample
        from theoros.verbs.data.samples import TwoSamples

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


def changed_places(data: Data, field: str, value: object, other: str) -> tuple[Data, list[str]] | None:
    """Data with their two columns in each other's place, where the first becomes the second."""
    if field != "what" or value is None or value != getattr(data, other):
        return None
    return data.swapped(), ["The two columns were swapped."]


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


DATA = (TwoColumns, PairedColumns)
