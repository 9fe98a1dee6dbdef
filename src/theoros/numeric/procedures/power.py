"""Power: how often a test finds what is there, and how many cases that takes."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT

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

    def height(self, at: Floats) -> Floats:
        """The density of the statistic when the true value holds."""
        if math.isinf(self.df):
            return Normal(self.shift, 1.0).height(at)
        from scipy.stats import nct

        return np.asarray(nct.pdf(at, self.df, self.shift))

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
    if claim == "less":
        power = float(nct.cdf(limit, df, shift))
    elif claim == "greater":
        power = float(nct.sf(limit, df, shift))
    else:
        power = float(nct.sf(limit, df, shift) + nct.cdf(-limit, df, shift))
    return Power(min(1.0, max(0.0, power)), shift, df, limit)


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
    return Power(min(1.0, power), shift, math.inf, limit)


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
