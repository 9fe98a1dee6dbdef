"""What a parameter is: its word, its symbol, and what it is in a sample."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING

from theoros.answer.wording import unmarked
from theoros.plugins import listed_in
from theoros.verbs.core.slots import Option, Slot, TypeNumber, choice_slot
from theoros.verbs.data.data import Family

if TYPE_CHECKING:
    from theoros.verbs.data.samples import Observed


ONE_SIDED: tuple[Family, ...] = ("one sample", "one share", "two numbers")
"""Data with one side, which is set against a value rather than another side."""


UNDIRECTED: tuple[Family, ...] = ("several samples", "repeated", "two factors", "counts", "two-way counts")
"""Data of which a claim has no direction: something differs, or it does not."""


@dataclass(frozen=True)
class Parameter:
    """A number that a population has, of which a sample gives an estimate.

    A new one is a module of this package that lists it in `PARAMETERS`.
    """

    name: str
    """ "mean"; also its word in sentences."""
    symbol: str
    """The letter of textbooks for that of a population."""
    help: str
    families: tuple[Family, ...]
    """The data it can be asked of; of two samples it is a difference that is asked about."""
    value: Callable[..., float]
    """Of one side of what was observed."""
    from_figures: bool = False
    """Whether typed figures tell it."""
    order: int = 0
    kin: str = "centre"
    """What it tells of data; parameters of one kin answer much the same question."""
    low: float = -math.inf
    high: float = math.inf
    """What the value under H0 of one side lies between."""
    shift: bool = True
    """Whether two sides can be set against a difference other than 0."""
    in_units: bool = True
    """Whether it is in the unit of what was measured."""
    directed: bool = True
    """Whether a claim about it can point somewhere."""
    ratio: bool = False
    """Whether two sides are divided rather than taken off each other."""
    squared: bool = False
    """Whether it is in the square of that unit."""
    asks: str = ""
    """The field of a statement that says more of it, such as which quantile; empty for none."""

    def points(self, family: Family) -> bool:
        """Whether a claim about it has a direction, for such data."""
        return self.directed and family not in UNDIRECTED

    @property
    def clause(self) -> str:
        """Before the name of what was measured: "mean loss", "standard deviation of loss"."""
        return f"{self.name} of" if " " in self.name or self.squared else self.name

    @property
    def plural(self) -> str:
        return self.name if self.name.endswith("s") else f"{self.name}s"

    def estimate(self, data: Observed) -> float:
        """What was seen: of one side its value, of two the first minus the second."""
        values = [self.value(side) for side in data.sides]
        if len(values) < 2:
            return values[0]
        if self.ratio:
            return values[0] / values[1] if values[1] else math.inf
        return values[0] - values[1]

    def holds_null(self, family: Family, unit: str) -> TypeNumber:
        """What the value under H0 may be: of one side within its range, of two any difference."""
        unit = unit if self.in_units else ""
        if family in ONE_SIDED:
            low_open = self.low == 0 and self.in_units
            return TypeNumber(self.low, self.high, low_open=low_open, unit=unit, help=f"The {self.name} if H₀ is true.")
        return TypeNumber(unit=unit, help="The difference if H₀ is true; 0 for none.")

    def letters(self, data: Observed) -> tuple[str, ...]:
        """Its symbol for each side: "μ_{slow}", "μ_{quick}"."""
        return tuple(f"{self.symbol}_{{{unmarked(label)}}}" if label else self.symbol for label in data.letters)


def usual_null(family: Family) -> float | None:
    """The value under H0 where none is given: no difference, no relation. Of one sample none is usual: it is asked."""
    return None if family in ("one sample", "one share") else 0.0


@cache
def parameters() -> Mapping[str, Parameter]:
    """The parameters by name, in their order."""
    return {one.name: one for one in listed_in("theoros.verbs.parameters", "PARAMETERS")}


def parameters_for(family: Family, *, typed: bool = False) -> list[Parameter]:
    """Those that can be asked of a family of data, from rows or from typed figures."""
    return [one for one in parameters().values() if family in one.families and (one.from_figures or not typed)]


def parameter_slot(name: str, label: str, value: str, choices: Sequence[str]) -> Slot:
    """The slot for what a statement is about, of those that its verb can deal with."""
    options = [Option(one.name, one.name, help=one.help) for one in parameters().values() if one.name in choices]
    return choice_slot(name, label, value, options)
