"""The continuous uniform distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution


@dataclass(frozen=True)
class Uniform(Distribution):
    """Any value from `low` to `high` (low < high) alike: density 1 / (high - low)."""

    discrete = False
    low: float
    high: float

    def __post_init__(self) -> None:
        if not self.low < self.high or not math.isfinite(self.high - self.low):
            raise ValueError("the least value must lie below the greatest")

    @property
    def support(self) -> tuple[float, float]:
        return self.low, self.high

    @property
    def mean(self) -> float:
        return self.low / 2 + self.high / 2

    @property
    def sd(self) -> float:
        return (self.high - self.low) / math.sqrt(12)

    def height(self, at: Floats | float) -> Floats:
        x = np.asarray(at)
        return np.where((x >= self.low) & (x <= self.high), 1 / (self.high - self.low), 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        return np.asarray(np.clip((np.asarray(at) - self.low) / (self.high - self.low), 0, 1))

    def sf(self, at: Floats | float) -> Floats:
        return np.asarray(np.clip((self.high - np.asarray(at)) / (self.high - self.low), 0, 1))

    def quantile(self, p: Floats | float) -> Floats:
        return np.asarray(self.low + np.asarray(p) * (self.high - self.low))

    def upper_quantile(self, share: float) -> float:
        return self.high - share * (self.high - self.low)

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.uniform(self.low, self.high, size)
