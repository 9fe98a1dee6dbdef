"""Whether pairs lie along a straight line, so that r and the slope say what they seem to."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import number
from theoros.numeric.correlation import pearson
from theoros.numeric.procedures.ranks import average_ranks
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.number_pairs import Associated, NumberPairs
from theoros.verbs.parameters.parameter import Parameter

APART = 0.12
"""As far apart r and that of the ranks may be before a bend or an outlier is suspected."""


def _straight(data: Associated, parameter: Parameter) -> list[Assumption]:
    if not isinstance(data, NumberPairs):
        return [
            Assumption("judge", "summary figures cannot show whether the relation is linear", brief="shape not seen")
        ]
    ranks = pearson(average_ranks(data.x), average_ranks(data.y))
    said = f"r = {number(data.r, 2)}, rank correlation {number(ranks, 2)}"
    if abs(data.r - ranks) <= APART:
        return [Assumption("holds", f"no sign against a linear relation: {said}")]
    return [
        Assumption(
            "judge", f"a bend or an outlier is possible: {said}; look at the scatter plot", brief="bend or outlier"
        )
    ]


CHECKS = (AssumptionCheck("straight", _straight),)
