"""A line in 1/x."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import LinearCurve


def _basis(x: Floats) -> Floats:
    with np.errstate(divide="ignore"):
        return np.column_stack([np.ones(x.size), 1 / x])


CURVES = (
    LinearCurve(
        "reciprocal",
        "reciprocal curve",
        "Approaches a level for large x.",
        2,
        23,
        "{0} + {1} / x",
        "{0} + {1}/x",
        ("level", "1/x"),
        not_zero=True,
        live=("1/{x}",),
        basis=_basis,
    ),
)
