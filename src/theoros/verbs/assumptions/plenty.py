"""Whether a sample is large enough to be drawn from in place of its population."""

from __future__ import annotations

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.verbs.assumptions.assumption import AssumptionCheck, checked
from theoros.verbs.data.number_pairs import Associated
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

LEAST = 30
"""With fewer values the bootstrap finds a difference too often: see `benchmarks/advice.py`."""


def _plenty(data: Measured | Associated, parameter: Parameter) -> list[Assumption]:
    pairs = isinstance(data, Associated)
    few = data.n if isinstance(data, Associated) else min(sample.n for sample in data.samples)
    said = counted(few, "pair" if pairs else "value")
    if few >= LEAST:
        return [Assumption("holds", f"{said}: enough to represent the population")]
    text = f"only {said}: resamples of fewer than {LEAST} vary too little, so the result looks more certain than it is"
    return [Assumption("judge", text, brief=f"only {said}")]


def _borne(data: Measured | Associated, parameter: Parameter) -> list[Assumption]:
    """Whether the pile of resamples is as wide as it should be: not of the mean of skewed values, nor of a spread."""
    if isinstance(data, Associated) or parameter.name in ("median", "quantile"):
        return []
    if parameter.kin != "spread":
        return [one for one in checked(("normal",), data, parameter) if one.mark == "fails"]
    if min(sample.n for sample in data.samples) >= LEAST_OF_SPREADS:
        return []
    text = f"resamples of fewer than {LEAST_OF_SPREADS} values vary too little"
    return [Assumption("fails", text, brief=f"fewer than {LEAST_OF_SPREADS} values")]


LEAST_OF_SPREADS = 100
"""With fewer values the bootstrap interval of a spread covers too seldom."""
CHECKS = (AssumptionCheck("plenty", _plenty), AssumptionCheck("borne", _borne))
