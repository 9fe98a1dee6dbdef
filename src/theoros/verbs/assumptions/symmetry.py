"""Whether values, or differences, are about symmetric."""

from __future__ import annotations

from theoros.verbs.assumptions.assumption import Check, Condition
from theoros.verbs.data.samples import OneSample, Paired
from theoros.verbs.parameters.parameter import Parameter


def _symmetry(data: OneSample | Paired, parameter: Parameter) -> list[Check]:
    pairs = data.single
    what = "differences" if isinstance(data, Paired) else "values"
    if pairs.n < 5 or not pairs.summary.sd > 0:
        return [Check("judge", f"the {what} should be about symmetric; too few to see")]
    s = pairs.summary
    lean = abs(s.mean - s.median) / s.sd
    if lean <= 0.25:
        return [Check("holds", f"the {what} look about symmetric")]
    return [Check("judge", f"the {what} lean to one side of their median", f"{what} skewed")]


CONDITIONS = (Condition("symmetry", _symmetry),)
