"""Whether the second number of pairs spreads as widely wherever the first one lies."""

from __future__ import annotations

import math

from theoros.answer.parts import Assumption
from theoros.answer.wording import p_equals
from theoros.numeric.correlation import even_spread_p
from theoros.numeric.levels import below
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.number_pairs import Associated, NumberPairs
from theoros.verbs.parameters.parameter import Parameter

LEAST, PLAIN = 10, 0.02
"""Of fewer pairs nothing can be seen; a p-value below this speaks plainly."""


def _even(data: Associated, parameter: Parameter) -> list[Assumption]:
    if not isinstance(data, NumberPairs) or data.n < LEAST:
        return []
    p = even_spread_p(data.x, data.y)
    if math.isnan(p):
        return [Assumption("judge", "constant spread around the line: too few rows to judge")]
    if not below(p, PLAIN):
        return [Assumption("holds", "no sign against a constant spread around the line")]
    along, up = data.names
    text = f"the spread of {up} around the line changes along {along} ({p_equals(p)})"
    return [Assumption("fails", text, brief="uneven spread")]


def _margins(data: Associated, parameter: Parameter) -> list[Assumption]:
    """Fisher's z takes both numbers as normal; skewed ones vary more than it allows for."""
    if not isinstance(data, NumberPairs):
        return []
    from theoros.numeric.measures import skewness

    far = [name for name, values in zip(data.names, (data.x, data.y), strict=True) if abs(skewness(values)) > STRONG]
    if not far:
        return [Assumption("holds", "neither number is strongly skewed")]
    are = "is" if len(far) == 1 else "are"
    return [Assumption("fails", f"{' and '.join(far)} {are} strongly skewed", brief="skewed")]


STRONG = 1.2
"""Skewness beyond which the interval of a correlation is too narrow."""
CHECKS = (AssumptionCheck("even spread", _even), AssumptionCheck("margins", _margins))
