"""The array types that the numeric rooms share."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from theoros.lazy_imports import np

if TYPE_CHECKING:
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Ints = NDArray[np.int64]
    Bools = NDArray[np.bool_]
    Dates = NDArray[np.datetime64]
else:  # names for annotations only: NumPy is slow to import, and waits until it is used
    Floats = Ints = Bools = Dates = Any

Alternative = Literal["less", "greater", "different"]
"""Which way an alternative hypothesis points."""

Centre = Literal["mean", "median"]
"""What is compared between groups."""


def subtract(x: Floats, y: Floats | float) -> Floats:
    """x - y with the noise of binary rounding cleared, so that decimal ties stay ties.

    1.1 - 1.0 and 2.1 - 2.0 both give 0.1: each result is rounded at the 14th significant digit of
    the larger of its two values, and none by what the others are.
    """
    moved = np.asarray(x - y, dtype=np.float64)
    size = np.maximum(np.abs(x), np.abs(y))
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        places = 14 - np.ceil(np.log10(size))
        power = 10.0 ** np.abs(places)
        rounded = np.where(places >= 0, np.rint(moved * power) / power, np.rint(moved / power) * power)
    # powers of ten beyond 22 are no floats, and then nothing is gained by them
    return np.asarray(np.where((np.abs(places) <= 22) & np.isfinite(rounded), rounded, moved))


def ties_within(values: Floats) -> float:
    """How far apart values worked out from these may lie that are equal but for rounding."""
    return 16 * float(np.finfo(np.float64).eps) * float(np.abs(values).max(initial=0.0))
