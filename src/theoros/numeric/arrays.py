"""The array types that the numeric rooms share."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any, Literal

from theoros.lazy_imports import np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Ints = NDArray[np.int64]
    Bools = NDArray[np.bool_]
else:  # names for annotations only: NumPy is slow to import, and waits until it is used
    Floats = Ints = Bools = Any

Alternative = Literal["less", "greater", "different"]
"""Which way an alternative hypothesis points."""

Centre = Literal["mean", "median"]
"""What is compared between groups."""


def subtract(x: Floats, y: Floats | float) -> Floats:
    """x - y with the noise of binary rounding cleared, so that decimal ties stay ties.

    1.1 - 1.0 and 2.1 - 2.0 both give 0.1: results are rounded at the 14th significant
    digit of the largest value that went in.
    """
    moved = np.asarray(x - y, dtype=np.float64)
    scale = max(float(np.abs(x).max(initial=0.0)), float(np.abs(y).max(initial=0.0)))
    if scale == 0 or not math.isfinite(scale):
        return moved
    places = 14 - math.ceil(math.log10(scale))
    return np.round(moved, places) if abs(places) <= 22 else moved
