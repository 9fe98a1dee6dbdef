"""Procedures that count on which side of a value others lie: sign test, median test."""

from __future__ import annotations

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, p_equals, whole
from theoros.numeric.arrays import Alternative
from theoros.numeric.distributions.distribution import Discrete, Region
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.proportions import count_region, fisher_exact
from theoros.numeric.procedures.sign_test import median_counts, sign_test
from theoros.verbs.data.samples import OneSided, Paired, TwoSamples
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps


def _signs(question: Question) -> Steps:
    data = question.of(OneSided)
    null, claim = question.null, question.alternative or "different"
    pairs = isinstance(data, Paired)
    noun = "difference" if pairs else "value"
    try:
        test = sign_test(data.single.values, null, claim)
    except NoSpread:
        raise ProcedureFails(f"every {noun} is {exact(null)}") from None
    found, n = test.found, test.above + test.below
    lines: tuple[str | Formula, ...] = (
        f"Above {exact(null)} lie {whole(test.above)}, below it {whole(test.below)}, of the "
        f"{counted(n, noun)} that are not equal to it.",
        formula(f"B = {{number above}} = {test.above}"),
    )
    remarks: tuple[str, ...] = ()
    if test.dropped:
        verb = "equals" if test.dropped == 1 else "equal"
        is_ = "is" if test.dropped == 1 else "are"
        remarks = (f"{counted(test.dropped, noun)} {verb} {exact(null)} exactly and {is_} left out.",)
    p = found.p
    law = f"B is binomial with n = {n} and p = 1/2 under H_{{0}}."
    yield (
        Result(
            estimate=question.parameter.estimate(data),
            statistic=float(test.above),
            statistic_text=f"B = {whole(test.above)}",
            distribution=found.law,
            observed=float(test.above),
            observed_text=f"B = {whole(test.above)}",
            region=found.region,
            p=p,
            figures={"above": float(test.above), "below": float(test.below), "p": p},
            working=(Step("Statistic", lines), Step("p-value", (law, formula(p_equals(p))))),
            least_p=found.law.probability(_farthest(found.law, claim, n)),
            too_few="values",
            remarks=remarks,
            axis=f"B, {noun}s above {exact(null)}",
        ),
        1.0,
    )


def _farthest(law: Discrete, claim: Alternative, n: int) -> Region:
    """The region of the most extreme count that there could be."""
    return count_region(law, claim, 0.0 if claim == "less" else float(n))


def _medians(question: Question) -> Steps:
    data = question.of(TwoSamples)
    claim = question.alternative or "different"
    if question.null:
        raise ProcedureFails("compares the medians with each other, so the difference under H₀ must be 0")
    try:
        test = median_counts([data.first.values, data.second.values])
    except TooFewValues:
        raise ProcedureFails("needs a value in each group") from None
    except NoSpread:
        raise ProcedureFails("no value lies above the common median") from None
    (a, b), (c, d) = test.counts.tolist()
    found = fisher_exact(a, a + c, b, b + d, claim)
    p, places = found.p, min(6, data.decimals + 1)
    one, two = data.first.said, data.second.said
    lines = (
        f"The median of all values together is {number(test.median, places)}.",
        f"Above it lie {whole(a)} of {whole(a + c)} for {one} and {whole(b)} of {whole(b + d)} for {two}.",
        formula(f"A = {{number above for the first}} = {a}"),
    )
    law = f"With {whole(a + b)} above it in all, A is hypergeometric under H_{{0}} (Fisher’s exact test)."
    yield (
        Result(
            estimate=question.parameter.estimate(data),
            statistic=float(a),
            statistic_text=f"A = {whole(a)}",
            distribution=found.law,
            observed=float(a),
            observed_text=f"A = {whole(a)}",
            region=found.region,
            p=p,
            figures={"above_first": float(a), "above_second": float(b), "median": test.median, "p": p},
            working=(Step("Statistic", lines), Step("p-value", (law, formula(p_equals(p))))),
            axis=f"A, values above the common median for {one}",
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "sign test", "Sign test", "A median, by how many values lie above it.",
        ("one sample", "pairs"), ("median",), (), _signs, order=4,
    ),
    Procedure(
        "median test", "Median test",
        "Two medians, by how many values lie above that of all (Mood).",
        ("two samples",), ("median",), (), _medians, order=5,
    ),
)  # fmt: skip
