"""Moving averages."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


def moving_average(values: Floats, width: int) -> Floats:
    """The mean of `width` values around each, centred; NaN where one of them is not there.

    Of an even width it is that of `width` + 1 values, of which the two at the ends count half, so
    that it stands at a value and not between two (2 × m; M. Kendall, Time-Series, ch. 3).
    Each mean is taken anew, so that no error runs along.
    """
    made = np.full(values.size, np.nan)
    span = width + 1 - width % 2
    if width < 1 or values.size < span:
        return made
    weights = np.ones(span)
    if width % 2 == 0:
        weights[[0, -1]] = 0.5
    half = span // 2
    with np.errstate(over="ignore", invalid="ignore"):
        made[half : values.size - half] = np.convolve(values, weights, "valid") / width
    return made
