"""A smooth curve for the density of values, and where normal values would lie."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

GRID = 512
REACH = 3.0
"""How far beyond the ends the curve is followed, in bandwidths."""


def bandwidth(values: Floats) -> float:
    """Silverman's rule (1986, eq. 3.31): 0.9 min(sd, IQR / 1.34) n^(-1/5); above 0.

    Finite values, at least one; where they do not spread, a small share of their size.
    """
    n = values.size
    sd = float(values.std(ddof=1)) if n > 1 else 0.0
    q1, q3 = np.quantile(values, [0.25, 0.75])
    spread = min(s for s in (sd, float(q3 - q1) / 1.34) if s > 0) if sd > 0 and q3 > q1 else sd
    found = 0.9 * spread * n ** (-0.2)
    return found if found > 0 else max(abs(float(values[0])) * 0.01, 0.01)


def density_curve(values: Floats, width: float | None = None) -> tuple[Floats, Floats]:
    """A Gaussian kernel density estimate on a grid: x and its height, area 1, shape (512,) each.

    `values` are finite, at least one; `width` is the bandwidth, above 0, or None for Silverman's.
    Values are counted on the grid, each shared between the two nearest points, and the counts
    smoothed (Silverman 1982), which takes the same time for a thousand values and a million.
    """
    scale = float(np.abs(values).max()) or 1.0
    if not 1e-100 < scale < 1e100:  # squares of such values are no floats
        x, y = density_curve(values / scale, None if width is None else width / scale)
        return x * scale, y / scale
    h = bandwidth(values) if width is None else width
    low, high = float(values.min()) - REACH * h, float(values.max()) + REACH * h
    x = np.linspace(low, high, GRID)
    step = (high - low) / (GRID - 1)
    places = (values - low) / step
    below = np.clip(np.floor(places).astype(np.int64), 0, GRID - 2)
    share = places - below
    counts = np.bincount(below, 1 - share, GRID) + np.bincount(below + 1, share, GRID)
    reach = max(1, math.ceil(5 * h / step))
    offsets = np.arange(-reach, reach + 1) * step
    kernel = np.exp(-0.5 * (offsets / h) ** 2)
    kernel /= kernel.sum() * step  # its area is 1 on this grid, however few points it spans
    smooth = np.convolve(counts, kernel)[reach : reach + GRID]
    return x, smooth / values.size


def normal_scores(n: int) -> Floats:
    """Where n sorted normal values are expected: quantiles at (i - 3/8) / (n + 1/4) (Blom 1958)."""
    from scipy.special import ndtri

    places = (np.arange(1, n + 1) - 0.375) / (n + 0.25)
    return np.asarray(ndtri(places), dtype=np.float64)


def ecdf(values: Floats) -> tuple[Floats, Floats]:
    """The empirical distribution function: each distinct value, and the share at or below it.

    `values` are finite, at least one; shares ascend to 1.
    """
    found, counts = np.unique(values, return_counts=True)
    return found, np.cumsum(counts) / values.size
