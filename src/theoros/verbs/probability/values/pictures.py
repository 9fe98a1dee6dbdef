"""The picture of a part: bars or a curve, the event hatched, its probability, and its handles."""

from __future__ import annotations

import math
from collections.abc import Sequence

from theoros.answer.axis import Axis, role_of
from theoros.answer.layers.bars import Bars
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.points import Points
from theoros.answer.layers.spans import Stretches
from theoros.answer.layers.written_words import WrittenWords
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule
from theoros.answer.wording import exact, number
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.bins import round_step
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.numeric.distributions.lattice import Lattice
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.probability.values.spans import Event
from theoros.verbs.probability.values.steps import ListedSteps, handle_places, steps_of

STEPS, SHADE_STEPS = 301, 121
MOST_BARS, MOST_LABELS = 80, 16
MOST_WHOLE = 20
"""A support of no more values than this is drawn as a whole."""
REACH = 4.2
"""Standard deviations that are drawn on both sides of the mean."""
FARTHEST = 12.0
SEEN_FROM = 4e-4
"""Masses below this share of the highest cannot be seen."""
DRAWN_BINS = 40
CAP = 6.0
"""A density that rises without end is cut at so many times its height at the median."""


def part_picture(
    distribution: Distribution,
    event: Event | None,
    said: str,
    label: str,
    alt: str,
    *,
    movable: bool,
    scored: bool = False,
    drawn: Floats | None = None,
    laid: Sequence[tuple[str, Event, str]] = (),
) -> Picture:
    """`said` is the probability that is written on the event; `label` names the axis.

    `scored` adds z-scores below a normal curve, `drawn` are values of a simulated check, and
    `laid` all parts with their letters and what the legend says of each.
    """
    region = event.region(distribution) if event and not laid else Region(())
    low, high = _ends(distribution, event)
    if not math.isfinite(high - low) or (high - low) / STEPS <= math.ulp(max(abs(low), abs(high))):
        raise OverflowError("the values are too close together to be drawn")
    if isinstance(distribution, Discrete):
        layers, top, low, high = _masses(distribution, region, low, high)
    else:
        layers, top = _density(distribution, region, low, high)
    if drawn is not None:
        layers = [one for one in layers if not isinstance(one, _BarLabels)]
        observed, highest = _seen_shares(distribution, drawn, low, high)
        layers.append(observed)
        top = max(top, highest * 1.16)
    keys: tuple[Key, ...] = ()
    if laid:
        top *= 1 + 0.09 * len(laid)
        regions = [(letter, one.region(distribution)) for letter, one, _ in laid]
        layers += _laid_over(distribution, regions, low, high)
        keys = tuple(Key(text) for _, _, text in laid)
    elif said and event and event.spans:
        middle = _middle(distribution, region, low, high)
        layers.append(WrittenWords(((middle, said, "middle"),)))
    rules = _handles(distribution, event, low, high) if event and movable else ()
    panel = Panel((Lane(tuple(layers), y=Axis(0.0, top)),))
    second = _scores(distribution, low, high) if scored else ()
    axis = Axis(low, high, label, whole=_is_whole(distribution), second=second, second_label="z" if second else "")
    return Picture((Frame(axis, (panel,), "", rules),), keys, alt=alt)


def _scores(distribution: Distribution, low: float, high: float) -> tuple[tuple[float, str], ...]:
    """Whole z-scores with their places, of a normal curve."""
    if not isinstance(distribution, Normal):
        return ()
    one = distribution
    first = math.ceil((low - one.mu) / one.sigma)
    last = math.floor((high - one.mu) / one.sigma)
    if last - first > 12:
        return ()
    return tuple((one.mu + z * one.sigma, number(z, 0)) for z in range(first, last + 1))


def _laid_over(
    distribution: Distribution, regions: Sequence[tuple[str, Region]], low: float, high: float
) -> list[Layer]:
    """The areas of several parts over each other, each with its stretch and letter above."""
    layers: list[Layer] = []
    inner = (high - low) * 1e-6
    cap = CAP * float(distribution.height(distribution.quantile(0.5)))
    for at, (_, region) in enumerate(regions):
        for first, last in region.parts:
            first, last = max(first, low + inner), min(last, high - inner)
            if isinstance(distribution, Discrete) or last <= first:
                continue
            part = np.linspace(first, last, SHADE_STEPS)
            heights = np.minimum(distribution.height(part), cap)
            layers.append(Under(part, heights, role_of(at), hatched=False, opacity=0.3))
    steps = steps_of(distribution)
    entries = []
    for letter, region in regions:
        parts = []
        for first, last in region.parts:
            if isinstance(distribution, Discrete):
                first, last = steps.at_least(max(first, low)), steps.at_most(min(last, high))
                if first > last:
                    continue
                half = 0.3
                first, last = first - half, last + half
            parts.append((first, last))
        entries.append((letter, tuple(parts)))
    return [*layers, Stretches(tuple(entries))]


def _seen_shares(distribution: Distribution, drawn: Floats, low: float, high: float) -> tuple[Layer, float]:
    """What was drawn, on the scale of the picture, and how high it reaches.

    Of separate values these are their shares, of others the density in bins.
    """
    if isinstance(distribution, Discrete):
        values, times = np.unique(drawn, return_counts=True)
        within = (values >= low) & (values <= high)
        values, shares = values[within], times[within] / drawn.size
        none = np.zeros(values.size, dtype=np.int64)
        points = Points(values, shares, none - 1, none, 7.0, "drawn")
        return points, float(shares.max(initial=0.0))
    counts, edges = np.histogram(drawn, bins=DRAWN_BINS, range=(low, high))
    heights = counts / (drawn.size * (edges[1] - edges[0]))
    x = np.repeat(edges, 2)
    y = np.concatenate([[0.0], np.repeat(heights, 2), [0.0]])
    return Line(x, y, "data", 1.5), float(heights.max(initial=0.0))


def _is_whole(distribution: Distribution) -> bool:
    if isinstance(distribution, Lattice):
        return bool((distribution.values == np.round(distribution.values)).all())
    return isinstance(distribution, Discrete)


def _ends(distribution: Distribution, event: Event | None) -> tuple[float, float]:
    """Where the mass is, and the ends of the event if they are not too far off."""
    centre, unit = distribution.centre, distribution.unit
    first, last = distribution.support
    low, high = centre - REACH * unit, centre + REACH * unit
    if not isinstance(distribution, Discrete) and (math.isfinite(first) or not math.isfinite(distribution.sd)):
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
    if isinstance(distribution, Lattice) or (isinstance(distribution, Discrete) and last - first <= MOST_WHOLE):
        low, high = first, last
    if not low < high:
        low, high = low - 1.0, high + 1.0
    return low, high


def _masses(distribution: Discrete, region: Region, low: float, high: float) -> tuple[list[Layer], float, float, float]:
    listed = steps_of(distribution)
    gap = 1.0
    if isinstance(listed, ListedSteps):  # no bar thinner than what can be seen
        gap = max(listed.gap, (high - low) / MOST_BARS / 0.62)
    values, chances = distribution.masses(low - gap / 2, high + gap / 2)
    observed = chances > chances.max(initial=0.0) * SEEN_FROM
    inside = region.holds(values)
    if values.size > MOST_BARS:
        keep = np.flatnonzero(observed)
        kept = slice(int(keep[0]), int(keep[-1]) + 1)
        values, chances, inside = values[kept], chances[kept], inside[kept]
    low, high = float(values[0]) - 0.75 * gap, float(values[-1]) + 0.75 * gap
    if values.size <= MOST_BARS:
        half = gap * (0.31 if values.size <= 40 else 0.45)
        bars = Bars(values - half, values + half, chances, inside)
        layers: list[Layer] = [bars]
        if values.size <= MOST_LABELS:
            shown = chances > chances.max() * 0.004
            layers.append(_BarLabels(values[shown], chances[shown]))
    else:
        bars = _gathered(values, chances, inside, gap)
        layers = [bars]
    return layers, float(bars.heights.max(initial=1e-300)) * 1.16, low, high


def _gathered(values, chances, inside, gap) -> Bars:  # type: ignore[no-untyped-def]
    """Several neighbouring values in a bar, cut where the event begins and ends."""
    width = max(1, int(round_step((values.size) / MOST_BARS)))
    turns = np.flatnonzero(inside[1:] != inside[:-1]) + 1
    edges = np.unique(np.concatenate([np.arange(0, values.size, width), turns, [values.size]]))
    starts, stops = edges[:-1], edges[1:]
    sums = np.add.reduceat(chances, starts)
    left, right = values[starts] - gap / 2, values[stops - 1] + gap / 2
    return Bars(left, right, sums / (stops - starts), inside[starts])


def _density(distribution: Distribution, region: Region, low: float, high: float) -> tuple[list[Layer], float]:
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
    if len(region.parts) == 1:
        (one,) = region.parts
        return (max(one[0], low) + min(one[1], high)) / 2
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
    whole = discrete and not isinstance(distribution, Lattice)
    step = 0.5 if whole else 0.0
    return tuple(
        Rule(at, "" if discrete else exact(end), "seen", slot, step=step)
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
