"""An axis, its ends, and how a place on it becomes a number; shapes and colours of categories."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

SHAPES = ("circle", "square", "triangle", "diamond", "cross", "down", "star", "bar")
"""Marks for categories, in order; after the last they begin again with the next colour."""


@dataclass(frozen=True)
class Axis:
    """A scale from low to high (low < high, finite) with its label."""

    low: float
    high: float
    label: str = ""
    whole: bool = False
    """Whether only whole numbers may be ticked."""
    names: tuple[tuple[float, str], ...] = ()
    """Words in place of ticks, each at its value; for levels."""
    bare: bool = False
    """Whether there is no scale at all, as under a ring."""
    days: bool = False
    """Whether its numbers are days since 1970-01-01."""
    log: bool = False
    """Whether equal ratios are equally long; then low > 0."""
    cut: bool = False
    """Whether its ends were set, so that what lies beyond them is not drawn."""
    column: str = ""
    """The column whose name is its label, which can then be typed over; empty for none."""
    second: tuple[tuple[float, str], ...] = ()
    """Ticks of a second scale below the first, each at its value on this one; of a lying axis."""
    second_label: str = ""

    def __post_init__(self) -> None:
        if not math.isfinite(self.high - self.low):
            raise OverflowError("the scale reaches beyond the largest number")


@dataclass(frozen=True)
class Reads:
    """How a place on an axis becomes the value of a slot: between points, in straight pieces.

    So the end of an interval can set the confidence. `places` ascend; beyond the ends the value
    is that of the end.
    """

    places: tuple[float, ...]
    values: tuple[float, ...]

    def __call__(self, place: float) -> float:
        return float(np.interp(place, self.places, self.values))


def shape_of(code: int) -> str:
    return SHAPES[code % len(SHAPES)]


def role_of(code: int) -> str:
    return f"category-{code % 8}"


def log_span(values: Floats, pad: float = 0.04) -> tuple[float, float]:
    """Ends of a logarithmic axis that holds values above 0 with a little room."""
    low, high = span(np.log(values), pad)
    return math.exp(max(low, -740.0)), math.exp(min(high, 709.0))  # what doubles can hold


def span(values: Floats, pad: float = 0.04) -> tuple[float, float]:
    """Ends of an axis that holds finite values with a little room; 0 to 1 for none."""
    if values.size == 0:
        return 0.0, 1.0
    low, high = float(values.min()), float(values.max())
    if low == high:
        half = abs(low) * 0.05 or 0.5
        return low - half, high + half
    room = (high / 2 - low / 2) * 2 * pad if np.isfinite(high - low) else 0.0
    return low - room, high + room
