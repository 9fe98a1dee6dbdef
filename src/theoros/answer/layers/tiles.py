"""A tile for each case of a sample, in the order in which they were drawn."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.drawing import Block, Words
from theoros.answer.layers.layer import Layer, Strip
from theoros.answer.metrics import text_width
from theoros.numeric.arrays import Bools

GAP = 2.0
TALLEST, NARROW = 34.0, 0.5
"""Of a tile in pixels, and how wide one without a name is beside its height."""
LEAST = 3.0
ONE_ROW = 9.0
"""As long as tiles are no narrower than that, they stand in one row."""


@dataclass(frozen=True, eq=False)
class Tiles(Layer):
    """Tiles of shape (n,), those that are `counted` filled; names within where there is room."""

    counted: Bools
    names: tuple[str, ...] = ()
    """One for each tile; empty where they have none."""

    def place(self, strip: Strip) -> None:
        n = int(self.counted.size)
        room, tall = strip.x.end - strip.x.start, strip.bottom - strip.top
        if n == 0 or room <= 0:
            return
        text = strip.text * 0.9
        longest = max((text_width(name, text) for name in self.names), default=0.0)
        wide, high, across = self._size(n, room, tall, longest + 8 if self.names else 0.0, text)
        named = bool(self.names) and wide >= longest + 4 and high >= text * 1.15
        top = strip.top + max(0.0, (tall - math.ceil(n / across) * high) / 2) * 0.4
        for at in range(n):
            x = strip.x.start + (at % across) * wide
            y = top + (at // across) * high
            hit = bool(self.counted[at])
            gap = min(GAP, wide * 0.2)
            strip.items.append(Block(x, y, wide - gap, high - gap, "seen" if hit else "", "" if hit else "mute"))
            if named:
                ink = "page" if hit else "ink"
                middle = y + (high - gap) / 2 + text * 0.35
                strip.items.append(Words(x + (wide - gap) / 2, middle, self.names[at], text, ink, "middle"))

    @staticmethod
    def _size(n: int, room: float, tall: float, named: float, text: float) -> tuple[float, float, int]:
        """Width and height of a tile, and how many stand side by side: the largest that fit."""
        if named:
            high = max(text * 1.5, min(TALLEST, tall))
            across = max(1, int(room / named))
            if math.ceil(n / across) * high <= tall:
                return named, high, across
        if room / n >= ONE_ROW:
            wide = min(room / n, min(TALLEST, tall) * NARROW)
            return wide, min(TALLEST, tall, wide / NARROW), n
        high = min(TALLEST, tall)
        while high > LEAST:
            wide = max(high * NARROW, LEAST)
            across = max(1, int(room / wide))
            if math.ceil(n / across) * high <= tall:
                return wide, high, across
            high *= 0.9
        across = max(1, int(room / LEAST))
        return room / across, tall / math.ceil(n / across), across
