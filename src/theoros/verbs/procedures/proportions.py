"""Procedures for proportions: exact, by the normal curve, and drawn by chance."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from functools import partial

from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, p_equals, put_in, statistic, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.location_scale import Moved
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.proportion_intervals import (
    agresti_coull_interval,
    exact_interval,
    normal_interval,
    plus_four_interval,
    wilson_interval,
)
from theoros.numeric.procedures.proportions import ExactShare, count_region, exact_share, z_share
from theoros.numeric.resampling.replicates import MakeBlock
from theoros.verbs.data.samples import Observed
from theoros.verbs.data.shares import Share, Shares
from theoros.verbs.procedures.by_chance import CHANCE, Again, ByChance, Simulated
from theoros.verbs.procedures.intervals import Ends, ends_of, interval_result, tails_of
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Result, Steps

ALIKE = "all cases are equal"


def counted_exactly(question: Question, found: ExactShare, symbol: str, law: str, axis: str) -> Result:
    """The result of a count with an exact law."""
    p, claim = found.p, question.alternative or "different"
    observed = f"{symbol} = {whole(found.x)}"
    first, last = found.law.support
    ends = {"less": (first,), "greater": (last,), "different": (first, last)}[claim]
    least = min(found.law.probability(count_region(found.law, claim, end)) for end in ends)
    both = (
        ()
        if claim != "different"
        else ("Two-sided: the probabilities of all counts that are at most as likely as the observed one, added.",)
    )
    return Result(
        estimate=question.parameter.estimate(question.of(Observed)),
        statistic=float(found.x),
        statistic_text=observed,
        distribution=found.law,
        observed=float(found.x),
        observed_text=observed,
        region=found.region,
        p=p,
        figures={"x": float(found.x), "n": float(found.n), "p": p},
        working=(
            Step("Statistic", ((f"{axis.replace(', ', ' is the ', 1)}: {whole(found.x)}."),)),
            Step("p-value", (law, *both, formula(p_equals(p)))),
        ),
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
    (share,), null = question.of(Shares).of, _null_share(question)
    found = exact_share(share.x, share.n, null, question.alternative or "different")
    law = f"X is binomial with n = {whole(share.n)} and p = {exact(question.null)} under H_{{0}}."
    axis = f"X, {successes(question)} among {whole(share.n)}"
    made = counted_exactly(question, found, "X", law, axis)
    yield replace(made, interval=_interval(question, share, exactly=True)), 1.0


def successes(question: Question) -> str:
    data = question.of(Shares)
    return f"number of {data.said}"


def _z_of_one(question: Question, *, continuity: bool) -> Steps:
    data = question.of(Shares)
    (share,), null = data.of, _null_share(question)
    found = z_share(share.x, share.n, null, continuity=continuity)
    p0, half = exact(question.null), f"1/(2 × {share.n})"
    gap = f"({put_in(share.value, 3)} − {p0})"
    letters = "(|p̂ − p_{0}| − 1/(2 n))" if continuity else "(p̂ − p_{0})"
    if continuity and found.corrected:
        minus = "−" if share.value < null else ""  # what the correction leaves keeps the sign of the gap
        gap, letters = f"{minus}(|{gap[1:-1]}| − {half})", f"{minus}{letters}"
    lines = formulas(
        f"p̂ = x/n = {share.x}/{share.n} = {number(share.value, 4)}",
        f"z = {letters} / √(p_{{0}} (1 − p_{{0}}) / n)",
        f"z = {gap} / √({p0} × (1 − {p0}) / {share.n}) = {statistic(found.z, 1)}",
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


def _z_plain(question: Question) -> Steps:
    yield from _z_of_one(question, continuity=False)


def _z_corrected(question: Question) -> Steps:
    yield from _z_of_one(question, continuity=True)


def _drawn(question: Question) -> Simulated:
    """So many samples of the real size, drawn from the claimed share."""
    (share,), null = question.of(Shares).of, _null_share(question)
    n = share.n
    law = exact_share(share.x, n, null, question.alternative or "different")
    return drawn_counts(
        question,
        lambda rng, size: rng.binomial(n, null, size=size).astype(np.float64),
        law,
        f"{counted(n, 'case')}: each a success with probability {exact(question.null)}",
        f"{successes(question)} among {whole(n)}",
        "sample",
        lambda rng, size, at: question.of(Shares).with_counts([int(rng.binomial(n, null, size=size)[at])]),
    )


def drawn_counts(
    question: Question, make: MakeBlock, law: ExactShare, how: str, what: str, noun: str, again: Again
) -> Simulated:
    """Counts of successes by chance; which are at least as far is told by the exact law."""
    said = f"X = {whole(law.x)}"
    return Simulated(
        make, 1, float(law.x), how, axis=f"X, {what}", said=said,
        lines=(f"X is the {what}: {whole(law.x)}.",), places=0, noun=noun, around=law.law.mean,
        region=law.region, estimate=question.parameter.estimate(question.of(Observed)), observed_text=said,
        again=again, exact=law.law,
    )  # fmt: skip


PLACES = 4


def critical_value(question: Question) -> float:
    low, high = tails_of(question)
    return Normal().upper_quantile(low or high)


def _one(question: Question, interval: Callable[[int, int, float], Ends], how: Callable[..., list[str]]) -> Steps:
    """One share, whose ends are kept within 0 and 1."""
    (share,) = question.of(Shares).of
    x, n = share.x, share.n
    if interval is plus_four_interval and min(tails_of(question)) > 0.05 + 1e-9:
        raise ProcedureFails("is meant for a confidence of 90\u00a0% and more")
    ends = ends_of(question, lambda confidence: interval(x, n, confidence), (0.0, 1.0))
    error = math.sqrt(share.value * (1 - share.value) / n)
    z = critical_value(question)
    steps = (
        Step("Point estimate", formulas(f"p̂ = {whole(x)}/{whole(n)} = {number(share.value, 4)}")),
        Step("Ends", ends_lines(how(x, n, z), ends, question)),
    )
    usual = interval is normal_interval  # the others do not go as far from p̂ as its error times z
    curve = Moved(Normal(), share.value, error) if usual and error else None
    yield kept_within(question, share.value, ends, steps, error if usual else None, (0.0, 1.0), curve), 1.0


def ends_lines(lines: list[str], ends: Ends, question: Question):  # type: ignore[no-untyped-def]
    low, high = tails_of(question)
    told = []
    if low:
        told.append(f"{{lower end}} = {number(ends[0], PLACES)}")
    if high:
        told.append(f"{{upper end}} = {number(ends[1], PLACES)}")
    return (*[line if line.startswith("From ") else formula(line) for line in lines], *formulas(*told))


def kept_within(
    question: Question,
    estimate: float,
    ends: Ends,
    steps: tuple[Step, ...],
    error: float | None,
    limits: Ends,
    curve: Moved | None = None,
) -> Result:
    """With ends kept to what is possible, which is said where it happens."""
    kept = max(ends[0], limits[0]), min(ends[1], limits[1])
    remarks: tuple[str, ...] = ()
    if kept != ends:
        which = "lower" if kept[0] != ends[0] else "upper"
        if kept[0] != ends[0] and kept[1] != ends[1]:
            which = "lower and the upper"
        remarks = (
            (
                f"The formula gives an impossible value, so the {which} end is set to the limit. Another method "
                "fits better here."
            ),
        )
    figures = {"critical": critical_value(question)} | ({} if error is None else {"standard_error": error})
    return interval_result(
        estimate,
        kept,
        steps=steps,
        error=error,
        figures=figures,
        remarks=remarks,
        curve=curve,
        text=f"z* = {statistic(figures['critical'])}",
    )


def _wilson_lines(x: int, n: int, z: float) -> list[str]:
    share = x / n
    p, z_ = number(share, 4), number(z, 4)
    return [
        f"z^{{*}} = {z_}",
        "{ends} = (p̂ + z^{2}/(2 n) ± z √(p̂ (1 − p̂)/n + z^{2}/(4 n^{2}))) / (1 + z^{2}/n)",
        f"{{ends}} = ({p} + {z_}^{{2}}/{2 * n} ± {z_} √({p} × {number(1 - share, 4)}/{n} + "
        f"{z_}^{{2}}/(4 × {n}^{{2}}))) / (1 + {z_}^{{2}}/{n})",
    ]


def _exact_lines(x: int, n: int, z: float) -> list[str]:
    return [
        f"From the binomial law of n = {whole(n)}: with the lower end as p, {whole(x)} or more has the probability "
        f"of the tail that is left out; with the upper end as p, {whole(x)} or fewer."
    ]


def _coull_lines(x: int, n: int, z: float) -> list[str]:
    more, share = n + z * z, (x + z * z / 2) / (n + z * z)
    return [
        f"ñ = n + z^{{2}} = {number(more, 3)}",
        f"p̃ = (x + z^{{2}}/2) / ñ = {number(share, 4)}",
        f"{{ends}} = p̃ ± z √(p̃ (1 − p̃)/ñ) = {number(share, 4)} ± "
        f"{number(z * math.sqrt(share * (1 - share) / more), 4)}",
    ]


def _four_lines(x: int, n: int, z: float) -> list[str]:
    share = (x + 2) / (n + 4)
    return [
        f"p̃ = (x + 2) / (n + 4) = {x + 2}/{n + 4} = {number(share, 4)}",
        f"{{ends}} = p̃ ± z √(p̃ (1 − p̃)/(n + 4)) = {number(share, 4)} ± "
        f"{number(z * math.sqrt(share * (1 - share) / (n + 4)), 4)}",
    ]


def _normal_lines(x: int, n: int, z: float) -> list[str]:
    share = x / n
    error = math.sqrt(share * (1 - share) / n)
    p = number(share, 4)
    return [
        f"{{SE}} = √(p̂ (1 − p̂)/n) = √({p} × {number(1 - share, 4)}/{n}) = {number(error, 4)}",
        f"z^{{*}} = {number(z, 4)}",
        f"{{margin}} = z^{{*}} × {{SE}} = {number(z * error, 4)}",
        f"{{ends}} = {p} ± {number(z * error, 4)}",
    ]


def _normal(question: Question) -> Steps:
    (share,) = question.of(Shares).of
    if share.x in (0, share.n):
        raise ProcedureFails("all cases are equal, so its standard error is 0")
    yield from _one(question, normal_interval, _normal_lines)


PROCEDURES = (
    Procedure(
        "z of a share", "z", "One proportion by the normal curve.",
        ("one share",), ("proportion",), ("enough",), _z_plain, order=1, from_figures=True,
    ),
    Procedure(
        "z of a share, corrected", "z with continuity correction",
        "The same with a continuity correction of half a case.",
        ("one share",), ("proportion",), ("enough",), _z_corrected, order=2, from_figures=True,
    ),
    Procedure(
        "exact binomial", "Exact binomial", "One proportion, counted exactly.",
        ("one share",), ("proportion",), (), _exact, order=3, from_figures=True,
    ),
    Procedure(
        "drawn share", "Simulated draws", "Samples drawn at random with the claimed proportion.",
        ("one share",), ("proportion",), (), ByChance(_drawn),
        order=4, from_figures=True, simulated=True, settings=CHANCE,
    ),
    Procedure(
        "wilson", "Wilson", "The proportions that a z test would not reject; good for any n.",
        ("one share",), ("proportion",), (),
        interval=AsInterval(partial(_one, interval=wilson_interval, how=_wilson_lines)),
        order=1, from_figures=True, other_names=("score interval",)
    ),
    Procedure(
        "clopper–pearson", "Clopper–Pearson", "By exact binomial tails; covers at least as often.",
        ("one share",), ("proportion",), (),
        interval=AsInterval(partial(_one, interval=exact_interval, how=_exact_lines)),
        order=2, from_figures=True, other_names=("exact interval",)
    ),
    Procedure(
        "agresti–coull", "Agresti–Coull", "The normal method with z²/2 successes and failures added.",
        ("one share",), ("proportion",), (),
        interval=AsInterval(partial(_one, interval=agresti_coull_interval, how=_coull_lines)), order=3,
        from_figures=True,
    ),
    Procedure(
        "plus four", "Plus four", "The normal method with two successes and two failures added.",
        ("one share",), ("proportion",), (),
        interval=AsInterval(partial(_one, interval=plus_four_interval, how=_four_lines)),
        order=4, from_figures=True,
    ),
    Procedure(
        "normal share", "Normal", "p̂ ± z* × SE, as in textbooks.",
        ("one share",), ("proportion",), ("enough",), interval=AsInterval(_normal), order=5, from_figures=True,
        other_names=("Wald interval",)
    ),
)  # fmt: skip
