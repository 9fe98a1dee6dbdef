"""Growth that slows down towards a level: x over a constant plus x."""

from __future__ import annotations

from typing import Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.nonlinear import profiled
from theoros.verbs.model.curves.curve import Fitted
from theoros.verbs.model.curves.nonlinear_curve import NonlinearCurve
from theoros.verbs.model.curves.working_scale import WorkingScale, ratio_scale
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import level_words


def _shape(x: Floats, b: Floats) -> Floats:
    return np.asarray(b[0] * x / (b[1] + x))


def _gradient(x: Floats, b: Floats) -> Floats:
    below = b[1] + x
    return np.column_stack([x / below, -b[0] * x / below**2])


def _starts(x: Floats, y: Floats) -> tuple[list[Floats], bool]:
    """Half-way places from far below to far above x, in units of its middle."""
    return profiled(lambda u, b: u / (b + u), x, y, np.geomspace(1e-5, 1e5, 200)[:, None])


def _put_back(b: np.ndarray[Any, Any], scale: WorkingScale) -> np.ndarray[Any, Any]:
    return np.array([b[0], b[1] * scale.unit])


def _senseless(b: Floats) -> str:
    return "" if b[1] > 0 else NO_LEVEL


NO_LEVEL = "finds no upper level: the data look like a line through 0, or a level line"


def _says(pairs: ModelPairs, f: Fitted) -> str:
    return level_words(pairs, f.x, float(f.coefficients[0]), float(f.coefficients[1]))


CURVES = (
    NonlinearCurve(
        "saturation",
        "saturation curve",
        "Slows down towards a level: x / (constant + x).",
        2,
        28,
        "{0} x / ({1} + x)",
        "{0}*x/({1} + x)",
        ("level", "x at half the level"),
        positive_x=True,
        how="It is fitted by least squares in the units of y.",
        shape=_shape,
        gradient=_gradient,
        starts=_starts,
        put_back=_put_back,
        scale=ratio_scale,
        runs_away=NO_LEVEL,
        senseless=_senseless,
        says=_says,
    ),
)
