"""Pictures of what chance alone gives: a curve or bars, the tail counted, the value seen."""

from __future__ import annotations

import math

import numpy as np

from theoros.answer.picture import Axis, Bars, Frame, Lane, Layer, Line, Panel, Rule, Under
from theoros.numeric.arrays import Bools, Claim, Floats
from theoros.numeric.bins import counts_in, round_step
from theoros.numeric.rank_tests import NullDistribution
from theoros.numeric.shuffles import as_far

TITLE = "What chance alone gives, if H₀ is true"
STEPS = 241


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
    low = min(float(values[worth[0]]), seen)
    high = max(float(values[worth[-1]]), seen)
    shown = (values >= low) & (values <= high)
    values, chances = values[shown], chances[shown]
    step = float(np.diff(values).min()) if values.size > 1 else 1.0
    counted = _counted(null, values, seen, claim)
    room = (high - low) * 0.03 + step
    layer = Bars(values - step / 2, values + step / 2, chances, counted)
    top = Axis(0.0, float(chances.max()) * 1.06)
    axis = Axis(low - room, high + room, symbol)
    panel = Panel((Lane((layer,), y=top),))
    return Frame(axis, (panel,), TITLE, (Rule(seen, f"seen: {seen_text}"),))


def _counted(null: NullDistribution, values: Floats, seen: float, claim: Claim) -> Bools:
    slack = 1e-9 * max(1.0, abs(seen))
    below, above = values <= seen + slack, values >= seen - slack
    if claim == "less":
        return np.asarray(below)
    if claim == "greater":
        return np.asarray(above)
    # twice the smaller tail: the same chance is marked at the other end
    centre = float((null.values * null.chances).sum())
    far = abs(seen - centre) - slack
    return np.asarray(np.abs(values - centre) >= far)


def replicates_frame(
    null: Floats, seen: float, claim: Claim, label: str, seen_text: str, title: str
) -> Frame:
    """A histogram of simulated statistics, those as far out as what was seen marked.

    The bins have an edge at the value seen (and at its mirror image), so that a bar is either
    in the tail or out of it.
    """
    hits = as_far(null, seen, claim)
    reach = max(float(np.abs(null).max(initial=0.0)), abs(seen)) * 1.05 or 1.0
    distinct = np.unique(np.round(null, 12)) if null.size else null
    if 1 < distinct.size <= 60:
        step = float(np.diff(distinct).min())
        edges_low = distinct - step / 2
        counts = np.array([np.sum(np.abs(null - value) < step / 2) for value in distinct])
        tail = np.array([bool(hits[np.abs(null - v) < step / 2].any()) for v in distinct])
        layer = Bars(edges_low, edges_low + step, counts.astype(np.float64), tail)
        most = float(counts.max())
    else:
        width = round_step(2 * reach / 45)
        size = abs(seen)
        bins = max(1, round(size / width)) if size > 0 else 0
        width = size / bins if bins and size > 0.2 * width else width
        half = math.ceil(reach / width)
        inside = counts_in(null[~hits], -half * width, half * width, 2 * half)
        tail_counts = counts_in(null[hits], -half * width, half * width, 2 * half)
        edges = np.arange(-half, half + 1) * width
        heights = np.concatenate([inside, tail_counts]).astype(np.float64)
        layer = Bars(
            np.concatenate([edges[:-1], edges[:-1]]),
            np.concatenate([edges[1:], edges[1:]]),
            heights,
            np.repeat([False, True], 2 * half),
        )
        most = float(heights.max(initial=1.0))
    top = Axis(0.0, max(most, 1.0) * 1.06)
    panel = Panel((Lane((layer,), y=top),))
    return Frame(Axis(-reach, reach, label), (panel,), title, (Rule(seen, f"seen: {seen_text}"),))
