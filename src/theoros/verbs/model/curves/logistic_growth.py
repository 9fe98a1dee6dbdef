"""Growth that begins slowly and ends at a level."""

from __future__ import annotations

from typing import Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.nonlinear import DoesNotSettle, fit_curve, profiled
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.curves.exponential_curves import EXPONENTIAL
from theoros.verbs.model.curves.nonlinear_curve import NonlinearCurve
from theoros.verbs.model.curves.working_scale import WorkingScale
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


def _starts(x: Floats, y: Floats) -> tuple[list[Floats], bool]:
    """Half-way places from before the first to beyond the last x, and rates from slow to a step, up and down."""
    middles, rates = np.linspace(-3, 3, 49), np.geomspace(0.3, 100, 28)
    m, k = (one.ravel() for one in np.meshgrid(middles, np.concatenate([-rates, rates])))

    def parts(u: Floats, b: Floats) -> Floats:
        from scipy.special import expit

        return np.asarray(expit(b[:, 1:] * u - b[:, :1]), dtype=np.float64)

    return profiled(parts, x, y, np.column_stack([k * m, k]), 6)


def _limit(x: Floats, y: Floats) -> float:
    """The least sum of squares of an exponential curve, which it is far below its level, and of a step."""
    try:
        best = EXPONENTIAL.starts(x, y)[0][:1]  # it has one rate: from the best start alone it comes to the same
        grown = fit_curve(EXPONENTIAL.shape, EXPONENTIAL.gradient, x, y, best).rss
    except DoesNotSettle:
        grown = np.inf
    return min(grown, _least_step(x, y), _least_step(-x, y))


def _least_step(x: Floats, y: Floats) -> float:
    """The least sum of squares of 0 up to a value of x and a level beyond; between them at that value itself."""
    order = np.argsort(x, kind="stable")
    first = np.flatnonzero(np.diff(x[order], prepend=-np.inf))
    count = np.diff(np.append(first, x.size)).astype(np.float64)
    total, squares = np.add.reduceat(y[order], first), np.add.reduceat(y[order] ** 2, first)
    below = np.cumsum(squares) - squares
    beyond, beyond_total, beyond_squares = (np.cumsum(one[::-1])[::-1] for one in (count, total, squares))
    plain = below + beyond_squares - beyond_total**2 / beyond
    level, own = beyond_total[1:] / beyond[1:], total[:-1] / count[:-1]
    between = own * (own - level) < 0
    half = below + squares - total**2 / count
    half = half[:-1] + beyond_squares[1:] - beyond_total[1:] ** 2 / beyond[1:]
    return float(min(plain.min(), half[between].min(initial=np.inf)))


def _put_back(b: np.ndarray[Any, Any], scale: WorkingScale) -> np.ndarray[Any, Any]:
    rate = b[2] / scale.unit
    return np.array([b[0], b[1] + rate * scale.middle, rate])


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """The level, and where half of it is reached, if that is among the data."""
    level, shift, rate = (float(c) for c in f.coefficients)
    if rate == 0 or not float(f.x.min()) <= shift / rate <= float(f.x.max()):
        return ""
    return level_words(pairs, f.x, level, shift / rate)


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
        how="It is fitted by least squares in the units of y.",
        shape=_shape,
        gradient=_gradient,
        starts=_starts,
        limit=_limit,
        put_back=_put_back,
        runs_away="finds no upper level: the data look like an exponential curve, or a step",
        says=_says,
    ),
)
