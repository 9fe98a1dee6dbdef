"""A distribution moved along the axis and stretched: estimate + standard error × t, for one."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution


@dataclass(frozen=True)
class Moved(Distribution):
    """`at` + `scale` × X, for X of a continuous distribution; `scale` above 0."""

    discrete: ClassVar[bool] = False
    of: Distribution
    at: float
    scale: float

    def __post_init__(self) -> None:
        if not self.scale > 0:
            raise ValueError("a scale must lie above 0")

    def _back(self, at: Floats | float) -> Floats:
        return (np.asarray(at, dtype=np.float64) - self.at) / self.scale

    @property
    def support(self) -> tuple[float, float]:
        low, high = self.of.support
        return self.at + self.scale * low, self.at + self.scale * high

    @property
    def mean(self) -> float:
        return self.at + self.scale * self.of.mean

    @property
    def sd(self) -> float:
        return self.scale * self.of.sd

    @property
    def centre(self) -> float:
        return self.at + self.scale * self.of.centre

    @property
    def unit(self) -> float:
        return self.scale * self.of.unit

    def height(self, at: Floats | float) -> Floats:
        return self.of.height(self._back(at)) / self.scale

    def cdf(self, at: Floats | float) -> Floats:
        return self.of.cdf(self._back(at))

    def sf(self, at: Floats | float) -> Floats:
        return self.of.sf(self._back(at))

    def quantile(self, p: Floats | float) -> Floats:
        return self.at + self.scale * self.of.quantile(p)

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return self.at + self.scale * self.of.draws(rng, size)
