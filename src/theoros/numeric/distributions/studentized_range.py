"""The studentized range: the widest gap among k means over their standard error.

P(Q > q) = ∫ f(s) P(W > q s) ds, where W is the range of k standard normal values and s the root of
a chi-square over its degrees of freedom (Newman 1939; Hartley 1942). The inner integral runs over
the largest of the k values, by Gauss and Legendre; the outer one over log s by equal steps, which
for so smooth a curve is as exact as doubles allow.
"""

from __future__ import annotations

import math
from functools import cache

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.student import StudentT

_REACH = 8.5
"""So many standard deviations from its peak the inner integrand has vanished."""
_NODES = 128
_VANISHES = -40.0
"""Where the log of the density of log s, 0 at its peak, is cut."""


def studentized_tail(q: float, k: int, df: float) -> float:
    """The probability that the studentized range of `k` (2 or more) means exceeds `q` (0 or more).

    `df` are the degrees of freedom of the error, above 0 and finite.
    """
    if q <= 0:
        return 1.0
    # beyond the peak of f, and of f times a normal tail at q s, which lies lower by this much
    drop = 0.5 * math.log1p(q * q / (2 * df))
    low, high = _ends(df)
    step = min(0.12, 0.5 / math.sqrt(2 * df))
    logs = np.arange(low - drop, high + step, step)
    weights = np.exp(df * (logs - np.expm1(2 * logs) / 2))
    tails = _range_tail(q * np.exp(logs), k)
    return float(min(1.0, weights @ tails / weights.sum()))


def studentized_value(tail: float, k: int, df: float) -> float:
    """The value that the studentized range exceeds with a probability above 0 and below 1.

    It lies between those of a single pair and of all pairs by Bonferroni, √2 times values of t.
    """
    from scipy.optimize import brentq

    curve, wanted = StudentT(df), math.log(tail)
    low, high = (
        math.log(math.sqrt(2) * curve.critical(part, "different")) for part in (tail, tail / (k * (k - 1) / 2))
    )

    def gap(log_q: float) -> float:
        return math.log(studentized_tail(math.exp(log_q), k, df)) - wanted

    return math.exp(brentq(gap, low - 1e-6, high + 1e-6, xtol=1e-13, rtol=1e-13))


def _ends(df: float) -> tuple[float, float]:
    """Where df (u - (e^{2u} - 1) / 2), the log density of u = log s, reaches `_VANISHES`."""
    from scipy.special import lambertw

    # with v = e^{2u}: v e^{-v} = e^{-c}, c = 1 - 2 · level / df
    c = 1 - 2 * _VANISHES / df
    near = math.exp(-c)
    low = float(lambertw(-near).real) if near > 0 else 0.0
    high = float(lambertw(-near, -1).real) if near > 0 else -(c + math.log(c + math.log(c)) + 1)
    # far below, v is e^{-c} itself
    return (0.5 * math.log(-low) if low < 0 else -0.5 * c), 0.5 * math.log(-high)


@cache
def _nodes() -> tuple[Floats, Floats]:
    at, weights = np.polynomial.legendre.leggauss(_NODES)
    return at * _REACH, weights * _REACH


def _range_tail(w: Floats, k: int) -> Floats:
    """P(W > w) for the range of k standard normal values: k ∫ φ(z) (Φ(z)^{k-1} - (Φ(z) -
    Φ(z - w))^{k-1}) dz, with z about w/2, where the integrand is largest."""
    from scipy.special import ndtr

    at, weights = _nodes()
    largest = w[:, None] / 2 + at
    below, lowest = ndtr(largest), ndtr(largest - w[:, None])
    with np.errstate(divide="ignore", under="ignore", invalid="ignore"):
        share = np.minimum(np.nan_to_num(lowest / below), 1.0)
        inside = -np.expm1((k - 1) * np.log1p(-share)) * below ** (k - 1)
        density = np.exp(-largest * largest / 2) / math.sqrt(2 * math.pi)
    return np.asarray(k * ((density * inside) @ weights))
