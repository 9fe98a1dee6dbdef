"""The lognormal distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.positive import Positive


@dataclass(frozen=True)
class Lognormal(Positive):
    """Values whose logarithm is normal with mean mu and standard deviation sigma (above 0)."""

    mu: float
    sigma: float

    def __post_init__(self) -> None:
        if not (math.isfinite(self.mu) and 0 < self.sigma < math.inf):
            raise ValueError("the logarithm needs a finite mean and an sd above 0")

    @property
    def log(self) -> Normal:
        """The distribution of the logarithm."""
        return Normal(self.mu, self.sigma)

    @property
    def mean(self) -> float:
        return _exp(self.mu + self.sigma**2 / 2)

    @property
    def sd(self) -> float:
        square = self.sigma**2
        if square > 700:
            return math.inf
        return _exp(self.mu + square / 2) * math.sqrt(math.expm1(square))

    def height(self, at: Floats | float) -> Floats:
        _, above, safe = self._above(at)
        return np.where(above, self.log.height(np.log(safe)) / safe, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        _, above, safe = self._above(at)
        return np.where(above, self.log.cdf(np.log(safe)), 0.0)

    def sf(self, at: Floats | float) -> Floats:
        _, above, safe = self._above(at)
        return np.where(above, self.log.sf(np.log(safe)), 1.0)

    def quantile(self, p: Floats | float) -> Floats:
        return np.exp(self.log.quantile(p))

    def upper_quantile(self, share: float) -> float:
        return _exp(self.log.upper_quantile(share))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.lognormal(self.mu, self.sigma, size)


def _exp(x: float) -> float:
    return math.exp(x) if x < 709.7 else math.inf
