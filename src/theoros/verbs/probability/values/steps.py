"""Where the values of X lie: anywhere, at whole numbers, or at those of a list."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.distribution import Discrete, Distribution
from theoros.numeric.distributions.lattice import Lattice
from theoros.verbs.probability.values.spans import Event, ValueSpan


class Steps:
    """Any value may come: nothing lies between a value and the next."""

    def at_least(self, at: float) -> float:
        """The least value that is no smaller."""
        return float(f"{at:.6g}")

    def at_most(self, at: float) -> float:
        return float(f"{at:.6g}")

    def after(self, at: float) -> float:
        """The value that follows; infinite behind the last."""
        return at

    def before(self, at: float) -> float:
        return at

    def border(self, at: float, *, above: bool) -> float:
        """The place between a value and the next, where a handle stands."""
        return at


class WholeSteps(Steps):
    def at_least(self, at: float) -> float:
        return float(math.ceil(at))

    def at_most(self, at: float) -> float:
        return float(math.floor(at))

    def after(self, at: float) -> float:
        return at + 1

    def before(self, at: float) -> float:
        return at - 1

    def border(self, at: float, *, above: bool) -> float:
        return at + 0.5 if above else at - 0.5


@dataclass(frozen=True)
class ListedSteps(Steps):
    values: Floats
    """Ascending; at least one."""

    def _at(self, place: int) -> float:
        if not 0 <= place < self.values.size:
            return math.inf if place > 0 else -math.inf
        return float(self.values[place])

    def at_least(self, at: float) -> float:
        return self._at(int(np.searchsorted(self.values, at)))

    def at_most(self, at: float) -> float:
        return self._at(int(np.searchsorted(self.values, at, "right")) - 1)

    def after(self, at: float) -> float:
        return self._at(int(np.searchsorted(self.values, at, "right")))

    def before(self, at: float) -> float:
        return self._at(int(np.searchsorted(self.values, at)) - 1)

    @property
    def gap(self) -> float:
        """The least distance between two of them; 1 where there is one alone."""
        return float(np.diff(self.values).min()) if self.values.size > 1 else 1.0

    def border(self, at: float, *, above: bool) -> float:
        other = self.after(at) if above else self.before(at)
        if math.isinf(other):
            return at + self.gap / 2 if above else at - self.gap / 2
        return at / 2 + other / 2


def steps_of(distribution: Distribution) -> Steps:
    if isinstance(distribution, Lattice):
        return ListedSteps(distribution.values)
    return WholeSteps() if isinstance(distribution, Discrete) else Steps()


def inner_end(end: float, *, is_in: bool, low: bool, steps: Steps) -> float:
    """The end of a span; of separate values the last one that is in it."""
    if not math.isfinite(end):
        return end
    if low:
        found = steps.at_least(end) if type(steps) is not Steps else end
        return found if is_in or found != end else steps.after(end)
    found = steps.at_most(end) if type(steps) is not Steps else end
    return found if is_in or found != end else steps.before(end)


def handle_places(event: Event, steps: Steps) -> list[tuple[str, float, float]]:
    """The handles of an event: "low_end" or "high_end", where it stands, and the end itself.

    Of an event of one span they are its ends, of one of two what lies between.
    """
    if len(event.spans) == 1:
        (one,) = event.spans
        ends = [("low_end", one.low, one.low_in, True), ("high_end", one.high, one.high_in, False)]
    elif len(event.spans) == 2:
        first, last = event.spans
        ends = [("low_end", first.high, first.high_in, False), ("high_end", last.low, last.low_in, True)]
    else:
        return []
    made = []
    for slot, end, is_in, low in ends:
        if math.isfinite(end):
            inner = inner_end(end, is_in=is_in, low=low, steps=steps)
            if math.isfinite(inner):
                made.append((slot, steps.border(inner, above=not low), end))
    return made


def moved(event: Event, end: str, at: float, steps: Steps) -> Event:
    """The event after a handle was dragged to a place."""
    low = end == "low_end"
    value = steps.at_least(at) if low else steps.at_most(at)
    spans = event.spans
    if not math.isfinite(value) or not 1 <= len(spans) <= 2:
        return event
    if len(spans) == 1:
        (one,) = spans
        if low:
            return Event.of([replace(one, low=min(value, one.high), low_in=True)])
        return Event.of([replace(one, high=max(value, one.low), high_in=True)])
    first, last = spans
    # between the two lies what is left out: its ends are the handles
    if low:
        edge = min(steps.before(value), steps.before(last.low))
        made = (ValueSpan(first.low, edge, first.low_in, True), last)
    else:
        edge = max(steps.after(value), steps.after(first.high))
        made = (first, ValueSpan(edge, last.high, True, last.high_in))
    return Event.of(made) if math.isfinite(edge) else event
