"""Procedures for a normal shape and for random order."""

from __future__ import annotations

import math

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import number, p_equals, statistic, whole
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.levels import below
from theoros.numeric.normality import SHAPIRO_LEAST, SHAPIRO_MOST, shapiro_wilk_w
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.shape_and_order import anderson_darling, runs_test
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.samples import OneSample, OneSided
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps

LARGE = 300
"""With more values even a bend that does no harm gives a small p-value."""


def _from_p(question: Question, p: float, text: str, lines: list[str | Formula]) -> Result:
    """The result of a statistic without a curve of its own: p as the upper tail of z."""
    curve = Normal()
    z = curve.upper_quantile(p) if 0 < p < 1 else math.copysign(8.0, 0.5 - p)
    n = question.of(OneSided).single.n
    remarks = (
        (f"With {counted(n, 'value')} the test finds even small, harmless departures: look at the quantile plot.",)
        if n > LARGE and below(p, question.alpha)
        else ()
    )
    return Result(
        estimate=math.nan,
        statistic=z,
        statistic_text=text,
        distribution=curve,
        observed=z,
        observed_text=text,
        region=curve.region("greater", z),
        p=p,
        figures={"p": p},
        working=(Step("Statistic", tuple(lines)), Step("p-value", (formula(p_equals(p)),))),
        axis=f"z that has the same p as {text.partition(' ')[0]}",
        remarks=remarks,
    )


def _shapiro(question: Question) -> Steps:
    data = question.of(OneSample)
    values = data.sample.values
    if not SHAPIRO_LEAST <= values.size <= SHAPIRO_MOST:
        raise ProcedureFails(f"can be calculated for {SHAPIRO_LEAST} to {whole(SHAPIRO_MOST)} values")
    found = shapiro_wilk_w(values)
    if found is None:
        raise ProcedureFails("all values are equal")
    w, p = found
    lines: list[str | Formula] = [
        "W compares the spread that ordered normal values would have with the spread of these values; 1 is a "
        "perfect fit.",
        formula(f"W = {number(w, 4)}"),
    ]
    yield _from_p(question, p, f"W = {number(w, 4)}", lines), 1.0


def _anderson(question: Question) -> Steps:
    data = question.of(OneSample)
    try:
        found = anderson_darling(data.sample.values)
    except TooFewValues:
        raise ProcedureFails("needs eight values at least") from None
    except NoSpread:
        raise ProcedureFails("all values are equal") from None
    n = data.sample.n
    lines: list[str | Formula] = [
        *formulas(
            f"A^{{2}} = {number(found.a_squared, 4)}",
            f"A* = A^{{2}} (1 + 0.75/n + 2.25/n^{{2}}) = {number(found.adjusted, 4)} {{with}} n = {n}",
        )
    ]
    yield _from_p(question, found.p, f"A² = {number(found.a_squared, 3)}", lines), 1.0


def _runs(question: Question) -> Steps:
    data = question.of(OneSample)
    try:
        found = runs_test(data.sample.values)
    except NoSpread:
        raise ProcedureFails("no value lies on one of the sides of the median") from None
    except TooFewValues:
        raise ProcedureFails("needs four values that differ from the median") from None
    places = min(6, data.decimals + 1)
    lines: list[str | Formula] = [
        f"A run is a stretch of values on the same side of the median, "
        f"{number(found.median, places)}. Above it lie {whole(found.above)}, below it "
        f"{whole(found.below)}; there are {counted(found.runs, 'run')}.",
        *formulas(
            f"μ = 1 + 2 a b / (a + b) = {number(found.mean, 3)}, σ = {number(found.sd, 3)}",
            f"z = ({found.runs} − {number(found.mean, 3)}) / {number(found.sd, 3)} = {statistic(found.z, 1)}",
        ),
    ]
    side = "fewer" if found.z < 0 else "more"
    expected = f"There are {side} runs than expected by chance ({number(found.mean, 1)})."
    remarks = (expected,) if shown(2 * float(Normal().sf(abs(found.z))), question.alpha) else ()
    yield (
        result_of(
            question,
            Normal(),
            found.z,
            "z",
            lines,
            estimate=math.nan,
            axis="z",
            text=f"{counted(found.runs, 'run')}, z = {statistic(found.z)}",
            figures={"runs": float(found.runs), "z": found.z},
            remarks=remarks,
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "shapiro–wilk", "Shapiro–Wilk", "Whether values could be normal; good for few.",
        ("one sample",), ("shape",), (), _shapiro, order=1,
    ),
    Procedure(
        "anderson–darling", "Anderson–Darling", "Whether values could be normal; sensitive to the tails.",
        ("one sample",), ("shape",), (), _anderson, order=2,
    ),
    Procedure(
        "runs", "Runs test", "Whether values stay on one side of the median longer than random values do.",
        ("one sample",), ("order",), (), _runs, order=1,
    ),
)  # fmt: skip
