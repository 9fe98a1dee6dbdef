"""The t procedures: Welch, pooled, paired."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.wording import bracketed, number, put_in, squared, statistic, taken_off, unmarked
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.means import NoSpread, TooFewValues, TTest, one_t, pooled_t, welch_t
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.procedures.effects import standardized
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps
from theoros.verbs.procedures.tails import degrees, result_of


def _welch(question: Question) -> Steps:
    data: TwoSamples = question.data
    result = _two(welch_t, question)
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    off = taken_off(question.null)
    say = partial(put_in, decimals=data.decimals)
    lines = formulas(
        f"t = (x̄_{{{one}}} − x̄_{{{two}}}{off}) / √(s_{{{one}}}^{{2}}/n_{{{one}}} + s_{{{two}}}^{{2}}/n_{{{two}}})",
        f"t = ({say(x.mean)} − {bracketed(say(y.mean))}{off}) / "
        f"√({squared(say(x.sd))}/{x.n} + {squared(say(y.sd))}/{y.n}) = {statistic(result.t, 1)}",
    )
    df = formula(
        f"df = (a + b)^{{2}} / (a^{{2}}/{x.n - 1} + b^{{2}}/{y.n - 1}) = {number(result.df, 2)}, "
        f"with a = {squared(say(x.sd))}/{x.n} and b = {squared(say(y.sd))}/{y.n}"
    )
    said = "Degrees of freedom by Welch and Satterthwaite:"
    spread = math.sqrt((x.sd**2 + y.sd**2) / 2)  # of both populations alike, for unequal ones
    yield _result(question, result, lines, (said, df), spread), 1.0


def _pooled(question: Question) -> Steps:
    data: TwoSamples = question.data
    result = _two(pooled_t, question)
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    pooled = result.pooled_sd or 0.0
    off = taken_off(question.null)
    say = partial(put_in, decimals=data.decimals)
    lines = formulas(
        f"s_{{p}} = √(((n_{{{one}}} − 1) s_{{{one}}}^{{2}} + (n_{{{two}}} − 1) s_{{{two}}}^{{2}})"
        f" / (n_{{{one}}} + n_{{{two}}} − 2))",
        f"s_{{p}} = √(({x.n - 1} × {squared(say(x.sd))} + {y.n - 1} × {squared(say(y.sd))}) / "
        f"{x.n + y.n - 2}) = {say(pooled)}",
        f"t = (x̄_{{{one}}} − x̄_{{{two}}}{off}) / (s_{{p}} √(1/n_{{{one}}} + 1/n_{{{two}}}))",
        f"t = ({say(x.mean)} − {bracketed(say(y.mean))}{off}) / "
        f"({say(pooled)} × √(1/{x.n} + 1/{y.n})) = {statistic(result.t, 1)}",
    )
    df = formula(f"df = {x.n} + {y.n} − 2 = {x.n + y.n - 2}")
    yield _result(question, result, lines, (df,), pooled), 1.0


def _one(question: Question) -> Steps:
    """Of one sample, or of the differences in matched pairs."""
    data: OneSample | Paired = question.data
    pairs = isinstance(data, Paired)
    try:
        result = one_t(data.single.data, question.null)
    except TooFewValues:
        what = "pairs" if pairs else "values"
        raise ProcedureFails(f"needs at least two {what}") from None
    except NoSpread:
        what = "differences" if pairs else "values"
        raise ProcedureFails(f"all {what} are equal") from None
    s, off = data.single.summary, taken_off(question.null)
    say = partial(put_in, decimals=data.decimals)
    mean, spread = ("d̄", "s_{d}") if pairs else ("x̄", "s")
    null = "" if pairs else " − μ_{0}"
    put_off = off if pairs or question.null else " − 0"
    lines = formulas(
        f"t = ({mean}{off if pairs else null}) / ({spread} / √n)",
        f"t = ({say(s.mean)}{put_off}) / ({say(s.sd)} / √{s.n}) = {statistic(result.t, 1)}",
    )
    df = formula(f"df = {s.n} − 1 = {s.n - 1}")
    yield _result(question, result, lines, (df,), s.sd), 1.0


def _two(procedure, question: Question) -> TTest:  # type: ignore[no-untyped-def]
    data: TwoSamples = question.data
    try:
        return procedure(data.first.data, data.second.data, question.null)  # type: ignore[no-any-return]
    except TooFewValues:
        raise ProcedureFails("needs at least two values in each group") from None
    except NoSpread:
        raise ProcedureFails("all values within each group are equal") from None


def _result(
    question: Question, found: TTest, lines: tuple[Formula, ...], df: tuple[str | Formula, ...], spread: float
) -> Result:
    """`spread` is the standard deviation that the difference is told in."""
    df_said = degrees(found.df)
    figures = {"t": found.t, "df": found.df, "difference": found.difference, "standard_error": found.standard_error}
    if found.pooled_sd is not None:
        figures["pooled_sd"] = found.pooled_sd
    confidence = question.confidence
    return result_of(
        question,
        StudentT(found.df),
        found.t,
        "t",
        (*lines, *df),
        estimate=found.difference,
        axis=f"t, {df_said} degrees of freedom",
        text=f"t = {statistic(found.t)}, df {df_said}",
        figures=figures,
        with_df=f" {{with}} df = {df_said}",
        standard_error=found.standard_error,
        interval=None if confidence is None else found.interval(confidence),
        effects=standardized(found.difference - question.null, spread, found.df),
    )


PROCEDURES = (
    Procedure(
        "welch t", "Welch t", "Two means; the spreads of the groups may differ.",
        ("two samples",), ("mean",), ("normal", "outliers"), _welch, order=1, from_figures=True,
    ),
    Procedure(
        "pooled t", "Pooled t", "Two means; takes the spreads of the two populations as equal.",
        ("two samples",), ("mean",), ("normal", "outliers", "spreads"), _pooled, order=2,
        from_figures=True,
    ),
    Procedure(
        "paired t", "Paired t", "The mean of the differences in matched pairs.",
        ("pairs",), ("mean",), ("normal", "outliers"), _one, order=1, from_figures=True,
    ),
    Procedure(
        "one-sample t", "One-sample t", "One mean against a claimed value.",
        ("one sample",), ("mean",), ("normal", "outliers"), _one, order=1, from_figures=True,
    ),
)  # fmt: skip
