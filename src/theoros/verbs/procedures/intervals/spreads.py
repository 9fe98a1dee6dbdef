"""Intervals of standard deviations, variances, and the ratio of two standard deviations."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import number, put_in, squared
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.verbs.data.samples import OneSample, TwoSamples
from theoros.verbs.procedures.intervals.building import interval_result, tails_of
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Steps


def _one(question: Question) -> Steps:
    data: OneSample = question.data
    s = data.sample.summary
    if s.n < 2:
        raise ProcedureFails("needs at least two values")
    if not s.sd > 0:
        raise ProcedureFails("all values are equal")
    df, (low_tail, high_tail) = s.n - 1, tails_of(question)
    curve, squares = ChiSquare(df), df * s.sd**2
    above = curve.upper_quantile(low_tail) if low_tail else math.inf
    below = float(curve.quantile(high_tail)) if high_tail else 0.0
    root = question.parameter.name == "standard deviation"
    say = partial(put_in, decimals=data.decimals)
    ends = [squares / above, squares / below if below else math.inf]
    if root:
        ends = [math.sqrt(end) for end in ends]
    estimate = s.sd if root else s.sd**2
    told = []
    for word, limit, end in (("lower", above, ends[0]), ("upper", below, ends[1])):
        if 0 < limit < math.inf:
            inner = f"{df} × {squared(say(s.sd))} / {number(limit, 3)}"
            told.append(f"{{{word} end}} = {f'√({inner})' if root else inner} = {say(end)}")
    limits = [f"χ^{{2}} = {number(limit, 3)}" for limit in (above, below) if 0 < limit < math.inf]
    steps = (
        Step(
            "Point estimate",
            formulas(f"s = {say(s.sd)}" if root else f"s^{{2}} = {squared(say(s.sd))} = {say(estimate)}"),
        ),
        Step(
            "Critical values", (f"Of chi-square with df = {df}, whose tails are what is left out:", *formulas(*limits))
        ),
        Step("Ends", formulas(f"{{ends}} = {'√((n − 1) s^{2} / χ^{2})' if root else '(n − 1) s^{2} / χ^{2}'}", *told)),
    )
    yield (
        interval_result(
            estimate,
            (ends[0], ends[1]),
            steps=steps,
            figures={"chi_square_high": above, "chi_square_low": below},
            text=f"df {df}",
        ),
        1.0,
    )


def _ratio(question: Question) -> Steps:
    data: TwoSamples = question.data
    x, y = data.first.summary, data.second.summary
    if min(x.n, y.n) < 2:
        raise ProcedureFails("needs at least two values in each group")
    if not (x.sd > 0 and y.sd > 0):
        raise ProcedureFails("all values of a group are equal")
    curve, (low_tail, high_tail) = FisherF(x.n - 1, y.n - 1), tails_of(question)
    above = curve.upper_quantile(low_tail) if low_tail else math.inf
    below = float(curve.quantile(high_tail)) if high_tail else 0.0
    ratio, say = x.sd / y.sd, partial(put_in, decimals=data.decimals)
    low = ratio / math.sqrt(above)
    high = ratio / math.sqrt(below) if below else math.inf
    told = [
        f"{{{word} end}} = {number(ratio, 4)} / √{number(limit, 4)} = {number(end, 4)}"
        for word, limit, end in (("lower", above, low), ("upper", below, high))
        if 0 < limit < math.inf
    ]
    steps = (
        Step("Point estimate", formulas(f"{{ratio}} = {say(x.sd)} / {say(y.sd)} = {number(ratio, 4)}")),
        Step(
            "Ends",
            (
                formula(f"F {{with}} {x.n - 1} {{and}} {y.n - 1} {{degrees of freedom}}"),
                *formulas("{ends} = {ratio} / √F", *told),
            ),
        ),
    )
    yield (
        interval_result(
            ratio,
            (low, high),
            steps=steps,
            figures={"f_high": above, "f_low": below},
            text=f"F, df {x.n - 1} and {y.n - 1}",
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "chi-square", "Chi-square", "One standard deviation or variance; needs a normal shape.",
        ("one sample",), ("standard deviation", "variance"), ("bell",), _one, order=1,
        from_figures=True,
    ),
    Procedure(
        "F", "F", "The ratio of two standard deviations; needs normal shapes.",
        ("two samples",), ("ratio of standard deviations",), ("bell",), _ratio, order=1,
        from_figures=True,
    ),
)  # fmt: skip
