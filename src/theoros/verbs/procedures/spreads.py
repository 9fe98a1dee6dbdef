"""Procedures for standard deviations: one against a claimed value, two against each other."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, put_in, significant, squared, statistic, unmarked
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.spreads import brown_forsythe, chi_square_variance, f_ratio
from theoros.verbs.data.samples import OneSample, TwoSamples
from theoros.verbs.procedures.intervals import interval_result, tails_of
from theoros.verbs.procedures.p_values import degrees, result_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Steps


def _one(question: Question) -> Steps:
    data = question.of(OneSample)
    s = data.sample.summary
    if not question.null > 0:
        raise ProcedureFails("needs a claimed standard deviation above 0")
    try:
        found = chi_square_variance(s.n, s.sd, question.null)
    except TooFewValues:
        raise ProcedureFails("needs at least two values") from None
    say = partial(put_in, decimals=data.decimals)
    lines = formulas(
        "χ^{2} = ((n − 1) s^{2}) / (σ_{0}^{2})",
        f"χ^{{2}} = (({s.n} − 1) × {squared(say(s.sd))}) / ({squared(exact(question.null))}) = "
        f"{statistic(found.statistic, 1)}",
        f"df = {s.n} − 1 = {s.n - 1}",
    )
    df = degrees(found.df)
    yield result_of(
        question, ChiSquare(found.df), found.statistic, "χ²", lines, estimate=s.sd, skew=True,
        axis=f"χ², {df} degrees of freedom", text=f"χ² = {statistic(found.statistic)}, df {df}",
        figures={"chi_square": found.statistic, "df": found.df, "sd": s.sd},
        with_df=f" {{with}} df = {df}", interval=_interval(question, s.n, s.sd),
    ), 1.0  # fmt: skip


def _interval(question: Question, n: int, sd: float) -> tuple[float, float] | None:
    """√((n − 1) s² / χ²) at both quantiles, for values from a normal population."""
    if question.confidence is None or not sd > 0:
        return None
    curve, tail = ChiSquare(n - 1), (1 - question.confidence) / 2
    low, high = curve.upper_quantile(tail), float(curve.quantile(tail))
    return sd * math.sqrt((n - 1) / low), sd * math.sqrt((n - 1) / high)


def _ratio(question: Question) -> Steps:
    data = question.of(TwoSamples)
    x, y = data.first.summary, data.second.summary
    try:
        found = f_ratio(x.n, x.sd, y.n, y.sd)
    except TooFewValues:
        raise ProcedureFails("needs at least two values in each group") from None
    except NoSpread:
        raise ProcedureFails("all values of a group are equal") from None
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    say = partial(put_in, decimals=data.decimals)
    lines = formulas(
        f"F = s_{{{one}}}^{{2}} / s_{{{two}}}^{{2}}",
        f"F = ({squared(say(x.sd))}) / ({squared(say(y.sd))}) = {statistic(found.statistic, 1)}",
        f"df = {x.n} − 1 = {x.n - 1} {{and}} {y.n} − 1 = {y.n - 1}",
    )
    df = f"{x.n - 1} and {y.n - 1}"
    yield (
        result_of(
            question,
            FisherF(x.n - 1, y.n - 1),
            found.statistic,
            "F",
            lines,
            estimate=x.sd - y.sd,
            skew=True,
            axis=f"F, {df} degrees of freedom",
            text=f"F = {statistic(found.statistic)}, df {df}",
            figures={"F": found.statistic, "df1": x.n - 1.0, "df2": y.n - 1.0},
        ),
        1.0,
    )


def _from_medians(question: Question) -> Steps:
    data = question.of(TwoSamples)
    if question.alternative not in (None, "different"):
        raise ProcedureFails("can only ask whether they differ: choose “different from”")
    if min(data.first.n, data.second.n) < 2:
        raise ProcedureFails("needs at least two values in each group")
    try:
        found = brown_forsythe([data.first.values, data.second.values])
    except TooFewValues:
        raise ProcedureFails("needs at least two values in a group") from None
    except NoSpread:
        raise ProcedureFails("all values have the same distance from their median") from None
    n = data.first.n + data.second.n
    lines: tuple[str | Formula, ...] = (
        "Take the distance of each value from the median of its group, and compare the means of these distances.",
        *formulas(
            f"F = {{between}} / {{within}} = {significant(found.between, 5)} / "
            f"({significant(found.within, 5)} / {n - 2}) = {statistic(found.f, 1)}"
        ),
    )
    df = f"1 and {n - 2}"
    yield (
        result_of(
            question,
            FisherF(1, n - 2),
            found.f,
            "F",
            lines,
            estimate=question.parameter.estimate(data),
            upper=True,
            axis=f"F, {df} degrees of freedom",
            text=f"F = {statistic(found.f)}, df {df}",
            figures={"F": found.f, "df1": 1.0, "df2": n - 2.0},
        ),
        1.0,
    )


def _one_interval(question: Question) -> Steps:
    data = question.of(OneSample)
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
        Step("Critical values", (f"From chi-square with df = {df}, with the tails left out:", *formulas(*limits))),
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


def _ratio_interval(question: Question) -> Steps:
    data = question.of(TwoSamples)
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
        "chi-square of a variance", "Chi-square", "One standard deviation; needs a normal shape.",
        ("one sample",), ("standard deviation",), ("bell",), _one, order=1, from_figures=True,
        interval=AsInterval(_one_interval, help="One standard deviation or variance; needs a normal shape.",
                            compares=("standard deviation", "variance")), other_names=("chi square",)
    ),
    Procedure(
        "F ratio", "F ratio", "Two standard deviations; needs normal shapes.",
        ("two samples",), ("standard deviation",), ("bell",), _ratio, order=1,
        from_figures=True,
        interval=AsInterval(_ratio_interval, "F", "The ratio of two standard deviations; needs normal shapes.",
                            ("ratio of standard deviations",)),
    ),
    Procedure(
        "Brown–Forsythe", "Brown–Forsythe", "Two spreads by distances from the medians.",
        ("two samples",), ("standard deviation",), (), _from_medians, order=2,
        other_names=("Levene", "equality of variances")
    ),
)  # fmt: skip
