"""Bars of a distribution, those of the region that counts hatched."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Block, OpenSpot, Words
from theoros.answer.layers.layer import Layer, Strip, side_by_side
from theoros.numeric.arrays import Bools, Floats


@dataclass(frozen=True, eq=False)
class Bars(Layer):
    """Bars from 0 to `heights`; those `counted` are a tail or an event."""

    left: Floats
    right: Floats
    heights: Floats
    counted: Bools
    role: str = "chance"
    labels: tuple[str, ...] = ()
    """Text above each; empty for none."""
    opens: tuple[int, ...] = ()
    """For each the number of what a click on it opens; 0 for nothing."""
    framed: int = -1
    """The one that what is opened lies in."""

    def place(self, strip: Strip) -> None:
        base = strip.upright(0.0)
        lefts, rights = strip.x.map(self.left), strip.x.map(self.right)
        tops = strip.upright.map(self.heights)
        size = strip.text * 0.92
        told = side_by_side(self.labels, (lefts + rights) / 2, size)
        bars = zip(lefts, rights, tops, self.counted, strict=True)
        for at, (left, right, top, hit) in enumerate(bars):
            wide, tall = max(float(right - left) * 0.94, 1.0), base - float(top)
            if told and self.labels[at]:
                middle = float(left) + wide / 2
                strip.items.append(Words(middle, float(top) - 4, self.labels[at], size, "mute", "middle"))
            if tall <= 0:
                continue
            role = "tail" if hit else self.role
            strip.items.append(Block(float(left), float(top), wide, tall, role, hatched=bool(hit)))
            if at == self.framed:
                strip.items.append(Block(float(left) - 3, float(top) - 3, wide + 6, tall + 6, "", "range", line=2))
            if self.opens and self.opens[at]:
                reach = max(tall, 12.0)  # a low bar can be hit, too
                strip.opens.append(OpenSpot(self.opens[at], float(left), base - reach, wide, reach))
