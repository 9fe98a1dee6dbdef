"""The exponential distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.positive import Positive


@dataclass(frozen=True)
class Exponential(Positive):
    """Waiting times with a mean above 0: density exp(-x / mean) / mean."""

    average: float

    def __post_init__(self) -> None:
        if not 0 < self.average < math.inf:
            raise ValueError("the mean must lie above 0")

    @property
    def mean(self) -> float:
        return self.average

    @property
    def sd(self) -> float:
        return self.average

    def height(self, at: Floats | float) -> Floats:
        x = np.asarray(at, dtype=np.float64)
        return np.where(x >= 0, np.exp(-np.maximum(x, 0.0) / self.average) / self.average, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        return np.asarray(-np.expm1(-np.maximum(np.asarray(at), 0.0) / self.average))

    def sf(self, at: Floats | float) -> Floats:
        return np.asarray(np.exp(-np.maximum(np.asarray(at), 0.0) / self.average))

    def quantile(self, p: Floats | float) -> Floats:
        with np.errstate(divide="ignore"):
            return np.asarray(-self.average * np.log1p(-np.asarray(p, dtype=np.float64)))

    def upper_quantile(self, share: float) -> float:
        return -self.average * math.log(share) if share > 0 else math.inf

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.exponential(self.average, size)
