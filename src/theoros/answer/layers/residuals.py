"""Residuals drawn between points and a curve, and a line that hands can move."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Block, Handle, Marks
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True, eq=False)
class Residuals(Layer):
    """From each point (x, y) to the height of the curve there: a segment, or a square on it."""

    x: Floats
    y: Floats
    fitted: Floats
    squares: bool = False

    def place(self, strip: Strip) -> None:
        xs, tops = strip.x.map(self.x), strip.upright.map(self.y)
        feet = strip.upright.map(self.fitted)
        for x, top, foot in zip(xs.tolist(), tops.tolist(), feet.tolist(), strict=True):
            side = abs(top - foot)
            if self.squares and side > 0.5:
                strip.items.append(Block(x, min(top, foot), side, side, "seen", "seen", opacity=0.14))
            strip.items.append(line(x, top, x, foot, "seen", 1.2))


@dataclass(frozen=True)
class HandLine(Layer):
    """A straight line whose ends can be dragged up and down, each setting a slot."""

    left: tuple[float, float]
    right: tuple[float, float]
    slots: tuple[str, str]
    step: float

    def place(self, strip: Strip) -> None:
        y = strip.upright
        ends = [(strip.x(x), y(height)) for x, height in (self.left, self.right)]
        strip.items.append(line(*ends[0], *ends[1], "ink", 2.0, dashed=True))
        for (x, at), slot in zip(ends, self.slots, strict=True):
            spot = np.array([x]), np.array([at])
            strip.items.append(Marks(*spot, None, "circle", "ink", 12.0))
            strip.handles.append(
                Handle(slot, x, at, "round", "ink", y.low, y.high, y.start, y.end, step=self.step, upright=True)
            )
