"""What was seen with the interval below it, and the curve or pile that the interval comes from."""

from __future__ import annotations

import math
from dataclasses import replace

from theoros.answer.axis import Axis, span
from theoros.answer.chance_pictures import chance_frame, lattice_step
from theoros.answer.layers.spots import Interval
from theoros.answer.picture import Frame, Lane, Panel, Rule
from theoros.answer.wording import number
from theoros.lazy_imports import np
from theoros.numeric.distributions.distribution import Region
from theoros.numeric.distributions.lattice import Pile
from theoros.verbs.data.pictures import fine_width, stacks
from theoros.verbs.data.samples import OneSample
from theoros.verbs.data.seen import seen_frame
from theoros.verbs.estimate.words import Estimated
from theoros.verbs.procedures.procedure import Result

MOST_OPENED = 1000
"""Up to so many resamples have a dot each."""
ON_THE_AXIS = ("mean", "median", "quantile")
"""What lies on the axis of the values themselves."""


def interval_frames(words: Estimated, result: Result, bound: str) -> tuple[Frame, ...]:
    """Two frames; in the second the ends can be dragged."""
    seen = seen_frame(words.data)
    on_axis = isinstance(words.data, OneSample) and words.parameter.name in ON_THE_AXIS
    if on_axis and result.interval is not None:
        seen = _with_interval(seen, words, result)
    return seen, _chance(words, result, bound)


def _with_interval(seen: Frame, words: Estimated, result: Result) -> Frame:
    """The rows with the interval on a line of its own below them."""
    low, high = _drawn(result, (seen.x.low, seen.x.high))
    bar = Interval(low, result.estimate, high, line_role="range")
    below = Panel((Lane((bar,)),), "interval")
    room = replace(seen.x, low=min(seen.x.low, low), high=max(seen.x.high, high))
    return replace(seen, x=room, panels=(*seen.panels, below))


def _drawn(result: Result, edge: tuple[float, float]) -> tuple[float, float]:
    """The ends, or the edge of the picture where there is none."""
    assert result.interval is not None
    low, high = result.interval
    return (low if math.isfinite(low) else edge[0]), (high if math.isfinite(high) else edge[1])


def _chance(words: Estimated, result: Result, bound: str) -> Frame:
    """How the estimate varies from sample to sample, with what is left out shaded."""
    if result.distribution is None:
        return _strip(words, result, bound)
    low, high = result.interval or (-math.inf, math.inf)
    parts = []
    pile = result.distribution.discrete
    if pile:  # the replicates at the ends belong to the interval
        low, high = math.nextafter(low, -math.inf), math.nextafter(high, math.inf)
    if bound != "upper" and math.isfinite(low):
        parts.append((-math.inf, low))
    if bound != "lower" and math.isfinite(high):
        parts.append((high, math.inf))
    if isinstance(result.distribution, Pile) and result.distribution.size <= MOST_OPENED:
        return _dots(words, result, result.distribution, (low, high), bound)
    title = result.title if pile else "How the estimate varies from sample to sample"
    frame = chance_frame(result.distribution, Region(tuple(parts)), result.estimate, axis=words.short, title=title)
    return replace(frame, rules=_rules(words, result, bound, frame.x))


def _dots(words: Estimated, result: Result, pile: Pile, inside: tuple[float, float], bound: str) -> Frame:
    """A dot for each resample, hollow where it is left out; a click opens it."""
    values = pile.replicates
    low, high = span(np.append(values, result.estimate), 0.06)
    width, step = fine_width(values), lattice_step(np.unique(values))
    if step:  # a whole number of the possible values to a bin, or piles would come out uneven
        width = step * max(1, round(width / step))
    out = (values < inside[0]) | (values > inside[1])
    dots = stacks(
        values,
        np.arange(1, values.size + 1),
        np.zeros(values.size, dtype=np.int64),
        out,
        width,
        float(values.min()) - width / 2,
    )
    lane = Lane((replace(dots, stands_for="replicate"),))
    axis = Axis(low, high, words.short)
    title = f"{result.title}; a click on one opens it"
    return Frame(axis, (Panel((lane,)),), title, _rules(words, result, bound, axis))


def _strip(words: Estimated, result: Result, bound: str) -> Frame:
    """The interval alone, where its way has no curve on this axis."""
    assert result.interval is not None
    finite = [end for end in (*result.interval, result.estimate) if math.isfinite(end)]
    first, last = span(np.array(finite), 0.25)
    low, high = _drawn(result, (first, last))
    bar = Interval(low, result.estimate, high, line_role="range")
    axis = Axis(first, last, words.short)
    frame = Frame(axis, (Panel((Lane((bar,)),)),), "The interval")
    return replace(frame, rules=_rules(words, result, bound, axis))


def _rules(words: Estimated, result: Result, bound: str, axis: Axis) -> tuple[Rule, ...]:
    """The ends, to be dragged."""
    if result.interval is None:
        return ()
    places = words.places(result.interval, result.estimate)
    step = 10.0 ** -(places + 1)
    made = []
    for slot, end, open_ in (
        ("low", result.interval[0], bound == "upper"),
        ("high", result.interval[1], bound == "lower"),
    ):
        if not open_ and axis.low <= end <= axis.high:
            made.append(Rule(end, number(end, places), "range", slot=slot, step=step))
    return tuple(made)
