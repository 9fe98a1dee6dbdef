"""Pictures of what chance alone gives: a curve or bars, the tail counted, the value seen."""

from __future__ import annotations

import math
from itertools import pairwise

from theoros.answer.picture import Axis, Bars, Frame, Lane, Layer, Line, Panel, Rule, Under
from theoros.heavy import np
from theoros.numeric.arrays import Claim, Floats
from theoros.numeric.bins import round_step
from theoros.numeric.rank_tests import NullDistribution

TITLE = "What chance alone gives, if H₀ is true"
STEPS = 241
MOST_BARS = 70
MOST_ON_GRID = 2000


def density(df: float | None, at: Floats) -> Floats:
    """Student's t density with df degrees of freedom, or the standard normal for None."""
    if df is None:
        return np.asarray(np.exp(-at * at / 2) / math.sqrt(2 * math.pi))
    log_scale = math.lgamma((df + 1) / 2) - math.lgamma(df / 2) - 0.5 * math.log(df * math.pi)
    return np.asarray(np.exp(log_scale - (df + 1) / 2 * np.log1p(at * at / df)))


def curve_frame(symbol: str, df: float | None, seen: float, claim: Claim, seen_text: str) -> Frame:
    """The null curve with the tail shaded and the observed statistic marked.

    A statistic far off the curve is marked at the edge, so that the curve stays in view.
    """
    reach = min(max(4.0, abs(seen) * 1.12), 9.0)
    grid = np.linspace(-reach, reach, STEPS)
    heights = density(df, grid)
    layers: list[Layer] = [Line(grid, heights, "chance", 2.0)]
    for low, high in _tails(seen, claim, reach):
        if high > low:
            part = np.linspace(low, high, 80)
            layers.insert(0, Under(part, density(df, part)))
    top = Axis(0.0, float(heights.max()) * 1.06)
    at = min(max(seen, -reach), reach)
    panel = Panel((Lane(tuple(layers), y=top),))
    return Frame(Axis(-reach, reach, symbol), (panel,), TITLE, (Rule(at, f"seen: {seen_text}"),))


def _tails(seen: float, claim: Claim, reach: float) -> list[tuple[float, float]]:
    size = min(abs(seen), reach)
    clipped = math.copysign(size, seen)
    if claim == "less":
        return [(-reach, clipped)]
    if claim == "greater":
        return [(clipped, reach)]
    return [(-reach, -size), (size, reach)]


def exact_frame(
    null: NullDistribution, symbol: str, seen: float, claim: Claim, seen_text: str
) -> Frame:
    """Bars for the exact chances of a statistic, the tail counted."""
    values, chances = null.values, null.chances
    # leave out far ends that no bar could be seen for
    worth = np.flatnonzero(chances > chances.max() * 1e-5)
    low, high = min(float(values[worth[0]]), seen), max(float(values[worth[-1]]), seen)
    shown = (values >= low) & (values <= high)
    step = float(np.diff(values).min()) if values.size > 1 else 1.0
    centre = float((values * chances).sum())
    bars = _bars(values[shown], chances[shown], seen, claim, centre, step)
    return _bars_frame(bars, symbol, seen, seen_text, TITLE, (low - step, high + step))


def replicates_frame(
    null: Floats, seen: float, claim: Claim, label: str, seen_text: str, title: str
) -> Frame:
    """A histogram of simulated statistics, those as far out as what was seen marked."""
    reach = max(float(np.abs(null).max(initial=0.0)), abs(seen)) * 1.05 or 1.0
    step = lattice_step(null)
    weights = np.full(null.size, 1.0 / max(1, null.size))
    bars = _bars(null, weights, seen, claim, 0.0, step)
    return _bars_frame(bars, label, seen, seen_text, title, (-reach, reach))


def lattice_step(values: Floats) -> float:
    """The distance between possible values where they lie on a grid, else 0.

    Means of whole numbers do, for one; bars that ignored it would come out high and low in turn.
    """
    distinct = np.unique(np.round(values, 10))
    if not 1 < distinct.size <= MOST_ON_GRID:
        return 0.0
    step = float(np.diff(distinct).min())
    places = (distinct - distinct[0]) / step
    return step if float(np.abs(places - np.round(places)).max()) < 0.01 else 0.0


def _bars_frame(
    bars: Bars, label: str, seen: float, seen_text: str, title: str, ends: tuple[float, float]
) -> Frame:
    top = Axis(0.0, float(bars.heights.max(initial=1e-12)) * 1.06)
    room = (ends[1] - ends[0]) * 0.02
    panel = Panel((Lane((bars,), y=top),))
    axis = Axis(ends[0] - room, ends[1] + room, label)
    return Frame(axis, (panel,), title, (Rule(seen, f"seen: {seen_text}"),))


def _bars(
    values: Floats, weights: Floats, seen: float, claim: Claim, centre: float, step: float
) -> Bars:
    """Bars whose areas are the chances, cut where a tail begins: in it wholly or not at all.

    `step` is the distance between possible values, 0 where they lie close.
    """
    slack = 1e-9 * (max(float(np.abs(values).max(initial=0.0)), abs(seen)) or 1.0)
    half = step / 2 if step else slack
    far = abs(seen - centre)
    cuts = {
        "less": [seen + half],
        "greater": [seen - half],
        "different": [centre - far + half, centre + far - half],
    }[claim]
    spread = float(values.max() - values.min()) or abs(seen) or 1.0
    width = round_step(spread / MOST_BARS * 1.6)
    if step:
        width = step * max(1, round(width / step))
    # room for a whole bar beyond every cut, so that no sliver of a bar towers over the rest
    low = min(float(values.min()) - half, *(cut - width for cut in cuts))
    high = max(float(values.max()) + half, *(cut + width for cut in cuts))
    inner = sorted(cut for cut in cuts if low < cut < high)
    if len(inner) == 2 and inner[0] >= inner[1]:
        inner = []  # nothing was seen away from the centre: all of it counts
    ends = [low, *inner, high]
    edges = [ends[0]]
    for start, stop in pairwise(ends):
        if step:  # every bar holds a whole number of the possible values
            edges += [*np.arange(start + width, stop - half, width).tolist(), stop]
        else:
            parts = max(1, round((stop - start) / width))
            edges += np.linspace(start, stop, parts + 1)[1:].tolist()
    borders = np.array(edges)
    mass, _ = np.histogram(values, bins=borders, weights=weights)
    middles = (borders[:-1] + borders[1:]) / 2
    counted = {
        "less": middles < seen + half,
        "greater": middles > seen - half,
        "different": np.abs(middles - centre) > far - half,
    }[claim]
    heights = np.asarray(mass / np.diff(borders), dtype=np.float64)
    return Bars(borders[:-1], borders[1:], heights, np.asarray(counted))
