"""Whole numbers that are all as likely, as the faces of a die."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.counting import Counting


@dataclass(frozen=True)
class DiscreteUniform(Counting):
    """Each whole number from `low` to `high` (low <= high) with the same chance."""

    low: int
    high: int

    def __post_init__(self) -> None:
        if self.low > self.high:
            raise ValueError("the least value cannot lie above the greatest")

    @property
    def size(self) -> int:
        return self.high - self.low + 1

    @property
    def support(self) -> tuple[float, float]:
        return float(self.low), float(self.high)

    @property
    def mean(self) -> float:
        return (self.low + self.high) / 2

    @property
    def sd(self) -> float:
        """√((m² - 1) / 12) for m values."""
        return math.sqrt((self.size**2 - 1) / 12)

    @property
    def mode(self) -> float:
        """The least value, as all are equally likely."""
        return float(self.low)

    def height(self, at: Floats | float) -> Floats:
        k = np.asarray(at, dtype=np.float64)
        inside = (k >= self.low) & (k <= self.high) & (k == np.floor(k))
        return np.where(inside, 1 / self.size, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        k = np.floor(np.asarray(at, dtype=np.float64))
        return np.asarray(np.clip(k - self.low + 1, 0, self.size) / self.size)

    def sf(self, at: Floats | float) -> Floats:
        k = np.floor(np.asarray(at, dtype=np.float64))
        return np.asarray(np.clip(self.high - k, 0, self.size) / self.size)

    def between(self, low: float, high: float) -> float:
        """P(low <= X <= high); the ends may be infinite, and need not be whole."""
        first = self.low if low <= self.low else math.ceil(min(low, self.high + 1))
        last = self.high if high >= self.high else math.floor(max(high, self.low - 1))
        return max(0, last - first + 1) / self.size

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.integers(self.low, self.high, size, endpoint=True).astype(np.float64)
