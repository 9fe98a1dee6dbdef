"""Whether two groups have about the same shape, so that ranks compare their medians."""

from __future__ import annotations

from theoros.verbs.conditions.condition import Check, Condition
from theoros.verbs.data.samples import TwoSamples
from theoros.verbs.parameters.parameter import Parameter


def _shapes(data: TwoSamples, parameter: Parameter) -> list[Check]:
    a, b = data.first.summary.iqr, data.second.summary.iqr
    small, large = sorted((a, b))
    if min(data.first.n, data.second.n) < 5:
        return [
            Check(
                "judge",
                "it compares medians if both groups have the same shape, which so few values "
                "cannot show",
            )
        ]
    if small > 0 and large / small <= 2:
        return [Check("holds", "the middle halves of both groups are about equally wide")]
    return [
        Check(
            "judge",
            "the groups differ in spread, so a small p-value may speak of that rather than of the "
            "medians alone",
            "spreads differ",
        )
    ]


CONDITIONS = (Condition("shapes", _shapes),)
