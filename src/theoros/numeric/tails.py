"""Tail areas and critical values for a claim that points one way or both.

Only scipy.special is used, and only once a tail is asked for: it is slow to import.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from theoros.numeric.arrays import Claim


@dataclass(frozen=True, slots=True)
class Curve:
    """A continuous null distribution that is symmetric about 0."""

    name: str
    cdf: Callable[[float], float]
    quantile: Callable[[float], float]
    df: float | None = None

    def tail(self, statistic: float, claim: Claim) -> float:
        """The p-value of `statistic`: the area as far out, or farther, the way claimed."""
        if claim == "less":
            return self.cdf(statistic)
        if claim == "greater":
            return self.cdf(-statistic)
        return min(1.0, 2 * self.cdf(-abs(statistic)))

    def critical(self, alpha: float, claim: Claim) -> float:
        """Where the rejection region begins: signed for one side, positive for two sides."""
        if claim == "less":
            return self.quantile(alpha)
        if claim == "greater":
            return -self.quantile(alpha)
        return -self.quantile(alpha / 2)


def student_t(df: float) -> Curve:
    """Student's t with `df` degrees of freedom (df > 0, need not be whole)."""
    from scipy import special

    return Curve(
        "t",
        lambda t: float(special.stdtr(df, t)),
        lambda p: float(special.stdtrit(df, p)),
        df,
    )


def standard_normal() -> Curve:
    """The standard normal curve."""
    from scipy import special

    return Curve("z", lambda z: float(special.ndtr(z)), lambda p: float(special.ndtri(p)))
