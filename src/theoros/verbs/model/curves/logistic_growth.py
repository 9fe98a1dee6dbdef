"""Growth that begins slowly and ends at a level."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import Fitted, NonlinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import level_words


def _part(x: Floats, b: Floats) -> Floats:
    from scipy.special import expit

    return np.asarray(expit(b[2] * x - b[1]), dtype=np.float64)


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * _part(x, b))


def _gradient(x: Floats, b: Floats) -> Floats:
    part = _part(x, b)
    steep = b[0] * part * (1 - part)
    return np.column_stack([part, -steep, steep * x])


def _starts(x: Floats, y: Floats) -> list[list[float]]:
    """From levels a little beyond the highest y: the line of the logits of y over the level."""
    made = []
    top = float(y.max())
    for beyond in (1.05, 1.3, 2.0):
        level = top * beyond
        share = y / level
        there = (share > 0.01) & (share < 0.99)
        if there.sum() >= 3 and np.ptp(x[there]) > 0:
            slope, height = np.polyfit(x[there], np.log(share[there] / (1 - share[there])), 1)
            made.append([level, -float(height), float(slope)])
    reach = float(np.ptp(x))
    rate = 5 / reach
    return [*made, [1.1 * top, rate * float(np.median(x)), rate]]


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """The level, and where half of it is reached, if that is among the data."""
    level, shift, rate = (float(c) for c in f.coefficients)
    if rate == 0 or not float(f.x.min()) <= shift / rate <= float(f.x.max()):
        return ""
    return level_words(pairs, level, shift / rate)


CURVES = (
    NonlinearCurve(
        "logistic growth",
        "logistic growth curve",
        "Slow, then fast, then towards a level.",
        3,
        50,
        "{0} / (1 + e^{{{1} − {2} x}})",
        "{0}/(1 + exp({1} - {2}*x))",
        ("level", "shift", "rate"),
        how="It is fitted by least squares in the scale of y.",
        shape=_shape,
        gradient=_gradient,
        starts=_starts,
        says=_says,
    ),
)
