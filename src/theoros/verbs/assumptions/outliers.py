"""Whether values lie so far out that they pull a mean."""

from __future__ import annotations

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.answer.wording import listed_briefly, number
from theoros.verbs.assumptions.assumption import FEW, LARGE, AssumptionCheck
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter


def _outliers(data: Measured, parameter: Parameter) -> list[Assumption]:
    return [_outliers_one(sample, data.decimals) for sample in data.samples]


def _outliers_one(sample: Sample, decimals: int) -> Assumption:
    """Values beyond the fences are there in most large samples; it is those far beyond that count.

    Few values have fences that chance alone often moves: then they are for judgement.
    """
    if sample.given:
        return Assumption("judge", f"{sample.said}: summary figures cannot show outliers")
    if not sample.outliers:
        return Assumption("holds", f"{sample.said}: no outliers")
    far = [at for at in sample.outliers if sample.is_far(at)]
    told = far or list(sample.outliers)
    named = [_named(sample, at, decimals) for at in told[:3]]  # of thousands no more are said
    rows = tuple(int(sample.rows[at]) for at in sample.outliers)
    text = f"{sample.said}: {counted(len(told), 'value')} {'far ' if far else ''}outside the fences: "
    text += listed_briefly(named, 3, len(told))
    if not far:
        return Assumption("holds", text, rows=rows)
    brief = counted(len(far), "far outlier")
    middling = FEW <= sample.n < LARGE
    return Assumption("fails" if middling else "judge", text, brief=brief, rows=rows)


def _named(sample: Sample, at: int, decimals: int) -> str:
    return f"row {int(sample.rows[at]) + 1} ({number(float(sample.values[at]), decimals)})"


CHECKS = (AssumptionCheck("outliers", _outliers),)
