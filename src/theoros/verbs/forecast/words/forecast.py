"""What is said of a forecast: what is to come, and what it was worked out from."""

from __future__ import annotations

import math

from theoros.answer.wording import number, percent_text, plural, sentence_case, with_unit
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.series.series import Series
from theoros.verbs.forecast.words.series import about, counts_many, rounded, rounding, value_text

LIKELY = 0.8
"""A band that holds at least this share is said to hold what is to come most likely."""


def headline_of(r: ForecastReport) -> str:
    """What is to come first, or where it is read, in whole units, with its band."""
    found = r.at(r.read_step if r.reads_ahead else None)
    series = r.series
    if found is None:
        return f"{sentence_case(series.column.name)} was taken apart."
    step, middle, low, high, deviation = found
    unit = rounding(series, deviation)
    when = sentence_case(series.when_in(step))
    if r.exact:
        said = about(series, middle, 10.0**-series.decimals).removeprefix("about ")
        what = f"{said} are" if counts_many(series) else f"{series.column.name} of {said} is"
        return f"{when} {what} to be expected: all values so far follow trend and season exactly."
    ends = [rounded(series, end, unit) for end in (low, high)]
    if not counts_many(series):
        ends[1] = with_unit(ends[1], series.column.unit)
    sure = percent_text(r.s.confidence)
    chance = "most likely" if r.s.confidence >= LIKELY else f"with a chance of {sure}"
    reach = f"{chance} between {ends[0]} and {ends[1]}"
    if counts_many(series):
        return f"{when} {about(series, middle, unit)} are to be expected, {reach}."
    return f"{when} {series.column.name} is to be expected at {about(series, middle, unit)}, {reach}."


def read_out(r: ForecastReport) -> str:
    """What the series, its trend and season, and what is expected are where it is read."""
    step = r.read_step
    if step is None:
        return ""
    series, said = r.series, list[str]()
    if 0 <= step < series.n and math.isfinite(series.raw[step]):
        said.append(value_text(series, float(series.raw[step])))
    elif 0 <= step < series.n:
        said.append("no value")
    parts = r.parts
    if parts is not None and 0 <= step < series.n and math.isfinite(parts.trend[step]):
        said.append(f"trend {value_text(series, float(parts.trend[step]))}")
        if parts.cycle > 1:
            from theoros.verbs.forecast.words.series import effect_text

            said.append(f"season {effect_text(series, parts, float(parts.season[step]))}")
    found = r.at(step)
    if found is not None:
        _, middle, low, high, _ = found
        ends = f"{number(low, series.decimals)} to {number(high, series.decimals)}"
        said.append(f"forecast {value_text(series, middle)} ({ends})")
    return f"{series.short(step)}: {', '.join(said) if said else 'nothing is known of it'}"


def _known(series: Series) -> str:
    """How many values there are, and of how many steps where some have none."""
    n, gaps = series.n, int(series.gaps.size)
    if not gaps:
        return f"{n} {plural(series.step)}"
    return f"{n - gaps} values of {n} {plural(series.step)}"


def method_words(r: ForecastReport) -> str:
    """From what the forecasts were worked out."""
    series = r.series
    assert r.candidate is not None
    said = f"Forecast by {r.candidate.how}, from all {_known(series)}"
    if r.holdout:
        many = r.holdout
        last = f"{many} {plural(series.step)} are" if many > 1 else f"{series.step} is"
        said += f"; for the check, the last {last} forecast from the {series.n - many} before"
    return f"{said}."
