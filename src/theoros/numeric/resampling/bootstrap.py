"""Samples drawn with replacement from the sample itself, and the intervals that they give."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Centre, Floats, Ints
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.resampling.replicates import MakeBlock, generator

Statistic = Callable[..., Floats]
"""Of one array of shape (size, n) for each sample, its value for each row, shape (size,)."""
Ends = tuple[float, float]


def resampled(values: Floats, centre: Centre) -> MakeBlock:
    """Centres of samples of the same size, drawn with replacement from `values` (Efron 1979).

    `values` are finite, at least one, of shape (n,).
    """
    if centre == "mean":
        return resamples([values], row_means)
    return resamples([values], lambda drawn: np.asarray(np.median(drawn, axis=1)))


def row_means(drawn: Floats) -> Floats:
    """The mean of every row, by a product that is quicker than sums of rows."""
    n = drawn.shape[1]
    return np.asarray(drawn @ np.full(n, 1 / n), dtype=np.float64)


def row_variances(drawn: Floats) -> Floats:
    """The variance of every row, divisor n - 1, of values taken off one of them."""
    n = drawn.shape[1]
    off = drawn - drawn[0, 0]
    means = row_means(off)
    squares = np.einsum("ij,ij->i", off, off)
    return np.asarray(np.maximum(squares - n * means**2, 0.0) / (n - 1), dtype=np.float64)


def drawn_places(rng: np.random.Generator, sizes: Sequence[int], size: int) -> list[Ints]:
    """Places drawn with replacement, for each sample of shape (size, n)."""
    return [rng.integers(0, n, size=(size, n)) for n in sizes]


def resamples(samples: Sequence[Floats], statistic: Statistic, *, together: bool = False) -> MakeBlock:
    """A statistic of samples of the same sizes, drawn with replacement from each.

    `together` draws the same cases of all, as of pairs of numbers.
    """
    sizes = [samples[0].size] if together else [one.size for one in samples]

    def make(rng: np.random.Generator, size: int) -> Floats:
        places = drawn_places(rng, sizes, size)
        if together:
            places *= len(samples)
        # all places lie within; "clip" only spares the check
        drawn = [one.take(at, mode="clip") for one, at in zip(samples, places, strict=True)]
        return statistic(*drawn)

    return make


def places_of(number: int, seed: int, block: int, sizes: Sequence[int]) -> list[Ints]:
    """The places that were drawn for resample `number`, from 1, where blocks have that size."""
    at = number - 1
    rng = generator(seed, at // block)
    return [one[at % block] for one in drawn_places(rng, sizes, block)]


@dataclass(frozen=True, slots=True)
class ReplicateCut:
    """Where a tail of a pile of N replicates is cut: the replicate at a rank, from 1."""

    value: float
    rank: int


def cut_off(ordered: Floats, below: float) -> ReplicateCut | None:
    """The replicate below which about a share of them lie: that at rank (N + 1) × share.

    Rounded outwards (Davison and Hinkley 1997, section 5.2). None where there are too few.
    """
    place = (ordered.size + 1) * below
    rank = math.floor(place + 1e-9) if below < 0.5 else math.ceil(place - 1e-9)
    if not 1 <= rank <= ordered.size:
        return None
    return ReplicateCut(float(ordered[rank - 1]), rank)


@dataclass(frozen=True, slots=True)
class Corrected:
    """The shares at which BCa cuts, with what moves them."""

    low: float
    high: float
    bias: float
    """z₀, from the share of replicates below the estimate."""
    acceleration: float
    """a, from leaving out one value at a time."""


def corrected(
    ordered: Floats, estimate: float, leave_one_out: Sequence[Floats], low: float, high: float
) -> Corrected | None:
    """Bias-corrected and accelerated tails (Efron 1987), for tails `low` and `high` that are cut.

    `leave_one_out` are the estimates without each case, for every sample an array. None where all
    replicates lie on one side of the estimate.
    """
    under = np.searchsorted(ordered, estimate, "left")
    upto = np.searchsorted(ordered, estimate, "right")
    share = float(under + upto) / 2 / ordered.size
    if not 0 < share < 1:
        return None
    z = Normal()
    bias = float(z.quantile(share))
    top = bottom = 0.0
    for kept in leave_one_out:
        gaps = (kept.size - 1) * (kept.mean() - kept)
        top += float((gaps**3).sum()) / kept.size**3
        bottom += float((gaps**2).sum()) / kept.size**2
    acceleration = top / (6 * bottom**1.5) if bottom > 0 else 0.0

    def moved(tail: float) -> float:
        at = bias + float(z.quantile(tail))
        return float(z.cdf(bias + at / (1 - acceleration * at)))

    return Corrected(moved(low), moved(1 - high), bias, acceleration)


def left_out(samples: Sequence[Floats], statistic: Statistic, *, together: bool = False) -> list[Floats]:
    """The statistic without each case in turn, for every sample an array (the jackknife)."""
    rows = [one[None, :] for one in samples]
    if together:
        return [statistic(*map(_without_each, samples))]
    made = []
    for at, one in enumerate(samples):
        kept = _without_each(one)
        args = [kept if k == at else np.broadcast_to(row, (one.size, row.size)) for k, row in enumerate(rows)]
        made.append(statistic(*args))
    return made


def _without_each(values: Floats) -> Floats:
    """All but one of the values in every row, shape (n, n - 1)."""
    n = values.size
    return np.asarray(np.broadcast_to(values, (n, n))[~np.eye(n, dtype=np.bool_)].reshape(n, n - 1))
