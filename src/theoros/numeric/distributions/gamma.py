"""The gamma distribution, and the exponential and chi-square among it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.positive import Positive
from theoros.numeric.distributions.saddlepoint import poisson_mass_at


@dataclass(frozen=True)
class Gamma(Positive):
    """Gamma with a shape and a scale, both above 0.

    Density x^(shape - 1) exp(-x / scale) / (Γ(shape) scale^shape).
    """

    shape: float
    scale: float = 1.0

    def __post_init__(self) -> None:
        if not (0 < self.shape < math.inf and 0 < self.scale < math.inf):
            raise ValueError("shape and scale must lie above 0")

    @property
    def mean(self) -> float:
        return self.shape * self.scale

    @property
    def sd(self) -> float:
        return math.sqrt(self.shape) * self.scale

    def height(self, at: Floats | float) -> Floats:
        """Loader's form of the density: a Poisson mass at shape - 1, of any real shape."""
        x, above, safe = self._above(at)
        made = poisson_mass_at(self.shape, safe / self.scale) * self.shape / safe
        if self.shape <= 1:
            edge = 1 / self.scale if self.shape == 1 else math.inf
            return np.where(above, made, np.where(x == 0, edge, 0.0))
        return np.where(above, made, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        from scipy.special import gammainc

        _, above, safe = self._above(at)
        return np.where(above, gammainc(self.shape, safe / self.scale), 0.0)

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import gammaincc

        _, above, safe = self._above(at)
        return np.where(above, gammaincc(self.shape, safe / self.scale), 1.0)

    def quantile(self, p: Floats | float) -> Floats:
        from scipy.special import gammaincinv

        return np.asarray(self.scale * gammaincinv(self.shape, p))

    def upper_quantile(self, share: float) -> float:
        from scipy.special import gammainccinv

        return float(self.scale * gammainccinv(self.shape, share))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.gamma(self.shape, self.scale, size)
