"""The shape of a distribution: which way it leans, and how many peaks it has."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.density import bandwidth, density_curve
from theoros.numeric.measures import skewness
from theoros.numeric.summaries import Summary

LEAST = 12
"""Fewer values than this have no shape to speak of."""


@dataclass(frozen=True)
class SampleShape:
    """Which way values lie about their middle, and what speaks for it."""

    kind: Literal["flat", "peaks", "symmetric", "unclear", "right", "left"]
    peaks: int
    wider: str
    """The part of the box that bears the lean out: "upper" or "lower"; empty for none."""
    clear: bool = False
    """Whether normal values would seldom lean as much: skewness beyond two standard errors."""


def shape_of(values: Floats, summary: Summary) -> SampleShape | None:
    """The shape of a distribution; None for too few values or no spread."""
    if summary.n < LEAST or not summary.sd > 0:
        return None
    if np.unique(values).size <= 2:
        return SampleShape("flat", 1, "")
    pull = (summary.mean - summary.median) / summary.sd
    lower, upper = summary.median - summary.q1, summary.q3 - summary.median
    halves = (upper - lower) / (upper + lower) if upper + lower > 0 else 0.0
    peaks = count_peaks(values)
    if peaks >= 2:
        return SampleShape("peaks", peaks, "")
    if abs(pull) < 0.12 and abs(halves) < 0.35:
        return SampleShape("symmetric", 1, "")
    if pull * halves < 0 and abs(pull) < 0.2:
        return SampleShape("unclear", 1, "")
    side: Literal["right", "left"] = "right" if pull > 0 or (pull == 0 and halves > 0) else "left"
    borne_out = abs(halves) >= 0.2 and (halves > 0) == (side == "right")
    n = values.size
    error = math.sqrt(6 * n * (n - 1) / ((n - 2) * (n + 1) * (n + 3)))  # of G1 of normal values
    clear = abs(skewness(values)) > 2 * error
    return SampleShape(side, 1, ("upper" if halves > 0 else "lower") if borne_out else "", clear)


def count_peaks(values: Floats) -> int:
    """Peaks of the density curve that stand out: at least a fifth of the highest, and parted.

    Two peaks are parted where the curve between them falls below three quarters of the lower.
    """
    if values.size < 30:
        return 1
    # values on a grid, such as whole scores, have a peak at each of them unless it is smoothed away
    gaps = np.diff(np.unique(values))
    step = float(gaps.min(initial=np.inf))
    on_grid = gaps.size < values.size / 2 and np.allclose(gaps / step, np.round(gaps / step))
    _, y = density_curve(values, max(bandwidth(values), step) if on_grid else None)
    top = float(y.max())
    tops = np.flatnonzero((y[1:-1] > y[:-2]) & (y[1:-1] >= y[2:])) + 1
    tops = tops[y[tops] >= 0.2 * top]
    count, last = 1, int(tops[0]) if tops.size else 0
    for at in tops[1:].tolist():
        valley = float(y[last : at + 1].min())
        if valley < 0.75 * min(float(y[last]), float(y[at])):
            count += 1
            last = at
        elif y[at] > y[last]:
            last = at
    return count
