"""A model in words: what the curve says, what it predicts and for whom, and what to be wary of."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.nouns import plural
from theoros.answer.wording import (
    listed,
    number,
    p_equals,
    percent_text,
    places_of_ends,
    r_text,
    sentence_case,
    significant,
    with_unit,
)
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.core.cautions import cause_cautions
from theoros.verbs.core.verdict import shown
from theoros.verbs.model.curves.curve import CannotFit, Fitted
from theoros.verbs.model.curves.fits import overall_test
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import place_text, share_text, x_text, y_text

if TYPE_CHECKING:
    from theoros.verbs.model.statement import ModelStatement

STRONG = ((0.5, "strong"), (0.3, "medium"), (0.1, "weak"))
"""Words for the size of r by the cuts of Cohen 1988."""
FEW_FOR_A_WORD = 10
"""With fewer pairs r varies too much for a word about its size."""


def p_of_slope(f: Fitted) -> float:
    """Of a straight line by least squares; NaN of others, or where it cannot be told."""
    if not f.curve.regression_line or f.standard_errors is None or f.df < 1 or not f.standard_errors[1] > 0:
        return math.nan
    return float(2 * StudentT(f.df).sf(abs(float(f.coefficients[1] / f.standard_errors[1]))))


def slope_is_not_shown(f: Fitted) -> bool:
    """Whether the slope of a straight line may be chance; False of what has no such slope."""
    p = p_of_slope(f)
    return not math.isnan(p) and not shown(p)


def not_shown(pairs: ModelPairs, f: Fitted) -> str:
    """That a curve may be chance; empty where it is shown, or cannot be tested."""
    found = overall_test(f)
    if found is None or shown(found[2]):
        return ""
    more, ratio, p = found
    about = "about " if f.curve.overall == "approximate" else ""
    return (
        f"There is not enough evidence that the {f.curve.label} explains any of the variation: {about}F({more}, "
        f"{f.df}) = {number(ratio, 2)}, {p_equals(p)}."
    )


def headline(pairs: ModelPairs, f: Fitted) -> str:
    """What the curve says, in the units of both; of a line, whether it is shown at all."""
    if slope_is_not_shown(f):
        p = p_of_slope(f)
        return (
            f"These data do not show a linear relation between {pairs.response.name} and {pairs.predictor.name} "
            f"({p_equals(p)})."
        )
    return f.curve.told(pairs, f)


def strength(pairs: ModelPairs, f: Fitted) -> str:
    """How much is explained, and r where there is one."""
    y, share = pairs.response.name, f.r_squared
    if math.isnan(share):
        return ""
    if share <= 0:
        return f"The {f.curve.label} explains none of the variation in {y}."
    said = f"{sentence_case(share_text(share))} of the variation in {y} is explained by the"
    if not f.curve.regression_line:
        return f"{said} {f.curve.label}."
    r = math.copysign(math.sqrt(share), float(f.coefficients[1]))
    word = next((w for cut, w in STRONG if abs(r) >= cut), "very weak")
    strong = f", a {word} relation" if f.n >= FEW_FOR_A_WORD else ""
    return f"{said} linear relation with {pairs.predictor.name} (r = {r_text(r)}{strong})."


def at_zero(pairs: ModelPairs, f: Fitted) -> str:
    """What the line is at x = 0, where that means something."""
    if not f.curve.has_intercept or pairs.names:
        return ""
    low, high = float(f.x.min()), float(f.x.max())
    x = pairs.predictor.name
    reach = high - low
    if low - 0.1 * reach <= 0 <= high + 0.1 * reach:
        return f"Where {x} is 0, the predicted {pairs.response.name} is {y_text(pairs, float(f.coefficients[0]))}."
    where = f"begin at {x_text(pairs, low)}" if low > 0 else f"end at {x_text(pairs, high)}"
    return f"The intercept ({x} 0) has no meaning here, because the data {where}."


def middle_of(f: Fitted) -> str:
    """What a band for the middle is of: of a curve by logarithms, turned back, the median."""
    return "median" if f.curve.predicts_median else "mean"


def prediction(s: ModelStatement, pairs: ModelPairs, f: Fitted, at: float, *, short: bool = False) -> str:
    """What is predicted at x, for the mean and for a single case."""
    place = np.array([at])
    value = float(f.predict(place)[0])
    said_x = place_text(pairs, at)
    if not math.isfinite(value):
        return f"at {said_x}: no prediction" if short else f"There is no prediction at {said_x}."
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
    unit = pairs.response.unit
    if ends:
        places = places_of_ends(*ends.get("mean", ends.get("single", (value, value))), most=places)
    text = f"At {said_x}, the predicted {pairs.response.name} is {with_unit(number(value, places), unit)}."
    said = []
    if "mean" in ends:
        low, high = ends["mean"]
        span = f"{number(low, places)} to {with_unit(number(high, places), unit)}"
        said.append(f"The {sure} interval for the {middle_of(f)} of all such {plural(noun)} is {span}.")
    if "single" in ends:
        low, high = ends["single"]
        span = f"{number(low, places)} to {with_unit(number(high, places), unit)}"
        said.append(
            f"For a single {noun} it is {span}." if said else (f"The {sure} interval for a single {noun} is {span}.")
        )
    return " ".join((text, *said))


def cautions(s: ModelStatement, pairs: ModelPairs, f: Fitted) -> list[str]:
    """Values beyond the data, ends that cannot be, and how the curve was fitted."""
    low, high = float(f.x.min()), float(f.x.max())
    made = []
    out = [at for at in s.reads() if not low <= at <= high]
    if out:
        said = sentence_case(listed([place_text(pairs, at) for at in out]))
        lies = "lies" if len(out) == 1 else "lie"
        made.append(
            f"{said} {lies} outside the data ({x_text(pairs, low)} to {x_text(pairs, high)}), and the curve may "
            "not continue there."
        )
    if f.curve.how:
        made.append(f.curve.how)
    return made if slope_is_not_shown(f) else [*made, *cause_cautions(pairs.table)]


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
