"""Pictures of what chance gives: a curve or bars, the region that counts, the value seen.

They draw any distribution. What is shaded is the region itself, so that its area is the
probability that is told.
"""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import pairwise

from theoros.answer.axis import Axis
from theoros.answer.layers.bars import Bars
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.picture import Frame, Lane, Panel, Rule
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.bins import round_step
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.numeric.distributions.lattice import Pile

STEPS = 241
SHADE_STEPS = 80
MOST_BARS = 70
MOST_ON_GRID = 2000
USUAL, FARTHEST = 4.0, 9.0
"""How many units off the centre a curve is drawn: usually, and at the most."""
CAP = 4.0
"""A density that rises without end is cut at so many times its height at the median."""
LOPSIDED = 0.4
"""A side that reaches less far than this share of the other makes no symmetric picture."""
SEEN_FROM = 1e-5
"""Masses below this share of the largest cannot be seen as bars."""


def chance_frame(
    distribution: Distribution,
    region: Region,
    observed: float,
    *,
    axis: str = "",
    observed_text: str = "",
    title: str = "",
    bell: Distribution | None = None,
) -> Frame:
    """A distribution with a region of it shaded, and a value on its axis marked.

    `bell` is a curve drawn over the bars, to compare their shape with.
    """
    make = _bars_of if isinstance(distribution, Discrete) else _curve_of
    made, ends, at = make(distribution, region, observed)  # type: ignore[arg-type]
    if bell is not None:
        made = _with_curve(made, bell, ends)
    label = f"observed: {observed_text}" if observed_text else ""
    if label and at != observed:  # it lies beyond what is drawn
        label = f"{label} →" if observed > at else f"← {label}"
    return Frame(Axis(*ends, axis), (made,), title, (Rule(at, label),))


def _with_curve(panel: Panel, curve: Distribution, ends: tuple[float, float]) -> Panel:
    (lane,) = panel.lanes
    grid = np.linspace(*ends, STEPS)
    heights = curve.height(grid)
    assert lane.y is not None
    top = replace(lane.y, high=max(lane.y.high, float(heights.max()) * 1.06))
    layers = (*lane.layers, Line(grid, heights, "data", 1.6))
    return replace(panel, lanes=(replace(lane, layers=layers, y=top),))


Made = tuple[Panel, tuple[float, float], float]
"""The panel, the ends of its axis, and where on it the value is marked."""


def _curve_of(distribution: Distribution, region: Region, observed: float) -> Made:
    """A density. A value far off is marked at the edge, so that the curve stays in view."""
    centre, unit = distribution.centre, distribution.unit
    far = abs(observed - centre) / unit
    reach = min(max(USUAL, far * 1.12), FARTHEST) * unit
    low, high = centre - reach, centre + reach
    first, _ = distribution.support
    if first > low:  # a curve that begins there, such as chi-square
        low, high = first, max(high, distribution.upper_quantile(0.001))
    inner = (high - low) * 1e-6 if first >= low else 0.0  # some rise without end where they begin
    grid = np.linspace(low + inner, high, STEPS)
    heights = distribution.height(grid)
    layers: list[Layer] = []
    for first, last in region.parts:
        first, last = max(first, low), min(last, high)
        if last > first:
            part = np.linspace(first, last, SHADE_STEPS)
            layers.append(Under(part, distribution.height(part)))
    layers.append(Line(grid, heights, "chance", 2.0))
    cap = CAP * float(distribution.height(distribution.quantile(0.5)))
    top = Axis(0.0, min(float(heights.max()), cap) * 1.06)
    return Panel((Lane(tuple(layers), y=top),)), (low, high), min(max(observed, low), high)


def _bars_of(distribution: Discrete, region: Region, observed: float) -> Made:
    """Masses as bars; far ends that no bar could be seen for are left out."""
    values, chances = distribution.masses(-math.inf, math.inf)
    if isinstance(distribution, Pile):
        step = lattice_step(values)
        ends = _ends_of(distribution, observed)
    else:
        step = float(np.diff(values).min()) if values.size > 1 else 1.0
        worth = np.flatnonzero(chances > chances.max() * SEEN_FROM)
        low, high = min(float(values[worth[0]]), observed), max(float(values[worth[-1]]), observed)
        shown = (values >= low) & (values <= high)
        values, chances, ends = values[shown], chances[shown], (low - step, high + step)
    bars = bars_of(values, chances, region.holds(values), observed, step)
    top = Axis(0.0, float(bars.heights.max(initial=1e-12)) * 1.06)
    room = (ends[1] - ends[0]) * 0.02
    return Panel((Lane((bars,), y=top),)), (ends[0] - room, ends[1] + room), observed


def _ends_of(pile: Pile, observed: float) -> tuple[float, float]:
    """Both sides of the middle alike, unless what chance gives lies to one side of it."""
    low, high = pile.support
    low, high = min(low, observed), max(high, observed)
    below, above = pile.around - low, high - pile.around
    if min(below, above) < LOPSIDED * max(below, above):
        room = (high - low) * 0.03 or 1.0
        return low - room, high + room
    off = max(below, above) * 1.05 or 1.0
    return pile.around - off, pile.around + off


def lattice_step(values: Floats) -> float:
    """The distance between possible values (ascending) where they lie on a grid, else 0.

    Means of whole numbers do, for one; bars that ignored it would come out high and low in turn.
    """
    distinct = np.unique(np.round(values, 10))
    if not 1 < distinct.size <= MOST_ON_GRID:
        return 0.0
    step = float(np.diff(distinct).min())
    places = (distinct - distinct[0]) / step
    return step if float(np.abs(places - np.round(places)).max()) < 0.01 else 0.0


def bars_of(values: Floats, chances: Floats, counts: Bools, observed: float, step: float) -> Bars:
    """Bars whose areas are the chances, cut where the region ends: in it wholly or not at all.

    `values` ascend; `counts` says which of them lie in the region; `step` is the distance between
    possible values, 0 where they lie close.
    """
    size = max(float(np.abs(values).max(initial=0.0)), abs(observed)) or 1.0
    half = step / 2 if step else 1e-9 * size
    spread = float(values[-1] - values[0]) or abs(observed) or 1.0
    width = round_step(spread / MOST_BARS * 1.6)
    if step:
        width = step * max(1, round(width / step))
    turns = np.flatnonzero(counts[1:] != counts[:-1])
    cuts = [float(values[at] / 2 + values[at + 1] / 2) for at in turns.tolist()]
    if step:  # halfway between neighbours on the grid, even where some of it is bare
        cuts = [float(values[at] + half if counts[at] else values[at + 1] - half) for at in turns.tolist()]
    # room for a whole bar beyond every cut, so that no sliver of a bar towers over the rest
    low = min([float(values[0]) - half, *(cut - width for cut in cuts)])
    high = max([float(values[-1]) + half, *(cut + width for cut in cuts)])
    edges, inside = [low], []
    counted = bool(counts[0])
    for start, stop in pairwise([low, *cuts, high]):
        if step:  # every bar holds a whole number of the possible values
            own = [*np.arange(start + width, stop - half, width).tolist(), stop]
        else:
            parts = max(1, round((stop - start) / width))
            own = np.linspace(start, stop, parts + 1)[1:].tolist()
        edges += own
        inside += [counted] * len(own)
        counted = not counted
    borders = np.array(edges)
    mass, _ = np.histogram(values, bins=borders, weights=chances)
    heights = np.asarray(mass / np.diff(borders), dtype=np.float64)
    return Bars(borders[:-1], borders[1:], heights, np.array(inside, dtype=np.bool_))
