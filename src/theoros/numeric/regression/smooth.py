"""Lines that follow the data: lowess for looking, Theil and Sen's for rows that are far off."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

MOST_LOCAL = 400
"""At so many places at the most the local line is worked out; between them it is interpolated."""
MOST_ROWS = 20_000
"""Of more rows, as many are taken evenly along x: the line is for looking."""


def lowess(x: Floats, y: Floats, span: float = 2 / 3, rounds: int = 3) -> tuple[Floats, Floats]:
    """A robust locally weighted line (Cleveland 1979): places along x, and its heights there.

    Each place takes the `span` of the cases that are nearest, with tricube weights; then, in so
    many rounds, cases far off the line count less (bisquare weights of their residuals).
    """
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
    starts = _neighbours(x, places, k)
    for round_ in range(rounds + 1):
        for at, (place, start) in enumerate(zip(places.tolist(), starts.tolist(), strict=True)):
            near = slice(start, start + k)
            gap = np.abs(x[near] - place)
            reach = float(gap.max())
            # rows a hair from the end count fully, those at it not at all, as Cleveland has it
            weight = np.where(gap > 0.999 * reach, 0.0, (1 - (gap / max(reach, 1e-300)) ** 3) ** 3)
            weight[gap < 0.001 * reach] = 1.0
            if reach == 0:
                weight = np.ones(k)
            weight = weight * trust[near]
            heights[at] = _local(x[near], y[near], weight, place, float(x[-1] - x[0]))
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


def _local(x: Floats, y: Floats, weight: Floats, place: float, width: float) -> float:
    """The height of a weighted line at a place."""
    total = float(weight.sum())
    if total <= 0:
        return float(y.mean())
    share = weight / total
    middle = float(share @ x)
    spread = float(share @ (x - middle) ** 2)
    height = float(share @ y)
    if spread > (0.001 * width) ** 2:
        slope = float(share @ ((x - middle) * y)) / spread
        height += slope * (place - middle)
    return height


def theil_sen(x: Floats, y: Floats) -> tuple[float, float]:
    """Slope and intercept: the median of the slopes of all pairs (Theil 1950, Sen 1968).

    The intercept is the median of y - slope × x. x has two different values at least.
    """
    from scipy.stats import theilslopes

    found = theilslopes(y, x)
    slope = float(found.slope)
    return slope, float(np.median(y - slope * x))
