"""The straight line, and the one through the origin."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.verbs.model.curves.curve import LinearCurve

CURVES = (
    LinearCurve(
        "line", "straight line", "Each step in x goes with the same step in y.", 2, 10,
        "{0} + {1} x", "{0} + {1}*x", ("intercept", "slope"), live=("{x}",),
        basis=lambda x: np.column_stack([np.ones(x.size), x]),
    ),
    LinearCurve(
        "origin", "straight line through the origin", "A line that is 0 where x is 0.", 1, 11,
        "{0} x", "{0}*x", ("slope",), suggests=False, basis=lambda x: x[:, None],
    ),
)  # fmt: skip
