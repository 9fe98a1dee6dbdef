"""Two numbers of each case, as they are read: the pairs, or n and r alone."""

from __future__ import annotations

from abc import abstractmethod
from dataclasses import dataclass, replace
from functools import cached_property
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.correlation import pearson
from theoros.verbs.data.samples import NOTHING, Cells, Observed


@dataclass(frozen=True, eq=False, kw_only=True)
class Associated(Observed):
    """Two numbers of each case, and how they hang together."""

    names_: tuple[str, str]
    """The first is set against the second: what lies along, and what goes up."""
    decimals: int = 2

    @property
    @abstractmethod
    def n(self) -> int: ...

    @property
    def size(self) -> int:
        return self.n

    @property
    @abstractmethod
    def r(self) -> float:
        """Pearson's correlation."""

    @property
    def names(self) -> tuple[str, ...]:
        return self.names_

    @property
    def sides(self) -> tuple[Associated, ...]:
        return (self,)

    @property
    def letters(self) -> tuple[str, ...]:
        return ("",)

    def clauses(self, parameter: str) -> tuple[str, ...]:
        along, up = self.names_
        word = parameter.removesuffix(" of")
        joined = f"{up} on {along}" if word == "slope" else f"{up} and {along}"
        return (f"the {word} of {joined}",)

    def meanings(self, parameter: str) -> tuple[str, ...]:
        return (f"{self.clauses(parameter)[0]} in the population",)


@dataclass(frozen=True, eq=False, kw_only=True)
class NumberPairs(Associated):
    """Two numbers of each case, both known and finite."""

    units: tuple[str, str]
    x: Floats
    y: Floats
    rows: Ints
    lost: tuple[str, ...] = NOTHING
    typed: ClassVar[bool] = False

    @property
    def n(self) -> int:
        return int(self.x.size)

    @cached_property
    def r(self) -> float:
        return pearson(self.x, self.y)

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        return self.x, self.y

    def cells(self) -> Cells:
        one, two = self.names_
        return [{one: x, two: y} for x, y in zip(self.x.tolist(), self.y.tolist(), strict=True)]

    def at(self, places: Ints) -> NumberPairs:
        """The pairs at these places, as often as they come."""
        return replace(self, x=self.x[places], y=self.y[places], rows=self.rows[places])

    @property
    def used(self) -> int:
        return self.n

    @property
    def left_out(self) -> tuple[str, ...]:
        return self.lost


@dataclass(frozen=True, eq=False, kw_only=True)
class Correlated(Associated):
    """Two numbers of which only n and their correlation r are known (n >= 2, -1 <= r <= 1)."""

    count: int
    given: float

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        return (np.array([self.count, self.given]),)

    def cells(self) -> Cells:
        return [{"n": float(self.n), "r": self.r}]

    @property
    def n(self) -> int:
        return self.count

    @property
    def r(self) -> float:
        return self.given
