"""Which groups differ: all pairs of several groups, with p-values and intervals that hold for all.

The intervals and adjusted p-values of a method hold together: the chance of any wrong finding
among all pairs is at most the level.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.distributions.studentized_range import studentized_tail, studentized_value
from theoros.numeric.levels import at_most
from theoros.numeric.procedures.analysis_of_variance import moments_of, one_way
from theoros.numeric.procedures.means import ROUNDING, Moments, NoSpread, Sampled, TooFewValues
from theoros.numeric.procedures.ranks import average_ranks
from theoros.numeric.summaries import mean_and_sd


@dataclass(frozen=True, slots=True)
class Pair:
    """The first of two groups beside the second, by their places."""

    first: int
    second: int
    difference: float
    """Of means, or of mean ranks."""
    p: float
    """Adjusted for the number of pairs."""
    low: float = math.nan
    high: float = math.nan
    """The interval of the difference, where the method has one."""


def tukey(groups: Sequence[Sampled], confidence: float) -> list[Pair]:
    """Tukey's honestly significant differences; for unequal sizes after Kramer (1956).

    q = |x̄₁ − x̄₂| / √(MS_within/2 (1/n₁ + 1/n₂)) against the studentized range of k groups. Raises
    as `one_way`.
    """
    table, found = one_way(groups), [moments_of(group) for group in groups]
    gaps = [(one, two, found[one].mean - found[two].mean) for one, two in _pairs(found)]
    errors = [math.sqrt(table.mean_within / 2 * (1 / found[one].n + 1 / found[two].n)) for one, two, _ in gaps]
    return _ranged(gaps, errors, len(found), [table.df_within] * len(gaps), confidence)


def games_howell(groups: Sequence[Sampled], confidence: float) -> list[Pair]:
    """The same for spreads that differ (Games and Howell 1976): each pair has its own error.

    q = |x̄₁ − x̄₂| / √((s₁²/n₁ + s₂²/n₂)/2), with the degrees of freedom of Welch. Raises
    TooFewValues below two values in a group, NoSpread where two groups do not spread.
    """
    found = [moments_of(group) for group in groups]
    if min(one.n for one in found) < 2:
        raise TooFewValues
    gaps, errors, degrees = [], [], []
    for one, two in _pairs(found):
        a, b = found[one].sd ** 2 / found[one].n, found[two].sd ** 2 / found[two].n
        if a + b == 0:
            raise NoSpread
        gaps.append((one, two, found[one].mean - found[two].mean))
        errors.append(math.sqrt((a + b) / 2))
        degrees.append((a + b) ** 2 / (a**2 / (found[one].n - 1) + b**2 / (found[two].n - 1)))
    return _ranged(gaps, errors, len(found), degrees, confidence)


def _ranged(
    gaps: list[tuple[int, int, float]], errors: list[float], k: int, degrees: Sequence[float], confidence: float
) -> list[Pair]:
    """Pairs by the studentized range."""
    reach, made = {df: studentized_value(1 - confidence, k, df) for df in set(degrees)}, []
    for (one, two, gap), error, df in zip(gaps, errors, degrees, strict=True):
        p = studentized_tail(abs(gap) / error, k, df)
        made.append(Pair(one, two, gap, p, gap - reach[df] * error, gap + reach[df] * error))
    return made


def pooled_pairs(groups: Sequence[Sampled], confidence: float, *, holm: bool) -> list[Pair]:
    """t for every pair with the error of all groups, adjusted by Bonferroni or by Holm (1979).

    The intervals are those of Bonferroni. Raises as `one_way`.
    """
    table, found = one_way(groups), [moments_of(group) for group in groups]
    curve, made = StudentT(table.df_within), []
    pairs = list(_pairs(found))
    reach = curve.critical((1 - confidence) / len(pairs), "different")
    for one, two in pairs:
        gap = found[one].mean - found[two].mean
        error = math.sqrt(table.mean_within * (1 / found[one].n + 1 / found[two].n))
        p = curve.tail("different", gap / error)
        made.append(Pair(one, two, gap, p, gap - reach * error, gap + reach * error))
    return _adjusted(made, holm=holm)


def dunn(groups: Sequence[Floats]) -> list[Pair]:
    """Mean ranks of every pair against each other (Dunn 1964), adjusted by Holm.

    z = (R̄₁ − R̄₂) / √((N (N + 1)/12 − Σ(t³ − t)/(12 (N − 1))) (1/n₁ + 1/n₂)). Raises NoSpread
    where all values are equal.
    """
    ranks = average_ranks(np.concatenate(groups))
    n = ranks.size
    _, times = np.unique(ranks, return_counts=True)
    ties = float((times.astype(np.float64) ** 3 - times).sum())
    spread = n * (n + 1) / 12 - ties / (12 * (n - 1))
    if spread <= 0:
        raise NoSpread
    own = np.split(ranks, np.cumsum([group.size for group in groups])[:-1])
    means = [float(part.mean()) for part in own]
    made = []
    for one, two in combinations(range(len(groups)), 2):
        gap = means[one] - means[two]
        error = math.sqrt(spread * (1 / groups[one].size + 1 / groups[two].size))
        made.append(Pair(one, two, gap, Normal().tail("different", gap / error)))
    return _adjusted(made, holm=True)


def matched_pairs(values: Floats, confidence: float) -> list[Pair]:
    """Paired t of every pair of columns, adjusted by Holm; cases in rows, shape (n, k).

    The intervals are those of Bonferroni. Raises TooFewValues below two cases, NoSpread where the
    differences of some pair are all equal.
    """
    n, k = values.shape
    if n < 2:
        raise TooFewValues
    curve, count = StudentT(n - 1), k * (k - 1) // 2
    reach, made = curve.critical((1 - confidence) / count, "different"), []
    for one, two in combinations(range(k), 2):
        gaps = values[:, one] - values[:, two]
        gap, sd = mean_and_sd(gaps)
        if not sd > ROUNDING * float(np.abs(gaps).max()):
            raise NoSpread
        error = sd / math.sqrt(n)
        p = curve.tail("different", gap / error)
        made.append(Pair(one, two, gap, p, gap - reach * error, gap + reach * error))
    return _adjusted(made, holm=True)


def ranked_within(mean_ranks: Sequence[float], n: int) -> list[Pair]:
    """Mean ranks within n cases, pair by pair, adjusted by Holm.

    z = (R̄₁ − R̄₂) / √(k (k + 1) / (6 n)) (Siegel and Castellan 1988, section 7.2).
    """
    k = len(mean_ranks)
    error, made = math.sqrt(k * (k + 1) / (6 * n)), []
    for one, two in combinations(range(k), 2):
        gap = mean_ranks[one] - mean_ranks[two]
        made.append(Pair(one, two, gap, Normal().tail("different", gap / error)))
    return _adjusted(made, holm=True)


def _pairs(found: Sequence[Moments]) -> list[tuple[int, int]]:
    return list(combinations(range(len(found)), 2))


def _adjusted(pairs: list[Pair], *, holm: bool) -> list[Pair]:
    """p-values times the number of pairs, or by Holm times those that are left."""
    m = len(pairs)
    adjusted = [min(1.0, m * pair.p) for pair in pairs]
    if holm:
        highest = 0.0
        for rank, at in enumerate(sorted(range(m), key=lambda at: pairs[at].p)):
            highest = max(highest, min(1.0, (m - rank) * pairs[at].p))
            adjusted[at] = highest
    return [
        Pair(pair.first, pair.second, pair.difference, p, pair.low, pair.high)
        for pair, p in zip(pairs, adjusted, strict=True)
    ]


def letters(count: int, pairs: Sequence[Pair], alpha: float) -> list[str]:
    """Letters for groups: two that share one do not differ (Piepho 2004, insert and absorb)."""
    columns = [set(range(count))]
    for pair in pairs:
        if not at_most(pair.p, alpha):
            continue
        both = [column for column in columns if {pair.first, pair.second} <= column]
        for column in both:
            columns.remove(column)
            columns += [column - {pair.first}, column - {pair.second}]
        columns = [
            c
            for at, c in enumerate(columns)
            if not any(c < other or (c == other and at > k) for k, other in enumerate(columns))
        ]
    columns.sort(key=min)
    return [
        "".join(chr(ord("a") + at) for at, column in enumerate(columns) if group in column) for group in range(count)
    ]
