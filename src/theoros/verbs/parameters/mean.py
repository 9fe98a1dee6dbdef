"""The mean."""

import math

from theoros.verbs.parameters.parameter import Parameter

MEAN = Parameter(
    "mean",
    "μ",
    "The balance point; outliers pull it.",
    ("two samples", "pairs", "one sample", "several samples", "repeated", "two factors"),
    lambda sample: sample.summary.mean,
    from_figures=True,
    order=1,
)
TOTAL = Parameter(
    "total",
    "T",
    "The sum over all cases of the population, as many as there are.",
    ("one sample",),
    lambda sample: math.nan,  # how many there are is a setting
    from_figures=True,
    order=2,
    kin="total",
    asks="population",
)
PARAMETERS = (MEAN, TOTAL)
