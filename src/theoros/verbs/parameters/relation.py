"""The relation of two categories."""

import math

from theoros.verbs.parameters.parameter import Parameter

RELATION = Parameter(
    "relation",
    "",
    "Whether two categories are related.",
    ("two-way counts",),
    lambda _: math.nan,
    from_figures=True,
    order=6,
    kin="relation",
    shift=False,
    in_units=False,
)
PARAMETERS = (RELATION,)
