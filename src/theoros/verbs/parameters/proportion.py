"""The proportion of cases that have something."""

import math

from theoros.verbs.data.shares import Share
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
    low=0.0,
    high=1.0,
    in_units=False,
)


def _odds(share: Share) -> float:
    return share.x / (share.n - share.x) if share.x < share.n else math.inf


ODDS_RATIO = Parameter(
    "odds ratio",
    "OR",
    "The odds in the first group over those in the second.",
    ("two shares",),
    _odds,
    from_figures=True,
    order=5,
    kin="share",
    low=0.0,
    shift=False,
    in_units=False,
    ratio=True,
)
RISK_RATIO = Parameter(
    "risk ratio",
    "RR",
    "The proportion in the first group over that in the second.",
    ("two shares",),
    lambda share: share.value,
    from_figures=True,
    order=5,
    kin="share",
    low=0.0,
    shift=False,
    in_units=False,
    ratio=True,
)
PARAMETERS = (PROPORTION, ODDS_RATIO, RISK_RATIO)
