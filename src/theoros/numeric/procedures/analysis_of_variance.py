"""Several groups: analysis of variance and what goes with it, from values or from figures."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import Moments, NoSpread, Sampled, TooFewValues
from theoros.numeric.procedures.ranks import average_ranks
from theoros.numeric.summaries import mean_and_sd

ROUNDING = 1e-28
"""Of the whole sum of squares: what rounding leaves within groups of equal values."""


@dataclass(frozen=True, slots=True)
class OneWay:
    """The table of a one-way analysis of variance, in squared data units."""

    between: float
    within: float
    df_between: int
    df_within: int

    @property
    def mean_within(self) -> float:
        """Mean square within groups, the pooled variance: SS within over its degrees of freedom."""
        return self.within / self.df_within

    @property
    def f(self) -> float:
        """F = MS between / MS within."""
        return (self.between / self.df_between) / self.mean_within

    @property
    def p(self) -> float:
        """P(F >= f) with (df between, df within)."""
        return float(FisherF(self.df_between, self.df_within).sf(self.f))

    @property
    def eta_squared(self) -> float:
        """The share of the whole sum of squares that lies between groups."""
        return self.between / (self.between + self.within)

    @property
    def omega_squared(self) -> float:
        """The same less what chance gives (Hays 1963); it can be below 0."""
        whole = self.between + self.within
        return (self.between - self.df_between * self.mean_within) / (whole + self.mean_within)


def moments_of(group: Sampled) -> Moments:
    """n, mean and standard deviation of a sample."""
    if isinstance(group, Moments):
        return group
    return Moments(int(group.size), *mean_and_sd(group))


def one_way(groups: Sequence[Sampled]) -> OneWay:
    """One-way analysis of variance of two or more groups (Fisher 1925).

    Values are moved by their common mean first, so that an offset costs no digits. Raises
    TooFewValues for an empty group or where every group has one value, NoSpread where no value
    differs from the mean of its group.
    """
    if len(groups) < 2 or min(_size(group) for group in groups) < 1:
        raise TooFewValues
    if all(not isinstance(group, Moments) for group in groups):
        return _of_values([np.asarray(group) for group in groups])
    found = [moments_of(group) for group in groups]
    n = sum(one.n for one in found)
    if n <= len(found):
        raise TooFewValues
    middle = math.fsum(one.n * one.mean for one in found) / n
    between = math.fsum(one.n * (one.mean - middle) ** 2 for one in found)
    within = math.fsum((one.n - 1) * one.sd**2 for one in found)
    return _checked(between, within, len(found) - 1, n - len(found))


def _of_values(groups: list[Floats]) -> OneWay:
    sizes = np.array([group.size for group in groups])
    n = int(sizes.sum())
    if n <= len(groups):
        raise TooFewValues
    everything = np.concatenate(groups)
    shift = float(everything[0])
    moved = everything - shift
    own_groups = np.split(moved, np.cumsum(sizes)[:-1])
    means = [float(own.mean()) for own in own_groups]
    middle = float(moved.mean())
    between = math.fsum(own.size * (mean - middle) ** 2 for own, mean in zip(own_groups, means, strict=True))
    within = 0.0
    for own, mean in zip(own_groups, means, strict=True):
        rest = own - mean
        within += float(rest @ rest) - float(rest.sum()) ** 2 / own.size
    return _checked(between, within, len(groups) - 1, n - len(groups))


def _checked(between: float, within: float, df_between: int, df_within: int) -> OneWay:
    if within <= ROUNDING * between or within == 0:
        raise NoSpread
    return OneWay(between, within, df_between, df_within)


def _size(group: Sampled) -> int:
    return group.n if isinstance(group, Moments) else int(group.size)


@dataclass(frozen=True, slots=True)
class WelchAnova:
    """Welch's F with its degrees of freedom."""

    f: float
    df_between: int
    df_within: float

    @property
    def p(self) -> float:
        """P(F >= f) with Welch’s degrees of freedom."""
        return float(FisherF(self.df_between, self.df_within).sf(self.f))


def welch_anova(groups: Sequence[Sampled]) -> WelchAnova:
    """Means of several groups whose spreads may differ (Welch 1951).

    With w = n/s², W = Σw and the weighted mean x̃: F = Σ w (x̄ − x̃)² / (k − 1) over
    1 + 2 (k − 2)/(k² − 1) Λ, where Λ = Σ (1 − w/W)² / (n − 1) and df = (k² − 1)/(3 Λ). Raises
    TooFewValues below two values in a group, NoSpread where a group does not spread.
    """
    found = [moments_of(group) for group in groups]
    k = len(found)
    if k < 2 or min(one.n for one in found) < 2:
        raise TooFewValues
    if min(one.sd for one in found) == 0:
        raise NoSpread
    shift = found[0].mean
    weights = [one.n / one.sd**2 for one in found]
    whole = math.fsum(weights)
    middle = math.fsum(w * (one.mean - shift) for w, one in zip(weights, found, strict=True))
    middle /= whole
    squares = zip(weights, found, strict=True)
    between = math.fsum(w * (one.mean - shift - middle) ** 2 for w, one in squares) / (k - 1)
    rest = math.fsum((1 - w / whole) ** 2 / (one.n - 1) for w, one in zip(weights, found, strict=True))
    f = between / (1 + 2 * (k - 2) / (k * k - 1) * rest)
    return WelchAnova(f, k - 1, (k * k - 1) / (3 * rest))


@dataclass(frozen=True, slots=True)
class KruskalWallis:
    """H, corrected for ties, with the mean rank of each group."""

    h: float
    df: int
    mean_ranks: tuple[float, ...]
    tied: bool

    @property
    def p(self) -> float:
        """P(χ² >= H) with k − 1 degrees of freedom."""
        return float(ChiSquare(self.df).sf(self.h))


def kruskal_wallis(groups: Sequence[Floats]) -> KruskalWallis:
    """Rank test of several groups (Kruskal and Wallis 1952), with the correction for ties.

    H = 12/(N (N + 1)) Σ n R̄² − 3 (N + 1), divided by 1 − Σ(t³ − t)/(N³ − N); df = k − 1. Raises
    TooFewValues for an empty group, NoSpread where all values are equal.
    """
    if len(groups) < 2 or min(group.size for group in groups) < 1:
        raise TooFewValues
    ranks = average_ranks(np.concatenate(groups))
    n = ranks.size
    _, times = np.unique(ranks, return_counts=True)
    ties = float((times.astype(np.float64) ** 3 - times).sum())
    correction = 1 - ties / (float(n) ** 3 - n)
    if correction <= 0:
        raise NoSpread
    ends = np.cumsum([group.size for group in groups])
    means = [float(own.mean()) for own in np.split(ranks, ends[:-1])]
    middle = (n + 1) / 2
    spread = math.fsum(group.size * (mean - middle) ** 2 for group, mean in zip(groups, means, strict=True))
    h = 12 / (n * (n + 1)) * spread / correction
    return KruskalWallis(h, len(groups) - 1, tuple(means), ties > 0)
