"""A test written up in the five steps that a marker looks for."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.written import to_line
from theoros.answer.parts import Assumption, Step
from theoros.answer.wording import exact, p_equals
from theoros.verbs.core.verdict import Evidence
from theoros.verbs.procedures.hypotheses.hypotheses import Claim
from theoros.verbs.procedures.procedure import Procedure, Result


def evidence_of(result: Result) -> Evidence:
    """The p-value of a result, with what is known of it."""
    return Evidence(result.p or 0.0, result.least_p, result.too_few, result.margin, result.exact_p)


def writeup_of(
    words: Claim, method: Procedure, result: Result, assumptions: Sequence[Assumption], scope: tuple[str, ...] = ()
) -> tuple[Step, ...]:
    """The five steps that a marker looks for; `scope` says how far the conclusion reaches.

    `assumptions` are told with their marks.
    """
    signs = words.symbols()
    found = evidence_of(result)
    return (
        Step("1. Hypotheses", (words.meaning(), signs[0].text, signs[1].text)),
        Step(
            "2. Significance level, method and conditions",
            (f"α = {exact(words.alpha)}, by {method.inline}.", *(one.told() for one in assumptions)),
        ),
        Step("3. Statistic", (f"In the sample: {words.observed()}.", *_statistic(result))),
        Step("4. p-value and decision", (*_probability(result), words.decision(found))),
        Step("5. Conclusion", (words.conclusion(found), *scope)),
    )


def _statistic(result: Result) -> tuple[str | Formula, ...]:
    """The first step of the working where it is made of formulas, else the statistic alone."""
    formulas = result.working[0].formulas if result.working else ()
    return formulas or (result.statistic_text,)


def _probability(result: Result) -> tuple[Formula, ...]:
    """How p comes about, where it is more than p itself: the decision tells that."""
    alone = p_equals(result.p or 0.0).replace("\u00a0", " ")
    formulas = next((step.formulas for step in result.working if step.title == "p-value"), ())
    return tuple(formula for formula in formulas if to_line(formula) != alone)
