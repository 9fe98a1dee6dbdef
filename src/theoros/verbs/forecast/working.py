"""How a trend, a seasonal effect and a forecast are worked out, with the numbers put in."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, number, percent_text, significant
from theoros.lazy_imports import np
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.series.scales import LOG, PLAIN, ROOT
from theoros.verbs.forecast.methods.fits import trend_width
from theoros.verbs.forecast.methods.method import Shown
from theoros.verbs.forecast.report import ForecastReport

MOST_PUT_IN = 9


@dataclass(frozen=True)
class ScaleWords:
    """How values on a scale are spoken of, and how one is brought back, in letters."""

    what: str = ""
    undone: str = ""
    back: str = ""
    finer: int = 0


SCALES = {
    PLAIN.name: ScaleWords(),
    LOG.name: ScaleWords("logarithms", "e^{{{total}}} = {back}", ", back from logarithms", 1),
    ROOT.name: ScaleWords(
        "square roots (of each value + 3/8)", "{squared}^{{2}} − 3/8 = {back}", ", squared, less 3/8", 2
    ),
}


def working_of(r: ForecastReport) -> tuple[Step, ...]:
    """A point of the trend, a seasonal effect, the constants, the first forecast and its band."""
    made = []
    if r.parts is not None and r.s.decomposition == "means":
        made += [_trend(r), *_effect(r)]
    elif r.parts is not None:
        made.append(
            Step(
                "The trend by local regression",
                (
                    "At each value a straight line is fitted to its neighbours; near ones have more weight. "
                    "Unusual values get less weight, and the fit is repeated. A season is the weighted mean of "
                    "what remains of its values.",
                ),
            )
        )
    if r.forecast is not None:
        made += [*r.forecast.candidate.of.coefficients(r.forecast.result), _forecast(r), _band(r)]
    return tuple(made)


def _trend(r: ForecastReport) -> Step:
    """The moving average at the middle of the series."""
    parts, series = r.parts, r.series
    assert parts is not None
    there = np.flatnonzero(np.isfinite(parts.trend))
    at = int(there[there.size // 2])
    cycle = parts.cycle if parts.cycle > 1 else trend_width(r.series.n)
    half = cycle // 2
    values = [series.values[at + k] for k in range(-half, half + 1)]
    if not np.isfinite(values).all():
        values = [float(parts.values[at + k]) for k in range(-half, half + 1)]
    texts = [bracketed(number(float(v), series.decimals)) for v in values]
    even = cycle % 2 == 0
    if even:
        texts[0], texts[-1] = f"{{½}} {texts[0]}", f"{{½}} {texts[-1]}"
    if len(texts) > MOST_PUT_IN:
        texts = [*texts[:3], "…", *texts[-2:]]
    found = number(float(parts.trend[at]), series.decimals + 2)
    how = f"The mean of {counted(cycle, series.step)} around {series.named(at)}" + (
        ", with half weight for the two at the ends, to centre it." if even else "."
    )
    return Step("The trend by a moving average", (how, formula(f"T = ({' + '.join(texts)}) / {cycle} = {found}")))


def _effect(r: ForecastReport) -> list[Step]:
    """The mean of what the values of a season are off the trend."""
    parts, series = r.parts, r.series
    assert parts is not None
    if parts.cycle < 2:
        return []
    season = int(np.argmax(parts.effects))
    places = np.arange(season, parts.values.size, parts.cycle)
    places = places[np.isfinite(parts.trend[places])]
    times = parts.multiplicative
    off = parts.values[places] / parts.trend[places] if times else (parts.values[places] - parts.trend[places])
    digits = 3 if times else series.decimals + 1
    texts = [_summand(number(float(v), digits)) for v in off]
    if len(texts) > MOST_PUT_IN:
        texts = [*texts[:3], "…", *texts[-2:]]
    mean = number(float(off.mean()), digits + 1)
    name = series.season(season)
    final = number(float(parts.effects[season]), digits + 1)
    first = float(off[0])
    value = bracketed(number(float(parts.values[places[0]]), series.decimals))
    trend = bracketed(number(float(parts.trend[places[0]]), series.decimals + 2))
    sign = "/" if times else "−"
    lines: list[str | Formula] = [
        f"{f'Each {name} divided by' if times else f'The difference of each {name} from'} the trend; "
        f"{series.when_in(int(places[0]))}:",
        formula(f"{value} {sign} {trend} = {number(first, digits + 1)}"),
        "Their mean:",
        formula(f"({' + '.join(texts)}) / {off.size} = {mean}"),
        f"All effects are shifted so that they {'average 1' if times else 'add up to 0'}. The effect of {name} is "
        f"then {final}.",
    ]
    return [Step("A seasonal effect", tuple(lines))]


def _summand(text: str) -> str:
    """A number within a sum; one that is rounded to 0 in brackets, so that it is seen."""
    return f"({text})" if not any(figure in text for figure in "123456789") else bracketed(text)


def _forecast(r: ForecastReport) -> Step:
    """The first forecast, or the one that is read, from its parts."""
    series, forecast = r.series, r.forecast
    assert forecast is not None
    at = r.read_step - series.n if r.reads_ahead and r.read_step is not None else 0
    result, words = forecast.result, SCALES[forecast.result.scale.name]
    digits = series.decimals + 2 if result.scale is PLAIN else 4

    def put(value: float) -> str:
        return bracketed(number(value, digits))

    total = number(float(result.expected[at]), digits)
    shown = Shown(series, forecast.candidate, result, at, put, total)
    lines: list[str | Formula] = [f"Calculated with {words.what}."] if words.what else []
    lines += forecast.candidate.of.worked_out(shown)
    if words.undone:
        back = number(float(result.median[at]), series.decimals + words.finer)
        lines.append(formula(words.undone.format(total=total, squared=bracketed(total), back=back)))
    return Step(f"The forecast {series.when_in(shown.step)}", tuple(lines))


def _band(r: ForecastReport) -> Step:
    series, forecast = r.series, r.forecast
    assert forecast is not None
    at = r.read_step - series.n if r.reads_ahead and r.read_step is not None else 0
    ahead = forecast.result
    low, high = (float(end[at]) for end in r.stretches[-1][2])
    sure = percent_text(r.s.confidence)
    ends = f"{number(low, series.decimals)} to {number(high, series.decimals)}"
    if r.s.bands == "simulation":
        return Step(
            f"The {sure} prediction interval by simulation",
            (
                f"Many futures are simulated by drawing from the errors (seed {r.s.seed}). The middle {sure} of "
                f"them are between {ends}.",
            ),
        )
    deviation = float(ahead.se[at])
    curve = StudentT(ahead.df) if math.isfinite(ahead.df) else Normal()
    factor = number(curve.critical(1 - r.s.confidence, "different"), 3)
    digits = series.decimals + 2 if ahead.scale is PLAIN else 4
    expected = bracketed(number(float(ahead.expected[at]), digits))
    name = f"t with {number(ahead.df, 0)} df" if math.isfinite(ahead.df) else "the normal curve"
    lines: list[str | Formula] = [
        f"The errors have a standard deviation of {significant(ahead.sigma, 4)}; {counted(at + 1, series.step)} "
        f"ahead it is {significant(deviation, 4)}, because the fitted parts are not known exactly. With {name}:",
        *formulas(f"{expected} ± {factor} × {significant(deviation, 4)}"),
    ]
    lines.append(f"That is {ends}{SCALES[ahead.scale.name].back}.")
    return Step(f"The {sure} prediction interval", tuple(lines))
