"""What a part of the question comes to: its probability, or the values that cut a share off."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.wording import decimals_needed
from theoros.lazy_imports import np
from theoros.numeric.distributions.distribution import Discrete, Distribution, Region
from theoros.numeric.distributions.lattice import Lattice
from theoros.verbs.probability.values.spans import AskedPart, CutOff, Event, ValueSpan
from theoros.verbs.probability.values.steps import steps_of

SAME = 1e-12


@dataclass(frozen=True)
class CutValue:
    """A value that cuts off, and what it gives; of counts it may miss what was asked."""

    at: float
    gives: float
    below: bool
    """Whether it is the lower tail that it cuts off."""


@dataclass(frozen=True)
class AnsweredPart:
    """A part worked out. `cuts` are the neighbours on each side for a question turned round."""

    asked: AskedPart
    probability: float
    event: Event | None
    """What is shaded."""
    cuts: tuple[tuple[CutValue, ...], ...] = ()


def worked_out(asked: AskedPart, distribution: Distribution) -> AnsweredPart:
    """The answer to a part."""
    if asked.cut_off is not None:
        return _cut_off(asked, asked.cut_off, distribution)
    assert asked.event is not None
    if asked.given is None:
        chance = distribution.probability(asked.event.region(distribution))
        return AnsweredPart(asked, chance, asked.event)
    both = asked.event.met(asked.given)
    given = distribution.probability(asked.given.region(distribution))
    chance = distribution.probability(both.region(distribution)) / given if given else math.nan
    return AnsweredPart(asked, chance, both)


def _cut_off(asked: AskedPart, wanted: CutOff, distribution: Distribution) -> AnsweredPart:
    share = float(wanted.share)
    if wanted.side == "bottom":
        sides = [(share, True)]
    elif wanted.side == "top":
        sides = [(share, False)]
    else:
        tail = share / 2 if wanted.side == "tails" else (1 - share) / 2
        sides = [(tail, True), (tail, False)]
    cuts = tuple(_cuts(distribution, tail, below) for tail, below in sides)
    first = [side[0].at for side in cuts]
    if wanted.side == "bottom":
        event = Event.of([ValueSpan(high=first[0])])
    elif wanted.side == "top":
        event = Event.of([ValueSpan(low=first[0])])
    elif wanted.side == "middle":
        event = Event.of([ValueSpan(first[0], first[1])])
        if isinstance(distribution, Discrete):  # what is left of both tails
            steps = steps_of(distribution)
            event = Event.of([ValueSpan(steps.after(first[0]), steps.before(first[1]))])
    else:
        event = Event.of([ValueSpan(high=first[0]), ValueSpan(low=first[1])])
    return AnsweredPart(asked, distribution.probability(event.region(distribution)), event, cuts)


def _upper_cut(distribution: Discrete, share: float) -> float:
    """The value from which on at most `share` lies, found from the tail itself: 1 − share may be 1."""
    near = float(distribution.quantile(1 - share))
    if isinstance(distribution, Lattice):
        return near

    def within(at: float) -> bool:
        return distribution.probability(Region(((at, math.inf),))) <= share

    low = near if math.isfinite(near) else math.floor(distribution.mean)
    low, step = math.floor(low) - 1, 1.0
    while within(low) and low > distribution.support[0]:
        low, step = low - step, 2 * step
    step = 1.0
    high = low + step
    while not within(high):
        high, step = high + step, 2 * step
    while high - low > 1:
        half = math.floor((low + high) / 2)
        low, high = (low, half) if within(half) else (half, high)
    return float(high)


def _cuts(distribution: Distribution, share: float, below: bool) -> tuple[CutValue, ...]:
    """The value that cuts off a tail; of counts the two that come nearest, the smaller tail first.

    A smaller tail keeps to the share: its value is what a table of critical values gives.
    """
    if not isinstance(distribution, Discrete):
        at = float(distribution.quantile(share)) if below else distribution.upper_quantile(share)
        return (CutValue(at, share, below),)
    steps = steps_of(distribution)
    first, last = distribution.support
    reach = float(distribution.quantile(share)) if below else _upper_cut(distribution, share)

    def gives(at: float) -> float:
        ends = (-math.inf, at) if below else (at, math.inf)
        return distribution.probability(Region((ends,)))

    near = [steps.before(reach), reach, steps.after(reach)]
    near += [steps.after(near[2])] if not below else [steps.before(near[0])]
    if not math.isfinite(near[0]) and below:  # no value at all: what lies before the first
        near.append(first - 1)
    if not math.isfinite(near[2]) and not below:
        near.append(last + 1)
    tails = {at: gives(at) for at in near if math.isfinite(at) and first - 1 <= at <= last + 1}
    small = [at for at, p in tails.items() if p <= share * (1 + SAME)]
    large = [at for at, p in tails.items() if p > share * (1 + SAME)]
    best = max(small, key=lambda at: tails[at]) if small else reach
    made = [CutValue(best, tails.get(best, gives(best)), below)]
    if large and abs(made[0].gives - share) > SAME * share:
        over = min(large, key=lambda at: tails[at])
        made.append(CutValue(over, tails[over], below))
    return tuple(made)


def places_for(distribution: Distribution) -> int:
    """Decimals of a value on the axis: so that a thousandth of the spread is seen."""
    unit = distribution.unit
    if isinstance(distribution, Lattice):
        return max(decimals_needed(value, 6) for value in distribution.values.tolist()[:200])
    if isinstance(distribution, Discrete) or not (math.isfinite(unit) and unit > 0):
        return 0 if isinstance(distribution, Discrete) else 3
    finer = 2 if 0.5 < unit < 2 else 1  # critical values have three decimals
    return int(np.clip(finer + 1 - math.floor(math.log10(unit)), 0, 8))
