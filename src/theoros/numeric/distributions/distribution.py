"""What every distribution is: heights, tails, quantiles, draws, and the region that counts.

The p-value of a test is the probability of a region of the axis, and a picture shades that same
region; so the two cannot differ.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Bools, Floats

EVERYTHING = (-math.inf, math.inf)


@dataclass(frozen=True, slots=True)
class Region:
    """Parts of an axis: closed intervals, ascending, that do not meet. Ends may be infinite."""

    parts: tuple[tuple[float, float], ...]
    slack: float = 0.0
    """Values this close to an end are on it: what rounding may leave of equal numbers."""

    def holds(self, values: Floats) -> Bools:
        """Which of `values` lie in it."""
        inside = np.zeros(np.shape(values), dtype=np.bool_)
        for low, high in self.parts:
            inside |= (values >= low - self.slack) & (values <= high + self.slack)
        return inside


class Distribution(ABC):
    """A distribution of one number.

    Functions take and give arrays of any shape. Families are frozen dataclasses with their
    parameters as fields; a parameter out of its range raises ValueError when one is made.
    """

    discrete: ClassVar[bool]
    """Whether it has masses at single values rather than a density."""

    @property
    @abstractmethod
    def support(self) -> tuple[float, float]:
        """The least and the greatest possible value; infinite where there is none."""

    @property
    @abstractmethod
    def mean(self) -> float: ...

    @property
    @abstractmethod
    def sd(self) -> float:
        """Standard deviation; infinite or NaN where the family has none."""

    @abstractmethod
    def height(self, at: Floats | float) -> Floats:
        """The density, or the mass at a value; 0 outside of the support."""

    @abstractmethod
    def cdf(self, at: Floats | float) -> Floats:
        """P(X <= at)."""

    @abstractmethod
    def sf(self, at: Floats | float) -> Floats:
        """P(X > at), worked out by itself, so that a small tail keeps its digits."""

    @abstractmethod
    def quantile(self, p: Floats | float) -> Floats:
        """The least value with P(X <= value) >= p, for 0 <= p <= 1."""

    @abstractmethod
    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        """So many independent values, shape (size,)."""

    @property
    def centre(self) -> float:
        """What two-sided regions lie around."""
        return self.mean

    @property
    def unit(self) -> float:
        """What distances from the centre are told in: the standard deviation, where it has one."""
        return self.sd if 0 < self.sd < math.inf else 1.0

    def region(self, alternative: Alternative, observed: float) -> Region:
        """The values that speak for the alternative at least as much as the one seen.

        For "different" these are all that lie at least as far from the centre.
        """
        if alternative == "less":
            return Region(((-math.inf, observed),), self.slack(observed))
        if alternative == "greater":
            return Region(((observed, math.inf),), self.slack(observed))
        far = abs(observed - self.centre)
        if not far > self.slack(observed):
            return Region((EVERYTHING,))
        below, above = self.centre - far, self.centre + far
        return Region(((-math.inf, below), (above, math.inf)), self.slack(observed))

    def slack(self, observed: float) -> float:
        """How far rounding may put values that are equal; 0 for a density."""
        return 0.0

    def probability(self, region: Region) -> float:
        """P(X in region), each part from the side on which its digits are kept."""
        total = 0.0
        for low, high in region.parts:
            if low == -math.inf:
                total += 1.0 if high == math.inf else float(self.cdf(high))
            elif high == math.inf:
                total += float(self.sf(low))
            elif low >= self.centre:
                total += float(self.sf(low)) - float(self.sf(high))
            else:
                total += float(self.cdf(high)) - float(self.cdf(low))
        return min(1.0, max(0.0, total))

    def tail(self, alternative: Alternative, observed: float) -> float:
        """The p-value of what was seen: the probability of its region."""
        return self.probability(self.region(alternative, observed))

    def least_tail(self, alternative: Alternative) -> float:
        """The smallest p-value that anything seen could have; 0 for a density."""
        return 0.0

    def critical(self, alpha: float, alternative: Alternative) -> float:
        """Where the rejection region of level `alpha` begins (0 < alpha < 1).

        For "different" it is the upper of two ends. Source: any table of critical values.
        """
        if alternative == "less":
            return float(self.quantile(alpha))
        share = alpha if alternative == "greater" else alpha / 2
        return self.upper_quantile(share)

    def upper_quantile(self, share: float) -> float:
        """The value with P(X > value) = share; by symmetry where a family has it."""
        return float(self.quantile(1 - share))


class Discrete(Distribution):
    """A distribution with masses at single values."""

    discrete = True

    @abstractmethod
    def masses(self, low: float, high: float) -> tuple[Floats, Floats]:
        """The possible values within [low, high], ascending, and their chances."""

    def least_tail(self, alternative: Alternative) -> float:
        """The smallest p-value that a claim can come to: the chance of the outermost value, or of both.

        0 where the support is infinite.
        """
        low, high = self.support
        if not math.isfinite(high - low):
            return 0.0
        ends = {"less": (low,), "greater": (high,), "different": (low, high)}[alternative]
        return min(self.tail(alternative, end) for end in ends)

    def slack(self, observed: float) -> float:
        return 1e-9 * max(abs(observed), abs(self.centre), self.sd if math.isfinite(self.sd) else 0.0)

    def probability(self, region: Region) -> float:
        """P(X in region), by the masses of its values."""
        total = 0.0
        for low, high in region.parts:
            values, chances = self.masses(low - region.slack, high + region.slack)
            total += float(chances.sum()) if values.size else 0.0
        return min(1.0, total)


__all__ = ["EVERYTHING", "Discrete", "Distribution", "Region"]
