"""Counts of the levels of one category, or of two at once, as they are read."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.verbs.data.samples import NOTHING, Cells, Observed


@dataclass(frozen=True, eq=False, kw_only=True)
class Tally(ABC):
    """Cases counted by what they have."""

    counts: Ints
    noun: str = "case"
    left_out: tuple[str, ...] = NOTHING
    from_rows: bool = False

    @property
    def total(self) -> int:
        return int(self.counts.sum())

    @property
    def size(self) -> int:
        """How many cases there are."""
        return self.total

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        """What tells these data from others."""
        return (self.counts,)

    @abstractmethod
    def cells(self) -> Cells:
        """The counts as rows of a table."""

    @property
    def used(self) -> int:
        """Rows in use; 0 where figures were typed."""
        return self.total if self.from_rows else 0

    @property
    def typed(self) -> bool:
        return not self.from_rows

    @property
    def sides(self) -> tuple[object, ...]:
        """There is nothing that is first or second."""
        return ()


@dataclass(frozen=True, eq=False, kw_only=True)
class CountsOfLevels(Tally):
    """How many cases have each level of a category; counts of shape (levels,)."""

    name: str
    levels: tuple[str, ...]
    claimed: tuple[float, ...] = ()
    """The shares that are claimed; they sum to 1. Empty for none."""
    claimed_text: str = ""
    """As they were typed: "9:3:3:1"; empty for equal ones."""
    law: str = ""
    """The distribution claimed, if one is: "a Poisson distribution"."""
    law_values: str = ""
    """Its parameters, where some were estimated."""
    law_how: str = ""
    """How its parameters were estimated, as a sentence."""
    estimated: int = 0
    """As many of them were."""
    ordered: bool = False

    @property
    def arrays(self) -> tuple[Floats | Ints, ...]:
        return self.counts, np.array(self.claimed)

    def cells(self) -> Cells:
        return [{self.name: level, "count": float(n)} for level, n in zip(self.levels, self.counts, strict=True)]


@dataclass(frozen=True, eq=False, kw_only=True)
class TwoWayCounts(Tally):
    """How many cases have each level of one category together with each of another.

    Counts have the shape (rows, columns).
    """

    names: tuple[str, str]
    rows: tuple[str, ...]
    columns: tuple[str, ...]
    named: bool = True
    """Whether the levels have names of their own."""
    ordered: tuple[bool, bool] = (False, False)
    """Whether the levels of each have an order."""
    matched: bool = False
    """Whether both answer the same question for the same cases, so that a change is asked about."""

    def cells(self) -> Cells:
        one, two = self.names
        return [
            {one: row, two: column, "count": float(self.counts[i, j])}
            for i, row in enumerate(self.rows)
            for j, column in enumerate(self.columns)
        ]


Observation = Observed | Tally
"""What data come to once they are read, whatever their family."""
