"""Whether two spreads are alike enough to be taken as one."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact, listed_briefly, number, with_unit
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

SPREAD_RATIO = 2.0
"""Standard deviations farther apart than this speak against pooling."""
LIKE_SIZES, UNLIKE_RATIO = 1.5, 1.3
"""Where one group has more than so many times as many values as another, spreads must be more alike:
what a small group spreads more is lost among the others. Measured in `benchmarks/advice.txt`."""


def _spreads(data: Measured, parameter: Parameter) -> list[Assumption]:
    spreads = [sample.summary.sd for sample in data.samples]
    ratio = max(spreads) / min(spreads) if min(spreads) > 0 else None
    if ratio is None:
        return [Assumption("judge", "the spreads cannot be compared", brief="spreads unknown")]
    larger = max(data.samples, key=lambda sample: sample.summary.sd)
    places = min(6, data.decimals + 1)
    sds = listed_briefly([with_unit(number(sample.summary.sd, places), data.unit) for sample in data.samples], 6)
    sizes = [sample.n for sample in data.samples]
    limit = SPREAD_RATIO if max(sizes) <= LIKE_SIZES * min(sizes) else UNLIKE_RATIO
    if ratio <= limit:
        return [Assumption("holds", f"similar spreads: SD {sds}, ratio {number(ratio, 2)}")]
    return [
        Assumption(
            "fails",
            f"{larger.said} has the larger spread: SD {sds}, ratio {number(ratio, 2)}, more than {exact(limit)}"
            + (", as the groups differ in size" if limit < SPREAD_RATIO else ""),
            brief="spreads differ",
        )
    ]


CHECKS = (AssumptionCheck("spreads", _spreads),)
