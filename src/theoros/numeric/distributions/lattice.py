"""Distributions given by their masses: exact null distributions, and piles of replicates."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from functools import cached_property

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Discrete, Region

# frozen dataclasses keep what `cached_property` works out in their __dict__, so no slots here


@dataclass(frozen=True, eq=False)
class Lattice(Discrete):
    """Chances of finitely many values, such as those of a rank statistic under H0.

    `values` ascend strictly, `chances` are 0 or more and sum to 1, both of shape (k,).
    """

    values: Floats
    chances: Floats

    def __post_init__(self) -> None:
        if self.values.size == 0 or self.values.shape != self.chances.shape:
            raise ValueError("a lattice needs a chance for each of its values")
        if np.any(np.diff(self.values) <= 0) or np.any(self.chances < 0):
            raise ValueError("values must ascend, and chances cannot be negative")
        if abs(float(self.chances.sum()) - 1) > 1e-9:
            raise ValueError("chances must sum to 1")

    @property
    def support(self) -> tuple[float, float]:
        return float(self.values[0]), float(self.values[-1])

    @cached_property
    def mean(self) -> float:
        return float((self.values * self.chances).sum())

    @cached_property
    def sd(self) -> float:
        return math.sqrt(float((self.chances * (self.values - self.mean) ** 2).sum()))

    @cached_property
    def _below(self) -> Floats:
        """P(X <= value) for each value."""
        return np.asarray(np.cumsum(self.chances))

    @cached_property
    def _above(self) -> Floats:
        """P(X >= value) for each value, summed from the far end; one more 0 behind the last."""
        return np.concatenate([np.cumsum(self.chances[::-1])[::-1], [0.0]])

    def height(self, at: Floats | float) -> Floats:
        at = np.asarray(at)
        place = np.clip(np.searchsorted(self.values, at), 0, self.values.size - 1)
        return np.where(self.values[place] == at, self.chances[place], 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        place = np.searchsorted(self.values, np.asarray(at), side="right")
        return np.concatenate([[0.0], self._below])[place]

    def sf(self, at: Floats | float) -> Floats:
        return self._above[np.searchsorted(self.values, np.asarray(at), side="right")]

    def quantile(self, p: Floats | float) -> Floats:
        # a p that rounding puts a hair above a step belongs to it
        place = np.searchsorted(self._below, np.asarray(p) - 1e-14)
        return self.values[np.clip(place, 0, self.values.size - 1)]

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.choice(self.values, size, p=self.chances / self.chances.sum())

    def masses(self, low: float, high: float) -> tuple[Floats, Floats]:
        first = np.searchsorted(self.values, low)
        last = np.searchsorted(self.values, high, side="right")
        return self.values[first:last], self.chances[first:last]


@dataclass(frozen=True, eq=False)
class Pile(Discrete):
    """Replicates of a statistic (finite, at least one): each has the same share of the chance.

    `around` is what two-sided regions lie around: the value under H0, not the mean of the pile.
    """

    replicates: Floats
    around: float = 0.0
    resolution: float = 0.0
    """Replicates this close are equal but for rounding."""
    _sorted: Floats = field(init=False, repr=False)

    def __post_init__(self) -> None:
        if self.replicates.size == 0:
            raise ValueError("a simulated distribution needs a replicate")
        object.__setattr__(self, "_sorted", np.sort(self.replicates))

    @property
    def size(self) -> int:
        return int(self.replicates.size)

    @property
    def ordered(self) -> Floats:
        """The replicates in ascending order."""
        return self._sorted

    @property
    def support(self) -> tuple[float, float]:
        return float(self._sorted[0]), float(self._sorted[-1])

    @cached_property
    def mean(self) -> float:
        return float(self.replicates.mean())

    @cached_property
    def sd(self) -> float:
        """With the divisor n - 1: the standard error that the simulation gives."""
        return float(self.replicates.std(ddof=1)) if self.size > 1 else math.nan

    @property
    def centre(self) -> float:
        return self.around

    def slack(self, observed: float) -> float:
        low, high = self.support
        return max(1e-9 * max(abs(observed), abs(low), abs(high)), self.resolution)

    def height(self, at: Floats | float) -> Floats:
        at = np.asarray(at)
        here = np.searchsorted(self._sorted, at, side="right") - np.searchsorted(self._sorted, at)
        return np.asarray(here / self.size)

    def cdf(self, at: Floats | float) -> Floats:
        below = np.searchsorted(self._sorted, np.asarray(at), side="right")
        return np.asarray(below / self.size)

    def sf(self, at: Floats | float) -> Floats:
        above = self.size - np.searchsorted(self._sorted, np.asarray(at), side="right")
        return np.asarray(above / self.size)

    def quantile(self, p: Floats | float) -> Floats:
        place = np.ceil(np.asarray(p) * self.size - 1e-9).astype(np.int64) - 1
        return self._sorted[np.clip(place, 0, self.size - 1)]

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.choice(self.replicates, size)

    def masses(self, low: float, high: float) -> tuple[Floats, Floats]:
        first, last = (np.searchsorted(self._sorted, low), np.searchsorted(self._sorted, high, "right"))
        values = self._sorted[first:last]
        return values, np.full(values.size, 1 / self.size)

    def counted(self, region: Region) -> int:
        """How many replicates lie in a region."""
        return int(region.holds(self.replicates).sum())

    def probability(self, region: Region) -> float:
        """The share of replicates in a region."""
        return self.counted(region) / self.size
