"""Intervals of medians and other quantiles between two of the ordered values."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.procedures.means import TooFewValues


@dataclass(frozen=True, slots=True)
class BetweenValues:
    """The ordered values at two ranks, from 1, with the exact level of the interval."""

    low: float
    high: float
    low_rank: int
    high_rank: int
    level: float


def quantile_interval(values: Floats, share: float, confidence: float) -> BetweenValues:
    """The quantile that a `share` (between 0 and 1) of the population lies below.

    The number of values below it is binomial, so that X₍ₗ₎ and X₍ᵤ₎ enclose it with probability
    P(l <= B <= u - 1) or more (Conover 1999, section 3.2). Each tail is at most half of what the
    confidence leaves. Raises TooFewValues where even the outermost values are too narrow.
    """
    n = int(values.size)
    law, tail = Binomial(n, share), (1 - confidence) / 2
    slack = tail * (1 + 1e-9)
    ranks = np.arange(1, n + 1, dtype=np.float64)
    below = np.asarray(law.cdf(ranks - 1))  # P(B <= l - 1)
    above = np.asarray(law.sf(ranks - 1))  # P(B >= u)
    lows, highs = np.flatnonzero(below <= slack), np.flatnonzero(above <= slack)
    if not lows.size or not highs.size:
        raise TooFewValues
    first, last = int(lows[-1]), int(highs[0])
    ordered = np.sort(values)
    level = 1.0 - float(below[first]) - float(above[last])
    return BetweenValues(float(ordered[first]), float(ordered[last]), first + 1, last + 1, level)


def highest_level(n: int, share: float) -> float:
    """The level that the outermost of `n` values reach for a quantile."""
    return 1.0 - (1 - share) ** n - share**n
