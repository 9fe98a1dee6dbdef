"""The picture of a part: bars or a curve, the event hatched, its probability, and its handles."""

from __future__ import annotations

import math

from theoros.answer.layers.bars import Bars
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.written import Said
from theoros.answer.picture import Axis, Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact
from theoros.lazy_imports import np
from theoros.numeric.bins import round_step
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.verbs.probability.values.spans import Event
from theoros.verbs.probability.values.steps import handle_places, steps_of

STEPS, SHADE_STEPS = 301, 121
MOST_BARS, MOST_LABELS = 80, 16
MOST_WHOLE = 20
"""A support of no more values than this is drawn as a whole."""
REACH = 4.2
"""Standard deviations that are drawn on both sides of the mean."""
FARTHEST = 12.0
SEEN_FROM = 4e-4
"""Masses below this share of the highest cannot be seen."""
CAP = 6.0
"""A density that rises without end is cut at so many times its height at the median."""


def part_picture(
    distribution: Distribution, event: Event | None, said: str, label: str, alt: str,
    *, movable: bool,
) -> Picture:  # fmt: skip
    """`said` is the probability that is written on the event; `label` names the axis."""
    region = event.region(distribution) if event else Region(())
    low, high = _ends(distribution, event)
    if isinstance(distribution, Discrete):
        layers, top, low, high = _masses(distribution, region, low, high)
    else:
        layers, top = _density(distribution, region, low, high)
    if said and event and event.spans:
        middle = _middle(distribution, region, low, high)
        layers.append(Said(((middle, said, "middle"),)))
    rules = _handles(distribution, event, low, high) if event and movable else ()
    panel = Panel((Lane(tuple(layers), y=Axis(0.0, top)),))
    axis = Axis(low, high, label, whole=isinstance(distribution, Discrete))
    return Picture((Frame(axis, (panel,), "", rules),), alt=alt)


def _ends(distribution: Distribution, event: Event | None) -> tuple[float, float]:
    """Where the mass is, and the ends of the event if they are not too far off."""
    centre, unit = distribution.centre, distribution.unit
    first, last = distribution.support
    low, high = centre - REACH * unit, centre + REACH * unit
    if not isinstance(distribution, Discrete) and (
        math.isfinite(first) or not math.isfinite(distribution.sd)
    ):
        low, high = float(distribution.quantile(0.0005)), distribution.upper_quantile(0.001)
        spread = high - low
        if first == 0 and low < 0.3 * high:
            low = 0.0
        elif math.isfinite(spread):
            low -= 0.05 * spread
    for span in event.spans if event else ():
        for end in (span.low, span.high):
            if math.isfinite(end) and abs(end - centre) <= FARTHEST * max(unit, high - low) / 2:
                low, high = min(low, end - 0.4 * unit), max(high, end + 0.4 * unit)
    low, high = max(low, first), min(high, last)
    if isinstance(distribution, Discrete) and last - first <= MOST_WHOLE:
        low, high = first, last
    if not low < high:
        low, high = low - 1.0, high + 1.0
    return low, high


def _masses(
    distribution: Discrete, region: Region, low: float, high: float
) -> tuple[list[Layer], float, float, float]:
    values, chances = distribution.masses(low - 0.5, high + 0.5)
    seen = chances > chances.max(initial=0.0) * SEEN_FROM
    inside = region.holds(values)
    if values.size > MOST_BARS:
        keep = np.flatnonzero(seen)
        kept = slice(int(keep[0]), int(keep[-1]) + 1)
        values, chances, inside = values[kept], chances[kept], inside[kept]
    low, high = float(values[0]) - 0.75, float(values[-1]) + 0.75
    if values.size <= MOST_BARS:
        half = 0.31 if values.size <= 40 else 0.45
        bars = Bars(values - half, values + half, chances, inside)
        layers: list[Layer] = [bars]
        if values.size <= MOST_LABELS:
            shown = chances > chances.max() * 0.004
            layers.append(_BarLabels(values[shown], chances[shown]))
    else:
        bars = _gathered(values, chances, inside)
        layers = [bars]
    return layers, float(bars.heights.max(initial=1e-300)) * 1.16, low, high


def _gathered(values, chances, inside) -> Bars:  # type: ignore[no-untyped-def]
    """Several neighbouring values in a bar, cut where the event begins and ends."""
    width = max(1, int(round_step((values.size) / MOST_BARS)))
    turns = np.flatnonzero(inside[1:] != inside[:-1]) + 1
    edges = np.unique(np.concatenate([np.arange(0, values.size, width), turns, [values.size]]))
    starts, stops = edges[:-1], edges[1:]
    sums = np.add.reduceat(chances, starts)
    left, right = values[starts] - 0.5, values[stops - 1] + 0.5
    return Bars(left, right, sums / (stops - starts), inside[starts])


def _density(
    distribution: Distribution, region: Region, low: float, high: float
) -> tuple[list[Layer], float]:
    inner = (high - low) * 1e-6
    grid = np.linspace(low + inner, high - inner, STEPS)
    heights = distribution.height(grid)
    cap = CAP * float(distribution.height(distribution.quantile(0.5)))
    heights = np.minimum(np.where(np.isfinite(heights), heights, cap), cap)
    layers: list[Layer] = []
    for first, last in region.parts:
        first, last = max(first, low + inner), min(last, high - inner)
        if last > first:
            part = np.linspace(first, last, SHADE_STEPS)
            layers.append(Under(part, np.minimum(distribution.height(part), cap)))
    layers.append(Line(grid, heights, "chance", 2.0))
    return layers, float(heights.max()) * 1.16


def _middle(distribution: Distribution, region: Region, low: float, high: float) -> float:
    """Where the probability is written: over the likeliest stretch of the event."""
    best, place = -1.0, (low + high) / 2
    for first, last in region.parts:
        first, last = max(first, low), min(last, high)
        if last >= first:
            share = distribution.probability(Region(((first, last),)))
            if share > best:
                best, place = share, (first + last) / 2
    return place


def _handles(distribution: Distribution, event: Event, low: float, high: float) -> tuple[Rule, ...]:
    """Knobs at the ends of an event of one span, or at what lies between two."""
    discrete = isinstance(distribution, Discrete)
    return tuple(
        Rule(at, "" if discrete else exact(end), "seen", slot, step=0.5 if discrete else 0.0)
        for slot, at, end in handle_places(event, steps_of(distribution))
        if low <= at <= high
    )


class _BarLabels(Layer):
    """The chance above each bar."""

    def __init__(self, x, heights) -> None:  # type: ignore[no-untyped-def]
        self.x, self.heights = x, heights

    def place(self, strip) -> None:  # type: ignore[no-untyped-def]
        from theoros.answer.drawing import Words
        from theoros.answer.wording import rounded

        for x, height in zip(self.x.tolist(), self.heights.tolist(), strict=True):
            y = strip.upright(height) - strip.text * 0.4
            text = rounded(height, 3)
            strip.items.append(Words(strip.x(x), y, text, strip.text * 0.92, "mute", "middle"))
