"""Growth or decay by the same factor for each step in x."""

from __future__ import annotations

import math
from typing import Any

from theoros.answer.wording import exact, with_unit
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.nonlinear import profiled
from theoros.verbs.model.curves.curve import Fitted, LinearCurve
from theoros.verbs.model.curves.nonlinear_curve import NonlinearCurve
from theoros.verbs.model.curves.working_scale import WorkingScale
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import caused, each_step, step_of, times_text


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * np.exp(b[1] * x))


def _gradient(x: Floats, b: Floats) -> Floats:
    grown = np.exp(b[1] * x)
    return np.column_stack([grown, b[0] * x * grown])


def _starts(x: Floats, y: Floats) -> tuple[list[Floats], bool]:
    """Rates per half a range of x, from nearly none to what leaves one case of all."""
    rates = np.concatenate([-np.geomspace(200, 0.01, 90), np.geomspace(0.01, 200, 90)])[:, None]
    return profiled(lambda u, b: np.exp(np.clip(b * u, -700, 300)), x, y, rates)


def _put_back(b: np.ndarray[Any, Any], scale: WorkingScale) -> np.ndarray[Any, Any]:
    rate = b[1] / scale.unit
    return np.array([b[0] * np.exp(-rate * scale.middle), rate])


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """By what each step in x multiplies y; of what is below 0 no percentages."""
    rate = float(f.coefficients[1])
    if rate == 0 or not (f.curve.predicts_median or f.coefficients[0] > 0):
        return ""
    step = step_of(pairs, float(f.x.min()), float(f.x.max()))
    amount = with_unit(exact(float(f"{step:.3g}")), pairs.predictor.unit)
    factor = math.exp(min(700.0, rate * step))
    return f"{each_step(pairs, step, amount)}, {caused(pairs, times_text(factor))}."


_TWO = "{0} e^{{{1} x}}", "{0}*exp({1}*x)", ("height at x = 0", "rate")
EXPONENTIAL = NonlinearCurve(
    "exponential", "exponential curve", "Each step in x multiplies y by the same factor.", 2, 24,
    *_TWO, how="It is fitted by least squares in the units of y.", article="an",
    shape=_shape, says=_says, tries_logs=True,
    gradient=_gradient, starts=_starts, put_back=_put_back,
)  # fmt: skip
CURVES = (
    EXPONENTIAL,
    LinearCurve(
        "exponential by logs", "exponential curve by logs",
        "A line through the logarithms of y, changed back to y.", 2, 25, "e^{{{0} + {1} x}}",
        "exp({0} + {1}*x)", ("ln of the height at x = 0", "rate"),
        how="A line is fitted to the logarithm of y. Predictions are changed back to the units of y, so they are "
            "medians and not means.",
        article="an", logs=True, says=_says, overall="approximate",
        live=("{x}",),
        basis=lambda x: np.column_stack([np.ones(x.size), x]),
    ),
)  # fmt: skip
