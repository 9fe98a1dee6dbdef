"""Rectangles in the units of both scales: histograms, bars, mosaics."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Block, Words
from theoros.answer.layers.layer import Layer, Strip, side_by_side
from theoros.answer.metrics import text_width
from theoros.numeric.arrays import Floats, Ints


@dataclass(frozen=True, eq=False)
class Blocks(Layer):
    """Rectangles from left to right and from low to high."""

    left: Floats
    right: Floats
    low: Floats
    high: Floats
    codes: Ints
    labels: tuple[str, ...] = ()
    """Text above each, or within it where `inside`; empty for none.

    Of text within, what stands before a " · " is shown where there is no room for all of it.
    """
    inside: bool = False
    role: str = "data"
    """Where nothing is coloured."""
    hatched: tuple[bool, ...] = ()
    """Which belong to an event; empty where there is none."""
    faint: tuple[bool, ...] = ()
    """Which are shut out by a condition."""
    hollow: tuple[bool, ...] = ()
    """Which are drawn as outlines; empty for none."""

    def place(self, strip: Strip) -> None:
        y = strip.upright
        lefts, rights = strip.x.map(self.left), strip.x.map(self.right)
        lows, highs = y.map(self.low), y.map(self.high)
        gap = 1.0 if self.left.size <= 400 else 0.0
        told = self.inside or side_by_side(self.labels, (lefts + rights) / 2, strip.text * 0.92)
        for at in range(self.left.size):
            left, right = float(lefts[at]), float(rights[at])
            top, bottom = float(highs[at]), float(lows[at])
            if top > bottom:
                top, bottom = bottom, top
            wide, tall = max(right - left - gap, 0.75), bottom - top
            role = strip.role(int(self.codes[at]), self.role)
            hit = bool(self.hatched and self.hatched[at])
            opacity = 0.35 if self.faint and self.faint[at] else 1.0
            if tall > 0 and wide > 0:
                seam = 1.0 if self.hatched and tall > 3 else 0.0
                fill, line = ("", "mute") if self.hollow and self.hollow[at] else ("tail" if hit else role, "")
                strip.items.append(Block(left, top, wide, tall - seam, fill, line, opacity, hit))
            if told and self.labels and self.labels[at]:
                self._say(strip, self.labels[at], left, top, wide, tall)

    def _say(self, strip: Strip, label: str, left: float, top: float, wide: float, tall: float) -> None:
        size, middle = strip.text * 0.92, left + wide / 2
        if not self.inside:
            strip.items.append(Words(middle, top - 4, label, size, "mute", "middle"))
            return
        if text_width(label, size) >= wide - 4:
            label = label.partition(" · ")[0]
        if text_width(label, size) < wide - 4 and tall > size * 1.3:
            at = top + tall / 2 + size * 0.35
            ink = "ink" if self.hatched else "page"
            strip.items.append(Words(middle, at, label, size, ink, "middle"))
