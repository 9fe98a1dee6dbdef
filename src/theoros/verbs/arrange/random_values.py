"""Random values: a new column drawn from a distribution."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.table.changes import check_name
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, TableError, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.core.fields import choice_field, number_field, seed_field
from theoros.verbs.core.slots import Mended, Option, Phrase, Tables, TypeNumber

Law = Literal["normal", "uniform", "whole numbers", "binomial", "poisson", "exponential"]


_LAWS = (
    Option("normal", "normal"),
    Option("uniform", "uniform", help="Any number between two ends, all equally likely."),
    Option("whole numbers", "whole-number", help="Whole numbers, all equally likely, as of a die."),
    Option("binomial", "binomial", help="How many of n trials succeed."),
    Option("poisson", "Poisson", help="How many rare events there are."),
    Option("exponential", "exponential", help="How long until the next event."),
)
_ANY = TypeNumber(-1e12, 1e12)
_ABOVE = TypeNumber(0, 1e12, low_open=True)
_WHOLE = TypeNumber(-(10**9), 10**9, whole=True)
_GIVEN: dict[str, tuple[tuple[str, TypeNumber], tuple[str, TypeNumber] | None]] = {
    "normal": (("mean", _ANY), ("standard deviation", _ABOVE)),
    "uniform": (("least", _ANY), ("greatest", _ANY)),
    "whole numbers": (("least", _WHOLE), ("greatest", _WHOLE)),
    "binomial": (("n", TypeNumber(1, 10**9, whole=True)), ("p", TypeNumber(0, 1))),
    "poisson": (("mean", TypeNumber(0, 1e9, low_open=True)), None),
    "exponential": (("mean", _ABOVE), None),
}
_USUAL: dict[str, tuple[float, float]] = {
    "normal": (0.0, 1.0),
    "uniform": (0.0, 1.0),
    "whole numbers": (1.0, 6.0),
    "binomial": (10.0, 0.5),
    "poisson": (3.0, 1.0),
    "exponential": (1.0, 1.0),
}


@dataclass(frozen=True)
class RandomValues(InPlace):
    """A column of values drawn from a distribution."""

    verb: ClassVar[str] = "random values"
    label: ClassVar[str] = "Random values"
    help: ClassVar[str] = (
        "Fills a new column with values drawn from a distribution, each on its own. The "
        "same seed draws the same values."
    )
    order: ClassVar[int] = 10
    law: Law = choice_field("normal", "distribution", _LAWS)
    first: float = number_field(0.0, "first parameter", _ANY)
    """Mean, least value, number of trials or rate, by the distribution."""
    second: float = number_field(1.0, "second parameter", _ANY)
    """Standard deviation, greatest value or probability; not used by all."""
    seed: int = seed_field()
    name: str = name_field()

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        (label, holds), two = _GIVEN[self.law]
        first = self.field_slot("first", here, label=label, holds=holds)
        made: Phrase = ("Draw ", self.field_slot("law", here), " values with ", label, " = ", first)
        if two is not None:
            made = (*made, " and ", two[0], " = ", self.field_slot("second", here, label=two[0], holds=two[1]))
        free = free_name("random", here.own.by_name if here.own else ())
        name = self.field_slot("name", here, empty=free)
        return (*made, ", seed ", self.field_slot("seed", here), ", as a new column ", name, ".")

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot == "law":
            first, second = _USUAL[self.law]
            return Mended(replace(self, first=first, second=second))
        return Mended(self)

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        name = check_name(self.name.strip() or free_name("random", table.by_name), "column", list(table.by_name))
        values = drawn(self.law, self.first, self.second, table.rows, self.seed)
        column = Column(name, meaning=self.line, checked=True)
        return with_columns(table, [(column, pl.Series(values))], ""), ()

    @property
    def line(self) -> str:
        one, two = _GIVEN[self.law]
        said = f"{one[0]} {self.first:g}"
        if two is not None:
            said += f", {two[0]} {self.second:g}"
        return f"drawn: {self.law}, {said}, seed {self.seed}"


def drawn(law: Law, first: float, second: float, count: int, seed: int) -> Floats:
    """`count` values of a distribution. Raises TableError where its ends are crossed."""
    chance = np.random.default_rng(seed)
    if law in ("uniform", "whole numbers") and first >= second:
        raise TableError("The least value must be below the greatest.")
    draws: dict[str, Callable[[], object]] = {
        "normal": lambda: chance.normal(first, second, count),
        "uniform": lambda: chance.uniform(first, second, count),
        "whole numbers": lambda: chance.integers(int(first), int(second), count, endpoint=True),
        "binomial": lambda: chance.binomial(int(first), second, count),
        "poisson": lambda: chance.poisson(first, count),
        "exponential": lambda: chance.exponential(first, count),
    }
    return np.asarray(draws[law](), dtype=np.float64)


ARRANGEMENTS = (RandomValues,)
