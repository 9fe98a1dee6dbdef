"""What is left over of a series: whether it has a pattern yet, and where a trend turns."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF


def autocorrelations(values: Floats, most: int) -> Floats:
    """r_1 to r_most of a series about its mean; of pairs of which both values are there."""
    off = np.nan_to_num(values - np.nanmean(values))
    total = float(off @ off)
    if not total > 0:
        return np.zeros(most)
    return np.array([float(off[lag:] @ off[:-lag]) for lag in range(1, most + 1)]) / total


def ljung_box(errors: Floats, lags: int, fitted: int) -> float:
    """p of so large autocorrelations up to a lag, if there are none (Ljung & Box, 1978).

    `fitted` is how many smoothing constants or coefficients the errors come from; NaN where there
    are not enough lags or errors for it.
    """
    n = int(np.isfinite(errors).sum())
    df = lags - fitted
    if df < 1 or n < lags + 3:
        return math.nan
    r = autocorrelations(errors, lags)
    q = n * (n + 2) * float((r**2 / (n - np.arange(1, lags + 1))).sum())
    return float(ChiSquare(df).sf(q))


def season_p(off: Floats, cycle: int) -> float:
    """p of so large differences between the means of seasons, if there are none (F test).

    `off` is what values are off a trend that takes a degree of freedom from each cycle; NaN is
    passed over. NaN where there are too few.
    """
    if cycle < 2:
        return math.nan
    there = np.flatnonzero(np.isfinite(off))
    n, place = there.size, there % cycle
    counts = np.bincount(place, minlength=cycle)
    df = n - cycle - n // cycle
    if df < 1 or not counts.all():
        return math.nan
    means = np.bincount(place, off[there], cycle) / counts
    between = float((counts * (means - off[there].mean()) ** 2).sum()) / (cycle - 1)
    within = float(((off[there] - means[place]) ** 2).sum()) / df
    if not within > 0:
        return 0.0 if between > 0 else 1.0
    return float(FisherF(cycle - 1, df).sf(between / within))


def turns(trend: Floats, noise: float) -> Ints:
    """Places where a trend turns: its highest and lowest points that stand out.

    Each lies at least `noise` beyond the next turns and the ends, so that a wriggle is not told.
    NaN at the ends is passed over.
    """
    there = np.flatnonzero(np.isfinite(trend))
    found: list[int] = []
    if there.size < 3:
        return np.array(found, dtype=np.int64)
    high = low = int(there[0])
    rising = 0
    for at in there[1:].tolist():
        if trend[at] > trend[high]:
            high = at
        if trend[at] < trend[low]:
            low = at
        if rising >= 0 and trend[high] - trend[at] > noise:
            if rising or trend[high] - trend[there[0]] > noise:
                found.append(high)
            rising, high, low = -1, at, at
        elif rising <= 0 and trend[at] - trend[low] > noise:
            if rising or trend[there[0]] - trend[low] > noise:
                found.append(low)
            rising, high, low = 1, at, at
    return np.array(found, dtype=np.int64)
