"""The normal distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution


@dataclass(frozen=True)
class Normal(Distribution):
    """Normal with a mean and a standard deviation above 0; the standard one by default.

    Density exp(-z²/2) / (sd √(2π)) with z = (x - mean) / sd.
    """

    discrete = False
    mu: float = 0.0
    sigma: float = 1.0

    def __post_init__(self) -> None:
        if not (math.isfinite(self.mu) and 0 < self.sigma < math.inf):
            raise ValueError("a normal distribution needs a finite mean and an sd above 0")

    @property
    def support(self) -> tuple[float, float]:
        return -math.inf, math.inf

    @property
    def mean(self) -> float:
        return self.mu

    @property
    def sd(self) -> float:
        return self.sigma

    def height(self, at: Floats | float) -> Floats:
        z = (np.asarray(at) - self.mu) / self.sigma
        return np.asarray(np.exp(-z * z / 2) / (self.sigma * math.sqrt(2 * math.pi)))

    def cdf(self, at: Floats | float) -> Floats:
        from scipy.special import ndtr

        return np.asarray(ndtr((np.asarray(at) - self.mu) / self.sigma))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import ndtr

        return np.asarray(ndtr((self.mu - np.asarray(at)) / self.sigma))

    def quantile(self, p: Floats | float) -> Floats:
        from scipy.special import ndtri

        return np.asarray(self.mu + self.sigma * ndtri(p))

    def upper_quantile(self, share: float) -> float:
        return 2 * self.mu - float(self.quantile(share))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.normal(self.mu, self.sigma, size)
