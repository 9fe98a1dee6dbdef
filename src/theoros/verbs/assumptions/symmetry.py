"""Whether values, or differences, are about symmetric."""

from __future__ import annotations

from theoros.answer.parts import Assumption
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.samples import OneSample, Paired
from theoros.verbs.parameters.parameter import Parameter


def _symmetry(data: OneSample | Paired, parameter: Parameter) -> list[Assumption]:
    pairs = data.single
    what = "differences" if isinstance(data, Paired) else "values"
    if pairs.n < 5 or not pairs.summary.sd > 0:
        return [Assumption("judge", f"the {what} should be about symmetric; too few to see")]
    s = pairs.summary
    lean = abs(s.mean - s.median) / s.sd
    if lean <= 0.25:
        return [Assumption("holds", f"the {what} look about symmetric")]
    return [Assumption("judge", f"the {what} lean to one side of their median", brief=f"{what} skewed")]


CHECKS = (AssumptionCheck("symmetry", _symmetry),)
