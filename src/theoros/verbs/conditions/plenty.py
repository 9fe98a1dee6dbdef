"""Whether a sample is large enough to be drawn from in place of its population."""

from __future__ import annotations

from theoros.answer.wording import counted
from theoros.verbs.conditions.condition import Check, Condition
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

LEAST = 30
"""With fewer values the bootstrap finds a difference too often: see `benchmarks/advice.py`."""


def _plenty(data: Measured, parameter: Parameter) -> list[Check]:
    few = min(sample.n for sample in data.samples)
    said = counted(few, "value")
    if few >= LEAST:
        return [Check("holds", f"{said}: enough to stand for the population")]
    text = f"{said} to draw from: with fewer than {LEAST}, p comes out somewhat too small"
    return [Check("judge", text, f"only {said}")]


CONDITIONS = (Condition("plenty", _plenty),)
