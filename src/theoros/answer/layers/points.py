"""Points of a scatter, shaded where they are too many to tell apart."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.drawing import Block
from theoros.answer.layers.layer import Layer, Strip
from theoros.answer.nouns import counted
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
    hollow: bool = False
    """Whether they are rings, as what is compared with a line."""

    def place(self, strip: Strip) -> None:
        usual = 8.0 if self.x.size <= 400 else 6.0 if self.x.size <= 2000 else 4.0
        xs, ys = strip.x.map(self.x), strip.upright.map(self.y)
        rings = np.full(xs.size, self.hollow)
        strip.mark(xs, ys, self.rows, self.codes, rings, self.size or usual, self.stands_for)


@dataclass(frozen=True, eq=False)
class Shades(Layer):
    """Counts of points in a grid, for more points than can be told apart."""

    x_edges: Floats
    y_edges: Floats
    counts: Floats
    """Shape (bins in x, bins in y)."""

    @classmethod
    def of(cls, x: Floats, y: Floats, across: int, up: int) -> Shades:
        """Points counted in a grid of so many cells from the least to the largest of each."""
        x_edges, y_edges = (
            np.linspace(low, high if high > low else low + 1.0, cells + 1)
            for low, high, cells in ((float(x.min()), float(x.max()), across), (float(y.min()), float(y.max()), up))
        )
        cells = [
            np.minimum(((values - edges[0]) * (n / (edges[-1] - edges[0]))).astype(np.int64), n - 1)
            for values, edges, n in ((x, x_edges, across), (y, y_edges, up))
        ]
        counts = np.bincount(cells[0] * up + cells[1], minlength=across * up)
        return cls(x_edges, y_edges, counts.reshape(across, up).astype(np.float64))

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
