"""Whether differences are about symmetric."""

from __future__ import annotations

from theoros.verbs.conditions.condition import Check, Condition
from theoros.verbs.data.samples import Paired
from theoros.verbs.parameters.parameter import Parameter


def _symmetry(data: Paired, parameter: Parameter) -> list[Check]:
    pairs = data.differences
    if pairs.n < 5 or not pairs.summary.sd > 0:
        return [Check("judge", "the differences should be about symmetric; too few to see")]
    s = pairs.summary
    lean = abs(s.mean - s.median) / s.sd
    if lean <= 0.25:
        return [Check("holds", "the differences look about symmetric")]
    return [
        Check("judge", "the differences lean to one side of their median", "differences skewed")
    ]


CONDITIONS = (Condition("symmetry", _symmetry),)
