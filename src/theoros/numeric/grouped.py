"""Figures of grouped data: classes with limits and frequencies, where single values are unknown."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True)
class Grouped:
    """What can be said from classes, as if each value stood at the middle of its class."""

    n: float
    mean: float
    sd: float
    """Divisor n - 1; NaN below 2."""
    median: float
    """By interpolation within the class that holds the middle."""
    median_class: int
    below: float
    """How many lie below that class."""


def grouped(low: Floats, high: Floats, counts: Floats) -> Grouped:
    """Mean, sd and median of classes in order, low < high, each high at most the next low.

    mean = sum f m / n; sd = sqrt(sum f (m - mean)^2 / (n - 1)); median = L + (n / 2 - F) / f × w.
    Raises ValueError where the classes overlap, are out of order, or hold nothing.
    """
    if not (np.all(high > low) and np.all(low[1:] >= high[:-1])):
        raise ValueError("classes must rise and not overlap")
    n = float(counts.sum())
    if n <= 0 or np.any(counts < 0):
        raise ValueError("classes must hold something")
    middle = low + (high - low) / 2
    mean = float((counts * middle).sum() / n)
    square = float((counts * (middle - mean) ** 2).sum())
    sd = math.sqrt(square / (n - 1)) if n > 1 else math.nan
    reached = np.cumsum(counts)
    at = int(np.searchsorted(reached, n / 2))
    before = float(reached[at - 1]) if at else 0.0
    width = float(high[at] - low[at])
    median = float(low[at]) + (n / 2 - before) / float(counts[at]) * width
    return Grouped(n, mean, sd, median, at, before)
