"""Two numbers of each case: two columns, or n and their correlation, typed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact, sentence_case
from theoros.table.table import Table
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.core.statement import column_field
from theoros.verbs.data.columns import known_in, lost_words, number_slot_of, squarable
from theoros.verbs.data.data import Data, Family, Place, Sides
from theoros.verbs.data.groups import said_unused, workable
from theoros.verbs.data.samples import Correlated, NumberPairs
from theoros.verbs.data.two_columns import changed_places, filled_columns


@dataclass(frozen=True)
class TwoNumbers(Data):
    """Two number columns of the same rows, in any units."""

    kind: ClassVar[str] = "two numbers"
    label: ClassVar[str] = "two number columns"
    help: ClassVar[str] = "Each row gives a pair of numbers."
    family: ClassVar[Family] = "two numbers"
    order: ClassVar[int] = 50
    what: str | None = column_field()
    against: str | None = column_field()

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (
            number_slot_of(place, "what", "the response", self.what, elsewhere=True),
            number_slot_of(place, "against", "what it is set against", self.against, exclude=self.what),
        )

    def sides(self, parameter: Phrase, place: Place) -> Sides:
        what, against = self.slots(place)
        return Sides((*parameter, " of ", what, " and ", against))

    def filled(self, table: Table) -> TwoNumbers:
        what, against = filled_columns(table, self.what, self.against)
        return replace(self, what=what, against=against)

    def put(self, field: str, value: Any, table: Table | None) -> tuple[Data, list[str]] | None:
        return changed_places(self, field, value, "against")

    def swapped(self) -> TwoNumbers:
        return replace(self, what=self.against, against=self.what)

    @property
    def title(self) -> str:
        return f"{sentence_case(self.what)} and {self.against}" if self.what else ""

    @property
    def about(self) -> dict[str, Any]:
        return {"what": self.what, "against": self.against}

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
    one: str = ""
    two: str = ""
    n: int | None = None
    r: float | None = None

    def slots(self, place: Place) -> tuple[Slot, ...]:
        holds = TypeText(longest=120)
        one = text_slot("one", "the first number", self.one, holds, empty="x")
        two = text_slot("two", "the second number", self.two, holds, empty="y")
        size = number_slot(
            "n", "n", self.n, TypeNumber(2, 1e9, whole=True), exact(self.n) if self.n is not None else "…"
        )
        r = number_slot("r", "r", self.r, TypeNumber(-1, 1), exact(self.r) if self.r is not None else "…")
        typed = [
            slot if slot.value is not None else replace(slot, missing=missing)
            for slot, missing in ((size, "Type n, how many pairs there are."), (r, "Type r, their correlation."))
        ]
        return tuple(place.slot(slot) for slot in (one, two, *typed))

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
