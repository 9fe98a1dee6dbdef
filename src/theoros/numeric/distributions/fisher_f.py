"""Fisher's F distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.positive import Positive


@dataclass(frozen=True)
class FisherF(Positive):
    """The ratio of two variances with df1 and df2 degrees of freedom, both above 0.

    With y = df1 x / (df1 x + df2) it is a beta distribution of shapes df1 / 2 and df2 / 2.
    """

    df1: float
    df2: float
    centre: ClassVar[float] = 1.0

    def __post_init__(self) -> None:
        if not (0 < self.df1 < math.inf and 0 < self.df2 < math.inf):
            raise ValueError("degrees of freedom must lie above 0")

    @property
    def mean(self) -> float:
        return self.df2 / (self.df2 - 2) if self.df2 > 2 else math.nan

    @property
    def sd(self) -> float:
        one, two = self.df1, self.df2
        if two <= 4:
            return math.inf if two > 2 else math.nan
        return two / (two - 2) * math.sqrt(2 * (one + two - 2) / (one * (two - 4)))

    @property
    def unit(self) -> float:
        return self.sd if 0 < self.sd < math.inf else 1.0

    def _shares(self, x: Floats) -> tuple[Floats, Floats]:
        """y and 1 - y, each by itself, so that the small one keeps its digits."""
        ratio = self.df1 * x / self.df2
        return ratio / (1 + ratio), 1 / (1 + ratio)

    def height(self, at: Floats | float) -> Floats:
        from scipy.special import betaln

        x, above, safe = self._above(at)
        a, b = self.df1 / 2, self.df2 / 2
        y, rest = self._shares(safe)
        made = np.exp(a * np.log(y) + b * np.log(rest) - betaln(a, b)) / safe
        edge = 1.0 if self.df1 == 2 else math.inf if self.df1 < 2 else 0.0
        return np.where(above, made, np.where(x == 0, edge, 0.0))

    def cdf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc, betaincc

        _, above, safe = self._above(at)
        y, rest = self._shares(safe)
        a, b = self.df1 / 2, self.df2 / 2
        found = np.where(y < rest, betainc(a, b, y), betaincc(b, a, rest))
        return np.where(above, found, 0.0)

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc, betaincc

        _, above, safe = self._above(at)
        y, rest = self._shares(safe)
        a, b = self.df1 / 2, self.df2 / 2
        found = np.where(y < rest, betaincc(a, b, y), betainc(b, a, rest))
        return np.where(above, found, 1.0)

    def quantile(self, p: Floats | float) -> Floats:
        return self._at(np.asarray(p, dtype=np.float64), 1 - np.asarray(p, dtype=np.float64))

    def upper_quantile(self, share: float) -> float:
        return float(self._at(np.asarray(1 - share), np.asarray(share)))

    def _at(self, below: Floats, above: Floats) -> Floats:
        """Where so much lies below and above: from y or 1 - y, whichever is small."""
        from scipy.special import betaincinv

        y = betaincinv(self.df1 / 2, self.df2 / 2, below)
        rest = betaincinv(self.df2 / 2, self.df1 / 2, above)
        with np.errstate(divide="ignore", invalid="ignore"):
            ratio = np.where((y < 0.5) | (rest >= 1), y / (1 - y), (1 - rest) / rest)
        return np.asarray(self.df2 * ratio / self.df1)

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.f(self.df1, self.df2, size)
