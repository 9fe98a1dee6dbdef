"""The binomial distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.counting import Counting, whole_in
from theoros.numeric.distributions.distribution import EVERYTHING, Region
from theoros.numeric.distributions.saddlepoint import binomial_mass

SAME_MASS = 1e-7
"""Masses closer than this share count as equal, as in exact tests elsewhere."""


@dataclass(frozen=True)
class Binomial(Counting):
    """Successes in n independent trials (whole, 0 or more) of chance p each (0 to 1)."""

    n: int
    p: float

    def __post_init__(self) -> None:
        if self.n < 0 or self.n != int(self.n):
            raise ValueError("n must be a whole number, 0 or more")
        if not 0 <= self.p <= 1:
            raise ValueError("p must lie between 0 and 1")

    @property
    def support(self) -> tuple[float, float]:
        return (0.0 if self.p < 1 else float(self.n)), (float(self.n) if self.p > 0 else 0.0)

    @property
    def mean(self) -> float:
        return self.n * self.p

    @property
    def sd(self) -> float:
        return math.sqrt(self.n * self.p * (1 - self.p))

    @property
    def mode(self) -> float:
        """The likeliest value, ⌊(n + 1) p⌋; the greater of two that are equally likely."""
        return float(min(self.n, math.floor((self.n + 1) * self.p)))

    def height(self, at: Floats | float) -> Floats:
        """C(n, k) p^k (1 - p)^(n - k)."""
        return binomial_mass(at, float(self.n), self.p)

    def cdf(self, at: Floats | float) -> Floats:
        """The regularized incomplete beta function I_{1-p}(n - k, k + 1)."""
        from scipy.special import betainc

        k, inside, safe = whole_in(at, 0, self.n)
        found = betainc(np.maximum(self.n - safe, 0.5), safe + 1, 1 - self.p)
        return np.where(inside, found, np.where(k < 0, 0.0, 1.0))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc

        k, inside, safe = whole_in(at, 0, self.n)
        found = betainc(safe + 1, np.maximum(self.n - safe, 0.5), self.p)
        return np.where(inside, found, np.where(k < 0, 1.0, 0.0))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.binomial(self.n, self.p, size).astype(np.float64)

    def region(self, alternative: Alternative, observed: float) -> Region:
        """As for every distribution; two-sided, all values that are at most as likely.

        That is the rule of the exact binomial test (Hollander, Wolfe and Chicken, section 2.1).
        """
        if alternative != "different":
            return super().region(alternative, observed)
        mode = math.floor((self.n + 1) * self.p)
        limit = float(self.height(observed)) * (1 + SAME_MASS)
        if limit >= float(self.height(mode)):
            return Region((EVERYTHING,))
        below = self._last(0, mode, limit) if observed > mode else observed
        above = self._first(mode, self.n, limit) if observed < mode else observed
        parts = []
        if below >= 0:
            parts.append((-math.inf, float(below)))
        if above <= self.n:
            parts.append((float(above), math.inf))
        return Region(tuple(parts))

    def _last(self, low: int, high: int, limit: float) -> int:
        """The greatest k below the mode with a mass up to the limit; -1 for none."""
        if float(self.height(low)) > limit:
            return -1
        while low < high - 1:  # masses rise up to the mode
            middle = (low + high) // 2
            low, high = (middle, high) if self._is_up_to(middle, limit) else (low, middle)
        return low

    def _first(self, low: int, high: int, limit: float) -> int:
        """The least k above the mode with a mass up to the limit; n + 1 for none."""
        if float(self.height(high)) > limit:
            return self.n + 1
        while low < high - 1:  # and fall from there
            middle = (low + high) // 2
            low, high = (low, middle) if self._is_up_to(middle, limit) else (middle, high)
        return high

    def _is_up_to(self, k: int, limit: float) -> bool:
        return float(self.height(k)) <= limit
