"""Two numbers of each case: two columns, or n and their correlation, typed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case
from theoros.verbs.core.fields import number_column, number_field, text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, TypeText
from theoros.verbs.data.columns import known_in, lost_words, squarable
from theoros.verbs.data.data import Data, Family, Sides
from theoros.verbs.data.groups import said_unused, workable
from theoros.verbs.data.number_pairs import Correlated, NumberPairs
from theoros.verbs.data.two_columns import changed_places


@dataclass(frozen=True)
class TwoNumbers(Data):
    """Two number columns of the same rows, in any units."""

    kind: ClassVar[str] = "two numbers"
    label: ClassVar[str] = "two number columns"
    help: ClassVar[str] = "Each row gives a pair of numbers."
    family: ClassVar[Family] = "two numbers"
    order: ClassVar[int] = 50
    what: str | None = number_column("the response")
    against: str | None = number_column("what it is set against", elsewhere=False, other_than=("what",))

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, against = self.slots(place)
        joiner = " on " if any(isinstance(one, Slot) and one.value == "slope" for one in parameter) else " and "
        return Sides((*parameter, " of ", what, joiner, against))

    def put(self, field: str, value: object, place: Place) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "against")

    def swapped(self) -> TwoNumbers:
        return replace(self, what=self.against, against=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)} and {self.against}" if self.what else ""

    def read(self, tables: Tables, table: str) -> NumberPairs:
        own, what, against = tables[table], str(self.what), str(self.against)
        y, x = workable(own, what), workable(own, against)
        rows, lost = known_in(own, what, against)
        if not rows.size:
            raise CannotAnswer(f"No row has both {what} and {against}.", "data.against")
        squarable(y[rows], what, "data.what")
        squarable(x[rows], against, "data.against")
        left_out = (*lost_words(own, lost, f"{what} or {against}"), *said_unused(own))
        units = own.column(against).unit, own.column(what).unit
        return NumberPairs(
            names_=(against, what), units=units, x=x[rows], y=y[rows], rows=rows, noun=own.noun, lost=left_out
        )


@dataclass(frozen=True)
class TypedCorrelation(Data):
    """n and the correlation r of two numbers."""

    kind: ClassVar[str] = "typed correlation"
    label: ClassVar[str] = "typed figures: n and r"
    help: ClassVar[str] = "No rows: n and r are typed."
    family: ClassVar[Family] = "two numbers"
    typed: ClassVar[bool] = True
    order: ClassVar[int] = 51
    one: str = text_field("the first number", TypeText(longest=120), empty="x")
    two: str = text_field("the second number", TypeText(longest=120), empty="y")
    n: int | None = number_field(None, "n", TypeNumber(2, 1e9, whole=True))
    r: float | None = number_field(None, "r", TypeNumber(-1, 1))

    def slots(self, place: Place) -> tuple[Slot, ...]:
        size = "" if self.n is not None else "Type n, how many pairs there are."
        given = "" if self.r is not None else "Type r, their correlation."
        return (
            self.field_slot("one", place),
            self.field_slot("two", place),
            self.field_slot("n", place, missing=size),
            self.field_slot("r", place, missing=given),
        )

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        one, two, size, r = self.slots(place)
        return Sides((*parameter, " of ", one, " and ", two, " (n = ", size, ", r = ", r, ")"))

    @property
    def title(self) -> str:
        return f"{sentence_case(self.one or 'x')} and {self.two or 'y'}"

    def read(self, tables: Tables, table: str) -> Correlated:
        assert self.n is not None
        assert self.r is not None
        names = self.two.strip() or "y", self.one.strip() or "x"
        return Correlated(names_=names, count=self.n, given=float(self.r), noun="case")


DATA = (TwoNumbers, TypedCorrelation)
