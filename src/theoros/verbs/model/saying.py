"""A model in words: what the curve says, what it predicts and for whom, and what to be wary of."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.wording import (
    exact,
    listed,
    number,
    p_equals,
    plural,
    sentence_case,
    significant,
    with_article,
    with_unit,
)
from theoros.lazy_imports import np
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.pairs import ModelPairs

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

STRONG = ((0.5, "strong"), (0.3, "medium"), (0.1, "weak"))
"""Words for the size of r by the cuts of Cohen 1988."""


def y_text(pairs: ModelPairs, value: float, more: int = 1) -> str:
    """A value of y with its unit, with a decimal more than the data."""
    return with_unit(number(value, min(8, pairs.decimals[1] + more)), pairs.response.unit)


def x_text(pairs: ModelPairs, value: float) -> str:
    """A value of x as it was typed, or the name of a level."""
    for at, name in pairs.names:
        if value == at:
            return name
    rounded = float(f"{value:.8g}")
    return with_unit(exact(rounded), pairs.predictor.unit)


def place_text(pairs: ModelPairs, value: float) -> str:
    """A place along x, with its name where it has no unit: "72 mm", "age 3.5"."""
    said = x_text(pairs, value)
    return said if pairs.predictor.unit or pairs.names else f"{pairs.predictor.name} {said}"


def step_of(x_low: float, x_high: float) -> float:
    """A round step along x of which some fit into the data: 1, 10, 0.1."""
    reach = x_high - x_low
    return float(10.0 ** math.floor(math.log10(reach / 5))) if reach > 0 else 1.0


def causes(pairs: ModelPairs) -> bool:
    """Whether x was assigned by chance, so that a cause may be named."""
    return pairs.table.sampling == "random assignment"


def change_text(pairs: ModelPairs, change: float) -> str:
    """So much more or less of y; of percentages, percentage points."""
    unit = "percentage points" if pairs.response.unit == "%" else pairs.response.unit
    return with_unit(significant(change, 2), unit)


def points(step: float, amount: str, unit: str) -> str:
    """An amount; of percentages, in percentage points."""
    if unit != "%":
        return amount
    if step == 1:
        return "percentage point"
    return f"{exact(float(f'{step:.3g}'))} percentage points"


def each_step(pairs: ModelPairs, step: float, amount: str) -> str:
    """ "Each extra 10 mm of leaf length", "Each step of 2 in age"."""
    if pairs.predictor.unit:
        return f"Each extra {points(step, amount, pairs.predictor.unit)} of {pairs.predictor.name}"
    return f"Each step of {exact(float(f'{step:.3g}'))} in {pairs.predictor.name}"


def slope_words(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    """ "Each extra mm of leaf length goes with about 0.42 g more leaf mass"."""
    step = step_of(low, high)
    change = slope * step
    said = change_text(pairs, abs(change))
    x, y = pairs.predictor.name, pairs.response.name
    amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
    if step == 1 and pairs.predictor.unit and len(pairs.predictor.unit) < 16:
        amount = pairs.predictor.unit
    verb = "brings" if causes(pairs) else "goes with"
    if change == 0:
        return f"{sentence_case(y)} does not change with {x}"
    goes = more_text(pairs, f"about {said}", change > 0)
    if pairs.names:
        return f"Each level of {x} {verb} {goes} than the one before"
    return f"{each_step(pairs, step, amount)} {verb} {goes}"


def p_of_slope(f: Fitted) -> float:
    """Of a straight line by least squares; NaN of others, or where it cannot be told."""
    if f.curve.name != "line" or f.errors is None or f.df < 1 or not f.errors[1] > 0:
        return math.nan
    return float(2 * StudentT(f.df).sf(abs(float(f.coefficients[1] / f.errors[1]))))


def not_shown(pairs: ModelPairs, f: Fitted) -> str:
    """That a curve may be chance; empty where it is shown, or cannot be tested."""
    name = f.curve.name
    if f.errors is None or f.perfect or f.df < 1 or name in ("line", "origin", "smooth"):
        return ""
    total, more = sum_of_squares(f.y), f.terms - 1
    if not f.share < 1 or more < 1:
        return ""
    ratio = max(0.0, total - f.rss) / more / (f.rss / f.df)
    p = float(FisherF(more, f.df).sf(ratio))
    if p < 0.05:
        return ""
    about = "about " if name in NONLINEAR else ""
    return (
        f"That it explains more than chance would is not shown: {about}F({more}, {f.df}) = "
        f"{number(ratio, 2)}, {p_equals(p)}."
    )


NONLINEAR = (
    "exponential",
    "power",
    "saturation",
    "logistic growth",
    "two pieces",
    "exponential by logs",
    "power by logs",
)
"""Curves for which an F of the whole curve holds by and large only."""


def headline(pairs: ModelPairs, f: Fitted) -> str:
    """What the curve says, in the units of both; of a line, whether it is shown at all."""
    p = p_of_slope(f)
    if p >= 0.05:
        return sentence_case(
            f"{pairs.response.name} is not shown to go with {pairs.predictor.name} along a line ({p_equals(p)})."
        )
    return told(pairs, f)


def told(pairs: ModelPairs, f: Fitted) -> str:
    """What the curve says, in the units of both."""
    name, b = f.curve.name, [float(c) for c in f.coefficients]
    low, high = float(f.x.min()), float(f.x.max())
    x, y = pairs.predictor.name, pairs.response.name
    verb = "brings" if causes(pairs) else "goes with"
    if name in ("line", "robust"):
        return f"{slope_words(pairs, b[1], low, high)}."
    if name == "origin":
        return f"{slope_words(pairs, b[0], low, high)}, from 0 on."
    grows = name.endswith("by logs") or b[:1] > [0.0]  # of what is below 0, no percentages
    if name in ("exponential", "exponential by logs") and b[1] != 0 and grows:
        step = step_of(low, high)
        amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
        factor = math.exp(min(700.0, b[1] * step))
        return f"{each_step(pairs, step, amount)} {verb} {_times(pairs, factor)}."
    if name == "logarithmic":
        change = b[1] * math.log(2)
        said = change_text(pairs, abs(change))
        return f"Each doubling of {x} {verb} {more_text(pairs, f'about {said}', change > 0)}."
    if name in ("power", "power by logs") and grows:
        return f"Each doubling of {x} {verb} {_times(pairs, 2.0 ** min(b[1], 900.0))}."
    if name == "quadratic" and b[2] != 0 and low < -b[1] / (2 * b[2]) < high:
        turn = -b[1] / (2 * b[2])
        side = "lowest" if b[2] > 0 else "highest"
        at = x_text(pairs, float(f"{turn:.3g}"))
        return f"The curve is {side} at about {at}, where {y} is about {_at(pairs, f, turn)}."
    if name == "saturation":
        return (
            f"{y[:1].upper()}{y[1:]} comes near a level of about {y_text(pairs, b[0])}; half "
            f"of it is reached at about {x_text(pairs, float(f'{b[1]:.3g}'))}."
        )
    if name == "logistic growth" and b[2] != 0 and low <= b[1] / b[2] <= high:
        return (
            f"{y[:1].upper()}{y[1:]} comes near a level of about {y_text(pairs, b[0])}; half "
            f"of it is reached at about {x_text(pairs, float(f'{b[1] / b[2]:.3g}'))}."
        )
    if name == "two pieces":
        joint = x_text(pairs, float(f"{b[3]:.3g}"))
        first = slope_words(pairs, b[1], low, high)
        after = _slope_only(pairs, b[1] + b[2], low, high)
        return f"Up to about {joint}: {first[:1].lower()}{first[1:]}; beyond it {after}."
    article = with_article(f.curve.label)
    share = share_text(f.share)
    return f"{article[:1].upper()}{article[1:]} in {x} explains {share} of the variation of {y}."


def _times(pairs: ModelPairs, factor: float) -> str:
    """ "about 5 % more leaf mass", "about 3.2 times as much leaf mass", "visitors 5 % higher"."""
    y = pairs.response.name
    if factor >= 2:
        said = f"about {significant(factor, 2)} times as"
        return f"{said} much {y}" if pairs.response.unit else f"{y} {said} high"
    if abs(factor - 1) < 1e-6:
        return f"the same {y}"
    change = f"about {with_unit(significant(abs(factor - 1) * 100, 2), '%')}"
    return more_text(pairs, change, factor > 1)


def more_text(pairs: ModelPairs, said: str, up: bool) -> str:
    """ "about 4.1 g more leaf mass"; of what has no unit, "visitors about 0.6 higher"."""
    if pairs.response.unit:
        return f"{said} {'more' if up else 'less'} {pairs.response.name}"
    return f"{pairs.response.name} {said} {'higher' if up else 'lower'}"


def _at(pairs: ModelPairs, f: Fitted, x: float) -> str:
    return y_text(pairs, float(f.predict(np.array([x]))[0]))


def _slope_only(pairs: ModelPairs, slope: float, low: float, high: float) -> str:
    change = slope * step_of(low, high)
    said = change_text(pairs, abs(change))
    return f"about {said} {'more' if change > 0 else 'less'}"


def share_text(share: float) -> str:
    """R² as a percentage; what is not 0 or all is not written so."""
    percent = 100 * share
    if share <= 0:
        return "nothing"
    if percent < 0.5:
        return "less than 1\u00a0%"
    if 99.5 <= percent < 100 - 1e-9:
        return f"{number(min(percent, 99.99), 2)}\u00a0%"
    return f"{number(percent, 0)}\u00a0%"


def strength(pairs: ModelPairs, f: Fitted) -> str:
    """How much is explained, and r where there is one."""
    y, share = pairs.response.name, f.share
    if math.isnan(share):
        return ""
    if share <= 0:
        return f"The {f.curve.label} explains nothing of the variation of {y}."
    said = f"The {f.curve.label} explains {share_text(share)} of the variation of {y}"
    if f.curve.name != "line":
        said += " (R² in the scale of y)"
        if f.curve.name in ("robust", "smooth", "origin"):
            return f"{said}."
        return f"{said}. r is told of straight lines only: it says nothing of a curve."
    slope = float(f.coefficients[1])
    r = math.copysign(math.sqrt(share), slope)
    word = next((w for cut, w in STRONG if abs(r) >= cut), "very weak")
    return f"{said}: r = {number(r, 2)}, which is {word} by the cuts of Cohen (1988)."


def at_zero(pairs: ModelPairs, f: Fitted) -> str:
    """What the line is at x = 0, where that means something."""
    if f.curve.name not in ("line", "robust") or pairs.names:
        return ""
    low, high = float(f.x.min()), float(f.x.max())
    x = pairs.predictor.name
    reach = high - low
    if low - 0.1 * reach <= 0 <= high + 0.1 * reach:
        return f"Where {x} is 0, the line is at {y_text(pairs, float(f.coefficients[0]))}."
    where = f"begin at {x_text(pairs, low)}" if low > 0 else f"end at {x_text(pairs, high)}"
    return f"At a {x} of 0 the line has no meaning: the data {where}."


def middle_of(f: Fitted) -> str:
    """What a band for the middle is of: of a curve by logarithms, turned back, the median."""
    return "median" if f.curve.name.endswith("by logs") else "mean"


def prediction(s: ModelStatement, pairs: ModelPairs, f: Fitted, at: float, *, short: bool = False) -> str:
    """What is predicted at x, for the mean and for a single case."""
    place = np.array([at])
    value = float(f.predict(place)[0])
    said_x = place_text(pairs, at)
    if not math.isfinite(value):
        return f"at {said_x}: no prediction" if short else f"At {said_x} there is no prediction."
    ends = {}
    for name, single in (("mean", False), ("single", True)):
        band = f.band(place, s.confidence, single=single)
        if band is not None and math.isfinite(float(band[0][0]) + float(band[1][0])):
            ends[name] = float(band[0][0]), float(band[1][0])
    places = min(8, pairs.decimals[1] + 1)
    noun = pairs.noun
    if short:
        text = f"at {said_x}: {y_text(pairs, value)}"
        if "mean" in ends and s.bands in ("mean", "both"):
            low, high = ends["mean"]
            text += f", {middle_of(f)} {number(low, places)} to {number(high, places)}"
        if "single" in ends and s.bands in ("single", "both"):
            low, high = ends["single"]
            text += f", one {noun} {number(low, places)} to {number(high, places)}"
        return text
    sure = f"{exact(round(100 * s.confidence, 10))}\u00a0%"
    text = f"At {said_x} about {y_text(pairs, value)} is predicted"
    if "mean" in ends:
        low, high = ends["mean"]
        text += (
            f": between {number(low, places)} and {y_text(pairs, high)} for the "
            f"{middle_of(f)} of all such {plural(noun)}"
        )
    if "single" in ends:
        low, high = ends["single"]
        text += f", and between {number(low, places)} and {y_text(pairs, high)} for a single {noun}"
    return f"{text} ({sure})." if ends else f"{text}."


def cautions(s: ModelStatement, pairs: ModelPairs, f: Fitted) -> list[str]:
    """Values beyond the data, ends that cannot be, and how the curve was fitted."""
    low, high = float(f.x.min()), float(f.x.max())
    made = []
    out = [at for at in s.reads() if not low <= at <= high]
    if out:
        said = sentence_case(listed([place_text(pairs, at) for at in out]))
        lies = "lies" if len(out) == 1 else "lie"
        made.append(
            f"{said} {lies} outside the data ({x_text(pairs, low)} to {x_text(pairs, high)}): "
            f"nothing shows that the curve goes on there."
        )
    if f.curve.how:
        made.append(f.curve.how)
    if not causes(pairs):
        made.append("That the two go together does not say that one causes the other.")
    return made


def without_row(pairs: ModelPairs, f: Fitted, place: int) -> str:
    """What the fit would be without a row."""
    from theoros.verbs.model.curves.curve import CannotFit

    keep = np.arange(f.n) != place
    try:
        other = f.curve.fit(f.x[keep], f.y[keep])
    except CannotFit:
        return ""
    if f.curve.name in ("line", "robust"):
        now, then = float(f.coefficients[1]), float(other.coefficients[1])
        return f"Without it the slope would be {significant(then, 3)} instead of {significant(now, 3)}."
    total = sum_of_squares(other.y)
    share = 1 - other.rss / total if total > 0 else math.nan
    return f"Without it R² would be {number(share, 3)} instead of {number(f.share, 3)}."
