"""The geometric distribution, counting trials or failures."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.counting import Counting


@dataclass(frozen=True)
class Geometric(Counting):
    """Trials of chance p (0 < p <= 1) up to the first success; with `failures`, those before it.

    P(X = k) = (1 - p)^(k - 1) p for k = 1, 2, … trials.
    """

    p: float
    failures: bool = False

    def __post_init__(self) -> None:
        if not 0 < self.p <= 1:
            raise ValueError("p must lie above 0 and be at most 1")

    @property
    def _first(self) -> float:
        return 0.0 if self.failures else 1.0

    @property
    def support(self) -> tuple[float, float]:
        return self._first, math.inf if self.p < 1 else self._first

    @property
    def mean(self) -> float:
        return (1 - self.p) / self.p + self._first

    @property
    def sd(self) -> float:
        return math.sqrt(1 - self.p) / self.p

    @property
    def mode(self) -> float:
        """The first value, which is the likeliest."""
        return self._first

    @property
    def summed(self) -> bool:
        """Never: its tails have a closed form."""
        return False

    def _missed(self, trials: Floats) -> Floats:
        """The chance that so many trials all fail."""
        if self.p == 1:
            return np.where(trials <= 0, 1.0, 0.0)
        return np.asarray(np.exp(np.maximum(trials, 0.0) * math.log1p(-self.p)))

    def height(self, at: Floats | float) -> Floats:
        k = np.asarray(at, dtype=np.float64)
        inside = (k >= self._first) & (k == np.floor(k)) & np.isfinite(k)
        return np.where(inside, self.p * self._missed(np.where(inside, k, 0.0) - self._first), 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        trials = np.floor(np.asarray(at, dtype=np.float64)) - self._first + 1
        if self.p == 1:
            return np.where(trials >= 1, 1.0, 0.0)
        return np.asarray(-np.expm1(np.maximum(trials, 0.0) * math.log1p(-self.p)))

    def sf(self, at: Floats | float) -> Floats:
        return self._missed(np.floor(np.asarray(at, dtype=np.float64)) - self._first + 1)

    def _by_tails(self, low: float, high: float) -> float:
        if math.isinf(high):
            return float(self.sf(low - 1))
        # P(low <= X <= high) = (1 - p)^(low - first) (1 - (1 - p)^(high - low + 1))
        return float(self.sf(low - 1)) * float(self.cdf(high - low + self._first))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return np.asarray(rng.geometric(self.p, size) - (1.0 - self._first), dtype=float)
