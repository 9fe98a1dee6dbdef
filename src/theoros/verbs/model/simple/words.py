"""A model in words: what the curve says, what it predicts and for whom, and what to be wary of."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.wording import listed, number, p_equals, percent_text, plural, sentence_case, significant
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.levels import below
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.core.cautions import cause_cautions
from theoros.verbs.model.curves.curve import CannotFit, Fitted
from theoros.verbs.model.curves.fits import overall_test
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import place_text, share_text, x_text, y_text

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

STRONG = ((0.5, "strong"), (0.3, "medium"), (0.1, "weak"))
"""Words for the size of r by the cuts of Cohen 1988."""


def p_of_slope(f: Fitted) -> float:
    """Of a straight line by least squares; NaN of others, or where it cannot be told."""
    if not f.curve.regression_line or f.standard_errors is None or f.df < 1 or not f.standard_errors[1] > 0:
        return math.nan
    return float(2 * StudentT(f.df).sf(abs(float(f.coefficients[1] / f.standard_errors[1]))))


def slope_is_not_shown(f: Fitted) -> bool:
    """Whether the slope of a straight line may be chance; False of what has no such slope."""
    p = p_of_slope(f)
    return not math.isnan(p) and not below(p, 0.05)


def not_shown(pairs: ModelPairs, f: Fitted) -> str:
    """That a curve may be chance; empty where it is shown, or cannot be tested."""
    found = overall_test(f)
    if found is None or below(found[2], 0.05):
        return ""
    more, ratio, p = found
    about = "about " if f.curve.overall == "approximate" else ""
    return (
        f"That it explains more than chance would is not shown: {about}F({more}, {f.df}) = "
        f"{number(ratio, 2)}, {p_equals(p)}."
    )


def headline(pairs: ModelPairs, f: Fitted) -> str:
    """What the curve says, in the units of both; of a line, whether it is shown at all."""
    if slope_is_not_shown(f):
        p = p_of_slope(f)
        return sentence_case(
            f"{pairs.response.name} is not shown to go with {pairs.predictor.name} along a line ({p_equals(p)})."
        )
    return f.curve.told(pairs, f)


def strength(pairs: ModelPairs, f: Fitted) -> str:
    """How much is explained, and r where there is one."""
    y, share = pairs.response.name, f.r_squared
    if math.isnan(share):
        return ""
    if share <= 0:
        return f"The {f.curve.label} explains nothing of the variation of {y}."
    said = f"The {f.curve.label} explains {share_text(share)} of the variation of {y}"
    if not f.curve.regression_line:
        said += " (R² in the scale of y)"
        if f.curve.is_line or not f.curve.least_squares:
            return f"{said}."
        return f"{said}. r is told of straight lines only: it says nothing of a curve."
    slope = float(f.coefficients[1])
    r = math.copysign(math.sqrt(share), slope)
    word = next((w for cut, w in STRONG if abs(r) >= cut), "very weak")
    return f"{said}: r = {number(r, 2)}, which is {word} by the cuts of Cohen (1988)."


def at_zero(pairs: ModelPairs, f: Fitted) -> str:
    """What the line is at x = 0, where that means something."""
    if not f.curve.has_intercept or pairs.names:
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
    return "median" if f.curve.predicts_median else "mean"


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
    sure = percent_text(s.confidence)
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
    return [*made, *cause_cautions(pairs.table)]


def without_row(pairs: ModelPairs, f: Fitted, place: int) -> str:
    """What the fit would be without a row."""
    keep = np.arange(f.n) != place
    try:
        other = f.curve.fit(f.x[keep], f.y[keep])
    except CannotFit:
        return ""
    if f.curve.has_intercept:
        now, then = float(f.coefficients[1]), float(other.coefficients[1])
        return f"Without it the slope would be {significant(then, 3)} instead of {significant(now, 3)}."
    total = sum_of_squares(other.y)
    share = 1 - other.rss / total if total > 0 else math.nan
    return f"Without it R² would be {number(share, 3)} instead of {number(f.r_squared, 3)}."
