"""Student's t distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Distribution


@dataclass(frozen=True)
class StudentT(Distribution):
    """Student's t with `df` degrees of freedom, above 0 and not necessarily whole.

    Density Γ((df+1)/2) / (Γ(df/2) √(df π)) (1 + t²/df)^(-(df+1)/2) (Student 1908).
    """

    discrete = False
    df: float
    centre: ClassVar[float] = 0.0

    def __post_init__(self) -> None:
        if not 0 < self.df < math.inf:
            raise ValueError("degrees of freedom must lie above 0")

    @property
    def support(self) -> tuple[float, float]:
        return -math.inf, math.inf

    @property
    def mean(self) -> float:
        """0 for df > 1; below, there is none, and 0 is still the centre."""
        return 0.0 if self.df > 1 else math.nan

    @property
    def sd(self) -> float:
        if self.df > 2:
            return math.sqrt(self.df / (self.df - 2))
        return math.inf if self.df > 1 else math.nan

    @property
    def unit(self) -> float:
        """1: t is told in standard errors."""
        return 1.0

    def height(self, at: Floats | float) -> Floats:
        at, df = np.asarray(at), self.df
        log_scale = math.lgamma((df + 1) / 2) - math.lgamma(df / 2) - 0.5 * math.log(df * math.pi)
        return np.asarray(np.exp(log_scale - (df + 1) / 2 * np.log1p(at * at / df)))

    def cdf(self, at: Floats | float) -> Floats:
        return self.sf(-np.asarray(at, dtype=np.float64))

    def sf(self, at: Floats | float) -> Floats:
        """Half of the incomplete beta function of t² / (df + t²), or of its rest.

        Whichever is small: for large df the other has lost its digits to 1.
        """
        from scipy.special import betainc, betaincc

        t, df = np.asarray(at, dtype=np.float64), self.df
        with np.errstate(over="ignore"):
            ratio = np.minimum(t * (t / df), 1e300)
        y, rest = ratio / (1 + ratio), 1 / (1 + ratio)
        half = np.where(y < rest, betaincc(0.5, df / 2, y), betainc(df / 2, 0.5, rest)) / 2
        return np.asarray(np.where(t >= 0, half, 1 - half))

    def quantile(self, p: Floats | float) -> Floats:
        from scipy.special import stdtrit

        return np.asarray(stdtrit(self.df, p))

    def upper_quantile(self, share: float) -> float:
        return -float(self.quantile(share))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.standard_t(self.df, size)
