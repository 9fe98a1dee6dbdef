"""Intervals of proportions, of their difference, and of odds and risk ratios."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import number, statistic, unmarked, whole
from theoros.numeric.distributions.moved import Moved
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.share_intervals import (
    agresti_caffo_interval,
    agresti_coull_interval,
    difference_interval,
    exact_interval,
    log_odds_error,
    log_risk_error,
    newcombe_interval,
    normal_interval,
    plus_four_interval,
    wilson_interval,
)
from theoros.verbs.data.data import Family
from theoros.verbs.data.shares import Shares
from theoros.verbs.procedures.intervals.building import Ends, by_curve, ends_of, interval_result, tails_of
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps

PLACES = 4


def _critical(question: Question) -> float:
    low, high = tails_of(question)
    return Normal().upper_quantile(low or high)


def _one(question: Question, interval: Callable[[int, int, float], Ends], how: Callable[..., list[str]]) -> Steps:
    """One share, whose ends are kept within 0 and 1."""
    (share,) = question.data.of
    x, n = share.x, share.n
    ends = ends_of(question, lambda confidence: interval(x, n, confidence), (0.0, 1.0))
    error = math.sqrt(share.value * (1 - share.value) / n)
    z = _critical(question)
    steps = (
        Step("Point estimate", formulas(f"p̂ = {whole(x)}/{whole(n)} = {number(share.value, 4)}")),
        Step("Ends", _lines(how(x, n, z), ends, question)),
    )
    curve = Moved(Normal(), share.value, error) if interval is normal_interval and error else None
    yield _kept(question, share.value, ends, steps, error, (0.0, 1.0), curve), 1.0


def _lines(lines: list[str], ends: Ends, question: Question):  # type: ignore[no-untyped-def]
    low, high = tails_of(question)
    told = []
    if low:
        told.append(f"{{lower end}} = {number(ends[0], PLACES)}")
    if high:
        told.append(f"{{upper end}} = {number(ends[1], PLACES)}")
    return (*[line if line.startswith("From ") else formula(line) for line in lines], *formulas(*told))


def _kept(
    question: Question,
    estimate: float,
    ends: Ends,
    steps: tuple[Step, ...],
    error: float,
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
            f"The formula goes beyond what is possible: the {which} end is kept to it. Another way fits better here.",
        )
    figures = {"standard_error": error, "critical": _critical(question)}
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
        f"From the binomial law of n = {whole(n)}: with the lower end as p, {whole(x)} or more "
        f"would be as rare as the tail that is left out; with the upper end, {whole(x)} or fewer."
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
    (share,) = question.data.of
    if share.x in (0, share.n):
        raise ProcedureFails("all cases are alike, so that its standard error is 0")
    yield from _one(question, normal_interval, _normal_lines)


def _gap(question: Question, interval: Callable[[int, int, int, int, float], Ends], how: list[str]) -> Steps:
    data: Shares = question.data
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
    lines = [line.replace("{a}", f"{{{a}}}").replace("{b}", f"{{{b}}}") for line in how]
    steps = (
        Step("Point estimate", point),
        Step("Ends", _lines([f"z^{{*}} = {number(_critical(question), 4)}", *lines], ends, question)),
    )
    plain = interval is difference_interval and error
    curve = Moved(Normal(), gap, error) if plain else None
    yield _kept(question, gap, ends, steps, error, (-1.0, 1.0), curve), 1.0


def _normal_gap(question: Question) -> Steps:
    one, two = question.data.of
    if all(share.x in (0, share.n) for share in (one, two)):
        raise ProcedureFails("all cases of each group are alike, so that its standard error is 0")
    yield from _gap(
        question,
        difference_interval,
        ["{ends} = p̂_{a} − p̂_{b} ± z^{*} √(p̂_{a} (1 − p̂_{a})/n_{a} + p̂_{b} (1 − p̂_{b})/n_{b})"],
    )


def _ratio(question: Question) -> Steps:
    """By the logarithm, which varies more nearly normally."""
    one, two = question.data.of
    odds = question.parameter.name == "odds ratio"
    try:
        error = (log_odds_error if odds else log_risk_error)(one.x, one.n, two.x, two.n)
    except ZeroDivisionError:
        raise ProcedureFails(
            "needs a case of either kind in each group" if odds else "needs a success in each group"
        ) from None
    ratio = question.parameter.estimate(question.data)
    log = math.log(ratio)
    if error == 0:
        raise ProcedureFails("all cases are alike")
    logs = by_curve(question, Normal(), "z", log, error, point=(), spread=(), decimals=3)
    assert logs.interval is not None
    ends = math.exp(logs.interval[0]), math.exp(logs.interval[1])
    a, b, c, d = one.x, one.n - one.x, two.x, two.n - two.x
    z = _critical(question)
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
            _lines(
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


SHARE: tuple[Family, ...] = ("one share",)
SHARES: tuple[Family, ...] = ("two shares",)
PROCEDURES = (
    Procedure(
        "wilson", "Wilson", "The proportions that a z test would not reject; good for any n.",
        SHARE, ("proportion",), (), partial(_one, interval=wilson_interval, how=_wilson_lines),
        order=1, from_figures=True,
    ),
    Procedure(
        "clopper–pearson", "Clopper–Pearson", "By exact binomial tails; covers at least as often.",
        SHARE, ("proportion",), (), partial(_one, interval=exact_interval, how=_exact_lines),
        order=2, from_figures=True,
    ),
    Procedure(
        "agresti–coull", "Agresti–Coull", "The normal way with z²/2 successes and failures added.",
        SHARE, ("proportion",), (),
        partial(_one, interval=agresti_coull_interval, how=_coull_lines), order=3,
        from_figures=True,
    ),
    Procedure(
        "plus four", "Plus four", "The normal way with two successes and two failures added.",
        SHARE, ("proportion",), (), partial(_one, interval=plus_four_interval, how=_four_lines),
        order=4, from_figures=True,
    ),
    Procedure(
        "normal share", "Normal", "p̂ ± z* × SE, as in textbooks.",
        SHARE, ("proportion",), ("enough",), _normal, order=5, from_figures=True,
    ),
    Procedure(
        "newcombe", "Newcombe", "From the Wilson intervals of both; good for any n.",
        SHARES, ("proportion",), (),
        partial(_gap, interval=newcombe_interval,
                how=["From the Wilson intervals of both groups: what each end lies off its "
                     "proportion is squared, added and rooted (Newcombe 1998)."]),
        order=1, from_figures=True,
    ),
    Procedure(
        "agresti–caffo", "Agresti–Caffo", "The normal way with one success and failure more each.",
        SHARES, ("proportion",), (),
        partial(_gap, interval=agresti_caffo_interval,
                how=["From the normal formula with p̃ = (x + 1)/(n + 2) in each group."]),
        order=2, from_figures=True,
    ),
    Procedure(
        "normal shares", "Normal", "p̂₁ − p̂₂ ± z* × SE, as in textbooks.",
        SHARES, ("proportion",), ("enough",), _normal_gap, order=3, from_figures=True,
    ),
    Procedure(
        "log ratio", "Logarithm", "By the logarithm of the ratio, which varies nearly normally.",
        SHARES, ("odds ratio", "risk ratio"), (), _ratio, order=4, from_figures=True,
    ),
)  # fmt: skip
