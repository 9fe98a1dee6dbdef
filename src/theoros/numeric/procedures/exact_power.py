"""The power of exact tests of shares, from their rejection regions: every count is looked at."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Bools, Floats
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.procedures.proportions import SAME


def rejected(masses: Floats, alpha: float, claim: Alternative) -> Bools:
    """Which of the counts, whose chances under H0 are given in order, have p at most alpha.

    Two-sided p adds the chances of all counts that are no likelier (Fisher's rule).
    """
    if claim == "greater":
        p = masses[::-1].cumsum()[::-1]
    elif claim == "less":
        p = masses.cumsum()
    else:
        order = np.sort(masses)
        below = np.searchsorted(order, masses * (1 + SAME), side="right")
        p = np.concatenate([[0.0], order.cumsum()])[below]
    return np.asarray(p <= alpha)


def binomial_power(n: int, null: float, true: float, alpha: float, claim: Alternative) -> float:
    """How often the exact binomial test of `null` rejects, if the share is `true` (n cases)."""
    counts = np.arange(n + 1, dtype=np.float64)
    region = rejected(np.asarray(Binomial(n, null).height(counts)), alpha, claim)
    return float(np.asarray(Binomial(n, true).height(counts))[region].sum())


def fisher_power(n1: int, n2: int, first: float, second: float, alpha: float, claim: Alternative) -> float:
    """How often Fisher's exact test rejects, if the shares of n1 and n2 cases are `first` and `second`."""
    one = np.asarray(Binomial(n1, first).height(np.arange(n1 + 1, dtype=np.float64)))
    two = np.asarray(Binomial(n2, second).height(np.arange(n2 + 1, dtype=np.float64)))
    ways_one, ways_two, ways_both = (_log_choices(n) for n in (n1, n2, n1 + n2))
    power = 0.0
    for both in range(n1 + n2 + 1):
        x = np.arange(max(0, both - n2), min(n1, both) + 1)
        # given how many successes there are in all, their number in the first group is hypergeometric
        masses = np.exp(ways_one[x] + ways_two[both - x] - ways_both[both])
        power += float((one[x] * two[both - x])[rejected(masses, alpha, claim)].sum())
    return power


def _log_choices(n: int) -> Floats:
    """The logarithms of how many ways there are to choose 0 to n of n."""
    from scipy.special import gammaln

    k = np.arange(n + 1, dtype=np.float64)
    return np.asarray(gammaln(n + 1) - gammaln(k + 1) - gammaln(n - k + 1))
