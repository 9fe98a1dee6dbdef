"""McNemar's test: the cases that changed from one answer to the other, each way."""

from __future__ import annotations

import math

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import p_equals, statistic, whole
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.procedures.counts import mcnemar
from theoros.numeric.procedures.proportions import exact_share
from theoros.verbs.data.observed_counts import TwoWayCounts
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import EffectSize, Procedure, ProcedureFails, Question, Result, Steps

FEW_CHANGED = 25
"""With fewer changed cases textbooks ask for the exact way."""


def changed(data: TwoWayCounts) -> tuple[int, int]:
    """How many changed from the first level to the second, and back."""
    if data.counts.shape != (2, 2):
        raise ProcedureFails("needs exactly two levels: leave out or merge the others")
    same = set(data.rows) == set(data.columns)
    if not same and data.named:
        raise ProcedureFails(f"needs the same two levels in {data.names[0]} and {data.names[1]}, for the same cases")
    (_, b), (c, _) = data.counts.tolist()
    if same and data.rows != data.columns:  # the columns stand the other way round
        (b, _), (_, c) = data.counts.tolist()
    if b + c == 0:
        raise ProcedureFails("no case changed")
    return b, c


def _said(b: int, c: int) -> str:
    return f"{whole(b)} changed one way (b), {whole(c)} the other way (c)."


def _mcnemar(question: Question) -> Steps:
    b, c = changed(question.of(TwoWayCounts))
    corrected = question.settings.continuity
    found = mcnemar(b, c, continuity=corrected)
    top = f"(|{b} − {c}| − 1)^{{2}}" if corrected else f"({b} − {c})^{{2}}"
    letters = "(|b − c| − 1)^{2}" if corrected else "(b − c)^{2}"
    lines: tuple[str | Formula, ...] = (
        _said(b, c),
        *formulas(f"χ^{{2}} = {letters} / (b + c)", f"χ^{{2}} = {top} / ({b} + {c}) = {statistic(found.statistic, 1)}"),
    )
    few = f"Only {b + c} cases changed; with fewer than {FEW_CHANGED} the exact test is more reliable."
    yield result_of(
        question, ChiSquare(1), found.statistic, "χ²", lines, upper=True, estimate=math.nan,
        axis="χ², 1 degree of freedom", text=f"χ² = {statistic(found.statistic)}, df 1",
        figures={"chi_square": found.statistic, "df": 1.0, "b": float(b), "c": float(c)},
        with_df=" {with} df = 1", effects=_odds(b, c),
        remarks=(few,) if b + c < FEW_CHANGED else (),
    ), 1.0  # fmt: skip


def _odds(b: int, c: int) -> tuple[EffectSize, ...]:
    return (EffectSize("odds ratio of changes, b/c", b / c),) if c else ()


def _exact(question: Question) -> Steps:
    b, c = changed(question.of(TwoWayCounts))
    found = exact_share(b, b + c, 0.5, "different")
    law = f"Of {b + c} cases that changed, b is binomial with p = 1/2 under H_{{0}}."
    observed = f"b = {whole(b)}"
    yield (
        Result(
            estimate=math.nan,
            statistic=float(b),
            statistic_text=f"b = {b}, c = {c}",
            distribution=found.law,
            observed=float(b),
            observed_text=observed,
            region=found.region,
            p=found.p,
            figures={"b": float(b), "c": float(c), "p": found.p},
            effects=_odds(b, c),
            working=(Step("Statistic", (_said(b, c),)), Step("p-value", (law, formula(p_equals(found.p))))),
            axis=f"b, of {b + c} that changed",
            least_p=min(1.0, 2 * 0.5 ** (b + c)),
            too_few="changes",
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "exact mcnemar", "Exact McNemar", "The cases that changed, counted exactly.",
        ("two-way counts",), ("change",), (), _exact, order=1, from_figures=True,
    ),
    Procedure(
        "mcnemar", "McNemar", "The same by the chi-square curve.",
        ("two-way counts",), ("change",), (), _mcnemar, order=2, from_figures=True,
        settings=("continuity",),
    ),
)  # fmt: skip
