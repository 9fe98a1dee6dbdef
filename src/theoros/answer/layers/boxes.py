"""Boxes of quartiles, parts of them shaded, and bars that measure a distance."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Anchor, Block, Marks, Words
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.answer.metrics import text_width
from theoros.lazy_imports import np


@dataclass(frozen=True)
class Box(Layer):
    """Quartiles, whiskers to the farthest values within the fences, and the mean."""

    low: float
    q1: float
    median: float
    q3: float
    high: float
    mean: float | None = None
    hollow: bool = False
    """Whether what lies behind it shows through."""

    def place(self, strip: Strip) -> None:
        x, items = strip.x, strip.items
        tall = min(strip.bottom - strip.top - 4, 18.0)
        # the triangle of the mean hangs below the box and needs room there
        middle = strip.middle - (3 if self.mean is not None else 0)
        for a, b in ((self.low, self.q1), (self.q3, self.high)):
            items.append(line(x(a), middle, x(b), middle, "ink"))
        left, right = x(self.q1), x(self.q3)
        fill = "" if self.hollow else "page"
        items.append(Block(left, middle - tall / 2, max(right - left, 1.0), tall, fill, "ink"))
        at = x(self.median)
        items.append(line(at, middle - tall / 2, at, middle + tall / 2, "ink", width=2.6))
        if self.mean is not None:
            spot = np.array([x(self.mean)]), np.array([middle + tall / 2 + 5])
            items.append(Marks(*spot, None, "triangle", "range", 9.0))


@dataclass(frozen=True)
class Shaded(Layer):
    """A part of a box that the eye is to rest on, from one value to another."""

    low: float
    high: float
    role: str = "tail"

    def place(self, strip: Strip) -> None:
        tall = min(strip.bottom - strip.top - 4, 18.0)
        left, right = strip.x(self.low), strip.x(self.high)
        wide, top = max(right - left, 1.0), strip.middle - tall / 2
        strip.items.append(Block(left, top, wide, tall, self.role, hatched=True))


@dataclass(frozen=True)
class MeasuredBar(Layer):
    """A bar from one value to another, with what it measures written beside it."""

    low: float
    high: float
    label: str
    role: str = "range"

    def place(self, strip: Strip) -> None:
        middle = strip.middle
        left, right = strip.x(self.low), strip.x(self.high)
        strip.items.append(Block(left, middle - 3, max(right - left, 1.5), 6, self.role))
        for end in (left, right):
            strip.items.append(line(end, middle - 7, end, middle + 7, self.role, 1.5))
        wide = text_width(self.label, strip.text)
        anchor: Anchor = "end"
        at, y = left - 10, middle + strip.text * 0.35
        if right + 10 + wide <= strip.x.end:
            at, anchor = right + 10, "start"
        elif left - 10 - wide < strip.x.start - 60:
            at, y = strip.x.end, middle - strip.text * 0.8
        strip.items.append(Words(at, y, self.label, strip.text, "ink", anchor))
