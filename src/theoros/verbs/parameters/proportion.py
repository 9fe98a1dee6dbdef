"""The proportion of cases that have something."""

from theoros.verbs.parameters.parameter import Parameter

PROPORTION = Parameter(
    "proportion",
    "p",
    "The share of cases that have a level of a category.",
    ("one share", "two shares"),
    lambda share: share.value,
    from_figures=True,
    order=4,
    kin="share",
    usual_null=0.5,
    low=0.0,
    high=1.0,
    in_units=False,
)
PARAMETERS = (PROPORTION,)
