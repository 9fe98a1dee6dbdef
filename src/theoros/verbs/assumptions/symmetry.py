"""Whether values, or differences, are about symmetric."""

from __future__ import annotations

import math

from theoros.answer.parts import Assumption
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.assumptions.normality import STRONG_ALONE
from theoros.verbs.data.samples import OneSample, Paired
from theoros.verbs.parameters.parameter import Parameter

FAR, FAR_OF_ROOT = 0.25, 1.0
"""How far mean and median may lie apart, in standard deviations and in those over √n: ranks and signs
find a lean the more surely the more values there are. Measured in `benchmarks/advice.txt`; skewness tells more
of small samples (`benchmarks/advice_beyond.txt`)."""


def _symmetry(data: OneSample | Paired, parameter: Parameter) -> list[Assumption]:
    pairs = data.single
    what = "differences" if isinstance(data, Paired) else "values"
    if pairs.n < 5 or not pairs.summary.sd > 0:
        return [Assumption("judge", f"the {what} should be about symmetric; there are too few to judge")]
    s = pairs.summary
    lean = abs(s.mean - s.median) / s.sd
    if lean <= FAR and lean * math.sqrt(pairs.n) <= FAR_OF_ROOT and abs(pairs.skewness) <= STRONG_ALONE:
        return [Assumption("holds", f"the {what} look about symmetric")]
    text = f"the {what} are skewed to one side of their median, which makes p too small"
    return [Assumption("fails", text, brief=f"{what} skewed")]


CHECKS = (AssumptionCheck("symmetry", _symmetry),)
