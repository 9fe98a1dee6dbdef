"""Many intervals above each other, the first at the bottom, told apart by whether they hold."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Marks
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats


@dataclass(frozen=True, eq=False)
class Ladder(Layer):
    """Intervals of shape (k,), each on a rung of its own; `room` is for so many rungs."""

    low: Floats
    at: Floats
    high: Floats
    holds: Bools
    room: int

    def place(self, strip: Strip) -> None:
        if not self.at.size:
            return
        step = (strip.bottom - strip.top) / max(self.room, 1)
        rungs = strip.bottom - step * (np.arange(self.at.size) + 0.5)
        width = float(min(2.4, max(1.0, step * 0.5)))
        for low, high, y, good in zip(
            strip.x.map(self.low).tolist(),
            strip.x.map(self.high).tolist(),
            rungs.tolist(),
            self.holds.tolist(),
            strict=True,
        ):
            left, right = max(low, strip.x.start), min(high, strip.x.end)
            if right > left:
                role = "range" if good else "seen"
                strip.items.append(line(left, y, right, y, role, width if good else width + 1))
        xs = strip.x.map(self.at)
        for good, role, shape in ((True, "range", "circle"), (False, "seen", "diamond")):
            chosen = self.holds == good
            if chosen.any():
                size = float(min(6.0, max(2.5, step)))
                strip.items.append(Marks(xs[chosen], rungs[chosen], None, shape, role, size))
