"""The shares of a category."""

import math

from theoros.verbs.parameters.parameter import Parameter

SHARES = Parameter(
    "shares",
    "p",
    "How the cases divide among the levels of a category, compared with a claim.",
    ("counts",),
    lambda _: math.nan,
    from_figures=True,
    order=5,
    kin="fit",
    shift=False,
    in_units=False,
)
PARAMETERS = (SHARES,)
