"""The shape of a distribution, and the order in which values came."""

import math

from theoros.verbs.parameters.parameter import Parameter

SHAPE = Parameter(
    "shape",
    "",
    "Whether the values could come from a normal distribution.",
    ("one sample",),
    lambda _: math.nan,
    order=9,
    kin="shape",
    shift=False,
    directed=False,
)
ORDER = Parameter(
    "order",
    "",
    "Whether the values are in random order, or depend on their order in time.",
    ("one sample",),
    lambda _: math.nan,
    order=10,
    kin="order",
    shift=False,
    directed=False,
)
PARAMETERS = (SHAPE, ORDER)
