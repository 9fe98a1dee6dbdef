"""What a statistic of samples comes to in the long run, exactly, where that can be worked out."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.lattice import Lattice

FINE = 1e6
MOST_STEPS = 200_000
"""A law on more possible values is not worked out."""


def law_of_total(values: Floats, shares: Floats, n: int) -> Lattice | None:
    """The law of the sum of n draws with replacement, by convolution.

    `values` are distinct and lie on a grid; None where they do not, or the grid is too fine.
    """
    order = np.argsort(values)
    values, shares = values[order], shares[order]
    if values.size == 1:
        return Lattice(np.array([values[0] * n]), np.ones(1))
    # values of up to six decimals as whole numbers, and the largest step that reaches them all
    fine = np.round((values - values[0]) * FINE)
    if np.abs(fine / FINE - (values - values[0])).max() > 1e-9 or fine[-1] > 1e15:
        return None
    step = math.gcd(*fine.astype(np.int64).tolist()) / FINE
    places = (values - values[0]) / step
    if places[-1] * n > MOST_STEPS:
        return None
    one = np.zeros(round(float(places[-1])) + 1)
    np.add.at(one, np.round(places).astype(np.int64), shares)
    made, power, left = np.ones(1), one, n
    while left:  # by repeated squaring
        if left & 1:
            made = np.convolve(made, power)
        left >>= 1
        if left:
            power = np.convolve(power, power)
    at = values[0] * n + step * np.arange(made.size)
    there = made > 0
    return Lattice(at[there], made[there] / made.sum())


def law_of_all_kinds(shares: Floats, most: int) -> Lattice | None:
    """The law of the number of draws until each of a few kinds was seen.

    By inclusion and exclusion over the kinds that are missing: P(T <= t) is the sum over sets S of
    kinds of (-1)^|S| (1 - P(S))^t (Feller 1968, section IV.2). None for more than 12 kinds.
    """
    k = shares.size
    if not 0 < k <= 12 or shares.min() <= 0:
        return None
    # equal kinds are counted by how many are missing, which keeps the sums short
    if np.ptp(shares) < 1e-15:
        signs = np.array([(-1.0) ** j * math.comb(k, j) for j in range(k + 1)])
        stay = np.array([1 - j / k for j in range(k + 1)])
    else:
        bits = np.arange(2**k)
        chosen = (bits[:, None] >> np.arange(k)) & 1
        signs = (-1.0) ** chosen.sum(axis=1)
        stay = 1 - chosen @ shares
    t = np.arange(0, most + 1)
    below = np.zeros(t.size)
    for sign, rest in zip(signs.tolist(), stay.tolist(), strict=True):
        below += sign * np.maximum(rest, 0.0) ** t if rest > 1e-15 else sign * (t == 0)
    masses = np.maximum(np.diff(below, prepend=0.0), 0.0)
    masses[:k] = 0.0  # what rounding leaves before all can have come
    worth = masses > 0
    if not worth.any() or masses.sum() < 1 - 1e-9:
        return None
    return Lattice(t[worth].astype(np.float64), masses[worth] / masses.sum())


def law_of_run(p: float, k: int, most: int) -> Lattice | None:
    """The law of the number of draws until k successes came running (Feller 1968, section XIII.7).

    P(T = t) by going through the draws: to stand at t for the first time, a run of k that was
    preceded by a failure, and no earlier end.
    """
    if not 0 < p <= 1:
        return None
    state = np.zeros(k)  # the chance of a run of so many so far, without an end
    state[0] = 1.0
    masses = np.zeros(most + 1)
    for t in range(1, most + 1):
        masses[t] = state[-1] * p
        failed = float(state.sum()) * (1 - p)
        state[1:] = state[:-1] * p
        state[0] = failed
        if state.sum() < 1e-14:
            break
    worth = masses > 0
    if masses.sum() < 1 - 1e-9:
        return None
    return Lattice(np.flatnonzero(worth).astype(np.float64), masses[worth] / masses.sum())
