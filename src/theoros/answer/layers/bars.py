"""Bars of a distribution, those of the region that counts hatched."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Block
from theoros.answer.layers.layer import Layer, Strip
from theoros.numeric.arrays import Bools, Floats


@dataclass(frozen=True, eq=False)
class Bars(Layer):
    """Bars from 0 to `heights`; those `counted` are a tail or an event."""

    left: Floats
    right: Floats
    heights: Floats
    counted: Bools
    role: str = "chance"

    def place(self, strip: Strip) -> None:
        base = strip.upright(0.0)
        lefts, rights = strip.x.map(self.left), strip.x.map(self.right)
        tops = strip.upright.map(self.heights)
        for left, right, top, hit in zip(lefts, rights, tops, self.counted, strict=True):
            if base - top > 0:
                wide, tall = max(float(right - left) * 0.94, 1.0), base - float(top)
                role = "tail" if hit else self.role
                strip.items.append(
                    Block(float(left), float(top), wide, tall, role, hatched=bool(hit))
                )
