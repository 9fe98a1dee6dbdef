"""Shares of cases: one against a claimed share, two against each other."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Bools, Floats
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.distribution import Discrete, Region
from theoros.numeric.distributions.hypergeometric import Hypergeometric
from theoros.numeric.procedures.means import NoSpread
from theoros.numeric.procedures.z import ZTest

SAME = 1e-7
"""Chances this close, relative to each other, are equal but for rounding."""


def as_unlikely(one: Discrete, observed: float) -> Region:
    """Every value that is no likelier than the one seen: what "different" counts of a skew law.

    So a two-sided exact p-value is the sum of the chances that are no larger (Fisher's rule). The
    chances must fall on both sides of their largest.
    """
    first, last = one.support
    limit = float(one.height(observed)) * (1 + SAME)

    def likelier(at: Floats) -> Bools:
        return np.asarray(one.height(at)) > limit

    around = float(np.clip(round(one.mean), first, last)) + np.array([-1.0, 0.0, 1.0])
    chances = np.asarray(one.height(around))
    peak = float(around[chances.argmax()])
    if chances.max() <= limit:
        return Region(((-math.inf, math.inf),))
    return Region(((-math.inf, _edge(likelier, peak, first - 1)), (_edge(likelier, peak, last + 1), math.inf)))


_AT_ONCE = 32
"""So many values are asked for at a time, which takes little longer than one."""


def _edge(likelier: Callable[[Floats], Bools], inside: float, outside: float) -> float:
    """The value nearest to `inside`, which is likelier, on the way to `outside` that is not."""
    while abs(outside - inside) > 1:
        between = np.unique(np.trunc(np.linspace(inside, outside, _AT_ONCE + 2)))
        if outside < inside:
            between = between[::-1]
        first = 1 + int(np.argmin(np.append(likelier(between[1:-1]), False)))
        inside, outside = float(between[first - 1]), float(between[first])
    return outside


def count_region(one: Discrete, alternative: Alternative, observed: float) -> Region:
    """The counts that speak for the claim at least as much as the one seen."""
    if alternative == "different":
        return as_unlikely(one, observed)
    return one.region(alternative, observed)


@dataclass(frozen=True, slots=True)
class ExactShare:
    """A count of successes with its exact law under H0."""

    x: int
    n: int
    law: Discrete
    region: Region

    @property
    def p(self) -> float:
        """The chance of all counts that speak against H0 at least as much."""
        return self.law.probability(self.region)


def exact_share(x: int, n: int, null: float, claim: Alternative) -> ExactShare:
    """The exact binomial test of one share: X counts successes among n, binomial under H0."""
    law = Binomial(n, null)
    return ExactShare(x, n, law, count_region(law, claim, float(x)))


def fisher_exact(a: int, n1: int, b: int, n2: int, claim: Alternative) -> ExactShare:
    """Fisher's exact test: a of n1 against b of n2, given how many successes there are in all.

    Under H0 a is hypergeometric (Fisher 1934).
    """
    law = Hypergeometric(n1 + n2, a + b, n1)
    return ExactShare(a, n1, law, count_region(law, claim, float(a)))


def _towards(gap: float, correction: float) -> float:
    """What the correction takes off a gap: no more than there is, and towards 0."""
    return math.copysign(min(abs(gap), correction), gap)


def z_share(x: int, n: int, null: float, *, continuity: bool = False) -> ZTest:
    """z = (p̂ − p₀) / √(p₀ (1 − p₀) / n), with or without 1/(2n) taken off the gap.

    Raises NoSpread where p₀ is 0 or 1.
    """
    if not 0 < null < 1:
        raise NoSpread
    share, error = x / n, math.sqrt(null * (1 - null) / n)
    off = _towards(share - null, 1 / (2 * n)) if continuity else 0.0
    return ZTest((share - null - off) / error, share, error, None, off)


def z_shares(a: int, n1: int, b: int, n2: int, null: float = 0.0, *, continuity: bool = False) -> ZTest:
    """z for the difference of two shares.

    For a null value of 0 both share one p, pooled: √(p̂ (1 − p̂) (1/n₁ + 1/n₂)); for another value
    each has its own: √(p̂₁ (1 − p̂₁)/n₁ + p̂₂ (1 − p̂₂)/n₂). The continuity correction takes
    (1/n₁ + 1/n₂)/2 off the gap. Raises NoSpread where all cases are alike.
    """
    one, two = a / n1, b / n2
    if null:
        pooled = None
        error = math.sqrt(one * (1 - one) / n1 + two * (1 - two) / n2)
    else:
        pooled = (a + b) / (n1 + n2)
        error = math.sqrt(pooled * (1 - pooled) * (1 / n1 + 1 / n2))
    if error == 0:
        raise NoSpread
    gap = one - two - null
    off = _towards(gap, (1 / n1 + 1 / n2) / 2) if continuity else 0.0
    return ZTest((gap - off) / error, one - two, error, pooled, off)
