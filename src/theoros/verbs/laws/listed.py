"""Values with their probabilities, from a list: typed into a grid, or in two columns."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import bracketed, exact
from theoros.lazy_imports import np
from theoros.numeric.distributions.lattice import Lattice
from theoros.verbs.core.fields import choice_field, number_column
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, SlotGrid, Tables, TypeNumber, number_slot
from theoros.verbs.data.columns import known_in
from theoros.verbs.laws.law import Law, Situation

Weights = Literal["probabilities", "counts"]
SAME = 1e-9
"""Sums this close to 1 are 1."""
FEW = 6
"""As many terms of a sum are written out."""
MOST_VALUES = 2000
_WEIGHTS = (
    Option("probabilities", "probabilities", help="They sum to 1."),
    Option("counts", "counts", help="Each is divided by their sum: counts, or per cent."),
)


def lattice_of(values: Sequence[float], weights: Sequence[float], held: Weights) -> Lattice:
    """The distribution with these values and their weights. Raises CannotAnswer."""
    at, given = np.asarray(values, dtype=np.float64), np.asarray(weights, dtype=np.float64)
    if at.size == 0:
        raise CannotAnswer("There is no value with a probability yet. Type the first two.")
    if at.size > MOST_VALUES:
        raise CannotAnswer(f"There are {at.size} values, more than the {MOST_VALUES} that a table can hold.")
    once, places, times = np.unique(at, return_index=True, return_counts=True)
    if once.size < at.size:
        twice = exact(float(once[times > 1][0]))
        raise CannotAnswer(f"The value {twice} is listed more than once. List it once.")
    if (given < 0).any():
        wrong = exact(float(given[given < 0][0]))
        what = "A probability" if held == "probabilities" else "A count"
        raise CannotAnswer(f"{what} cannot be negative, and {wrong} is.")
    total = math.fsum(given.tolist())
    if not total > 0:
        raise CannotAnswer("All of them are 0, so no value can occur. Type at least one above 0.")
    if held == "probabilities" and abs(total - 1) > SAME:
        off = exact(float(f"{abs(total - 1):.6g}"))
        side = f"{off} more than" if total > 1 else f"{off} short of"
        raise CannotAnswer(
            f"The probabilities sum to {exact(float(f'{total:.8g}'))}, which is {side} 1.",
            offers=(("Divide each by their sum", "situation.held", "counts"),),
        )
    return Lattice(once, (given / total)[places])


@dataclass(frozen=True)
class _Listed(Law):
    held: Weights = choice_field("probabilities", "what stands beside the values", _WEIGHTS)

    @property
    def discrete(self) -> bool:
        return True

    @property
    def law(self) -> str:
        return "μ = Σ x P(x)"

    @property
    def sd_formula(self) -> str:
        return "σ = √(Σ (x − μ)^{2} P(x))"


@dataclass(frozen=True)
class TypedValue:
    """A value and its probability, or how often it comes."""

    value: float | None = None
    weight: float | None = None


@dataclass(frozen=True)
class ListedLaw(_Listed):
    kind: ClassVar[str] = "typed values"
    label: ClassVar[str] = "given by a typed table"
    help: ClassVar[str] = "Its values and their probabilities are typed into a small grid."
    order: ClassVar[int] = 9
    rows: tuple[TypedValue, ...] = ()
    law: ClassVar[str] = ""

    def phrase(self, place: Place) -> Phrase:
        return (" of values and their ", self.field_slot("held", place))

    def grid(self, place: Place) -> SlotGrid | None:
        word = "probability" if self.held == "probabilities" else "count"
        lines: list[tuple[str | Slot, ...]] = []
        for at, row in enumerate((*self.rows, TypedValue())):
            path, last = f"rows.{at}", at == len(self.rows)
            said = "the next value" if last else f"value {at + 1}"
            of = exact(row.value) if row.value is not None else said
            value = _typed(f"{path}.value", said, row.value, TypeNumber(auto=True))
            holds = TypeNumber(0, 1 if self.held == "probabilities" else 1e15, auto=True)
            weight = _typed(f"{path}.weight", f"{word} of {of}", row.weight, holds)
            if not last and row.value is None:
                value = replace(value, missing=f"Type the value that has this {word}.")
            if not last and row.weight is None:
                weight = replace(weight, missing=f"Type the {word} of {of}.")
            lines.append((place.slot(value), place.slot(weight)))
        return SlotGrid("values and their probabilities", ("value of X", word), tuple(lines))

    def put(self, field: str, value: object, place: Place) -> tuple[Situation, list[str]] | None:
        """A value typed behind the last is one more; one that is emptied is taken out."""
        head, _, rest = field.partition(".")
        at, _, name = rest.partition(".")
        if head != "rows" or not at.isdigit() or name not in ("value", "weight"):
            return None
        rows = [*self.rows, TypedValue()]
        place_ = min(int(at), len(rows) - 1)
        rows[place_] = replace(rows[place_], **{name: value})  # type: ignore[arg-type]
        return replace(self, rows=tuple(row for row in rows if row != TypedValue())), []

    def made(self) -> Lattice:
        rows = [(row.value, row.weight) for row in self.rows]
        known = [(float(v), float(w)) for v, w in rows if v is not None and w is not None]
        return lattice_of([v for v, _ in known], [w for _, w in known], self.held)

    @property
    def mean_formula(self) -> str:
        terms = [
            f"{bracketed(exact(row.value))} × {exact(row.weight)}"
            for row in self.rows
            if row.value is not None and row.weight is not None
        ]
        if not 0 < len(terms) <= FEW or self.held == "counts":
            return "μ = Σ x P(x)"
        return f"μ = Σ x P(x) = {' + '.join(terms)}"


@dataclass(frozen=True)
class ColumnValues(_Listed):
    kind: ClassVar[str] = "values in two columns"
    label: ClassVar[str] = "given by two columns"
    help: ClassVar[str] = "One column holds its values, another their probabilities or counts."
    order: ClassVar[int] = 10
    what: str | None = number_column("the values")
    weights: str | None = number_column("the weights", elsewhere=False, other_than=("what",))

    needs_table: ClassVar[bool] = True

    def phrase(self, place: Place) -> Phrase:
        what, held = self.field_slot("what", place), self.field_slot("held", place)
        weights = self.field_slot("weights", place, label=f"the {self.held}")
        return (", the values in ", what, " and their ", held, " in ", weights)

    def made(self) -> Lattice:
        raise CannotAnswer("The values stand in a table.", "situation")

    def distribution(self, tables: Tables, table: str) -> Lattice:
        own, what, weights = tables[table], str(self.what), str(self.weights)
        rows, _ = known_in(own, what, weights)
        return lattice_of(own.numbers(what)[rows].tolist(), own.numbers(weights)[rows].tolist(), self.held)

    def left_out(self, tables: Tables, table: str) -> tuple[str, ...]:
        from theoros.verbs.data.columns import lost_words
        from theoros.verbs.data.groups import said_unused

        own, what, weights = tables[table], str(self.what), str(self.weights)
        _, lost = known_in(own, what, weights)
        return (*lost_words(own, lost, f"{what} or {weights}"), *said_unused(own))


def _typed(name: str, label: str, value: float | None, holds: TypeNumber) -> Slot:
    return number_slot(name, label, value, holds, exact(value) if value is not None else "…")


LAWS = (ListedLaw, ColumnValues)
