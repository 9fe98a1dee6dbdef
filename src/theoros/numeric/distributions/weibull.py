"""The Weibull distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.positive import Positive


@dataclass(frozen=True)
class Weibull(Positive):
    """Lifetimes with P(X > x) = exp(-(x / scale)^shape), shape and scale above 0."""

    shape: float
    scale: float

    def __post_init__(self) -> None:
        if not (0 < self.shape < math.inf and 0 < self.scale < math.inf):
            raise ValueError("shape and scale must lie above 0")

    @property
    def mean(self) -> float:
        return self.scale * _gamma(1 + 1 / self.shape)

    @property
    def sd(self) -> float:
        spread = _gamma(1 + 2 / self.shape) - _gamma(1 + 1 / self.shape) ** 2
        return self.scale * math.sqrt(max(0.0, spread)) if math.isfinite(spread) else math.inf

    def _power(self, at: Floats | float) -> Floats:
        return (np.maximum(np.asarray(at, dtype=np.float64), 0.0) / self.scale) ** self.shape

    def height(self, at: Floats | float) -> Floats:
        x, above, safe = self._above(at)
        power = (safe / self.scale) ** self.shape
        made = self.shape / safe * power * np.exp(-power)
        edge = 1 / self.scale if self.shape == 1 else math.inf if self.shape < 1 else 0.0
        return np.where(above, made, np.where(x == 0, edge, 0.0))

    def cdf(self, at: Floats | float) -> Floats:
        return np.asarray(-np.expm1(-self._power(at)))

    def sf(self, at: Floats | float) -> Floats:
        return np.asarray(np.exp(-self._power(at)))

    def quantile(self, p: Floats | float) -> Floats:
        with np.errstate(divide="ignore"):
            return self.scale * (-np.log1p(-np.asarray(p, dtype=np.float64))) ** (1 / self.shape)

    def upper_quantile(self, share: float) -> float:
        return self.scale * (-math.log(share)) ** (1 / self.shape) if share > 0 else math.inf

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return self.scale * rng.weibull(self.shape, size)


def _gamma(x: float) -> float:
    return math.gamma(x) if x < 171 else math.inf
