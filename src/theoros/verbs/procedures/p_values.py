"""What procedures have in common once their statistic is there: region, p-value, critical value."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import TypedDict, Unpack

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import ResultTable, Section, Step
from theoros.answer.wording import exact, number, p_equals, statistic
from theoros.numeric.arrays import Alternative
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.distribution import Distribution, Region
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.procedures.procedure import EffectSize, Question, Result

Lines = Sequence[str | Formula]


def degrees(df: float) -> str:
    """Degrees of freedom as they are written: "12", "12.6"."""
    return number(df, 0 if df == int(df) else 1)


def equal_tails(curve: Distribution, observed: float) -> Region:
    """Both tails, each as likely as the smaller one at what was seen: for curves that are skew."""
    low, high = float(curve.cdf(observed)), float(curve.sf(observed))
    tail = min(low, high)
    if tail >= 0.5:
        return Region(((-math.inf, math.inf),))
    if low <= high:
        return Region(((-math.inf, observed), (curve.upper_quantile(tail), math.inf)))
    return Region(((-math.inf, float(curve.quantile(tail))), (observed, math.inf)))


class Told(TypedDict, total=False):
    """What else a result holds, as the fields of `Result` have it."""

    text: str
    figures: Mapping[str, float]
    standard_error: float | None
    remarks: tuple[str, ...]
    interval: tuple[float, float] | None
    effects: tuple[EffectSize, ...]
    tables: tuple[ResultTable, ...]
    sections: tuple[Section, ...]
    estimate: float
    axis: str


def result_of(
    question: Question,
    curve: Distribution,
    observed: float,
    symbol: str,
    lines: Lines,
    *,
    skew: bool = False,
    upper: bool = False,
    with_df: str = "",
    **told: Unpack[Told],
) -> Result:
    """The result of a statistic `observed` that has the distribution `curve` under H0.

    `skew` takes both tails by their chance rather than by their distance from the centre; `upper`
    counts the upper tail whatever way the claim points, as of a chi-square statistic.
    """
    claim: Alternative | None = "greater" if upper and question.alternative else (question.alternative)
    said = f"{symbol} = {statistic(observed)}"
    working = [Step("Statistic", tuple(lines))]
    region, p, critical, rejection = None, None, "", None
    made, interval = dict(told.pop("figures", {})), told.get("interval")
    if claim is not None:
        region = equal_tails(curve, observed) if skew and claim == "different" else curve.region(claim, observed)
        p = curve.probability(region)
        line = formula(f"p = {_tail(claim, symbol, observed, p, skew)}{with_df}")
        working.append(Step("p-value", (line,)))
        made["p"] = p
        critical, limits = _critical(question, curve, claim, symbol, skew)
        made |= limits
        low, high = limits.get("critical_low"), limits["critical"]
        rejection = Region(((-math.inf, low), (high, math.inf))) if low is not None else curve.region(claim, high)
    if interval is not None:
        made |= {"low": interval[0], "high": interval[1]}
    return Result(
        statistic=observed,
        statistic_text=told.pop("text", "") or said,
        distribution=curve,
        observed=observed,
        observed_text=said,
        region=region,
        p=p,
        figures=made,
        working=tuple(working),
        lookup=table_rows(curve, question.alpha, claim, observed, skew=skew) if claim else (),
        critical=critical,
        rejection=rejection,
        **told,  # type: ignore[misc]
    )


def _tail(claim: Alternative, symbol: str, observed: float, p: float, skew: bool) -> str:
    at = statistic(observed, 1)
    tail = {
        "less": f"P({symbol} ≤ {at})",
        "greater": f"P({symbol} ≥ {at})",
        "different": f"2 × P({symbol} ≥ {statistic(abs(observed), 1)})",
    }[claim]
    if skew and claim == "different":
        tail = "2 × {the smaller tail}"
    return p_equals(p, tail).replace("\u00a0", " ")


def table_rows(
    curve: Distribution, alpha: float, claim: Alternative, observed: float, *, skew: bool
) -> tuple[str, ...]:
    """Where printed tables have the critical value, and the area of a z; empty for a curve without one."""
    two = claim == "different"
    tail = exact(round(alpha / 2 if two else alpha, 10))
    both = f", {exact(alpha)} in both" if two else ""
    if isinstance(curve, StudentT):
        part = f" ({number(curve.df, 1)} rounded down)" if curve.df != int(curve.df) else ""
        row = f"row df = {math.floor(curve.df)}{part}"
        return (f"In a t table: {row}, column {tail} in one tail{both}.",)
    if isinstance(curve, Normal):
        limit = f"The critical value in a t table: last row (df = ∞), column {tail} in one tail{both}."
        hundredths = round(100 * abs(observed))
        if hundredths >= 400:
            return limit, f"A z table ends before z = {number(hundredths / 100, 2)}."
        row, column = number(hundredths // 10 / 10, 1), number(hundredths % 10 / 100, 2)
        return limit, f"The area for z = {number(hundredths / 100, 2)} in a z table: row {row}, column {column}."
    if isinstance(curve, FisherF):
        return (f"In the F table for {tail}: column df = {degrees(curve.df1)}, row df = {math.floor(curve.df2)}.",)
    if isinstance(curve, ChiSquare):
        columns = f"column {tail}"
        if skew and two:
            columns = f"columns {exact(round(1 - alpha / 2, 10))} and {tail}"
        return (f"In a chi-square table: row df = {degrees(curve.df)}, {columns}.",)
    return ()


def _critical(
    question: Question, curve: Distribution, claim: Alternative, symbol: str, skew: bool
) -> tuple[str, dict[str, float]]:
    """The critical value in symbols, and as a figure."""
    if skew and claim == "different":
        low = float(curve.quantile(question.alpha / 2))
        high = curve.upper_quantile(question.alpha / 2)
        text = f"{symbol} < {statistic(low, 1)} or {symbol} > {statistic(high, 1)}"
        return f"reject H_{{0}} for {text}", {"critical_low": low, "critical": high}
    limit = curve.critical(question.alpha, claim)
    sign = {"less": f"{symbol} < ", "greater": f"{symbol} > ", "different": f"|{symbol}| > "}
    return f"reject H_{{0}} for {sign[claim]}{statistic(limit, 1)}", {"critical": limit}
