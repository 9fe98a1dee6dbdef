"""Rank-based procedures: rank sum for separate samples, signed rank for matched pairs.

Exact null distributions count every assignment of the ranks at hand, average ranks of
ties included, so that "exact" stays exact with tied values (Hollander, Wolfe and Chicken,
"Nonparametric Statistical Methods", 3rd ed., sections 3.1 and 4.1, comments on ties).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.heavy import np
from theoros.numeric.arrays import Claim, Floats, subtract
from theoros.numeric.t_tests import NoSpread, TooFewValues
from theoros.numeric.tails import standard_normal

EXACT_UP_TO = 60
"""With more values than this (both groups together) the normal curve stands in."""


@dataclass(frozen=True, slots=True)
class NullDistribution:
    """Possible values of a statistic, ascending, with the chance of each under H0."""

    values: Floats
    chances: Floats

    def tail(self, statistic: float, claim: Claim) -> float:
        """The p-value; two sides are twice the smaller tail, at most 1."""
        slack = 1e-9 * max(1.0, abs(statistic))
        below = float(self.chances[self.values <= statistic + slack].sum())
        above = float(self.chances[self.values >= statistic - slack].sum())
        if claim == "less":
            return min(1.0, below)
        if claim == "greater":
            return min(1.0, above)
        return min(1.0, 2 * min(below, above))


@dataclass(frozen=True, slots=True)
class RankTest:
    """A rank statistic, its mean and standard deviation under H0, and its p-value."""

    statistic: float
    p: float
    mean: float
    sd: float
    """Standard deviation under H0, with the correction for ties."""
    z: float
    """The statistic standardized, with the continuity correction if it was asked for."""
    exact: bool
    tied: bool
    dropped: int
    """Pairs with no difference, which the signed rank leaves out; 0 for the rank sum."""
    n: tuple[int, ...]
    null: NullDistribution | None
    """Only with an exact p-value."""


def average_ranks(values: Floats) -> Floats:
    """Ranks from 1, tied values sharing the average of their places."""
    _, inverse, counts = np.unique(values, return_inverse=True, return_counts=True)
    last = np.cumsum(counts)
    return np.asarray((last - (counts - 1) / 2.0)[inverse], dtype=np.float64)


def rank_sum(
    x: Floats,
    y: Floats,
    null: float,
    claim: Claim,
    *,
    continuity: bool = True,
    exact: bool | None = None,
) -> RankTest:
    """Rank sum of two separate samples, stated as U for the first.

    U counts the pairs (one value of x - null, one of y) in which the first is the larger,
    ties as a half: U = W - n1 (n1 + 1) / 2 with W the rank sum of x. `exact=None` takes the
    exact distribution up to EXACT_UP_TO values. Raises TooFewValues for an empty sample and
    NoSpread when all values are tied.
    """
    n1, n2 = int(x.size), int(y.size)
    if min(n1, n2) < 1:
        raise TooFewValues
    moved = subtract(x, null) if null else x
    ranks = average_ranks(np.concatenate([moved, y]))
    offset = n1 * (n1 + 1) / 2
    u = float(ranks[:n1].sum()) - offset
    total = n1 + n2
    ties = _tie_sum(ranks)
    mean = n1 * n2 / 2
    sd = (
        math.sqrt(n1 * n2 / 12 * ((total + 1) - ties / (total * (total - 1)))) if total > 1 else 0.0
    )
    if sd == 0:
        raise NoSpread
    use_exact = total <= EXACT_UP_TO if exact is None else exact
    distribution = None
    if use_exact:
        sums, chances = _subset_sums(ranks, n1)
        distribution = NullDistribution(sums - offset, chances)
    return _result(u, mean, sd, claim, continuity, distribution, ties > 0, 0, (n1, n2))


def signed_rank(
    differences: Floats,
    null: float,
    claim: Claim,
    *,
    continuity: bool = True,
    exact: bool | None = None,
) -> RankTest:
    """Signed rank of matched differences, stated as W+ (the ranks of the positive ones).

    Differences equal to `null` are left out first, as Wilcoxon did. Raises NoSpread when
    none is left.
    """
    moved = subtract(differences, null)
    kept = moved[moved != 0]
    n = int(kept.size)
    if n == 0:
        raise NoSpread
    ranks = average_ranks(np.abs(kept))
    w = float(ranks[kept > 0].sum())
    ties = _tie_sum(ranks)
    mean = n * (n + 1) / 4
    sd = math.sqrt(n * (n + 1) * (2 * n + 1) / 24 - ties / 48)
    use_exact = n <= EXACT_UP_TO if exact is None else exact
    distribution = NullDistribution(*_signed_sums(ranks)) if use_exact else None
    dropped = int(moved.size - n)
    return _result(w, mean, sd, claim, continuity, distribution, ties > 0, dropped, (n,))


def _tie_sum(ranks: Floats) -> float:
    _, counts = np.unique(ranks, return_counts=True)
    return float((counts.astype(np.float64) ** 3 - counts).sum())


def _subset_sums(ranks: Floats, k: int) -> tuple[Floats, Floats]:
    """Sums of every choice of k ranks with their chances, by counting choices item by item.

    Ranks are doubled so that average ranks are whole. Counts stay below 1e18 and are sums
    of positive terms, so that the chances are right to about 14 digits.
    """
    doubled = np.rint(ranks * 2).astype(np.int64)
    small = min(k, ranks.size - k)  # the smaller group has fewer choices to follow
    top = int(np.sort(doubled)[-small:].sum()) if small else 0
    counts = np.zeros((small + 1, top + 1))
    counts[0, 0] = 1
    for rank in doubled:
        counts[1:, rank:] += counts[:-1, : top + 1 - rank].copy()
    ways = counts[small]
    reached = np.flatnonzero(ways)
    sums = reached if small == k else int(doubled.sum()) - reached[::-1]
    chances = ways[reached] if small == k else ways[reached][::-1]
    return np.asarray(sums / 2, dtype=np.float64), chances / chances.sum()


def _signed_sums(ranks: Floats) -> tuple[Floats, Floats]:
    """Sums of the ranks that get a plus when every sign is a fair coin."""
    doubled = np.rint(ranks * 2).astype(np.int64)
    chances = np.zeros(int(doubled.sum()) + 1)
    chances[0] = 1
    for rank in doubled:
        moved = np.zeros_like(chances)
        moved[rank:] = chances[: chances.size - rank]
        chances = (chances + moved) / 2
    reached = np.flatnonzero(chances)
    return np.asarray(reached / 2, dtype=np.float64), chances[reached]


def _result(
    statistic: float,
    mean: float,
    sd: float,
    claim: Claim,
    continuity: bool,
    distribution: NullDistribution | None,
    tied: bool,
    dropped: int,
    n: tuple[int, ...],
) -> RankTest:
    gap = statistic - mean
    if continuity:
        # half a unit towards the mean for two sides; against the claim for one side
        if claim == "different":
            gap = math.copysign(max(abs(gap) - 0.5, 0.0), gap)
        else:
            gap += 0.5 if claim == "less" else -0.5
    z = gap / sd
    p = distribution.tail(statistic, claim) if distribution else standard_normal().tail(z, claim)
    return RankTest(
        statistic, p, mean, sd, z, distribution is not None, tied, dropped, n, distribution
    )
