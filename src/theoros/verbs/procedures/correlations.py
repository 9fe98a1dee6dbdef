"""Procedures for two numbers: correlation by t, by ranks and by shuffles; the slope."""

from __future__ import annotations

import math
from dataclasses import replace

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, number, p_equals, significant, statistic, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.correlation import kendall, orders_law, pearson
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.ranks import average_ranks
from theoros.numeric.resampling.shuffles import dealt, dealt_places
from theoros.verbs.data.number_pairs import Associated, NumberPairs
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.procedures.by_chance import CHANCE, ByChance, Simulated
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.intervals import HowWorked, by_curve, interval_result
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.pivots import Pivot, interval_of, test_of
from theoros.verbs.procedures.procedure import (
    AsInterval,
    EffectSize,
    Procedure,
    ProcedureFails,
    Question,
    Result,
    Steps,
)

CUTS = (0.1, 0.3, 0.5)
"""Where a small, a medium and a large correlation begin (Cohen 1988)."""
MOST_PAIRS = 20_000
"""Of more pairs Kendall's tau takes too long."""
MOST_COUNTED = 60
"""Up to so many pairs without ties every order is counted for Kendall's tau."""
BLOCK = 500


def _checked(question: Question) -> Associated:
    data = question.of(Associated)
    if data.n < 3:
        raise ProcedureFails("needs at least three pairs")
    if math.isnan(data.r):
        raise ProcedureFails("one of the numbers does not vary")
    return data


def _against_none(question: Question) -> None:
    if question.null:
        raise ProcedureFails("can only test a correlation against 0")


def _t_result(
    question: Question,
    r: float,
    n: int,
    lines: list[str | Formula],
    name: str,
    interval: tuple[float, float] | None = None,
) -> Result:
    """t = r √((n − 2)/(1 − r²)), with n − 2 degrees of freedom."""
    if abs(r) >= 1 - 1e-15:
        raise ProcedureFails("the pairs lie exactly on a line, so there is nothing to test")
    t = r * math.sqrt((n - 2) / (1 - r * r))
    df = n - 2
    lines += formulas(
        "t = r √((n − 2) / (1 − r^{2}))",
        f"t = {number(r, 4)} × √(({n} − 2) / (1 − ({number(r, 4)})^{{2}})) = {statistic(t, 1)}",
        f"df = {n} − 2 = {df}",
    )
    return result_of(
        question,
        StudentT(df),
        t,
        "t",
        lines,
        estimate=r,
        axis=f"t, {df} degrees of freedom",
        text=f"{name} = {number(r, 3)}, t = {statistic(t)}, df {df}",
        figures={"r": r, "t": t, "df": float(df)},
        with_df=f" {{with}} df = {df}",
        effects=(EffectSize(name, r, word(r, CUTS)),),
        interval=interval,
    )


def _pearson(question: Question) -> Steps:
    data = _checked(question)
    interval = None
    if question.confidence is not None and data.n > 3 and abs(data.r) < 1:
        # Fisher 1921: artanh r varies nearly normally with standard error 1/√(n − 3)
        reach = Normal().critical(1 - question.confidence, "different") / math.sqrt(data.n - 3)
        middle = math.atanh(data.r)
        interval = math.tanh(middle - reach), math.tanh(middle + reach)
    if question.null:
        yield _fisher(question, data, interval), 1.0
        return
    yield _t_result(question, data.r, data.n, [], "r", interval), 1.0


def _fisher(question: Question, data: Associated, interval: tuple[float, float] | None) -> Result:
    """Against another value than 0: artanh r varies nearly normally (Fisher 1921)."""
    null, n = float(question.null), data.n
    if not -1 < null < 1:
        raise ProcedureFails("needs a claimed correlation between −1 and 1")
    if n < 4 or abs(data.r) >= 1:
        raise ProcedureFails("needs at least four pairs, not all on a line")
    z = (math.atanh(data.r) - math.atanh(null)) * math.sqrt(n - 3)
    lines = formulas(
        "z = ({artanh} r − {artanh} ρ_{0}) √(n − 3)",
        f"z = ({number(math.atanh(data.r), 4)} − {bracketed(number(math.atanh(null), 4))}) × "
        f"√({n} − 3) = {statistic(z, 1)}",
    )
    return result_of(
        question,
        Normal(),
        z,
        "z",
        lines,
        estimate=data.r,
        axis="z",
        text=f"r = {number(data.r, 3)}, z = {statistic(z)}",
        figures={"r": data.r, "z": z},
        interval=interval,
    )


def _spearman(question: Question) -> Steps:
    data = _checked(question)
    _against_none(question)
    assert isinstance(data, NumberPairs)
    rho = pearson(average_ranks(data.x), average_ranks(data.y))
    first = "Rank each of the two numbers; ties share the average rank. r is calculated from the ranks."
    if abs(rho) >= 1 - 1e-15:
        raise ProcedureFails("the ranks lie exactly on a line, so t has no value")
    yield _t_result(question, rho, data.n, [first], "r_{s}"), 1.0


def _kendall(question: Question) -> Steps:
    data = _checked(question)
    _against_none(question)
    assert isinstance(data, NumberPairs)
    if data.n > MOST_PAIRS:
        raise ProcedureFails(f"can be calculated for up to {whole(MOST_PAIRS)} pairs")
    tau, z = kendall(data.x, data.y)
    lines: list[str | Formula] = [
        "Count the pairs of cases that are in the same order in both, minus those in opposite order.",
        formula(f"τ = {number(tau, 4)}"),
    ]
    tied = min(np.unique(data.x).size, np.unique(data.y).size) < data.n
    if data.n <= MOST_COUNTED and not tied:
        yield _counted(question, data.n, tau, lines), 1.0
        return
    lines.append(formula(f"z = {statistic(z, 1)}"))
    yield (
        result_of(
            question,
            Normal(),
            z,
            "z",
            lines,
            estimate=tau,
            axis="z",
            text=f"τ = {number(tau, 3)}, z = {statistic(z)}",
            figures={"tau": tau, "z": z},
            effects=(EffectSize("Kendall’s τ", tau),),
            remarks=("The p-value comes from the normal curve, without continuity correction.",),
        ),
        1.0,
    )


def _counted(question: Question, n: int, tau: float, lines: list[str | Formula]) -> Result:
    """Kendall's S against every order of the values."""
    law, s = orders_law(n), float(round(tau * n * (n - 1) / 2))
    said = f"S = {number(s, 0)}"
    working = [Step("Statistic", (*lines, formula(f"{said} {{of}} {n * (n - 1) // 2} {{pairs}}")))]
    region, p = None, None
    if question.alternative is not None:
        region = law.region(question.alternative, s)
        p = law.probability(region)
        how = "Exact: every order of the values is counted, each as likely under H_{0}."
        working.append(Step("p-value", (how, formula(p_equals(p)))))
    return Result(
        estimate=tau,
        statistic=s,
        statistic_text=f"τ = {number(tau, 3)}, {said}",
        distribution=law,
        observed=s,
        observed_text=said,
        region=region,
        p=p,
        figures={"tau": tau, "S": s} | ({"p": p} if p is not None else {}),
        working=tuple(working),
        axis="S, pairs in the same order minus those in opposite order",
        effects=(EffectSize("Kendall’s τ", tau),),
        least_p=law.least_tail(question.alternative) if question.alternative else 0.0,
        too_few="values",
    )


def _slope(question: Question) -> Pivot:
    data = _checked(question)
    assert isinstance(data, NumberPairs)
    n, df = data.n, data.n - 2
    x, y = data.x - data.x.mean(), data.y - data.y.mean()
    sxx = float(x @ x)
    slope = float(x @ y) / sxx
    rest = y - slope * x
    left = float(rest @ rest)
    error = math.sqrt(left / df / sxx)
    if error <= 1e-14 * abs(slope) or error == 0:
        raise ProcedureFails("the pairs lie exactly on a line, so there is no random variation")
    null = float(question.null)
    t = (slope - null) / error
    off = f" − {bracketed(exact(question.null))}" if null else ""
    return Pivot(
        StudentT(df),
        "t",
        slope,
        error,
        lines=formulas(
            f"b = {significant(slope, 5)}, SE = s / √(Σ (x − x̄)^{{2}}) = {significant(error, 4)}",
            f"t = (b{' − β_{0}' if null else ''}) / SE = ({significant(slope, 5)}{off}) / "
            f"({significant(error, 4)}) = {statistic(t, 1)}",
        ),
        point=formulas(f"b = S_{{xy}} / S_{{xx}} = {significant(slope, 4)}"),
        error=formulas(
            f"{{SE}} = √({{squares left}} / (n − 2) / S_{{xx}}) = "
            f"√({significant(left, 5)} / {df} / {significant(sxx, 5)}) = {significant(error, 4)}"
        ),
        df=formulas(f"df = {n} − 2 = {df}"),
        axis=f"t, {df} degrees of freedom",
        text=f"b = {significant(slope, 4)}, t = {statistic(t)}, df {df}",
        with_df=f" {{with}} df = {df}",
        figures={"slope": slope, "t": t, "df": float(df), "standard_error": error},
    )


def _shuffled(question: Question) -> Simulated:
    """r, or the slope, which goes with it: the spreads of both numbers stay as they are."""
    data = _checked(question)
    _against_none(question)
    assert isinstance(data, NumberPairs)
    x, y = data.x - data.x.mean(), data.y - data.y.mean()
    sloped = question.parameter.name == "slope"
    scale = float(x @ x) if sloped else math.sqrt(float(x @ x) * float(y @ y))
    observed = float(x @ y) / scale if sloped else data.r

    def make(rng: np.random.Generator, size: int) -> Floats:
        return np.asarray(dealt(rng, x, size) @ y / scale)

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        return replace(data, x=data.x[dealt_places(rng, data.n, size)[at]])

    letter, name = ("b", "slope") if sloped else ("r", "r")
    said = f"{letter} = {significant(observed, 4) if sloped else number(observed, 3)}"
    return Simulated(
        make,
        data.n,
        observed,
        "the values of one number are shuffled among the cases",
        axis=f"{name} of shuffled pairs",
        said=said,
        observed_text=said,
        lines=(formula(f"{letter} = {significant(observed, 5) if sloped else number(observed, 4)}"),),
        places=_places(observed) if sloped else 3,
        resolution=1e-12 * max(1.0, abs(observed)),
        estimate=observed,
        figures={name: observed},
        again=again,
    )


def _places(value: float) -> int:
    """Decimals that show four figures of a value."""
    return max(0, min(6, 3 - math.floor(math.log10(abs(value))))) if value else 3


def _fisher_interval(question: Question) -> Steps:
    """By artanh r, which varies nearly normally (Fisher 1921)."""
    data = question.of(Associated)
    if math.isnan(data.r):
        raise ProcedureFails("one of the numbers does not vary")
    if data.n < 4 or abs(data.r) >= 1 - 1e-15:
        raise ProcedureFails("needs at least four pairs, not all on a line")
    z, error = math.atanh(data.r), 1 / math.sqrt(data.n - 3)
    on_scale = by_curve(question, Normal(), "z", z, error, how=HowWorked(), decimals=3)
    assert on_scale.interval is not None
    low, high = math.tanh(on_scale.interval[0]), math.tanh(on_scale.interval[1])
    reach = on_scale.figures["critical"]
    steps = (
        Step("Point estimate", formulas(f"r = {number(data.r, 4)}")),
        Step(
            "On Fisher’s scale",
            formulas(
                f"{{artanh}} r = {number(z, 4)}",
                f"{{SE}} = 1 / √(n − 3) = 1 / √({data.n} − 3) = {number(error, 4)}",
                f"z^{{*}} = {number(reach, 4)}",
            ),
        ),
        Step(
            "Ends",
            formulas(
                f"{{ends}} = {{tanh}}({number(z, 4)} ± {number(reach, 4)} × {number(error, 4)})",
                f"{number(low, 4)} {{to}} {number(high, 4)}",
            ),
        ),
    )
    yield (
        interval_result(data.r, (low, high), steps=steps, figures={"critical": reach}, text=f"z* = {statistic(reach)}"),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "pearson", "Pearson", "Whether two numbers have a linear relation (Pearson).",
        ("two numbers",), ("correlation",), ("straight", "even spread"), _pearson, order=1, from_figures=True,
    ),
    Procedure(
        "t of a slope", "t of the slope", "The slope of the line through the points.",
        ("two numbers",), ("slope",), ("straight", "even spread"), test_of(_slope), order=2,
        interval=AsInterval(interval_of(_slope), "t", "b ± t* × SE."),
    ),
    Procedure(
        "spearman", "Spearman", "Whether one number rises with the other, by ranks.",
        ("two numbers",), ("correlation",), (), _spearman, order=3, own_parameter=("ρ_{s}", "rank correlation"),
    ),
    Procedure(
        "kendall", "Kendall", "The same by the order of pairs of cases.",
        ("two numbers",), ("correlation",), (), _kendall, order=4, own_parameter=("τ", "rank correlation τ"),
    ),
    Procedure(
        "shuffled pairs", "Shuffled pairs", "r of values shuffled among the cases.",
        ("two numbers",), ("correlation", "slope"), ("straight", "even spread"), ByChance(_shuffled), order=5,
        simulated=True, settings=CHANCE, other_names=("permutation test", "randomization test")
    ),
    Procedure(
        "fisher z",
        "Fisher z",
        "The correlation, on a scale where it is nearly normal.",
        ("two numbers",),
        ("correlation",),
        ("straight", "margins"),
        interval=AsInterval(_fisher_interval),
        order=1,
        from_figures=True,
    ),
)  # fmt: skip
