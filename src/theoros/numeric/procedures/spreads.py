"""Spreads: one standard deviation against a claimed one, and those of several groups."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.procedures.analysis_of_variance import OneWay, one_way
from theoros.numeric.procedures.means import NoSpread, TooFewValues


@dataclass(frozen=True, slots=True)
class VarianceTest:
    """(n − 1) s² / σ₀² with its degrees of freedom, or a ratio of two variances with both."""

    statistic: float
    df: float
    df2: float | None = None


def chi_square_variance(n: int, sd: float, null_sd: float) -> VarianceTest:
    """χ² = (n − 1) s² / σ₀², df = n − 1, for values from a normal population.

    Raises TooFewValues below two values.
    """
    if n < 2:
        raise TooFewValues
    return VarianceTest((n - 1) * (sd / null_sd) ** 2, n - 1)


def f_ratio(n1: int, sd1: float, n2: int, sd2: float) -> VarianceTest:
    """F = s₁² / s₂² with n₁ − 1 and n₂ − 1 degrees of freedom, for normal populations.

    Raises TooFewValues below two values, NoSpread where the second does not spread.
    """
    if min(n1, n2) < 2:
        raise TooFewValues
    if sd2 == 0 or sd1 == 0:
        raise NoSpread
    return VarianceTest((sd1 / sd2) ** 2, n1 - 1, n2 - 1)


def from_medians(groups: Sequence[Floats]) -> list[Floats]:
    """How far each value lies from the median of its group."""
    return [np.abs(group - np.median(group)) for group in groups]


def brown_forsythe(groups: Sequence[Floats]) -> OneWay:
    """Analysis of variance of the distances from the medians (Brown and Forsythe 1974)."""
    return one_way(from_medians(groups))
