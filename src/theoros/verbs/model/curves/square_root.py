"""A line in the square root of x."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.model.curves.curve import CannotFit, LinearCurve


class SquareRoot(LinearCurve):
    def needs(self, x: Floats, y: Floats) -> None:
        super().needs(x, y)
        if not (x >= 0).all():
            raise CannotFit("needs x of 0 or more")


CURVES = (
    SquareRoot(
        "square root",
        "square root curve",
        "Steep at first, flatter later.",
        2,
        22,
        "{0} + {1} √(x)",
        "{0} + {1}*sqrt(x)",
        ("intercept", "√x"),
        live=("sqrt({x})",),
        basis=lambda x: np.column_stack([np.ones(x.size), np.sqrt(np.maximum(x, 0.0))]),
    ),
)
