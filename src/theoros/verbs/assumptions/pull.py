"""Whether outliers move what a simulation compares."""

from __future__ import annotations

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.verbs.assumptions.assumption import AssumptionCheck
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter


def _pull(data: Measured, parameter: Parameter) -> list[Assumption]:
    if parameter.name == "median":  # which outliers hardly move
        return []
    rows = [int(s.rows[at]) for s in data.samples for at in s.outliers]
    if not rows:
        return []
    moves = "moves" if len(rows) == 1 else "move"
    brief = f"{counted(len(rows), 'outlier')} {moves} the mean"
    return [Assumption("judge", brief, brief=brief, rows=tuple(rows))]


CHECKS = (AssumptionCheck("pull", _pull),)
