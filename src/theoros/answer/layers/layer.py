"""What a layer is: a value in data units that places itself in a strip of a picture, in pixels.

A new kind of layer is a module of this package with a frozen dataclass that says `place`. It
needs to be made known nowhere else.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, field

from theoros.answer.axis import Axis, role_of, shape_of
from theoros.answer.drawing import Handle, Item, Marks, OpenSpot, Stroke, WordSpot
from theoros.answer.metrics import text_width
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints

LARGEST_DOT, SMALLEST_DOT = 11.0, 3.0


@dataclass(frozen=True)
class AxisScale:
    """From values to pixels along one direction."""

    low: float
    high: float
    start: float
    end: float
    log: bool = False
    """Whether equal ratios, not equal differences, are equally long (0 < low < high)."""

    def __call__(self, value: float) -> float:
        return float(self.map(np.array([value]))[0])

    def map(self, values: Floats) -> Floats:
        with np.errstate(over="ignore", invalid="ignore", divide="ignore"):
            if self.log:
                ratio = math.log(self.high) - math.log(self.low)
                share = (np.log(np.maximum(values, 0.0)) - math.log(self.low)) / ratio
            else:
                share = (values / 2 - self.low / 2) / (self.high / 2 - self.low / 2)
        return self.start + np.clip(share, -2.0, 3.0) * (self.end - self.start)

    def beyond(self, share: float) -> tuple[float, float]:
        """The ends of a scale that is longer on both sides by a share of its length."""
        if self.log:
            low, high = math.log(self.low), math.log(self.high)
            more = (high - low) * share
            return math.exp(max(low - more, -740.0)), math.exp(min(high + more, 709.0))
        more = (self.high - self.low) * share
        return self.low - more, self.high + more

    @property
    def pixels_per_unit(self) -> float:
        """Of a scale with equal steps."""
        return abs(self.end - self.start) / (self.high - self.low)


def scale_of(axis: Axis, start: float, end: float) -> AxisScale:
    """The scale of an axis between two pixels."""
    return AxisScale(axis.low, axis.high, start, end, axis.log)


@dataclass(frozen=True)
class Dots:
    """One size for all dots of a frame, how many stand abreast in a bin, the tallest bin."""

    size: float
    abreast: int
    tallest: int


@dataclass(frozen=True)
class Piles:
    """What a layer piles up, so that one size of dots can be found that suits all of a frame."""

    tallest: int
    """Marks in the highest pile."""
    width: float = 0.0
    """Of a pile, in data units."""
    labelled: bool = False
    """Whether words stand above piles."""
    counted: bool = False
    """Whether cases are only counted, without a mark each."""


def fit_dots(tallest: int, width: float, room: float) -> Dots:
    """The largest dots with which `tallest` of them fit in a bin `width` x `room` pixels."""
    best, abreast = 0.0, 1
    width = min(width, 1e4)  # bins far wider than the picture
    if not tallest:
        return Dots(LARGEST_DOT, 1, 0)
    for k in range(1, max(1, int(width / SMALLEST_DOT)) + 1):
        size = min(width * 0.94 / k, room / math.ceil(tallest / k), LARGEST_DOT)
        if size > best + 1e-9:
            best, abreast = size, k
    return Dots(best, abreast, tallest)


@dataclass(frozen=True)
class Strip:
    """Where a layer goes: its scales, its upper and lower pixel, and what is drawn so far."""

    x: AxisScale
    y: AxisScale | None
    top: float
    bottom: float
    text: float
    dots: Dots
    roles: tuple[str, ...]
    """The colours of the keys; empty where nothing is coloured."""
    items: list[Item]
    notes: list[str]
    spots: list[WordSpot] = field(default_factory=list)
    """Words that can be typed over."""
    opens: list[OpenSpot] = field(default_factory=list)
    """What a click opens."""
    handles: list[Handle] = field(default_factory=list)
    """What can be dragged."""

    @property
    def coloured(self) -> bool:
        return bool(self.roles)

    @property
    def middle(self) -> float:
        """The pixel halfway up."""
        return (self.top + self.bottom) / 2

    def role(self, code: int, plain: str = "data") -> str:
        """The colour of the marks of a key; `plain` where nothing is coloured."""
        if not self.roles:
            return plain
        return self.roles[code] if code < len(self.roles) else role_of(code)

    @property
    def upright(self) -> AxisScale:
        """The vertical scale of a lane that must have one."""
        if self.y is None:
            raise ValueError("this layer needs a lane with a vertical scale")
        return self.y

    def mark(
        self, xs: Floats, ys: Floats, rows: Ints, codes: Ints, ringed: Bools, size: float, stands_for: str = "row"
    ) -> None:
        """Marks at pixels, in the shape and colour of their keys; those `ringed` hollow."""
        for code in np.unique(codes).tolist():
            shape, role = (shape_of(code) if self.coloured else "circle"), self.role(code)
            for hollow in (False, True):
                here = (codes == code) & (ringed == hollow)
                if here.any():
                    colour = "seen" if hollow else role
                    self.items.append(Marks(xs[here], ys[here], rows[here], shape, colour, size, hollow, stands_for))


class Layer(ABC):
    """A kind of marks."""

    @abstractmethod
    def place(self, strip: Strip) -> None:
        """Draws it into its strip."""

    @property
    def piles(self) -> Piles | None:
        """What it piles up; None where it piles nothing."""
        return None

    @property
    def speaks_above(self) -> bool:
        """Whether it writes in the upper part of the lane, where piles must leave room."""
        return False


def line(x0: float, y0: float, x1: float, y1: float, role: str, width: float = 1.0, dashed: bool = False) -> Stroke:
    """A straight stroke between two points."""
    return Stroke(np.array([[x0, y0], [x1, y1]]), role, width, dashed)


def side_by_side(labels: Sequence[str], centres: Floats, size: float) -> bool:
    """Whether texts above bars stand beside each other without lying on one another."""
    if not any(labels):
        return False
    apart = np.diff(np.unique(np.round(centres[[bool(label) for label in labels]], 1)))
    return not apart.size or max(text_width(label, size) for label in labels) <= float(apart.min()) + 2
