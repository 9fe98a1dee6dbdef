"""Shares of a whole as sectors, clockwise from the top; with a hole, a ring."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.axis import role_of
from theoros.answer.drawing import Anchor, FilledOutline, Stroke, Words
from theoros.answer.layers.layer import Layer, Strip
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

LEAST_LABEL = 0.035
"""Shares below this have no room for words in a ring; the key names them."""


@dataclass(frozen=True, eq=False)
class Sectors(Layer):
    """Shares that sum to 1, in order."""

    shares: Floats
    codes: Ints
    labels: tuple[str, ...]
    hole: float = 0.55
    """Radius of the hole over that of the whole; 0 for a pie."""

    def place(self, strip: Strip) -> None:
        size = strip.text
        middle = (strip.x.start + strip.x.end) / 2, strip.middle
        wide, tall = strip.x.end - strip.x.start, strip.bottom - strip.top
        radius = max(min(wide / 2 - size * 7, tall / 2 - size), 20.0)
        begin = 0.0
        for share, code, label in zip(self.shares, self.codes, self.labels, strict=True):
            end = begin + float(share)
            if share > 0:
                turn = np.linspace(begin, end, max(3, math.ceil(float(share) * 90))) * 2 * math.pi
                around = np.column_stack([np.sin(turn), -np.cos(turn)])
                inner = around[::-1] * self.hole if self.hole else np.zeros((1, 2))
                outline = np.vstack([around, inner]) * radius + middle
                strip.items.append(FilledOutline(outline, strip.role(int(code), role_of(int(code)))))
                edge = np.vstack([around[:1] * self.hole, around[:1]]) * radius + middle
                strip.items.append(Stroke(edge, "page", 1.5))
                if share >= LEAST_LABEL:
                    half, out = (begin + end) * math.pi, radius + size * 0.7
                    x, y = middle[0] + math.sin(half) * out, middle[1] - math.cos(half) * out
                    anchor: Anchor = "start" if math.sin(half) >= 0 else "end"
                    strip.items.append(Words(x, y + size * 0.35, label, size, "ink", anchor))
            begin = end
