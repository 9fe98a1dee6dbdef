"""A line in the logarithm of x."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.verbs.model.curves.curve import LinearCurve

CURVES = (
    LinearCurve(
        "logarithmic",
        "logarithmic curve",
        "Each doubling of x adds the same to y.",
        2,
        21,
        "{0} + {1} ln x",
        "{0} + {1}*ln(x)",
        ("intercept", "ln x"),
        positive_x=True,
        live=("ln({x})",),
        basis=lambda x: np.column_stack([np.ones(x.size), np.log(x)]),
    ),
)
