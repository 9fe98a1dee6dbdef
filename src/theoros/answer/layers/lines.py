"""Curves, the areas below and between them, and level lines to compare with."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import FilledOutline, Stroke, Words
from theoros.answer.layers.layer import Layer, Strip
from theoros.answer.layers.layer import line as stroke
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True, eq=False)
class Line(Layer):
    """A curve through points."""

    x: Floats
    y: Floats
    role: str = "range"
    width: float = 1.5
    dashed: bool = False

    def place(self, strip: Strip) -> None:
        points = np.column_stack([strip.x.map(self.x), strip.upright.map(self.y)])
        strip.items.append(Stroke(points, self.role, self.width, self.dashed))


@dataclass(frozen=True, eq=False)
class Under(Layer):
    """The area between a curve and 0."""

    x: Floats
    y: Floats
    role: str = "tail"
    hatched: bool = True
    opacity: float = 1.0

    def place(self, strip: Strip) -> None:
        xs, y = strip.x.map(self.x), strip.upright
        if xs.size:
            ends = np.array([[xs[-1], y(0.0)], [xs[0], y(0.0)]])
            outline = np.vstack([np.column_stack([xs, y.map(self.y)]), ends])
            strip.items.append(FilledOutline(outline, self.role, self.opacity, self.hatched))


@dataclass(frozen=True, eq=False)
class Band(Layer):
    """The area between two curves, `low` and `high`, over the same x."""

    x: Floats
    low: Floats
    high: Floats
    role: str = "range"
    opacity: float = 0.18

    def place(self, strip: Strip) -> None:
        if not self.x.size:
            return
        xs, y = strip.x.map(self.x), strip.upright
        there = np.column_stack([xs, y.map(self.high)])
        back = np.column_stack([xs, y.map(self.low)])[::-1]
        strip.items.append(FilledOutline(np.vstack([there, back]), self.role, self.opacity))


@dataclass(frozen=True, eq=False)
class Ticks(Layer):
    """Short level lines, each over a stretch of x: what is expected beside what was counted."""

    left: Floats
    right: Floats
    y: Floats
    role: str = "seen"

    def place(self, strip: Strip) -> None:
        for left, right, y in zip(
            strip.x.map(self.left), strip.x.map(self.right), strip.upright.map(self.y), strict=True
        ):
            strip.items.append(stroke(float(left), float(y), float(right), float(y), self.role, 2))


@dataclass(frozen=True)
class Level(Layer):
    """A level line across the lane at a value of its vertical scale, with a word at its end."""

    y: float
    label: str = ""
    role: str = "mute"
    dashed: bool = True

    def place(self, strip: Strip) -> None:
        at = strip.upright(self.y)
        strip.items.append(stroke(strip.x.start, at, strip.x.end, at, self.role, 1.4, self.dashed))
        if self.label:
            above = at - strip.text * 0.4
            strip.items.append(Words(strip.x.end, above, self.label, strip.text, "ink", "end"))
