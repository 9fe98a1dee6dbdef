"""Procedures for two proportions: their difference by the normal curve, exact and drawn by chance; ratios."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import number, statistic, taken_off, trimmed, unmarked, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.location_scale import Moved
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.counts import chi_square_related
from theoros.numeric.procedures.means import NoSpread
from theoros.numeric.procedures.proportion_intervals import (
    agresti_caffo_interval,
    difference_interval,
    log_odds_error,
    log_risk_error,
    newcombe_interval,
    wilson_interval,
)
from theoros.numeric.procedures.proportions import fisher_exact, z_shares
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.samples import Observed
from theoros.verbs.data.shares import Share, Shares
from theoros.verbs.procedures.by_chance import CHANCE, ByChance, Simulated
from theoros.verbs.procedures.effects import ratios
from theoros.verbs.procedures.intervals import Ends, HowWorked, by_curve, ends_of, interval_result
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Steps
from theoros.verbs.procedures.proportions import (
    ALIKE,
    counted_exactly,
    critical_value,
    drawn_counts,
    ends_lines,
    kept_within,
    successes,
)


def _gap_interval(question: Question) -> tuple[float, float] | None:
    if question.confidence is None:
        return None
    one, two = question.of(Shares).of
    # a group without variation adds nothing to the usual error, and two leave an interval without width
    constant = any(side.x in (0, side.n) for side in (one, two))
    made = newcombe_interval if constant else difference_interval
    return made(one.x, one.n, two.x, two.n, question.confidence)


def _dealt(question: Question) -> Simulated:
    """Labels dealt out again: how many successes fall to the first group."""
    one, two = question.of(Shares).of
    if question.null:
        raise ProcedureFails("compares the proportions with each other, so the difference under H₀ must be 0")
    good, n = one.x + two.x, one.n + two.n
    _not_alike(good, n)
    law = fisher_exact(one.x, one.n, two.x, two.n, question.alternative or "different")

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        first = int(rng.hypergeometric(good, n - good, one.n, size=size)[at])
        return question.of(Shares).with_counts([first, good - first])

    return drawn_counts(
        question,
        lambda rng, size: rng.hypergeometric(good, n - good, one.n, size=size).astype(np.float64),
        law,
        "the group labels are shuffled among the cases",
        f"{successes(question)} for {one.label}",
        "shuffle",
        again,
    )


def _not_alike(x: int, n: int) -> None:
    if x in (0, n):
        raise ProcedureFails(ALIKE)


def _z_of_two(question: Question) -> Steps:
    data = question.of(Shares)
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
    one, two = question.of(Shares).of
    if question.null:
        raise ProcedureFails("compares the proportions with each other, so the difference under H₀ must be 0")
    _not_alike(one.x + two.x, one.n + two.n)
    found = fisher_exact(one.x, one.n, two.x, two.n, question.alternative or "different")
    law = f"With {whole(one.x + two.x)} of {whole(one.n + two.n)} in all, X is hypergeometric under H_{{0}}."
    axis = f"X, {successes(question)} for {one.label}"
    made = counted_exactly(question, found, "X", law, axis)
    yield replace(made, effects=ratios(one.x, one.n, two.x, two.n)), 1.0


def _chi_square(question: Question) -> Steps:
    one, two = question.of(Shares).of
    if question.alternative not in (None, "different"):
        raise ProcedureFails("can only ask whether they differ: choose “different from”")
    if question.null:
        raise ProcedureFails("compares the proportions with each other, so the difference under H₀ must be 0")
    counts = np.array([_row(one), _row(two)])
    try:
        found = chi_square_related(counts)
    except NoSpread:
        raise ProcedureFails(ALIKE) from None
    terms = " + ".join(
        f"({o} − {trimmed(e)})^{{2}}/{trimmed(e)}"
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
            estimate=question.parameter.estimate(question.of(Observed)),
            axis="χ², 1 degree of freedom",
            text=f"χ² = {statistic(found.statistic)}, df 1",
            figures={"chi_square": found.statistic, "df": 1.0},
            with_df=" {with} df = 1",
        ),
        1.0,
    )


def _row(share: Share) -> list[int]:
    return [share.x, share.n - share.x]


Shown = Callable[[Question, Share, Share], list[str | Formula]]
"""The lines of a working between the estimate and the ends."""


def _gap(question: Question, interval: Callable[[int, int, int, int, float], Ends], shown: Shown) -> Steps:
    data = question.of(Shares)
    one, two = data.of
    ends = ends_of(question, lambda c: interval(one.x, one.n, two.x, two.n, c), (-1.0, 1.0))
    a, b = unmarked(one.label), unmarked(two.label)
    gap = one.value - two.value
    error = math.sqrt(one.value * (1 - one.value) / one.n + two.value * (1 - two.value) / two.n)
    point = formulas(
        f"p̂_{{{a}}} = {one.x}/{one.n} = {number(one.value, 4)}",
        f"p̂_{{{b}}} = {two.x}/{two.n} = {number(two.value, 4)}",
        f"p̂_{{{a}}} − p̂_{{{b}}} = {number(gap, 4)}",
    )
    critical = formula(f"z^{{*}} = {number(critical_value(question), 4)}")
    steps = (
        Step("Point estimate", point),
        Step("Ends", (critical, *shown(question, one, two), *ends_lines([], ends, question))),
    )
    plain = interval is difference_interval and error
    curve = Moved(Normal(), gap, error) if plain else None
    yield kept_within(question, gap, ends, steps, error, (-1.0, 1.0), curve), 1.0


def _in_normal(question: Question, one: Share, two: Share) -> list[str | Formula]:
    a, b = unmarked(one.label), unmarked(two.label)
    roots = f"p̂_{{{a}}} (1 − p̂_{{{a}}})/n_{{{a}}} + p̂_{{{b}}} (1 − p̂_{{{b}}})/n_{{{b}}}"
    return [formula(f"{{ends}} = p̂_{{{a}}} − p̂_{{{b}}} ± z^{{*}} √({roots})")]


def _in_newcombe(question: Question, one: Share, two: Share) -> list[str | Formula]:
    """The Wilson interval of each group, and how the distances to its ends are put together (Newcombe 1998)."""
    assert question.confidence is not None
    a, b = unmarked(one.label), unmarked(two.label)
    (l1, u1), (l2, u2) = (wilson_interval(share.x, share.n, question.confidence) for share in (one, two))
    p1, p2 = number(one.value, 4), number(two.value, 4)
    gap = number(one.value - two.value, 4)
    return [
        f"The Wilson interval of each group: {one.label} {number(l1, 4)} to {number(u1, 4)}, {two.label} "
        f"{number(l2, 4)} to {number(u2, 4)}.",
        formula(
            f"{{lower end}} = p̂_{{{a}}} − p̂_{{{b}}} − √((p̂_{{{a}}} − l_{{{a}}})^{{2}} + (u_{{{b}}} − p̂_{{{b}}})^{{2}})"
        ),
        formula(f"= {gap} − √(({p1} − {number(l1, 4)})^{{2}} + ({number(u2, 4)} − {p2})^{{2}})"),
        formula(
            f"{{upper end}} = p̂_{{{a}}} − p̂_{{{b}}} + √((u_{{{a}}} − p̂_{{{a}}})^{{2}} + (p̂_{{{b}}} − l_{{{b}}})^{{2}})"
        ),
        formula(f"= {gap} + √(({number(u1, 4)} − {p1})^{{2}} + ({p2} − {number(l2, 4)})^{{2}})"),
    ]


def _in_agresti_caffo(question: Question, one: Share, two: Share) -> list[str | Formula]:
    """The normal formula with a success and a failure more in each group (Agresti and Caffo 2000)."""
    made, terms = list[str | Formula](), []
    for share in (one, two):
        p, n = (share.x + 1) / (share.n + 2), share.n + 2
        name = unmarked(share.label)
        made.append(formula(f"p̃_{{{name}}} = ({share.x} + 1)/({share.n} + 2) = {number(p, 4)}"))
        terms.append((p, n))
    (p, n), (q, m) = terms
    error = math.sqrt(p * (1 - p) / n + q * (1 - q) / m)
    roots = f"{number(p, 4)} × {number(1 - p, 4)}/{n} + {number(q, 4)} × {number(1 - q, 4)}/{m}"
    made.append(formula(f"{{SE}} = √({roots}) = {number(error, 4)}"))
    margin = critical_value(question) * error
    made.append(formula(f"{{margin}} = z^{{*}} × {{SE}} = {number(margin, 4)}"))
    made.append(formula(f"{{ends}} = {number(p - q, 4)} ± {number(margin, 4)}"))
    return made


def _normal_gap(question: Question) -> Steps:
    one, two = question.of(Shares).of
    if all(share.x in (0, share.n) for share in (one, two)):
        raise ProcedureFails("all cases of each group are equal, so its standard error is 0")
    yield from _gap(question, difference_interval, _in_normal)


def _ratio(question: Question) -> Steps:
    """By the logarithm, which varies more nearly normally."""
    one, two = question.of(Shares).of
    odds = question.parameter.name == "odds ratio"
    try:
        error = (log_odds_error if odds else log_risk_error)(one.x, one.n, two.x, two.n)
    except ZeroDivisionError:
        raise ProcedureFails(
            "needs a case of either kind in each group" if odds else "needs a success in each group"
        ) from None
    ratio = question.parameter.estimate(question.of(Observed))
    log = math.log(ratio)
    if error == 0:
        raise ProcedureFails("all cases are equal")
    logs = by_curve(question, Normal(), "z", log, error, how=HowWorked(), decimals=3)
    assert logs.interval is not None
    ends = math.exp(logs.interval[0]), math.exp(logs.interval[1])
    a, b, c, d = one.x, one.n - one.x, two.x, two.n - two.x
    z = critical_value(question)
    first = (
        f"{{odds ratio}} = ({a}/{b}) / ({c}/{d}) = {number(ratio, 3)}"
        if odds
        else f"{{risk ratio}} = ({a}/{one.n}) / ({c}/{two.n}) = {number(ratio, 3)}"
    )
    inner = f"1/{a} + 1/{b} + 1/{c} + 1/{d}" if odds else f"1/{a} − 1/{one.n} + 1/{c} − 1/{two.n}"
    steps = (
        Step("Point estimate", formulas(first, f"{{ln}} = {number(log, 4)}")),
        Step("Standard error of the logarithm", formulas(f"{{SE}} = √({inner}) = {number(error, 4)}")),
        Step(
            "Ends",
            ends_lines(
                [
                    f"z^{{*}} = {number(z, 4)}",
                    f"{{ends}} = {{exp}}({number(log, 4)} ± {number(z, 4)} × {number(error, 4)})",
                ],
                ends,
                question,
            ),
        ),
    )
    yield (
        interval_result(
            ratio, ends, steps=steps, figures={"log_error": error, "critical": z}, text=f"z* = {statistic(z)}"
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "z of two shares", "z", "Two proportions by the normal curve, pooled under H₀.",
        ("two shares",), ("proportion",), ("enough",), _z_of_two, order=1, from_figures=True,
    ),
    Procedure(
        "chi-square of two shares", "Chi-square", "The same as z squared; it has no direction.",
        ("two shares",), ("proportion",), ("enough",), _chi_square, order=2, from_figures=True,
        other_names=("chi square",)
    ),
    Procedure(
        "Fisher exact", "Fisher exact", "Two proportions, counted exactly.",
        ("two shares",), ("proportion",), (), _fisher, order=3, from_figures=True,
    ),
    Procedure(
        "shuffled groups", "Shuffled labels", "Group labels shuffled.",
        ("two shares",), ("proportion",), (), ByChance(_dealt),
        order=4, from_figures=True, simulated=True, settings=CHANCE,
        other_names=("permutation test", "randomization test")
    ),
    Procedure(
        "newcombe", "Newcombe", "From the Wilson intervals of both; good for any n.",
        ("two shares",), ("proportion",), (),
        interval=AsInterval(partial(_gap, interval=newcombe_interval, shown=_in_newcombe)),
        order=1, from_figures=True,
    ),
    Procedure(
        "agresti–caffo", "Agresti–Caffo", "The normal method with one success and one failure added in each group.",
        ("two shares",), ("proportion",), (),
        interval=AsInterval(partial(_gap, interval=agresti_caffo_interval, shown=_in_agresti_caffo)),
        order=2, from_figures=True,
    ),
    Procedure(
        "normal shares", "Normal", "p̂₁ − p̂₂ ± z* × SE, as in textbooks.",
        ("two shares",), ("proportion",), ("enough",), interval=AsInterval(_normal_gap), order=3, from_figures=True,
    ),
    Procedure(
        "log ratio", "Logarithm", "By the logarithm of the ratio, which is nearly normal.",
        ("two shares",), ("odds ratio", "risk ratio"), (), interval=AsInterval(_ratio), order=4, from_figures=True,
    ),
)  # fmt: skip
