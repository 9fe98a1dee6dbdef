"""Points of a scatter, shaded where they are too many to tell apart."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.drawing import Block
from theoros.answer.layers.layer import Layer, Strip
from theoros.answer.wording import counted
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints


@dataclass(frozen=True, eq=False)
class Points(Layer):
    """One mark for each row at (x, y)."""

    x: Floats
    y: Floats
    rows: Ints
    codes: Ints
    size: float = 0.0
    """Of a mark in pixels; 0 for one that suits how many there are."""
    stands_for: str = "row"
    """ "row" of the table, "replicate" of a simulation, or "case" that chance drew."""

    def place(self, strip: Strip) -> None:
        usual = 8.0 if self.x.size <= 400 else 6.0 if self.x.size <= 2000 else 4.0
        xs, ys = strip.x.map(self.x), strip.upright.map(self.y)
        filled = np.zeros(xs.size, dtype=np.bool_)
        strip.mark(xs, ys, self.rows, self.codes, filled, self.size or usual, self.stands_for)


@dataclass(frozen=True, eq=False)
class Shades(Layer):
    """Counts of points in a grid, for more points than can be told apart."""

    x_edges: Floats
    y_edges: Floats
    counts: Floats
    """Shape (bins in x, bins in y)."""

    def place(self, strip: Strip) -> None:
        xs, ys = strip.x.map(self.x_edges), strip.upright.map(self.y_edges)
        most = float(self.counts.max(initial=0.0)) or 1.0
        for i, j in np.argwhere(self.counts > 0).tolist():
            wide, tall = float(xs[i + 1] - xs[i]), float(ys[j] - ys[j + 1])
            opacity = 0.12 + 0.88 * math.sqrt(float(self.counts[i, j]) / most)
            corner = float(xs[i]), float(ys[j + 1])
            strip.items.append(Block(*corner, wide, tall, "data", opacity=opacity))
        total = counted(int(self.counts.sum()), "point")
        strip.notes.append(f"Shaded by how many of the {total} lie in each cell.")
