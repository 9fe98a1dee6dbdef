"""The correlation of two numbers, and the slope of one on the other."""

import math

from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.parameters.parameter import Parameter


def _slope(pairs: NumberPairs) -> float:
    if pairs.typed:
        return math.nan
    return float(pairs.r * pairs.y.std() / pairs.x.std()) if pairs.x.std() > 0 else math.nan


CORRELATION = Parameter(
    "correlation",
    "ρ",
    "How close two numbers are to a linear relation, from −1 to 1.",
    ("two numbers",),
    lambda pairs: pairs.r,
    from_figures=True,
    order=7,
    kin="association",
    low=-1.0,
    high=1.0,
    in_units=False,
)
SLOPE = Parameter(
    "slope",
    "β",
    "How much one number changes, on average, as the other goes up by one.",
    ("two numbers",),
    _slope,
    order=8,
    kin="slope",
    in_units=False,
)
PARAMETERS = (CORRELATION, SLOPE)
