"""The mean."""

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
PARAMETERS = (MEAN,)
