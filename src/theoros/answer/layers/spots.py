"""Single marks on the middle of a lane: outliers, means, intervals."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Marks
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints


@dataclass(frozen=True, eq=False)
class Rings(Layer):
    """Outliers on the middle of a lane."""

    x: Floats
    rows: Ints
    codes: Ints

    def place(self, strip: Strip) -> None:
        if self.x.size:
            xs = strip.x.map(self.x)
            ys = np.full(xs.size, strip.middle)
            strip.items.append(Marks(xs, ys, self.rows, "circle", "seen", 9.0, hollow=True))


@dataclass(frozen=True)
class Spots(Layer):
    """Single marks on the middle of a lane, such as a mean."""

    spots: tuple[tuple[float, str, str], ...]
    """Value, shape and role."""

    def place(self, strip: Strip) -> None:
        for value, shape, role in self.spots:
            spot = np.array([strip.x(value)]), np.array([strip.middle])
            strip.items.append(Marks(*spot, None, shape, role, 9.0))


@dataclass(frozen=True)
class Interval(Layer):
    """A point with its ends: an estimate and its margin, a mean and one SD each way.

    It lies on the middle of the lane, or at `level` of its vertical scale.
    """

    low: float
    at: float
    high: float
    shape: str = "triangle"
    role: str = "range"
    """Of the mark at the point."""
    line_role: str = ""
    """Of the bar and its ends; empty for the same."""
    level: float | None = None
    width: float = 2.5

    def place(self, strip: Strip) -> None:
        y = strip.middle if self.level is None else strip.upright(self.level)
        cap = max(3.0, (strip.bottom - strip.top) * 0.08)
        left, right, role = strip.x(self.low), strip.x(self.high), self.line_role or self.role
        strip.items.append(line(left, y, right, y, role, self.width))
        for end in (left, right):
            strip.items.append(line(end, y - cap, end, y + cap, role, self.width))
        spot = np.array([strip.x(self.at)]), np.array([y])
        strip.items.append(Marks(*spot, None, self.shape, self.role, 9.0))
