"""Distributions of whole numbers: everything that follows from their masses."""

from __future__ import annotations

import math
from abc import abstractmethod

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.distributions.distribution import Discrete, Region

MOST_TERMS = 4_000_000
NEGLIGIBLE = 1e-19
MOST_MASSES = 200_000


class Counting(Discrete):
    """A distribution of whole numbers with one mode, whose masses fall off on both sides of it.

    Probabilities are sums of masses from the mode outwards, all of the same sign, so that they keep
    the digits of the masses however rare the event.
    """

    @property
    @abstractmethod
    def mode(self) -> float:
        """A value of the greatest mass."""

    @abstractmethod
    def cdf(self, at: Floats | float) -> Floats: ...

    @property
    def summed(self) -> bool:
        """Whether masses are summed; elsewhere `cdf` and `sf` serve, as for huge spreads."""
        return math.isfinite(self.sd) and self.sd < MOST_TERMS / 40

    def between(self, low: float, high: float) -> float:
        """P(low <= X <= high) for any ends."""
        first, last = self.support
        low = first if low <= first else math.ceil(low) if math.isfinite(low) else low
        high = last if high >= last else math.floor(high) if math.isfinite(high) else high
        if low > high:
            return 0.0
        if low == first and high == last:
            return 1.0
        if low == high:
            return float(self.height(low))
        if not self.summed:
            return self._by_tails(low, high)
        mode = self.mode
        if low > mode:
            return self._outwards(low, high)
        if high < mode:
            return self._outwards(high, low)
        # the larger share of what lies on both sides is told by what is left
        if low == first:
            return max(0.0, 1.0 - self._outwards(high + 1, last))
        if high == last:
            return max(0.0, 1.0 - self._outwards(low - 1, first))
        above = self._outwards(mode + 1, high) if high > mode else 0.0
        return min(1.0, self._outwards(mode, low) + above)

    def _by_tails(self, low: float, high: float) -> float:
        first, last = self.support
        if low == first:
            return float(self.cdf(high))
        if high == last:
            return float(self.sf(low - 1))
        if low > self.mean:
            return float(self.sf(low - 1)) - float(self.sf(high))
        return float(self.cdf(high)) - float(self.cdf(low - 1))

    def _outwards(self, start: float, end: float) -> float:
        """The masses from `start` to `end`, both included, falling on the way."""
        step = 1.0 if end >= start else -1.0
        size = int(min(65536, max(64, 2 * self.sd)))
        total, at = 0.0, start
        while (end - at) * step >= 0:
            count = int(min(size, abs(end - at) + 1))
            masses = self.height(at + step * np.arange(count, dtype=np.float64))
            total += math.fsum(masses.tolist()) if count < 2000 else float(masses.sum())
            if float(masses[-1]) <= total * NEGLIGIBLE:
                break
            at += step * count
        return total

    def probability(self, region: Region) -> float:
        """P(X in region), by sums over whole values that keep small tails; at most 1 for rounding."""
        return min(1.0, sum(self.between(low, high) for low, high in region.parts))

    def slack(self, observed: float) -> float:
        return 0.0

    def masses(self, low: float, high: float) -> tuple[Floats, Floats]:
        """Where there are very many values, only those within 40 standard deviations."""
        first, last = self.support
        low, high = max(low, first), min(high, last)
        if high - low > MOST_MASSES:
            reach = 40 * max(1.0, self.sd)
            low = max(low, math.floor(self.mean - reach))
            high = min(high, math.ceil(self.mean + reach), low + MOST_TERMS)
        low, high = math.ceil(low), math.floor(high)
        k = np.arange(low, high + 1, dtype=np.float64) if high >= low else np.zeros(0)
        return k, self.height(k)

    def quantile(self, p: Floats | float) -> Floats:
        """By bisection over whole numbers; a p that rounding puts a hair above a step is on it."""
        wanted = np.atleast_1d(np.asarray(p, dtype=np.float64))
        first, last = self.support
        low = np.full(wanted.shape, first)
        high = np.full(wanted.shape, last if math.isfinite(last) else self._beyond(wanted))
        while np.any(low < high):
            middle = np.floor((low + high) / 2)
            enough = self.cdf(middle) >= wanted * (1 - 1e-13)
            low, high = np.where(enough, low, middle + 1), np.where(enough, middle, high)
        made = np.where(wanted >= 1, last, low)
        return made.reshape(np.shape(p))

    def _beyond(self, wanted: Floats) -> float:
        """A value with more below it than is wanted anywhere short of 1."""
        most = float(np.max(np.where(wanted < 1, wanted, 0.0), initial=0.0))
        at = max(1.0, self.mean + 10 * self.sd)
        while float(self.cdf(at)) < most * (1 - 1e-13) and at < 1e300:
            at *= 2
        return math.ceil(at)


def whole_in(k: Floats | float, low: float, high: float) -> tuple[Floats, Bools, Floats]:
    """k rounded down, whether it lies within [low, high), and a value within for elsewhere."""
    floor = np.floor(np.asarray(k, dtype=np.float64))
    inside = (floor >= low) & (floor < high)
    return floor, inside, np.where(inside, floor, low)
