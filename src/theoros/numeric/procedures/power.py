"""Power: how often a test finds what is there, and how many cases that takes."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT

FAR = 30.0
"""Beyond this noncentrality t is taken as normal: its own series overflow there."""
LARGE = 300.0
"""Beyond this noncentrality F is told by Patnaik's approximation: its own series take long."""
MOST = 10_000_000
"""The largest sample that is looked for."""


@dataclass(frozen=True, slots=True)
class Power:
    """The power of a test, with the two laws of its statistic."""

    power: float
    shift: float
    """Where the statistic lies on average when the true value holds; 0 under H0."""
    df: float
    """Of t; infinite for z."""
    critical: float
    """The upper critical value, or the lower one of a claim that points down."""
    spread: float = 1.0
    """The standard deviation of z when the true value holds."""

    def height(self, at: Floats) -> Floats:
        """The density of the statistic when the true value holds."""
        if math.isinf(self.df):
            return Normal(self.shift, self.spread).height(at)
        if abs(self.shift) > FAR:
            return _far_t(self.shift, self.df).height(at)
        return _t_height(at, self.df, self.shift)

    def null_height(self, at: Floats) -> Floats:
        """The same under H0."""
        if math.isinf(self.df):
            return Normal().height(at)
        return StudentT(self.df).height(at)


def t_power(shift: float, df: float, alpha: float, claim: Alternative) -> Power:
    """The power of a t test whose statistic is noncentral t with `shift` as noncentrality.

    For one sample of n the shift is √n (μ − μ₀)/σ, for two (μ₁ − μ₂)/(σ √(1/n₁ + 1/n₂)) (Cohen
    1988, chapter 2).
    """
    from scipy.stats import nct

    limit = StudentT(df).critical(alpha, claim)
    if abs(shift) > FAR:
        law = _far_t(shift, df)
        tails = {"less": law.cdf(limit), "greater": law.sf(limit), "different": law.sf(limit) + law.cdf(-limit)}
        return Power(min(1.0, float(tails[claim])), shift, df, limit)
    if claim == "less":
        power = float(nct.cdf(limit, df, shift))
    elif claim == "greater":
        power = float(nct.sf(limit, df, shift))
    else:
        power = float(nct.sf(limit, df, shift) + nct.cdf(-limit, df, shift))
    return Power(min(1.0, max(0.0, power)), shift, df, limit)


def _t_height(at: Floats, df: float, shift: float) -> Floats:
    """The density of noncentral t, from its cdf: its own series overflow from 200 df on.

    f(x) = (df / x) (F(x √(1 + 2/df); df + 2) − F(x; df)) (Johnson, Kotz and Balakrishnan 1995,
    chapter 31).
    """
    x = np.where(np.abs(at) < 1e-6, 1e-6, at)
    wider = _t_cdf(x * math.sqrt(1 + 2 / df), df + 2, shift)
    return np.asarray(np.maximum(df / x * (wider - _t_cdf(x, df, shift)), 0.0))


def _t_cdf(at: Floats, df: float, shift: float) -> Floats:
    """The cdf of noncentral t, also so far out that SciPy's has no number: there it is 0 or 1."""
    from scipy.stats import nct

    found = nct.cdf(at, df, shift)
    return np.where(np.isnan(found), np.where(at > shift, 1.0, 0.0), found)


def _far_t(shift: float, df: float) -> Normal:
    """What a noncentral t comes to for a large noncentrality."""
    return Normal(shift, math.sqrt(1 + shift**2 / (2 * df)))


def z_power(shift: float, ratio: float, alpha: float, claim: Alternative) -> Power:
    """The same for z; `ratio` is the error under H0 over that at the true value."""
    limit = Normal().critical(alpha, claim)
    law = Normal(shift, 1 / ratio)
    if claim == "less":
        power = float(law.cdf(limit))
    elif claim == "greater":
        power = float(law.sf(limit))
    else:
        power = float(law.sf(limit)) + float(law.cdf(-limit))
    return Power(min(1.0, power), shift, math.inf, limit, 1 / ratio)


@dataclass(frozen=True, slots=True)
class FPower:
    """The power of an analysis of variance, with the two laws of F."""

    power: float
    noncentrality: float
    """n σ_m² / σ²: of the means of all cases over the spread within groups."""
    df1: float
    df2: float
    critical: float

    @property
    def shift(self) -> float:
        """Where F lies on average when the true means hold; infinite for two df or fewer."""
        if self.df2 <= 2:
            return math.inf
        return self.df2 * (self.df1 + self.noncentrality) / (self.df1 * (self.df2 - 2))

    def height(self, at: Floats) -> Floats:
        """The density of F when the true means hold."""
        if self.noncentrality > LARGE:
            law, scale = _patnaik(self.noncentrality, self.df1, self.df2)
            return law.height(at / scale) / scale
        from scipy.stats import ncf

        return np.asarray(ncf.pdf(at, self.df1, self.df2, self.noncentrality))

    def null_height(self, at: Floats) -> Floats:
        """The density of F where all means are equal, at values of any shape."""
        return FisherF(self.df1, self.df2).height(at)


def _patnaik(noncentrality: float, df1: float, df2: float) -> tuple[FisherF, float]:
    """A central F and a factor with the first two moments of the noncentral one (Patnaik 1949)."""
    return (FisherF((df1 + noncentrality) ** 2 / (df1 + 2 * noncentrality), df2), (df1 + noncentrality) / df1)


def f_power(noncentrality: float, df1: float, df2: float, alpha: float) -> FPower:
    """The power of F with `df1` and `df2` degrees of freedom (Cohen 1988, chapter 8)."""
    from scipy.stats import ncf

    limit = FisherF(df1, df2).upper_quantile(alpha)
    if noncentrality > LARGE:
        law, scale = _patnaik(noncentrality, df1, df2)
        power = float(law.sf(limit / scale))
    else:
        power = float(ncf.sf(limit, df1, df2, noncentrality))
    return FPower(min(1.0, max(0.0, power)), noncentrality, df1, df2, limit)


def least_n(power_of: Callable[[int], float], wanted: float, least: int = 2) -> int | None:
    """The smallest n with a power of at least `wanted`; None where none is large enough.

    The power grows with n.
    """
    high = least
    while power_of(high) < wanted:
        high *= 2
        if high > MOST:
            return None
    low = max(least - 1, high // 2)
    while high - low > 1:
        half = (low + high) // 2
        if power_of(half) < wanted:
            low = half
        else:
            high = half
    return high
