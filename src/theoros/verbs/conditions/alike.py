"""Whether two groups spread alike, so that what is dealt out anew compares their medians.

Ranks, and labels dealt out again, test whether two whole distributions are equal. A small p-value
speaks of the medians only where the distributions could differ in nothing else.
"""

from __future__ import annotations

from theoros.answer.wording import number
from theoros.verbs.conditions.condition import Check, Condition
from theoros.verbs.data.samples import TwoSamples
from theoros.verbs.parameters.parameter import Parameter

SOMEWHAT, FAR = 1.5, 2.0
"""How many times wider the one may be: beyond the first it is for judgement, beyond the second
it is not alike. Measured in `benchmarks/advice.py`."""
FEWEST = 5


def _alike(data: TwoSamples, parameter: Parameter) -> list[Check]:
    if parameter.name != "median":  # a difference over its standard error needs no equal spreads
        return []
    if min(data.first.n, data.second.n) < FEWEST:
        text = "it compares medians if both groups spread alike, which so few values cannot show"
        return [Check("judge", text, "few values")]
    ratios = [
        max(pair) / min(pair)
        for pair in (
            (data.first.summary.iqr, data.second.summary.iqr),
            (data.first.summary.sd, data.second.summary.sd),
        )
        if min(pair) > 0
    ]
    if not ratios:
        return [Check("judge", "the spreads cannot be compared", "spreads unknown")]
    ratio = min(ratios)  # an outlier makes one of them large, and says nothing of the whole
    said = f"one group spreads {number(ratio, 1)} times as wide as the other"
    if ratio <= SOMEWHAT:
        return [Check("holds", "both groups spread about equally wide")]
    if ratio <= FAR:
        return [
            Check(
                "judge", f"{said}: it compares medians if they spread alike", "spreads may differ"
            )
        ]
    text = f"{said}, so that a small p-value may speak of that rather than of the medians"
    return [Check("fails", text, "spreads differ")]


CONDITIONS = (Condition("alike", _alike),)
