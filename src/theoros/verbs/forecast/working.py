"""How a trend, a seasonal effect and a forecast are worked out, with the numbers put in."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, counted, number, significant, trimmed, with_article
from theoros.lazy_imports import np
from theoros.numeric.regression.least_squares import LinearFit
from theoros.numeric.series.arima import Arima
from theoros.numeric.series.smoothing import STARTS, Smoothed
from theoros.verbs.forecast.ways import trend_width

if TYPE_CHECKING:
    from theoros.verbs.forecast.answering import Told

MOST_PUT_IN = 9


def working_of(t: Told) -> tuple[Step, ...]:
    """A point of the trend, a seasonal effect, the constants, the first forecast and its band."""
    made = []
    if t.parts is not None and t.s.taken == "means":
        made += [_trend(t), *_effect(t)]
    elif t.parts is not None:
        made.append(
            Step(
                "The trend by local regression",
                (
                    "At each value a straight line goes through its neighbours, near ones counting most; "
                    "values far off get less weight, and all is done again until they no longer matter. A "
                    "season is the weighted mean of what is left of its values.",
                ),
            )
        )
    if t.forecast is not None:
        made += [*_constants(t), _forecast(t), _band(t)]
    return tuple(made)


def _trend(t: Told) -> Step:
    """The moving average at the middle of the series."""
    parts, series = t.parts, t.series
    assert parts is not None
    there = np.flatnonzero(np.isfinite(parts.trend))
    at = int(there[there.size // 2])
    cycle = parts.cycle if parts.cycle > 1 else trend_width(t.series.n)
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
        ", the two at the ends counting half, so that it is centred." if even else "."
    )
    return Step("The trend by a moving average", (how, formula(f"T = ({' + '.join(texts)}) / {cycle} = {found}")))


def _effect(t: Told) -> list[Step]:
    """The mean of what the values of a season are off the trend."""
    parts, series = t.parts, t.series
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
    shown = series.named(int(places[0]))
    value = bracketed(number(float(parts.values[places[0]]), series.decimals))
    trend = bracketed(number(float(parts.trend[places[0]]), series.decimals + 2))
    sign = "/" if times else "−"
    lines: list[str | Formula] = [
        f"What each {name} is {'relative to' if times else 'off'} the trend; in {shown}:",
        formula(f"{value} {sign} {trend} = {number(first, digits + 1)}"),
        "Their mean:",
        formula(f"({' + '.join(texts)}) / {off.size} = {mean}"),
        f"All effects are moved so that they {'average 1' if times else 'add up to 0'}; then that "
        f"of {name} is {final}.",
    ]
    return [Step("A seasonal effect", tuple(lines))]


def _summand(text: str) -> str:
    """A number within a sum; one that is rounded to 0 in brackets, so that it is seen."""
    return f"({text})" if not any(figure in text for figure in "123456789") else bracketed(text)


def _constant(value: float) -> str:
    """A smoothing constant with four decimals; next to nothing is 0."""
    return number(value, 4) if value >= 0.00005 else "0"


def _constants(t: Told) -> list[Step]:
    assert t.forecast is not None
    model = t.forecast.ahead.model
    if isinstance(model, Smoothed):
        c, form = model.constants, model.form
        said = [f"α = {_constant(c.alpha)}"]
        if form.slope:
            said.append(f"β = {_constant(c.beta)}")
        if form.cycle:
            said.append(f"γ = {_constant(c.gamma)}")
        if form.damped:
            said.append(f"φ = {_constant(c.phi)}")
        lines: list[str | Formula] = [
            formula(", ".join(said)),
            "α says how fast the level follows, "
            + ("β the slope, " if form.slope else "")
            + ("γ the seasons, " if form.cycle else "")
            + ("φ how fast the slope dies away, " if form.damped else "")
            + "each from 0 (not at all: as at the beginning) to 1 (at once).",
            f"They make the likelihood of the values greatest (log-likelihood "
            f"{number(model.log_likelihood, 2)}), sought from the best of {len(STARTS)} starts.",
        ]
        return [Step("Smoothing constants", tuple(lines))]
    if isinstance(model, Arima):
        o = model.orders
        names = [f"φ_{{{k + 1}}}" for k in range(o.p)]
        names += [f"Φ_{{{k + 1}}}" for k in range(o.seasonal_p)]
        names += [f"θ_{{{k + 1}}}" for k in range(o.q)]
        names += [f"Θ_{{{k + 1}}}" for k in range(o.seasonal_q)]
        orders = f"({o.p}, {o.d}, {o.q})"
        if o.cycle > 1:
            orders += f" ({o.seasonal_p}, {o.seasonal_d}, {o.seasonal_q})_{{{o.cycle}}}"
        found = ", ".join(f"{name} = {number(float(v), 4)}" for name, v in zip(names, model.coefficients, strict=True))
        lines = [f"ARIMA {orders}, by exact maximum likelihood."]
        if found:
            lines.append(formula(found))
        lines.append(f"Log-likelihood {number(model.log_likelihood, 2)}.")
        return [Step("Coefficients", tuple(lines))]
    return []


def _forecast(t: Told) -> Step:
    """The first forecast, or the one that is read, from its parts."""
    series, forecast = t.series, t.forecast
    assert forecast is not None
    at = t.read_step - series.n if t.reads_ahead and t.read_step is not None else 0
    ahead, model = forecast.ahead, forecast.ahead.model
    expected = float(ahead.expected[at])
    digits = series.decimals + 2 if ahead.scale.name == "plain" else 4

    def put(value: float) -> str:
        return bracketed(number(value, digits))

    step = series.n + at
    title = f"The forecast {series.when_in(step)}"
    lines: list[str | Formula] = []
    if ahead.scale.name != "plain":
        what = "logarithms" if ahead.scale.name == "log" else "square roots (of each value + 3/8)"
        lines.append(f"Worked out with {what}.")
    total = number(expected, digits)
    if isinstance(model, Smoothed):
        levels, slopes, seasons = model.states
        h, phi = at + 1, model.constants.phi
        terms = [put(float(levels[-1]))]
        names = ["l"]
        if model.form.slope:
            grown = float(np.sum(phi ** np.arange(1, h + 1)))
            times = str(h) if not model.form.damped else trimmed(grown, 3)
            names.append("h b" if not model.form.damped else "(φ + … + φ^{h}) b")
            terms.append(f"{times} × {put(float(slopes[-1]))}")
        if model.form.cycle:
            names.append("s")
            last = seasons[seasons.size - model.form.cycle :]
            terms.append(put(float(last[at % model.form.cycle])))
        lines.append(
            f"Level{', slope' if model.form.slope else ''}"
            f"{' and season' if model.form.cycle else ''} after the last value, {h} "
            f"{series.step if h == 1 else series.step + 's'} ahead:"
        )
        lines.append(formula(f"{' + '.join(names)} = {' + '.join(terms)} = {total}"))
    elif isinstance(model, LinearFit):
        b = model.coefficients
        terms = [put(float(b[0])), f"{bracketed(significant(float(b[1]), 5))} × {step}"]
        names = ["a", "b t"]
        season = step % (b.size - 1) if b.size > 2 else 0
        if season:
            names.append("s")
            terms.append(put(float(b[1 + season])))
        lines.append(
            f"Least squares, with t = 0 {series.when_in(0)}"
            + (f" and seasons relative to {series.season(0)}:" if b.size > 2 else ":")
        )
        lines.append(formula(f"{' + '.join(names)} = {' + '.join(terms)} = {total}"))
    elif isinstance(model, Arima):
        lines.append(
            f"What is expected of the next {counted(at + 1, series.step)} given all values, by "
            f"the differences and coefficients above: {total}."
        )
    else:
        cycle = series.cycle if t.rival is not None and t.rival.seasonal else 1
        place = series.n - cycle + at % cycle
        article = with_article("value")
        lines.append(f"{article.capitalize()} comes again: that of {series.named(place)}, {total}.")
    if ahead.scale.name == "log":
        lines.append(formula(f"e^{{{total}}} = {number(float(ahead.middle[at]), series.decimals + 1)}"))
    elif ahead.scale.name == "root":
        back = number(float(ahead.middle[at]), series.decimals + 2)
        lines.append(formula(f"{bracketed(total)}^{{2}} − 3/8 = {back}"))
    return Step(title, tuple(lines))


def _band(t: Told) -> Step:
    series, forecast = t.series, t.forecast
    assert forecast is not None
    at = t.read_step - series.n if t.reads_ahead and t.read_step is not None else 0
    ahead = forecast.ahead
    low, high = (float(end[at]) for end in t.stretches[-1][2])
    sure = f"{trimmed(100 * t.s.level, 4)}\u00a0%"
    ends = f"{number(low, series.decimals)} to {number(high, series.decimals)}"
    if t.s.bands == "simulation":
        return Step(
            f"The band of {sure} by simulation",
            (
                f"What was left over comes again in any order, in many futures drawn from seed "
                f"{t.s.seed}; {sure} of them lie between the ends: {ends}.",
            ),
        )
    deviation = float(ahead.deviation[at])
    from theoros.numeric.distributions.normal import Normal
    from theoros.numeric.distributions.student import StudentT

    curve = StudentT(ahead.df) if math.isfinite(ahead.df) else Normal()
    factor = number(curve.critical(1 - t.s.level, "different"), 3)
    digits = series.decimals + 2 if ahead.scale.name == "plain" else 4
    expected = bracketed(number(float(ahead.expected[at]), digits))
    name = f"t with {number(ahead.df, 0)} df" if math.isfinite(ahead.df) else "the normal curve"
    lines: list[str | Formula] = [
        f"The errors have a standard deviation of {significant(ahead.known, 4)}; "
        f"{counted(at + 1, series.step)} ahead, what was fitted not being known exactly, it is "
        f"{significant(deviation, 4)}. By {name}:",
        *formulas(f"{expected} ± {factor} × {significant(deviation, 4)}"),
    ]
    back = {"plain": "", "log": ", back from logarithms", "root": ", squared, less 3/8"}
    lines.append(f"That is {ends}{back[ahead.scale.name]}.")
    return Step(f"The band of {sure}", tuple(lines))
