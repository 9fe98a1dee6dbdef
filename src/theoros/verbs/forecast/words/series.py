"""What is said of a series: its trend, its seasons, what is left over, what is to come."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import TYPE_CHECKING

from theoros.answer.nouns import counted
from theoros.answer.wording import listed, number, p_equals, sentence_case, significant, whole, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.levels import below
from theoros.numeric.series.decomposition import Decomposition
from theoros.numeric.series.residual_tests import season_p, turns
from theoros.verbs.forecast.methods.fits import NO_SEASONS, trend_width
from theoros.verbs.forecast.series.series import Series

if TYPE_CHECKING:
    pass

MOST_TURNS, MOST_NAMED = 4, 3
FEW_CYCLES = 4
FAR = 4.0
"""A value stands out that is so many standard deviations off what trend and season give."""


def rounding(series: Series, deviation: float) -> float:
    """What figures are rounded to where they are as uncertain as this: no finer than it tells.

    A power of ten at most half the deviation, and never finer than the data.
    """
    finest = 10.0**-series.decimals
    if not deviation > 0:
        return finest
    size = float(np.nanmax(np.abs(series.raw)))
    if finest > deviation > 1e-6 * size:  # values so small that their decimals do not tell them apart
        finest = 10.0 ** math.floor(math.log10(deviation))
    return max(finest, 10.0 ** math.floor(math.log10(deviation / 2)))


def rounded(series: Series, value: float, unit: float) -> str:
    """A value to multiples of a power of ten."""
    places = max(0, -round(math.log10(unit)))
    made = round(value / unit) * unit
    if abs(made) >= 1e9 and abs(made) < 1e15:  # in full, as its last digits are what differs
        return whole(round(made))
    text = number(made, places if unit < 10.0**-series.decimals else min(places, series.decimals))
    if value and abs(value) < 0.5 * 10.0**-series.decimals and abs(value) > 1e-3 * series.largest:
        return significant(value)  # no decimals of the column show it
    return text


def sized(series: Series, value: float, unit: float) -> str:
    """The same with the unit of the column."""
    return with_unit(rounded(series, value, unit), series.column.unit)


def value_text(series: Series, value: float) -> str:
    """A value as exact as the data, with its unit."""
    return with_unit(rounded(series, value, 10.0**-series.decimals), series.column.unit)


def signed_value(series: Series, value: float) -> str:
    """The same with its sign: what is added to something else."""
    off = round(value, series.decimals)
    said = number(abs(off), series.decimals)
    return f"{'+' if off > 0 else '−'}{said}" if off else said


def counts_many(series: Series) -> bool:
    """Whether its name is the plural of what there is so many of: "640 visitors"."""
    name = series.column.name
    many = name.endswith("s") and not name.endswith(("ss", "us", "is"))
    return many and not (series.decimals or series.column.unit or series.below_zero)


def about(series: Series, value: float, unit: float) -> str:
    """ "about 640 visitors", "about 12.3 kg"."""
    said = rounded(series, value, unit)
    if counts_many(series):
        return f"about {said} {series.column.name}"
    return f"about {with_unit(said, series.column.unit)}"


# the trend


def trend_words(series: Series, parts: Decomposition) -> str:
    """How it changes, a year, and where it turns."""
    there = np.flatnonzero(np.isfinite(parts.trend))
    if there.size < 3:
        return ""
    if too_few_cycles(parts):
        return f"{_CYCLES_NEEDED} a trend from seasons. More values are needed."
    noise, far = trend_noise(parts), trend_reach(parts)
    trend = parts.trend[there]
    slope = float(np.polyfit(there, trend, 1)[0])
    turned = turns(parts.trend, far)
    unit = rounding(series, max(noise, 1e-300))
    name = series.column.name
    if turned.size > MOST_TURNS:
        return f"The trend of {name} goes up and down, with {turned.size} turns and no single direction."
    if turned.size:
        return _turning(series, parts, there, turned, unit)
    change = abs(float(trend[-1] - trend[0]))
    if change < far:
        return f"The trend of {name} hardly changes: it stays near {_level(series, trend, unit)}."
    per, size = _per(series, there.size)
    way = "rises" if slope > 0 else "falls"
    finer = rounding(series, max(noise * size / max(there.size, 1), 10.0**-series.decimals))
    rate = change / max(int(there[-1] - there[0]), 1) * size
    if round(rate / finer) == 0:
        return f"The trend of {name} hardly changes: it stays near {_level(series, trend, unit)}."
    amount = sized(series, rate, finer)
    ends = _ends(series, parts, there, unit)
    return f"The trend of {name} {way} by about {amount} {per}, {ends}."


_CYCLES_NEEDED = "Fewer than three cycles are too few to separate"


def too_few_cycles(parts: Decomposition) -> bool:
    """Whether some season was measured only once about the trend, so that nothing is left over of it."""
    there = np.flatnonzero(np.isfinite(parts.trend))
    return parts.cycle > 1 and int(np.bincount(there % parts.cycle, minlength=parts.cycle).min()) < 2


def trend_noise(parts: Decomposition) -> float:
    """The standard error of one point of the trend, roughly: that of a mean over a cycle."""
    rest = parts.remainder[np.isfinite(parts.remainder)]
    return float(rest.std()) / math.sqrt(_width(parts)) if rest.size else 0.0


def _width(parts: Decomposition) -> int:
    """How many values a point of the trend is from."""
    return parts.cycle if parts.cycle > 1 else trend_width(parts.values.size)


def trend_reach(parts: Decomposition) -> float:
    """How far a trend goes up and down by chance alone: the range of as many means as it holds."""
    many = max(3.0, 2 * parts.values.size / _width(parts))
    return trend_noise(parts) * 2 * math.sqrt(2 * math.log(many))


def _per(series: Series, known: int) -> tuple[str, float]:
    """ "a year", and how many steps that has; by the step where the trend is known for less than that."""
    if 0 < series.years <= known:
        return "a year", series.years
    return f"per {series.step}", 1.0


def _ends(series: Series, parts: Decomposition, there: Ints, unit: float) -> str:
    first, last = int(there[0]), int(there[-1])
    low = rounded(series, float(parts.trend[first]), unit)
    high = sized(series, float(parts.trend[last]), unit)
    return f"from {low} {series.when_in(first)} to {high} {series.when_in(last)}"


def _level(series: Series, trend: object, unit: float) -> str:
    return sized(series, float(np.mean(np.asarray(trend))), unit)


def _turning(series: Series, parts: Decomposition, there: Ints, turned: Ints, unit: float) -> str:
    said = []
    places = [int(there[0]), *turned.tolist(), int(there[-1])]
    for before, after in pairwise(places):
        way = "rises" if parts.trend[after] > parts.trend[before] else "falls"
        level = sized(series, float(parts.trend[after]), unit)
        said.append(f"{way} to about {level} {series.when_in(after)}")
    start = sized(series, float(parts.trend[places[0]]), unit)
    return (
        f"The trend of {series.column.name} begins at about {start} {series.when_in(places[0])}, "
        f"{', '.join(said[:-1])}, then {said[-1]}."
    )


# the seasons and what is left over


def season_words(series: Series, parts: Decomposition) -> str:
    """The seasons with the largest and the smallest effect, and how large those are."""
    if parts.cycle < 2:
        return ""
    high, low = int(np.argmax(parts.effects)), int(np.argmin(parts.effects))
    top, bottom = float(parts.effects[high]), float(parts.effects[low])
    first, last = sentence_case(series.season(high)), series.season(low)
    if too_few_cycles(parts):
        return ""
    p = season_p(parts.values - parts.trend, parts.cycle)
    if math.isnan(p):
        return "There are too few values to test whether there are seasons."
    if not below(p, NO_SEASONS):
        return f"These data do not show seasons ({p_equals(p)})."
    if parts.multiplicative:
        return f"{first} is highest, {_relative(top)} the trend, and {last} is lowest, {_relative(bottom)} it."
    rest = parts.remainder[np.isfinite(parts.remainder)]
    spread = float(rest.std()) * math.sqrt(parts.cycle / max(rest.size, 1)) if rest.size else 0.0
    unit = rounding(series, spread)
    above = sized(series, top, unit)
    under = sized(series, -bottom, unit)
    return f"{first} is highest, about {above} above the trend, and {last} is lowest, about {under} below it."


def _relative(factor: float) -> str:
    share = round(100 * (factor - 1))
    if share == 0:
        return "level with"
    return f"about {abs(share)}\u00a0% {'above' if share > 0 else 'below'}"


def strength_words(parts: Decomposition) -> str:
    """The share of the variation of trend and seasons."""
    if too_few_cycles(parts):
        return ""
    trend, season = parts.strengths
    p = season_p(parts.values - parts.trend, parts.cycle) if parts.cycle > 1 else 0.0
    if math.isnan(p) or not below(p, NO_SEASONS):
        return ""  # strengths are no nought where chance alone made them
    if parts.cycle < 2:
        if not np.isfinite(trend):
            return ""
        return f"The strength of the trend is {number(trend, 2)}."
    return f"The strength of the trend is {number(trend, 2)} and that of the seasons is {number(season, 2)}."


def left_over_words(series: Series, parts: Decomposition, reason: str) -> str:
    """The values that are farthest from what trend and season give, and the student's reason."""
    rest = parts.remainder
    there = np.flatnonzero(np.isfinite(rest) & np.isfinite(series.raw))
    if there.size < 3 or too_few_cycles(parts):
        return ""
    spread = robust_spread(parts)
    order = there[np.argsort(-np.abs(rest[there]), kind="stable")]
    far = [int(at) for at in order if spread > 0 and abs(rest[at]) > FAR * spread]
    unit = rounding(series, spread)
    why = f" Your reason: {reason.strip().rstrip('.')}." if reason.strip() else ""
    model = "trend and season" if parts.cycle > 1 else "the trend"
    if not far:
        at = int(order[0])
        size = sized(series, abs(float(rest[at])), unit)
        side = "above" if rest[at] > 0 else "below"
        if round(abs(float(rest[at])) / unit) == 0:
            return f"No {series.step} is unusual.{why}"
        return f"No {series.step} is unusual: the largest remainder is {size} {side} {model} ({series.named(at)}).{why}"
    named = [
        f"{series.named(at)} ({sized(series, abs(float(rest[at])), unit)} {'above' if rest[at] > 0 else 'below'})"
        for at in far[:MOST_NAMED]
    ]
    more = len(far) - len(named)
    if more:
        named.append(f"{more} more")
    verb = "differs" if len(far) == 1 else "differ"
    ask = why or " What happened then? Type your reason in the settings."
    return f"{sentence_case(listed(named))} {verb} strongly from {model}.{ask}"


def robust_spread(parts: Decomposition) -> float:
    """The standard deviation of what is left over by its median size, which few far ones move
    little; of few cycles, in which effects take much of it away, the usual one.

    Local regression bends to the values and leaves less over, the more so the fewer there are for
    each season and each stretch of the trend; that is put back.
    """
    rest = parts.remainder[np.isfinite(parts.remainder)]
    if not rest.size:
        return 0.0
    by_median = float(np.median(np.abs(rest))) / float(Normal().quantile(0.75))
    if parts.cycle == 1:
        return by_median
    bends = bool(np.isfinite(parts.trend[0]))
    if rest.size < (FEW_CYCLES + bends) * parts.cycle:
        return float(rest.std()) * (1.1 if bends else 1.0)
    taken = (parts.cycle + 1.5 * rest.size / parts.cycle) / rest.size
    return 1.12 * by_median / (1 - taken) if bends else by_median


def gap_words(series: Series) -> str:
    """Which steps have no value, and what was done about it."""
    gaps = series.gaps
    if not gaps.size:
        return ""
    named = listed([series.named(int(at)) for at in gaps[:MOST_NAMED].tolist()])
    if gaps.size > MOST_NAMED:
        first = ", ".join(series.named(int(at)) for at in gaps[:MOST_NAMED].tolist())
        named = f"{first} and {counted(int(gaps.size) - MOST_NAMED, 'more ' + series.step)}"
    has = "has" if gaps.size == 1 else "have"
    if series.filled:
        seasons = ", with the season put back" if series.cycle > 1 else ""
        done = f"interpolated between the neighbours{seasons}"
    else:
        done = "left open (in the decomposition they are interpolated between the neighbours)"
    it = "it was" if gaps.size == 1 else "they were"
    return f"{named} {has} no value: {it} {done}."


def effect_text(series: Series, parts: Decomposition, effect: float) -> str:
    """A seasonal effect with its sign, or as a factor."""
    if parts.multiplicative:
        return f"× {number(effect, 2)}"
    return signed_value(series, effect)
