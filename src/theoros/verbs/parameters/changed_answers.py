"""The change of a share between two answers of the same cases."""

import math

from theoros.verbs.parameters.parameter import Parameter

CHANGE = Parameter(
    "change",
    "",
    "Whether the share of a level changes from the first to the second time, for the same cases.",
    ("two-way counts",),
    lambda _: math.nan,
    from_figures=True,
    order=7,
    kin="change",
    shift=False,
    in_units=False,
)
PARAMETERS = (CHANGE,)
