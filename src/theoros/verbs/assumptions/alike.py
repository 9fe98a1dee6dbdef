"""Whether groups spread alike, so that what is dealt out anew compares their medians.

Ranks, and labels dealt out again, test whether two whole distributions are equal. A small p-value
speaks of the medians only where the distributions could differ in nothing else.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations

from theoros.answer.parts import Assumption
from theoros.answer.wording import number
from theoros.lazy_imports import np
from theoros.numeric.measures import skewness
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

SOMEWHAT, FAR = 1.5, 2.0
"""How many times wider the one may be: beyond the first it is for judgement, beyond the second
it is not alike. Measured in `benchmarks/advice.py`."""
FEWEST = 5
LEAST_SKEWED, UNLIKE = 8, 1.8
"""Of fewer values no skewness is compared; of more, so many standard errors apart are another shape."""


def _alike(data: Measured, parameter: Parameter) -> list[Assumption]:
    if parameter.name != "median":  # a difference over its standard error needs no equal spreads
        return []
    many = len(data.samples) > 2
    groups, one = ("all groups", "a group") if many else ("both groups", "one group")
    if min(sample.n for sample in data.samples) < FEWEST:
        text = f"the test compares medians only if {groups} have similar spreads, which so few values cannot show"
        return [Assumption("judge", text, brief="few values")]
    ratios = [
        max(pair) / min(pair)
        for pair in ([sample.summary.iqr for sample in data.samples], [sample.summary.sd for sample in data.samples])
        if min(pair) > 0
    ]
    if not ratios:
        return [Assumption("judge", "the spreads cannot be compared", brief="spreads unknown")]
    ratio = min(ratios)  # an outlier makes one of them large, and says nothing of the whole
    other = "another" if many else "the other"
    another = "others" if many else "the other"
    said = f"{one} has {number(ratio, 1)} times the spread of {other}"
    within = [np.delete(sample.values, sample.outliers) for sample in data.samples]  # one outlier is no shape
    skewed = _unlike_shapes([skewness(values) for values in within], [values.size for values in within])
    if skewed:
        text = f"{one} is not skewed in the same direction as {another}, so a small p-value may come from the shapes"
        return [Assumption("fails", text, brief="shapes differ")]
    if ratio <= SOMEWHAT:
        return [Assumption("holds", f"{groups} have similar spreads")]
    if ratio <= FAR:
        return [
            Assumption(
                "judge",
                f"{said}; the test compares medians only if the spreads are similar",
                brief="spreads may differ",
            )
        ]
    text = f"{said}, so a small p-value may come from the spreads and not from the medians"
    return [Assumption("fails", text, brief="spreads differ")]


def _unlike_shapes(skewness: Sequence[float], sizes: Sequence[int]) -> bool:
    """Whether the skewness of two groups differs by more than chance makes of alike ones."""
    known = [(one, n) for one, n in zip(skewness, sizes, strict=True) if not math.isnan(one) and n >= LEAST_SKEWED]
    return any(
        abs(a - b) > UNLIKE * math.hypot(_skewness_error(n), _skewness_error(m))
        for (a, n), (b, m) in combinations(known, 2)
    )


def _skewness_error(n: int) -> float:
    """The standard error of the skewness G1 of normal values (Cramer 1946)."""
    return math.sqrt(6 * n * (n - 1) / ((n - 2) * (n + 1) * (n + 3)))


CHECKS = (AssumptionCheck("alike", _alike),)
