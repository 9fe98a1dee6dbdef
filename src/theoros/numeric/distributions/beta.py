"""The beta distribution."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution


@dataclass(frozen=True)
class Beta(Distribution):
    """Shares between 0 and 1: density x^(a - 1) (1 - x)^(b - 1) / B(a, b), a and b above 0."""

    discrete = False
    a: float
    b: float
    support: ClassVar[tuple[float, float]] = 0.0, 1.0

    def __post_init__(self) -> None:
        if not (0 < self.a < math.inf and 0 < self.b < math.inf):
            raise ValueError("both shapes must lie above 0")

    @property
    def mean(self) -> float:
        return self.a / (self.a + self.b)

    @property
    def sd(self) -> float:
        total = self.a + self.b
        return math.sqrt(self.a * self.b / (total + 1)) / total

    def height(self, at: Floats | float) -> Floats:
        from scipy.special import betaln

        x = np.asarray(at, dtype=np.float64)
        inside = (x > 0) & (x < 1)
        safe = np.where(inside, x, 0.5)
        log = (self.a - 1) * np.log(safe) + (self.b - 1) * np.log1p(-safe) - betaln(self.a, self.b)
        edge = np.where((x == 0) & (self.a <= 1), math.inf if self.a < 1 else self.b, 0.0)
        edge = np.where((x == 1) & (self.b <= 1), math.inf if self.b < 1 else self.a, edge)
        return np.where(inside, np.exp(log), edge)

    def cdf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc

        return np.asarray(betainc(self.a, self.b, np.clip(np.asarray(at, dtype=float), 0, 1)))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import betaincc

        return np.asarray(betaincc(self.a, self.b, np.clip(np.asarray(at, dtype=float), 0, 1)))

    def quantile(self, p: Floats | float) -> Floats:
        from scipy.special import betaincinv

        p = np.asarray(p, dtype=np.float64)
        return self._polished(betaincinv(self.a, self.b, p), lambda x: self.cdf(x) - p)

    def upper_quantile(self, share: float) -> float:
        from scipy.special import betainccinv

        found = betainccinv(self.a, self.b, share)
        return float(self._polished(np.asarray(found), lambda x: share - self.sf(x)))

    def _polished(self, x: Floats, over: Callable[[Floats], Floats]) -> Floats:
        """Newton's steps from what the library gives: for small shapes that is good to 4 digits."""
        for _ in range(3):
            with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
                moved = x - over(x) / self.height(x)
            x = np.where((moved > 0) & (moved < 1), moved, x)
        return np.asarray(x)

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.beta(self.a, self.b, size)
