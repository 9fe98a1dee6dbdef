"""Lines that follow the data: lowess for looking, Theil and Sen's for rows that are far off."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

MOST_LOCAL = 60
"""At so many places at the most the local line is worked out; between them it is interpolated."""
MOST_ROWS = 2_000
"""Of more rows, as many are taken evenly along x: the line is for looking."""


def lowess(x: Floats, y: Floats, span: float = 2 / 3, rounds: int = 3) -> tuple[Floats, Floats]:
    """A robust locally weighted line (Cleveland 1979): places along x, and its heights there.

    Each place takes the `span` of the cases that are nearest, with tricube weights; then, in so
    many rounds, cases far off the line count less (bisquare weights of their residuals).
    """
    if x.size > 10 * MOST_ROWS:
        few = np.linspace(0, x.size - 1, 10 * MOST_ROWS).astype(np.int64)
        x, y = x[few], y[few]
    order = np.argsort(x, kind="stable")
    if order.size > MOST_ROWS:
        order = order[np.linspace(0, order.size - 1, MOST_ROWS).astype(np.int64)]
    x, y = x[order], y[order]
    n = x.size
    k = max(2, min(n, int(span * n + 1e-10)))
    places = np.unique(x)
    if places.size > MOST_LOCAL:
        places = places[np.linspace(0, places.size - 1, MOST_LOCAL).astype(np.int64)]
    trust = np.ones(n)
    heights = np.zeros(places.size)
    near = _neighbours(x, places, k)[:, None] + np.arange(k)
    own_x, own_y = x[near], y[near]
    weights = _tricube(np.abs(own_x - places[:, None]))
    least = (0.001 * float(x[-1] - x[0])) ** 2
    for round_ in range(rounds + 1):
        heights = _local(own_x, own_y, weights * trust[near], places, least)
        if round_ == rounds:
            break
        off = np.abs(y - np.interp(x, places, heights))
        scale = 6 * float(np.median(off))
        if scale <= 1e-12 * (float(np.abs(y).max()) or 1.0):
            break
        share = off / scale
        trust = np.where(share > 0.999, 0.0, (1 - share**2) ** 2)
        trust[share < 0.001] = 1.0
    return places, heights


def _neighbours(x: Floats, places: Floats, k: int) -> Ints:
    """Where the k nearest cases of each place begin, x ascending."""
    starts = np.zeros(places.size, dtype=np.int64)
    start = 0
    for at, place in enumerate(places.tolist()):
        while start + k < x.size and x[start + k] - place < place - x[start]:
            start += 1
        starts[at] = start
    return starts


def _tricube(gaps: Floats) -> Floats:
    """Weights of the cases near each place, shape (places, k), by how far off they are."""
    reach = gaps.max(axis=1, keepdims=True)
    # rows a hair from the end count fully, those at it not at all, as Cleveland has it
    made = (1 - (gaps / np.maximum(reach, 1e-300)) ** 3) ** 3
    made[gaps > 0.999 * reach] = 0.0
    made[gaps < 0.001 * reach] = 1.0
    made[reach[:, 0] == 0] = 1.0
    return np.asarray(made)


def _local(x: Floats, y: Floats, weights: Floats, places: Floats, least: float) -> Floats:
    """The heights of weighted lines at places; level ones where x hardly varies."""
    total = weights.sum(axis=1)
    shares = weights / np.maximum(total, 1e-300)[:, None]
    middle = np.einsum("ij,ij->i", shares, x)
    off = x - middle[:, None]
    spread = np.einsum("ij,ij,ij->i", shares, off, off)
    height = np.einsum("ij,ij->i", shares, y)
    along = np.einsum("ij,ij,ij->i", shares, off, y)
    slope = np.where(spread > least, along / np.maximum(spread, 1e-300), 0.0)
    made = height + slope * (places - middle)
    return np.asarray(np.where(total > 0, made, y.mean(axis=1)))


def theil_sen(x: Floats, y: Floats) -> tuple[float, float]:
    """Slope and intercept: the median of the slopes of all pairs (Theil 1950, Sen 1968).

    The intercept is the median of y - slope × x. x has two different values at least.
    """
    from scipy.stats import theilslopes

    found = theilslopes(y, x)
    slope = float(found.slope)
    return slope, float(np.median(y - slope * x))
