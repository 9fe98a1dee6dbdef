"""Whether values are normal: procedures for spreads lean on it however many there are."""

from __future__ import annotations

import math

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.answer.wording import p_equals
from theoros.numeric.levels import below
from theoros.numeric.procedures.shape_and_order import anderson_darling
from theoros.verbs.assumptions.assumption import FEW, AssumptionCheck
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

PLAIN = 0.05
"""A Shapiro-Wilk p-value below this speaks against a normal shape."""


def _bell(data: Measured, parameter: Parameter) -> list[Assumption]:
    return [_bell_of(sample) for sample in data.samples]


def _bell_of(sample: Sample) -> Assumption:
    name, n = sample.said, sample.n
    if sample.given:
        text = f"{name}: summary figures cannot show whether the {counted(n, 'value')} are normal"
        return Assumption("judge", text, brief="shapes not seen")
    p, name_of = sample.shapiro, "Shapiro–Wilk"
    if p is None and n > FEW and sample.summary.sd > 0:  # more than Shapiro and Wilk's is worked out for
        p, name_of = anderson_darling(sample.values).p, "Anderson–Darling"
    if n < 3 or p is None or math.isnan(p):
        return Assumption("judge", f"{name}: too few values to judge the shape", brief=f"{name} too small")
    if below(p, PLAIN):
        said = p_equals(p).replace("\u00a0", " ")
        text = f"{name}: not normal ({name_of} {said}); a larger sample would not help here"
        return Assumption("fails", text, brief=f"{name} not normal")
    if n < FEW:
        text = f"{name}: no sign against a normal shape, but so few values show little"
        return Assumption("judge", text, brief="few values")
    return Assumption("holds", f"{name}: no sign against a normal shape")


CHECKS = (AssumptionCheck("bell", _bell),)
