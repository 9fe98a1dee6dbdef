"""Whether the shape of samples lets a t procedure be trusted: the larger they are, the more it may.

Below FEW values a shape matters and cannot be seen well: it is for judgement, unless it speaks
plainly. From there on strong skewness is what misleads; the larger a sample, the more of it a mean
bears. How often this advice is right is measured in `benchmarks/advice.py`.
"""

from __future__ import annotations

import math

from theoros.answer.nouns import counted
from theoros.answer.parts import Assumption
from theoros.answer.wording import number, p_equals
from theoros.numeric.levels import below
from theoros.verbs.assumptions.assumption import FEW, LARGE, AssumptionCheck
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import Measured
from theoros.verbs.parameters.parameter import Parameter

PLAIN = 0.04
"""Of few values, a Shapiro-Wilk p-value below this speaks plainly."""
SLIGHT, STRONG = 1.0, 1.4
"""Skewness of a middling sample up to which nothing is said, and past which it is too much."""
SLIGHT_ALONE, STRONG_ALONE = 0.7, 1.0
"""The same of a sample that is not set against another of its shape, where nothing cancels: 10 exponential values
give a t test of one mean an error of 0.11, and 0.09 where past this bootstrap t takes its place
(`benchmarks/advice_beyond.txt`)."""
PER_ROOT = 0.2
"""The skewness that a large sample bears, over √n: n > 25 G₁² (Cochran 1977, "Sampling Techniques",
section 2.15), with which a 95 % interval misses in at most 6 %."""


def _normal(data: Measured, parameter: Parameter) -> list[Assumption]:
    if parameter.kin == "centre" and parameter.name not in ("mean", "total"):
        return []  # medians and other quantiles need no shape
    # of many groups one looks odd by chance
    plain = PLAIN / max(1, len(data.samples) - 1)
    alone = len(data.samples) == 1
    return [_normal_one(sample, plain, alone=alone) for sample in data.samples]


def _normal_one(sample: Sample, plain: float, *, alone: bool) -> Assumption:
    name, n = sample.said, sample.n
    many = counted(n, "value")
    if sample.given:
        if n >= LARGE:
            return Assumption("holds", f"{name}: with {many} the sample mean is nearly normal")
        text = f"{name}: summary figures cannot show whether the {many} look normal"
        return Assumption("judge", text, brief="shapes not seen")
    if n < 3:
        text = f"{name}: {many} {'is' if n == 1 else 'are'} too few to judge the shape"
        return Assumption("judge", text, brief=f"{name} too small to judge the shape")
    if math.isnan(sample.skewness):
        return Assumption("fails", f"{name}: all values are equal, so there is no shape", brief=f"{name} flat")
    if n < FEW:
        return _of_few(sample, plain, alone=alone)
    size = abs(sample.skewness)
    slight, strong = (SLIGHT_ALONE, STRONG_ALONE) if alone else (SLIGHT, STRONG)
    if n >= LARGE:
        strong = PER_ROOT * math.sqrt(n)
        slight = 0.8 * strong
    said = f"skewness {number(sample.skewness, 1)}"
    if size > strong:
        return _far(sample, f"too strong for {many}" if n >= LARGE else f"strong for {many}")
    if size > slight:
        text = f"{_skewed(sample)} ({said}): about the most that {many} allow"
        return Assumption("judge", text, brief=f"{name} somewhat skewed")
    if n >= LARGE:
        return Assumption("holds", f"{name}: with {many} the sample mean is nearly normal ({said})")
    return Assumption("holds", f"{name}: no strong skewness ({said})")


def _of_few(sample: Sample, plain: float, *, alone: bool) -> Assumption:
    name, many = sample.said, counted(sample.n, "value")
    said = f"Shapiro–Wilk {p_equals(sample.shapiro)}" if sample.shapiro is not None else ""
    if sample.shapiro is not None and below(sample.shapiro, plain):
        do = "do" if sample.many else "does"
        text = f"{name} {do} not look normal ({said}), which matters with {many}"
        return Assumption("fails", text, brief=f"{name} not normal")
    if alone and abs(sample.skewness) > STRONG_ALONE:
        return _far(sample, f"strong for {many}")
    text = f"{name}: {many} are too few to judge the shape; there is no clear sign against a normal one"
    return Assumption("judge", f"{text} ({said})" if said else text, brief="few values")


def _skewed(sample: Sample, how: str = "") -> str:
    side = "right" if sample.skewness > 0 else "left"
    return f"{sample.said} {'are' if sample.many else 'is'} {how}skewed to the {side}"


def _far(sample: Sample, bears: str) -> Assumption:
    text = f"{_skewed(sample, 'strongly ')}: skewness {number(sample.skewness, 1)}, {bears}"
    return Assumption("fails", text, brief=f"{sample.said} skewed")


CHECKS = (AssumptionCheck("normal", _normal),)
