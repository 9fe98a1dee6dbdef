"""Growth or decay by the same factor for each step in x."""

from __future__ import annotations

import math

from theoros.answer.wording import exact, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import Fitted, LinearCurve, NonlinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import brings, each_step, step_of, times_text


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * np.exp(b[1] * x))


def _gradient(x: Floats, b: Floats) -> Floats:
    grown = np.exp(b[1] * x)
    return np.column_stack([grown, b[0] * x * grown])


def _starts(x: Floats, y: Floats) -> list[list[float]]:
    """By logs, where y has one sign; else flat rates."""
    made = []
    side = 1.0 if np.median(y) >= 0 else -1.0
    up = side * y > 0
    if up.sum() >= 3 and np.ptp(x[up]) > 0:
        slope, height = np.polyfit(x[up], np.log(side * y[up]), 1)
        made.append([side * float(np.exp(height)), float(slope)])
    reach = float(np.ptp(x))
    mean = float(y.mean()) or 1.0
    return [*made, [mean, 0.5 / reach], [mean, -0.5 / reach]]


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """By what each step in x multiplies y; of what is below 0 no percentages."""
    rate = float(f.coefficients[1])
    if rate == 0 or not (f.curve.predicts_median or f.coefficients[0] > 0):
        return ""
    step = step_of(float(f.x.min()), float(f.x.max()))
    amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
    factor = math.exp(min(700.0, rate * step))
    return f"{each_step(pairs, step, amount)} {brings(pairs)} {times_text(pairs, factor)}."


_TWO = "{0} e^{{{1} x}}", "{0}*exp({1}*x)", ("height at x = 0", "rate")
CURVES = (
    NonlinearCurve(
        "exponential", "exponential curve", "Each step in x multiplies y by the same.", 2, 24,
        *_TWO, how="It is fitted by least squares in the scale of y.", article="an",
        shape=_shape, says=_says, tries_logs=True,
        gradient=_gradient, starts=_starts,
    ),
    LinearCurve(
        "exponential by logs", "exponential curve by logs",
        "A line through the logarithms of y, turned back.", 2, 25, "e^{{{0} + {1} x}}",
        "exp({0} + {1}*x)", ("ln of the height at x = 0", "rate"),
        how="A line is fitted to the logarithm of y, so that relative errors count; what it "
        "predicts is turned back into the units of y, and is a median there rather than a mean.",
        article="an", logs=True, says=_says, overall="approximate",
        live=("{x}",),
        basis=lambda x: np.column_stack([np.ones(x.size), x]),
    ),
)  # fmt: skip
