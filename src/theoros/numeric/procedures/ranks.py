"""Rank-based procedures: rank sum for separate samples, signed rank for matched pairs.

Exact null distributions count every assignment of the ranks at hand, average ranks of
ties included, so that "exact" stays exact with tied values (Hollander, Wolfe and Chicken,
"Nonparametric Statistical Methods", 3rd ed., sections 3.1 and 4.1, comments on ties).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats, subtract
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.means import NoSpread, TooFewValues

MOST_WORK = 2e8
"""Additions that counting every way may take; past it the normal curve stands in."""


@dataclass(frozen=True, slots=True)
class RankTest:
    """A rank statistic, its mean and standard deviation under H0, and its p-value."""

    statistic: float
    p: float | None
    """None where no claim was asked about."""
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
    null: Lattice | None
    """The exact distribution under H0; None where the normal curve stands in."""
    region: Region | None
    """The values of that distribution (or of z) that speak for the claim as much, or more."""


def average_ranks(values: Floats) -> Floats:
    """Ranks from 1 of values of shape (n,), tied ones sharing the average of their places."""
    _, inverse, counts = np.unique(values, return_inverse=True, return_counts=True)
    last = np.cumsum(counts)
    return np.asarray((last - (counts - 1) / 2.0)[inverse], dtype=np.float64)


def rank_sum(
    x: Floats,
    y: Floats,
    null: float = 0.0,
    claim: Alternative | None = None,
    *,
    continuity: bool = True,
    exact: bool | None = None,
) -> RankTest:
    """Rank sum of two separate samples (finite values), stated as U for the first.

    U counts the pairs (one value of x - null, one of y) in which the first is the larger,
    ties as a half: U = W - n1 (n1 + 1) / 2 with W the rank sum of x (Mann and Whitney 1947). Under
    H0 its mean is n1 n2 / 2 and its variance n1 n2 / 12 (N + 1 - sum(t³ - t) / (N (N - 1))) over
    the sizes t of ties. `exact=None` takes the exact distribution where MOST_WORK
    is enough to count it.
    Raises TooFewValues for an empty sample and NoSpread when all values are tied.
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
    sd = math.sqrt(n1 * n2 / 12 * ((total + 1) - ties / (total * (total - 1)))) if total > 1 else 0.0
    if sd == 0:
        raise NoSpread
    use_exact = _rank_sum_work(n1, n2) <= MOST_WORK if exact is None else exact
    distribution = None
    if use_exact:
        sums, chances = _subset_sums(ranks, n1)
        distribution = Lattice(sums - offset, chances)
    return _result(u, mean, sd, claim, continuity, distribution, ties > 0, 0, (n1, n2))


def signed_rank(
    differences: Floats,
    null: float = 0.0,
    claim: Alternative | None = None,
    *,
    continuity: bool = True,
    exact: bool | None = None,
) -> RankTest:
    """Signed rank of matched differences (finite), stated as W+, the ranks of the positive ones.

    Differences equal to `null` are left out first, as Wilcoxon (1945) did. Under H0 the mean of
    W+ is n (n + 1) / 4 and its variance n (n + 1)(2n + 1) / 24 - sum(t³ - t) / 48 over the sizes
    t of ties. Raises NoSpread when no difference is left.
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
    use_exact = 2.0 * n**3 <= MOST_WORK if exact is None else exact
    distribution = Lattice(*_signed_sums(ranks)) if use_exact else None
    dropped = int(moved.size - n)
    return _result(w, mean, sd, claim, continuity, distribution, ties > 0, dropped, (n,))


def _rank_sum_work(n1: int, n2: int) -> float:
    """Additions that counting the choices takes: items by choices followed by sums reached."""
    small, total = min(n1, n2), n1 + n2
    return float(total) * small * (2 * small * total)


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
    claim: Alternative | None,
    continuity: bool,
    distribution: Lattice | None,
    tied: bool,
    dropped: int,
    n: tuple[int, ...],
) -> RankTest:
    gap = statistic - mean
    if continuity:
        # half a unit towards the mean for two sides; against the claim for one side
        if claim in ("different", None):
            gap = math.copysign(max(abs(gap) - 0.5, 0.0), gap)
        else:
            gap += 0.5 if claim == "less" else -0.5
    z = gap / sd
    p, region = None, None
    if claim is not None:
        null: Distribution = distribution or Normal()
        region = null.region(claim, statistic if distribution else z)
        p = null.probability(region)
    return RankTest(statistic, p, mean, sd, z, distribution is not None, tied, dropped, n, distribution, region)


MOST_PAIRS = 4_000_000
"""Of more pairs the median is not worked out."""


def hodges_lehmann(x: Floats, y: Floats) -> float | None:
    """The median of all differences of a value of `x` from one of `y` (Hodges and Lehmann 1963).

    None where there are more than MOST_PAIRS of them.
    """
    if x.size * y.size > MOST_PAIRS:
        return None
    return float(np.median(np.subtract.outer(x, y)))


def walsh_median(values: Floats) -> float | None:
    """The median of the averages of all pairs of values, each with itself too (Walsh 1949).

    None where there are more than MOST_PAIRS of them.
    """
    n = values.size
    if n * (n + 1) // 2 > MOST_PAIRS:
        return None
    one, two = np.triu_indices(n)
    return float(np.median((values[one] + values[two]) / 2))
