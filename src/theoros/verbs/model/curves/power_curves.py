"""Powers of x: doubling x multiplies y by the same."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import Fitted, LinearCurve, NonlinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import brings, times_text


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * x ** b[1])


def _gradient(x: Floats, b: Floats) -> Floats:
    grown = x ** b[1]
    return np.column_stack([grown, b[0] * grown * np.log(x)])


def _starts(x: Floats, y: Floats) -> list[list[float]]:
    made = []
    side = 1.0 if np.median(y) >= 0 else -1.0
    up = side * y > 0
    if up.sum() >= 3 and np.ptp(x[up]) > 0:
        slope, height = np.polyfit(np.log(x[up]), np.log(side * y[up]), 1)
        made.append([side * float(np.exp(height)), float(slope)])
    mean = float(y.mean()) or 1.0
    return [*made, [mean / float(x.mean()), 1.0], [mean, 0.1]]


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """By what each doubling of x multiplies y; of what is below 0 no percentages."""
    if not (f.curve.predicts_median or f.coefficients[0] > 0):
        return ""
    factor = 2.0 ** min(float(f.coefficients[1]), 900.0)
    return f"Each doubling of {pairs.predictor.name} {brings(pairs)} {times_text(pairs, factor)}."


CURVES = (
    NonlinearCurve(
        "power", "power curve", "Each doubling of x multiplies y by the same.", 2, 26,
        "{0} x^{{{1}}}", "{0}*x^({1})", ("height at x = 1", "exponent"),
        how="It is fitted by least squares in the scale of y.", positive_x=True,
        shape=_shape, says=_says, tries_logs=True,
        gradient=_gradient, starts=_starts,
    ),
    LinearCurve(
        "power by logs", "power curve by logs",
        "A line through the logarithms of both, turned back.", 2, 27, "e^{{{0}}} x^{{{1}}}",
        "exp({0})*x^({1})", ("ln of the height at x = 1", "exponent"),
        how="A line is fitted to the logarithms of both, so that relative errors count; what it "
        "predicts is turned back into the units of y, and is a median there rather than a mean.",
        positive_x=True, logs=True, says=_says, overall="approximate",
        live=("ln({x})",),
        basis=lambda x: np.column_stack([np.ones(x.size), np.log(x)]),
    ),
)  # fmt: skip
