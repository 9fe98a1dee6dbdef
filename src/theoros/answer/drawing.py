"""A drawing: what a picture becomes at a size in pixels. Whoever draws needs no geometry."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

from theoros.answer.axis import Reads
from theoros.answer.metrics import Face
from theoros.lazy_imports import np
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
class FilledOutline:
    """A filled outline, points of shape (k, 2)."""

    points: Floats
    fill: str
    opacity: float = 1.0
    hatched: bool = False


@dataclass(frozen=True, eq=False)
class Marks:
    """Marks of one shape, size and colour; `rows` are the numbers of what they stand for, if any.

    That is a row of the table, a replicate of a simulation, or a case that chance drew.
    """

    x: Floats
    y: Floats
    rows: Ints | None
    shape: str
    role: str
    size: float
    hollow: bool = False
    stands_for: str = "row"


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
    face: Face = "sans"


Item = Stroke | Block | FilledOutline | Marks | Words


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
    reads: Reads | None = None
    """How a place becomes the slot's value, where it is not the value there."""
    pair: str = ""
    """Of the knob at the lower end of an axis: the slot of its upper end."""

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
        return self._stepped(self.reads(value) if self.reads else value)

    def _stepped(self, value: float) -> float:
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
class WordSpot:
    """Where words stand that can be typed over: they name a column, or set a slot."""

    text: str
    x: float
    y: float
    width: float
    height: float
    slot: str = ""
    column: str = ""
    figure: bool = False
    """Whether it is a number, which one click or F2 types over where it stands."""

    def holds(self, x: float, y: float) -> bool:
        """Whether a point lies on the words."""
        return 0 <= x - self.x <= self.width and 0 <= y - self.y <= self.height


Zone = Literal["axis", "panels", "key", "middle"]


@dataclass(frozen=True)
class ZoneSpot:
    """A part of the picture that a column can be dropped on, and what it then stands for."""

    zone: Zone
    left: float
    top: float
    width: float
    height: float

    def holds(self, x: float, y: float) -> bool:
        return self.left <= x <= self.left + self.width and self.top <= y <= self.top + self.height


@dataclass(frozen=True)
class OpenSpot:
    """Where a click opens what has a number, such as a replicate."""

    number: int
    x: float
    y: float
    width: float
    height: float

    def holds(self, x: float, y: float) -> bool:
        return 0 <= x - self.x <= self.width and 0 <= y - self.y <= self.height


@dataclass(frozen=True)
class Drawing:
    width: float
    height: float
    items: tuple[Item, ...]
    handles: tuple[Handle, ...] = ()
    notes: tuple[str, ...] = ()
    keys: tuple[KeySpot, ...] = ()
    words: tuple[WordSpot, ...] = ()
    opens: tuple[OpenSpot, ...] = ()
    zones: tuple[ZoneSpot, ...] = ()

    def zone_at(self, x: float, y: float) -> Zone:
        """What a column that is dropped there is for; the middle, where no other zone is."""
        return next((spot.zone for spot in self.zones if spot.holds(x, y)), "middle")

    @property
    def figures(self) -> tuple[WordSpot, ...]:
        """The numbers that can be typed over where they stand."""
        return tuple(spot for spot in self.words if spot.figure)

    def marks(self, stands_for: str = "row") -> tuple[Marks, ...]:
        """The marks that stand for rows, or for something else that is numbered."""
        return tuple(
            item
            for item in self.items
            if isinstance(item, Marks) and item.rows is not None and item.stands_for == stands_for
        )

    def nearest(self, x: float, y: float, within: float, stands_for: str = "row") -> int | None:
        """The row whose mark is nearest to a point, if one is within so many pixels."""
        best, found = within**2, None
        for marks in self.marks(stands_for):
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
