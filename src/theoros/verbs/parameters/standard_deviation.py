"""The standard deviation."""

from theoros.verbs.parameters.parameter import Parameter

STANDARD_DEVIATION = Parameter(
    "standard deviation",
    "σ",
    "The typical distance of values from their mean.",
    ("one sample", "two samples"),
    lambda sample: sample.summary.sd,
    from_figures=True,
    order=3,
    kin="spread",
    low=0.0,
    shift=False,
)
VARIANCE = Parameter(
    "variance",
    "σ²",
    "The square of the standard deviation.",
    ("one sample",),
    lambda sample: sample.summary.sd**2,
    squared=True,
    from_figures=True,
    order=3,
    kin="spread",
    low=0.0,
    shift=False,
)
RATIO_OF_SPREADS = Parameter(
    "ratio of standard deviations",
    "σ",
    "How many times the spread of the other.",
    ("two samples",),
    lambda sample: sample.summary.sd,
    from_figures=True,
    order=3,
    kin="spread",
    low=0.0,
    shift=False,
    in_units=False,
    ratio=True,
)
PARAMETERS = (STANDARD_DEVIATION, VARIANCE, RATIO_OF_SPREADS)
