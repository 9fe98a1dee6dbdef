"""Counts of categories: against claimed shares, and of two categories against each other."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.procedures.means import NoSpread

MOST_OUTCOMES = 200_000
"""So many ways to share n cases out are all counted."""
SAME = 1e-9


@dataclass(frozen=True, slots=True, eq=False)
class ChiSquareTest:
    """A chi-square statistic with what it was made of; arrays have the shape of the counts."""

    statistic: float
    df: int
    expected: Floats
    parts: Floats
    """What each cell gives to the statistic."""

    @property
    def p(self) -> float:
        """P(χ² >= statistic)."""
        return float(ChiSquare(self.df).sf(self.statistic))


def chi_square_fit(counts: Ints, shares: Floats, *, estimated: int = 0) -> ChiSquareTest:
    """Pearson's test (1900) of counts against shares that sum to 1, both of shape (k,).

    χ² = Σ (O − E)² / E with E = n × share, df = k − 1 less the number of parameters that were
    estimated. Raises NoSpread where an expected count is 0.
    """
    expected = counts.sum() * shares
    return _chi_square(counts, expected, int(counts.size) - 1 - estimated)


def chi_square_related(counts: Ints) -> ChiSquareTest:
    """Pearson's test of two categories, counts of shape (rows, columns).

    E = row total × column total / n, df = (rows − 1)(columns − 1). Raises NoSpread where a row or
    a column is empty, or there are fewer than two of one.
    """
    if min(counts.shape) < 2:
        raise NoSpread
    expected = np.outer(counts.sum(axis=1), counts.sum(axis=0)) / counts.sum()
    rows, columns = counts.shape
    return _chi_square(counts, expected, (rows - 1) * (columns - 1))


def _chi_square(counts: Ints, expected: Floats, df: int) -> ChiSquareTest:
    if not (expected > 0).all() or df < 1:
        raise NoSpread
    parts = (counts - expected) ** 2 / expected
    return ChiSquareTest(math.fsum(parts.ravel().tolist()), df, expected, parts)


def likelihood_ratio(counts: Ints, expected: Floats, df: int) -> ChiSquareTest:
    """G = 2 Σ O ln(O / E), the likelihood-ratio statistic (Wilks 1938); an empty cell gives 0."""
    from scipy.special import xlogy

    parts = 2 * xlogy(counts, counts / expected)
    total = max(0.0, math.fsum(parts.ravel().tolist()))  # rounding may put 0 a hair below it
    return ChiSquareTest(total, df, expected, np.asarray(parts))


def exact_fit(counts: Ints, shares: Floats) -> float | None:
    """The exact multinomial p-value: all ways that are no likelier than the one seen, added up.

    None where there are more than MOST_OUTCOMES ways. Shares are above 0.
    """
    n, k = int(counts.sum()), int(counts.size)
    if math.comb(n + k - 1, k - 1) > MOST_OUTCOMES:
        return None
    from scipy.special import gammaln

    factorials = np.asarray(gammaln(np.arange(n + 1) + 1.0))
    logs = np.log(shares)
    left, chances = np.array([n]), np.array([float(factorials[n])])
    for at in range(k - 1):  # every way to share out what is left, kind by kind
        ways = left + 1
        which = np.repeat(np.arange(ways.size), ways)
        cell = np.arange(which.size) - np.repeat(np.cumsum(ways) - ways, ways)
        chances = chances[which] + cell * logs[at] - factorials[cell]
        left = left[which] - cell
    chances = chances + left * logs[-1] - factorials[left]
    observed = float(factorials[n] - factorials[counts].sum() + (counts * logs).sum())
    return min(1.0, float(np.exp(chances[chances <= observed + SAME]).sum()))


@dataclass(frozen=True, slots=True)
class McNemar:
    """Two yes-or-no answers of the same cases: the pairs that changed, each way."""

    b: int
    c: int
    statistic: float
    """(|b − c| − 1)² / (b + c), or without the 1."""
    exact: float
    """Two-sided p of the exact test: b is binomial with p = 1/2 among b + c."""

    @property
    def p(self) -> float:
        """P(χ² >= statistic) with 1 degree of freedom."""
        return float(ChiSquare(1).sf(self.statistic))


def mcnemar(b: int, c: int, *, continuity: bool = True) -> McNemar:
    """McNemar's test (1947) with Edwards' correction (1948), and its exact form.

    Raises NoSpread where nothing changed.
    """
    from theoros.numeric.procedures.proportions import exact_share

    if b + c == 0:
        raise NoSpread
    gap = max(0.0, abs(b - c) - (1 if continuity else 0))
    return McNemar(b, c, gap**2 / (b + c), exact_share(b, b + c, 0.5, "different").p)
