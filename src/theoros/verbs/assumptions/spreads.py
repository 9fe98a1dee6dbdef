"""Whether two spreads are alike enough to be taken as one."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import listed_briefly, number, with_unit
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

SPREAD_RATIO = 2.0
"""Standard deviations farther apart than this speak against pooling."""


def _spreads(data: Measured, parameter: Parameter) -> list[Assumption]:
    spreads = [sample.summary.sd for sample in data.samples]
    ratio = max(spreads) / min(spreads) if min(spreads) > 0 else None
    if ratio is None:
        return [Assumption("judge", "the spreads cannot be compared", brief="spreads unknown")]
    larger = max(data.samples, key=lambda sample: sample.summary.sd)
    places = min(6, data.decimals + 1)
    sds = listed_briefly([with_unit(number(sample.summary.sd, places), data.unit) for sample in data.samples], 6)
    if ratio <= SPREAD_RATIO:
        return [Assumption("holds", f"spreads alike: SD {sds}, ratio {number(ratio, 2)}")]
    return [
        Assumption(
            "fails",
            f"{larger.said} spreads more: SD {sds}, ratio {number(ratio, 2)}, more than 2",
            brief="spreads differ",
        )
    ]


CHECKS = (AssumptionCheck("spreads", _spreads),)
