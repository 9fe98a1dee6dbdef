"""What is said of a forecast: what is to come, and what it was worked out from."""

from __future__ import annotations

import math

from theoros.answer.nouns import plural
from theoros.answer.wording import number, percent_text, sentence_case, with_unit
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.series.series import Series
from theoros.verbs.forecast.words.series import about, counts_many, rounded, rounding, value_text


def headline_of(r: ForecastReport) -> str:
    """What is to come first, or where it is read, in whole units, with its band."""
    found = r.at(r.read_step if r.reads_ahead else None)
    series = r.series
    if found is None:
        return f"{sentence_case(series.column.name)} was decomposed."
    step, middle, low, high, deviation = found
    unit = rounding(series, deviation)
    when = series.named(step)
    subject = "The forecast" if counts_many(series) else f"The forecast of {series.column.name}"
    if r.exact:
        said = about(series, middle, 10.0**-series.decimals).removeprefix("about ")
        return f"{subject} for {when} is {said}. All values so far follow trend and season exactly."
    low_text, high_text = (rounded(series, end, unit) for end in (low, high))
    high_text = with_unit(high_text, "" if counts_many(series) else series.column.unit)
    said = about(series, middle, unit).removeprefix("about ")
    sure = percent_text(r.s.confidence)
    return f"{subject} for {when} is {said}, with a {sure} prediction interval from {low_text} to {high_text}."


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
    return f"{series.short(step)}: {', '.join(said) if said else 'no value'}"


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
        said += f". For the check, the last {last} forecast from the {series.n - many} before"
    return f"{said}."
