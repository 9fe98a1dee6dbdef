"""The Poisson distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.counting import Counting, whole_in
from theoros.numeric.distributions.saddlepoint import poisson_mass


@dataclass(frozen=True)
class Poisson(Counting):
    """Events that come singly and independently, `rate` (0 or more) of them on average.

    P(X = k) = rate^k exp(-rate) / k!
    """

    rate: float

    def __post_init__(self) -> None:
        if not 0 <= self.rate < math.inf:
            raise ValueError("the mean of a Poisson distribution must be 0 or more")

    @property
    def support(self) -> tuple[float, float]:
        return 0.0, math.inf if self.rate > 0 else 0.0

    @property
    def mean(self) -> float:
        return self.rate

    @property
    def sd(self) -> float:
        return math.sqrt(self.rate)

    @property
    def mode(self) -> float:
        """The likeliest value, ⌊λ⌋."""
        return float(math.floor(self.rate))

    def height(self, at: Floats | float) -> Floats:
        return poisson_mass(at, self.rate)

    def cdf(self, at: Floats | float) -> Floats:
        """The regularized upper incomplete gamma function Q(k + 1, rate)."""
        from scipy.special import gammaincc

        k, inside, safe = whole_in(at, 0, math.inf)
        return np.where(inside, gammaincc(safe + 1, self.rate), np.where(k < 0, 0.0, 1.0))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import gammainc

        k, inside, safe = whole_in(at, 0, math.inf)
        return np.where(inside, gammainc(safe + 1, self.rate), np.where(k < 0, 1.0, 0.0))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.poisson(self.rate, size).astype(np.float64)
