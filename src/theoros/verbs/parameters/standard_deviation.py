"""The standard deviation."""

from theoros.verbs.parameters.parameter import Parameter

STANDARD_DEVIATION = Parameter(
    "standard deviation",
    "σ",
    "How far values lie from their mean, as a rule.",
    ("one sample", "two samples"),
    lambda sample: sample.summary.sd,
    from_figures=True,
    order=3,
    kin="spread",
    usual_null=1.0,
    low=0.0,
    shift=False,
)
PARAMETERS = (STANDARD_DEVIATION,)
