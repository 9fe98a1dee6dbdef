"""Drawing an axis nearer, moving along it: from the handles at its ends to other ends."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.drawing import Handle
from theoros.numeric.bins import round_step


@dataclass(frozen=True)
class Zoom:
    """An axis in the units in which it is even: logarithms where it is logarithmic."""

    low: float
    high: float
    start: float
    end: float
    upright: bool
    log: bool

    @classmethod
    def of(cls, handle: Handle) -> Zoom:
        """The axis of an end handle, which reaches half an axis beyond either end."""
        low, high = handle.low, handle.high
        if handle.log:
            low, high = math.log(low), math.log(high)
        span, room = (high - low) / 2, (handle.right - handle.left) / 2
        first, start = low + span / 2, handle.left + room / 2
        return cls(first, first + span, start, start + room, handle.upright, handle.log)

    def share(self, pixel: float) -> float:
        """How far along the axis a pixel lies, from 0 to 1."""
        return min(max((pixel - self.start) / (self.end - self.start), 0.0), 1.0)

    def drawn_nearer(self, first: str, last: str, at: float, factor: float) -> dict[str, float]:
        """The ends after the length is multiplied around a place on the axis."""
        centre = self.low + at * (self.high - self.low)
        low, high = centre - (centre - self.low) * factor, centre + (self.high - centre) * factor
        return self._named(first, last, low, high)

    def moved(self, first: str, last: str, share: float) -> dict[str, float]:
        """The ends after moving along by a share of the length."""
        step = (self.high - self.low) * share
        return self._named(first, last, self.low + step, self.high + step)

    def _named(self, first: str, last: str, low: float, high: float) -> dict[str, float]:
        """With no more figures than the length needs."""
        if self.log:
            return {first: float(f"{math.exp(low):.3g}"), last: float(f"{math.exp(high):.3g}")}
        step = round_step(max((high - low) / 200, 1e-300))
        return {first: round(low / step) * step, last: round(high / step) * step}
