"""The median."""

import math

from theoros.verbs.parameters.parameter import Parameter

MEDIAN = Parameter(
    "median",
    "η",
    "The middle value; outliers hardly move it.",
    ("two samples", "pairs", "one sample", "several samples", "repeated"),
    lambda sample: sample.summary.median,
    order=2,
)
QUANTILE = Parameter(
    "quantile",
    "Q",
    "The value that a given share of all lies below, such as 90 %.",
    ("one sample",),
    lambda sample: math.nan,  # which one is a setting
    asks="share",
    order=2,
)
PARAMETERS = (MEDIAN, QUANTILE)
