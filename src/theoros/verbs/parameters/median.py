"""The median."""

from theoros.verbs.parameters.parameter import Parameter

MEDIAN = Parameter(
    "median",
    "η",
    "The middle value; outliers hardly move it.",
    ("two samples", "pairs", "one sample", "several samples", "repeated"),
    lambda sample: sample.summary.median,
    order=2,
)
PARAMETERS = (MEDIAN,)
