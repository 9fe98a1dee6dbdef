"""Powers of x: doubling x multiplies y by the same."""

from __future__ import annotations

import math
from typing import Any

from theoros.answer.wording import exact
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.nonlinear import profiled
from theoros.verbs.model.curves.curve import Fitted, LinearCurve
from theoros.verbs.model.curves.nonlinear_curve import NonlinearCurve
from theoros.verbs.model.curves.working_scale import WorkingScale, ratio_scale
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import caused, times_text


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * x ** b[1])


def _gradient(x: Floats, b: Floats) -> Floats:
    grown = x ** b[1]
    return np.column_stack([grown, b[0] * grown * np.log(x)])


def _starts(x: Floats, y: Floats) -> tuple[list[Floats], bool]:
    """Exponents by the range of ln x, from nearly none to what leaves one case of all."""
    reach = float(np.ptp(np.log(x))) / 2
    powers = np.concatenate([-np.geomspace(200, 0.01, 90), np.geomspace(0.01, 200, 90)])[:, None] / reach
    return profiled(lambda u, b: np.exp(np.clip(b * np.log(u), -700, 300)), x, y, powers)


def _put_back(b: np.ndarray[Any, Any], scale: WorkingScale) -> np.ndarray[Any, Any]:
    return np.array([b[0] * np.exp(-b[1] * math.log(scale.unit)), b[1]])


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """By what each doubling of x multiplies y, or some per cent more of x where x does not double; nothing below 0."""
    if not (f.curve.predicts_median or f.coefficients[0] > 0):
        return ""
    more = float(f.x.max()) / float(f.x.min()) - 1
    step, said = 2.0, "For each doubling of"
    if more < 1:  # a round percentage of which some fit into the data
        percent = 10.0 ** math.floor(math.log10(50 * more))
        step, said = 1 + percent / 100, f"For each {exact(percent)}\u00a0% more of"
    factor = step ** min(float(f.coefficients[1]), 900.0)
    return f"{said} {pairs.predictor.name}, {caused(pairs, times_text(factor))}."


CURVES = (
    NonlinearCurve(
        "power", "power curve", "Each doubling of x multiplies y by the same factor.", 2, 26,
        "{0} x^{{{1}}}", "{0}*x^({1})", ("height at x = 1", "exponent"),
        how="It is fitted by least squares in the units of y.", positive_x=True,
        shape=_shape, says=_says, tries_logs=True,
        gradient=_gradient, starts=_starts, put_back=_put_back, scale=ratio_scale,
    ),
    LinearCurve(
        "power by logs", "power curve by logs",
        "A line through the logarithms of both, changed back to y.", 2, 27, "e^{{{0}}} x^{{{1}}}",
        "exp({0})*x^({1})", ("ln of the height at x = 1", "exponent"),
        how="A line is fitted to the logarithms of x and y. Predictions are changed back to the units of y, so "
            "they are medians and not means.",
        positive_x=True, logs=True, says=_says, overall="approximate",
        live=("ln({x})",),
        basis=lambda x: np.column_stack([np.ones(x.size), np.log(x)]),
    ),
)  # fmt: skip
