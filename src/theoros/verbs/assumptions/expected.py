"""Whether the expected counts are large enough for the chi-square curve to stand in for counts."""

from __future__ import annotations

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.answer.wording import listed_briefly, number, percent
from theoros.lazy_imports import np
from theoros.numeric.procedures.counts import chi_square_related
from theoros.numeric.procedures.means import NoSpread
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.observed_counts import CountsOfLevels, TwoWayCounts
from theoros.verbs.parameters.parameter import Parameter

ENOUGH, LEAST, MOST_LOW = 5, 1, 0.2
"""Cochran 1954: none below 1, and no more than a fifth of the cells below 5."""


def _expected(data: CountsOfLevels | TwoWayCounts, parameter: Parameter) -> list[Assumption]:
    if isinstance(data, TwoWayCounts):
        try:
            found = chi_square_related(data.counts).expected
        except NoSpread:
            return []
        names = [f"{row} and {column}" for row in data.rows for column in data.columns]
    else:
        found = data.total * np.array(data.claimed)
        names = list(data.levels)
    flat = found.ravel()
    low = [f"{names[at]} ({number(flat[at], 1)})" for at in np.flatnonzero(flat < ENOUGH).tolist()]
    if not low:
        return [Assumption("holds", f"every expected count is {ENOUGH} or more")]
    said = listed_briefly(low, 4)
    if flat.min() >= LEAST and len(low) <= MOST_LOW * flat.size:
        text = (
            f"{counted(len(low), 'expected count')} below {ENOUGH}, {percent(len(low), flat.size)} "
            f"of the cells and none below {LEAST}: {said}"
        )
        return [Assumption("holds", text)]
    text = f"expected counts below {ENOUGH}: {said}. Merge levels, or use an exact or simulated method"
    remedy = "merge" if flat.size > (4 if isinstance(data, TwoWayCounts) else 2) else ""
    return [Assumption("fails", text, brief="low expected counts", remedy=remedy)]


CHECKS = (AssumptionCheck("expected", _expected),)
