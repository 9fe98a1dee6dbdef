"""A line in the logarithm of x."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.verbs.model.curves.curve import Fitted, LinearCurve
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.words.amounts import caused, higher


def _says(pairs: ModelPairs, f: Fitted) -> str:
    """What each doubling of x adds."""
    change = float(f.coefficients[1]) * math.log(2)
    return f"For each doubling of {pairs.predictor.name}, {caused(pairs, higher(pairs, change))}."


CURVES = (
    LinearCurve(
        "logarithmic",
        "logarithmic curve",
        "Each doubling of x adds the same amount to y.",
        2,
        21,
        "{0} + {1} ln x",
        "{0} + {1}*ln(x)",
        ("intercept", "ln x"),
        positive_x=True,
        says=_says,
        live=("ln({x})",),
        basis=lambda x: np.column_stack([np.ones(x.size), np.log(x)]),
    ),
)
