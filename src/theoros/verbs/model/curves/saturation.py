"""Growth that slows down towards a level: x over a constant plus x."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import Fitted, NonlinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import level_words


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * x / (b[1] + x))


def _gradient(x: Floats, b: Floats) -> Floats:
    below = b[1] + x
    return np.column_stack([x / below, -b[0] * x / below**2])


def _starts(x: Floats, y: Floats) -> list[list[float]]:
    """From the line of x/y over x (Hanes), and from the highest y and half-way there."""
    made = []
    there = (np.abs(y) > 1e-12 * np.abs(y).max()) & (x > 0)
    if there.sum() >= 3 and np.ptp(x[there]) > 0:
        slope, height = np.polyfit(x[there], x[there] / y[there], 1)
        if slope != 0:
            made.append([1 / float(slope), float(height / slope)])
    top = float(y[np.argmax(np.abs(y))])
    middle = float(np.median(x))
    return [*made, [1.3 * top, middle], [1.1 * top, middle / 5]]


def _senseless(b: Floats) -> str:
    return "" if b[1] > 0 else "has no level here: the data do not slow down as x grows"


def _says(pairs: ModelPairs, f: Fitted) -> str:
    return level_words(pairs, float(f.coefficients[0]), float(f.coefficients[1]))


CURVES = (
    NonlinearCurve(
        "saturation",
        "saturation curve",
        "Slows down towards a level: x / (constant + x).",
        2,
        28,
        "{0} x / ({1} + x)",
        "{0}*x/({1} + x)",
        ("level", "x half-way there"),
        positive_x=True,
        how="It is fitted by least squares in the scale of y.",
        shape=_shape,
        gradient=_gradient,
        starts=_starts,
        senseless=_senseless,
        says=_says,
    ),
)
