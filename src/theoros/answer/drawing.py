"""A drawing: what a picture becomes at a size in pixels. Whoever draws needs no geometry."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from theoros.heavy import np
from theoros.numeric.arrays import Floats, Ints

Anchor = Literal["start", "middle", "end"]


@dataclass(frozen=True, eq=False)
class Stroke:
    """A line through points, shape (k, 2)."""

    points: Floats
    role: str
    width: float = 1.0
    dashed: bool = False


@dataclass(frozen=True)
class Block:
    """A rectangle, filled or outlined."""

    x: float
    y: float
    width: float
    height: float
    fill: str = ""
    stroke: str = ""
    opacity: float = 1.0
    hatched: bool = False
    line: float = 1.0


@dataclass(frozen=True, eq=False)
class Region:
    """A filled outline, points of shape (k, 2)."""

    points: Floats
    fill: str
    opacity: float = 1.0
    hatched: bool = False


@dataclass(frozen=True, eq=False)
class Marks:
    """Marks of one shape, size and colour; `rows` are the rows they stand for, if any."""

    x: Floats
    y: Floats
    rows: Ints | None
    shape: str
    role: str
    size: float
    hollow: bool = False


@dataclass(frozen=True)
class Words:
    """One line of text; (x, y) is on the baseline, at the anchor."""

    x: float
    y: float
    text: str
    size: float = 12.0
    role: str = "ink"
    anchor: Anchor = "start"
    bold: bool = False


Item = Stroke | Block | Region | Marks | Words


@dataclass(frozen=True)
class Handle:
    """A round or square knob that a slot hangs on, and how its pixels become values."""

    slot: str
    x: float
    y: float
    shape: Literal["round", "square"]
    role: str
    low: float
    high: float
    left: float
    right: float
    origin: float = 0.0
    """What is taken off the value on the axis: a bin width hangs at its bin's far edge."""
    step: float = 0.0
    """The value is rounded to whole multiples of this; 0 for none."""
    upright: bool = False
    """Whether it moves up and down: `left` and `right` are then the pixels of its low and high."""
    log: bool = False
    """Whether its scale is logarithmic."""

    @property
    def place(self) -> float:
        """Its own pixel along the scale."""
        return self.y if self.upright else self.x

    def value_at(self, pixel: float) -> float:
        """The slot's value for a pixel along the scale, held within it."""
        share = min(1.0, max(0.0, (pixel - self.left) / (self.right - self.left)))
        if self.log:
            value = self.low * math.exp(share * (math.log(self.high) - math.log(self.low)))
            return float(f"{value:.3g}")
        value = self.low + share * (self.high - self.low) - self.origin
        if self.step <= 0:
            return value
        steps = round(value / self.step)
        return steps / round(1 / self.step) if self.step < 1 else steps * self.step


@dataclass(frozen=True)
class KeySpot:
    """Where an entry of the legend stands, to be clicked."""

    label: str
    x: float
    y: float
    width: float
    height: float


@dataclass(frozen=True)
class Drawing:
    width: float
    height: float
    items: tuple[Item, ...]
    handles: tuple[Handle, ...] = ()
    notes: tuple[str, ...] = ()
    keys: tuple[KeySpot, ...] = ()

    def marks(self) -> tuple[Marks, ...]:
        """The marks that stand for rows."""
        return tuple(i for i in self.items if isinstance(i, Marks) and i.rows is not None)

    def nearest(self, x: float, y: float, within: float) -> int | None:
        """The row whose mark is nearest to a point, if one is within so many pixels."""
        best, found = within**2, None
        for marks in self.marks():
            assert marks.rows is not None
            if marks.x.size == 0:
                continue
            square = (marks.x - x) ** 2 + (marks.y - y) ** 2
            at = int(np.argmin(square))
            if square[at] <= best:
                best, found = float(square[at]), int(marks.rows[at])
        return found

    def rows_in(self, x0: float, y0: float, x1: float, y1: float) -> Ints:
        """The rows with a mark in a rectangle, ascending, each once."""
        inside = [
            marks.rows[
                (marks.x >= min(x0, x1))
                & (marks.x <= max(x0, x1))
                & (marks.y >= min(y0, y1))
                & (marks.y <= max(y0, y1))
            ]
            for marks in self.marks()
            if marks.rows is not None
        ]
        return np.unique(np.concatenate(inside)) if inside else np.zeros(0, dtype=np.int64)
