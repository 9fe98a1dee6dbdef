"""Procedures for proportions: exact, by the normal curve, and drawn by chance."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, p_equals, statistic, taken_off, unmarked, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.counts import chi_square_related
from theoros.numeric.procedures.means import NoSpread
from theoros.numeric.procedures.share_intervals import difference_interval, exact_interval, wilson_interval
from theoros.numeric.procedures.shares import ExactShare, count_region, exact_share, fisher_exact, z_share, z_shares
from theoros.numeric.resampling.replicates import MakeBlock
from theoros.verbs.data.shares import Share, Shares
from theoros.verbs.procedures.drawing_again import with_counts
from theoros.verbs.procedures.effects import ratios
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps
from theoros.verbs.procedures.simulated import CHANCE, Again, ByChance, Simulated
from theoros.verbs.procedures.tails import result_of

ALIKE = "all cases are alike"


def _counted(question: Question, found: ExactShare, symbol: str, law: str, axis: str) -> Result:
    """The result of a count with an exact law."""
    p, claim = found.p, question.alternative or "different"
    seen = f"{symbol} = {whole(found.x)}"
    first, last = found.law.support
    ends = {"less": (first,), "greater": (last,), "different": (first, last)}[claim]
    least = min(found.law.probability(count_region(found.law, claim, end)) for end in ends)
    both = (
        ()
        if claim != "different"
        else ("Two-sided: the chances of all counts that are no likelier than what was seen, added.",)
    )
    return Result(
        estimate=question.parameter.estimate(question.data),
        statistic=float(found.x),
        statistic_text=seen,
        distribution=found.law,
        seen=float(found.x),
        seen_text=seen,
        region=found.region,
        p=p,
        figures={"x": float(found.x), "n": float(found.n), "p": p},
        working=(Step("Statistic", (formula(seen),)), Step("p-value", (law, *both, formula(p_equals(p))))),
        least_p=least,
        too_few="cases",
        axis=axis,
    )


def _null_share(question: Question) -> float:
    null = float(question.null)
    if not 0 < null < 1:
        raise ProcedureFails("needs a claimed proportion between 0 and 1")
    return null


def _exact(question: Question) -> Steps:
    (share,), null = question.data.of, _null_share(question)
    found = exact_share(share.x, share.n, null, question.alternative or "different")
    law = f"X is binomial with n = {whole(share.n)} and p = {exact(question.null)} under H_{{0}}."
    axis = f"X, {_successes(question)} among {whole(share.n)}"
    made = _counted(question, found, "X", law, axis)
    yield replace(made, interval=_interval(question, share, exactly=True)), 1.0


def _successes(question: Question) -> str:
    data: Shares = question.data
    return f"number of {data.said}"


def _z_of_one(question: Question, *, continuity: bool) -> Steps:
    data: Shares = question.data
    (share,), null = data.of, _null_share(question)
    found = z_share(share.x, share.n, null, continuity=continuity)
    p0, half = exact(question.null), f"1/(2 × {share.n})"
    gap = f"{number(share.value, 4)} − {p0}"
    if continuity:
        gap = f"|{gap}| − {half}" if found.corrected else gap
    letters = "(|p̂ − p_{0}| − 1/(2 n))" if continuity else "(p̂ − p_{0})"
    lines = formulas(
        f"p̂ = x/n = {share.x}/{share.n} = {number(share.value, 4)}",
        f"z = {letters} / √(p_{{0}} (1 − p_{{0}}) / n)",
        f"z = ({gap}) / √({p0} × (1 − {p0}) / {share.n}) = {statistic(found.z, 1)}",
    )
    yield (
        result_of(
            question,
            Normal(),
            found.z,
            "z",
            lines,
            estimate=found.estimate,
            axis="z",
            standard_error=found.standard_error,
            figures={"z": found.z, "share": found.estimate, "standard_error": found.standard_error},
            interval=_interval(question, share),
        ),
        1.0,
    )


def _interval(question: Question, share: Share, *, exactly: bool = False) -> tuple[float, float] | None:
    if question.confidence is None:
        return None
    made = exact_interval if exactly else wilson_interval
    return made(share.x, share.n, question.confidence)


def _gap_interval(question: Question) -> tuple[float, float] | None:
    if question.confidence is None:
        return None
    one, two = question.data.of
    return difference_interval(one.x, one.n, two.x, two.n, question.confidence)


def _z_plain(question: Question) -> Steps:
    yield from _z_of_one(question, continuity=False)


def _z_corrected(question: Question) -> Steps:
    yield from _z_of_one(question, continuity=True)


def _drawn(question: Question) -> Simulated:
    """So many samples of the real size, drawn from the claimed share."""
    (share,), null = question.data.of, _null_share(question)
    n = share.n
    law = exact_share(share.x, n, null, question.alternative or "different")
    return _simulated(
        question,
        lambda rng, size: rng.binomial(n, null, size=size).astype(np.float64),
        law,
        f"{whole(n)} cases are drawn with chance {exact(question.null)} each",
        f"{_successes(question)} among {whole(n)}",
        "sample",
        lambda rng, size, at: with_counts(question.data, [int(rng.binomial(n, null, size=size)[at])]),
    )


def _dealt(question: Question) -> Simulated:
    """Labels dealt out again: how many successes fall to the first group."""
    one, two = question.data.of
    if question.null:
        raise ProcedureFails("compares shares with each other, not with a difference")
    good, n = one.x + two.x, one.n + two.n
    _not_alike(good, n)
    law = fisher_exact(one.x, one.n, two.x, two.n, question.alternative or "different")

    def again(rng: np.random.Generator, size: int, at: int) -> Any:
        first = int(rng.hypergeometric(good, n - good, one.n, size=size)[at])
        return with_counts(question.data, [first, good - first])

    return _simulated(
        question,
        lambda rng, size: rng.hypergeometric(good, n - good, one.n, size=size).astype(np.float64),
        law,
        "the group labels are given to the cases anew, by chance",
        f"{_successes(question)} for {one.label}",
        "shuffle",
        again,
    )


def _not_alike(x: int, n: int) -> None:
    if x in (0, n):
        raise ProcedureFails(ALIKE)


def _simulated(
    question: Question, make: MakeBlock, law: ExactShare, how: str, what: str, noun: str, again: Again
) -> Simulated:
    """Counts of successes by chance; which are at least as far is told by the exact law."""
    said = f"X = {whole(law.x)}"
    return Simulated(
        make, 1, float(law.x), how, axis=f"X, {what}", said=said,
        lines=(f"X is the {what}: {whole(law.x)}.",), places=0, noun=noun, around=law.law.mean,
        region=law.region, estimate=question.parameter.estimate(question.data), seen_text=said,
        again=again, exact=law.law,
    )  # fmt: skip


def _z_of_two(question: Question) -> Steps:
    data: Shares = question.data
    one, two = data.of
    try:
        found = z_shares(one.x, one.n, two.x, two.n, float(question.null))
    except NoSpread:
        raise ProcedureFails(ALIKE) from None
    a, b = unmarked(one.label), unmarked(two.label)
    off = taken_off(question.null)
    first = (
        f"p̂_{{{a}}} = {one.x}/{one.n} = {number(one.value, 4)}",
        f"p̂_{{{b}}} = {two.x}/{two.n} = {number(two.value, 4)}",
    )
    if found.pooled is None:
        lines = formulas(
            *first,
            f"z = (p̂_{{{a}}} − p̂_{{{b}}}{off}) / √(p̂_{{{a}}} (1 − p̂_{{{a}}})/n_{{{a}}} + "
            f"p̂_{{{b}}} (1 − p̂_{{{b}}})/n_{{{b}}}) = {statistic(found.z, 1)}",
        )
    else:
        p = number(found.pooled, 4)
        lines = formulas(
            *first,
            f"p̂ = ({one.x} + {two.x}) / ({one.n} + {two.n}) = {p}",
            f"z = (p̂_{{{a}}} − p̂_{{{b}}}) / √(p̂ (1 − p̂) (1/n_{{{a}}} + 1/n_{{{b}}}))",
            f"z = ({number(one.value, 4)} − {number(two.value, 4)}) / "
            f"√({p} × (1 − {p}) × (1/{one.n} + 1/{two.n})) = {statistic(found.z, 1)}",
        )
    yield (
        result_of(
            question,
            Normal(),
            found.z,
            "z",
            lines,
            estimate=found.estimate,
            axis="z",
            standard_error=found.standard_error,
            figures={"z": found.z, "difference": found.estimate, "standard_error": found.standard_error},
            interval=_gap_interval(question),
            effects=ratios(one.x, one.n, two.x, two.n),
        ),
        1.0,
    )


def _fisher(question: Question) -> Steps:
    one, two = question.data.of
    if question.null:
        raise ProcedureFails("compares shares with each other, not with a difference")
    _not_alike(one.x + two.x, one.n + two.n)
    found = fisher_exact(one.x, one.n, two.x, two.n, question.alternative or "different")
    law = f"With {whole(one.x + two.x)} of {whole(one.n + two.n)} in all, X is hypergeometric under H_{{0}}."
    axis = f"X, {_successes(question)} for {one.label}"
    made = _counted(question, found, "X", law, axis)
    yield replace(made, effects=ratios(one.x, one.n, two.x, two.n)), 1.0


def _chi_square(question: Question) -> Steps:
    one, two = question.data.of
    if question.alternative not in (None, "different"):
        raise ProcedureFails("has no direction: it asks whether they are different")
    if question.null:
        raise ProcedureFails("compares shares with each other, not with a difference")
    counts = np.array([_row(one), _row(two)])
    try:
        found = chi_square_related(counts)
    except NoSpread:
        raise ProcedureFails(ALIKE) from None
    terms = " + ".join(
        f"({o} − {number(e, 2)})^{{2}}/{number(e, 2)}"
        for o, e in zip(counts.ravel().tolist(), found.expected.ravel().tolist(), strict=True)
    )
    lines = formulas(
        "χ^{2} = Σ (O − E)^{2} / E {over four cells, with} E = {row total} × {column total} / n",
        f"χ^{{2}} = {terms} = {statistic(found.statistic, 1)}",
    )
    yield (
        result_of(
            question,
            ChiSquare(1),
            found.statistic,
            "χ²",
            lines,
            upper=True,
            estimate=question.parameter.estimate(question.data),
            axis="χ², 1 degree of freedom",
            text=f"χ² = {statistic(found.statistic)}, df 1",
            figures={"chi_square": found.statistic, "df": 1.0},
            with_df=" {with} df = 1",
        ),
        1.0,
    )


def _row(share: Share) -> list[int]:
    return [share.x, share.n - share.x]


PROCEDURES = (
    Procedure(
        "z of a share", "z", "One proportion by the normal curve.",
        ("one share",), ("proportion",), ("enough",), _z_plain, order=1, from_figures=True,
    ),
    Procedure(
        "z of a share, corrected", "z with continuity correction",
        "The same with half a case taken off the gap.",
        ("one share",), ("proportion",), ("enough",), _z_corrected, order=2, from_figures=True,
    ),
    Procedure(
        "exact binomial", "Exact binomial", "One proportion, counted exactly.",
        ("one share",), ("proportion",), (), _exact, order=3, from_figures=True,
    ),
    Procedure(
        "drawn share", "Draws from the claim", "Samples drawn by chance from the claimed share.",
        ("one share",), ("proportion",), (), ByChance(_drawn),
        order=4, from_figures=True, simulated=True, settings=CHANCE,
    ),
    Procedure(
        "z of two shares", "z", "Two proportions by the normal curve, pooled under H₀.",
        ("two shares",), ("proportion",), ("enough",), _z_of_two, order=1, from_figures=True,
    ),
    Procedure(
        "chi-square of two shares", "Chi-square", "The same as z squared; without a direction.",
        ("two shares",), ("proportion",), ("enough",), _chi_square, order=2, from_figures=True,
    ),
    Procedure(
        "Fisher exact", "Fisher exact", "Two proportions, counted exactly.",
        ("two shares",), ("proportion",), (), _fisher, order=3, from_figures=True,
    ),
    Procedure(
        "shuffled groups", "Shuffled labels", "Group labels dealt out by chance.",
        ("two shares",), ("proportion",), (), ByChance(_dealt),
        order=4, from_figures=True, simulated=True, settings=CHANCE,
    ),
)  # fmt: skip
