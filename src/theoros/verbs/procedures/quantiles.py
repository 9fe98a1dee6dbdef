"""Intervals of medians and other quantiles, between two of the ordered values."""

from __future__ import annotations

from theoros.answer.formulas.notation import formulas
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, put_in, whole
from theoros.lazy_imports import np
from theoros.numeric.procedures.means import TooFewValues
from theoros.numeric.procedures.order_statistics import highest_level, quantile_interval
from theoros.verbs.data.samples import OneSided
from theoros.verbs.procedures.intervals import interval_result, level, tails_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Steps


def share_of(question: Question) -> float:
    """Which quantile is asked about: the median, or the one that is set."""
    return 0.5 if question.parameter.name == "median" else question.settings.share


def _ordered(question: Question) -> Steps:
    data = question.of(OneSided)
    values, share = data.single.values, share_of(question)
    low_tail, high_tail = tails_of(question)
    n = int(values.size)
    if n and np.ptp(values) == 0:
        raise ProcedureFails("all values are equal")
    try:
        found = quantile_interval(values, share, 1 - 2 * max(low_tail, high_tail))
    except TooFewValues:
        reached = highest_level(n, share)
        raise ProcedureFails(f"reaches {level(round(reached, 4))} confidence at most with {whole(n)} values") from None
    bounded = not (low_tail and high_tail)
    law = f"B is binomial with n = {whole(n)} and p = {exact(share)}"
    exactly = found.level
    if bounded:
        from theoros.numeric.distributions.binomial import Binomial

        one = Binomial(n, share)
        exactly = 1 - float(one.cdf(found.low_rank - 1)) if low_tail else 1 - float(one.sf(found.high_rank - 1))
    estimate = float(np.quantile(values, share))
    ranks = []
    if low_tail:
        ranks.append(f"{{lower end}} = x_{{({found.low_rank})}} = {put_in(found.low, data.decimals)}")
    if high_tail:
        ranks.append(f"{{upper end}} = x_{{({found.high_rank})}} = {put_in(found.high, data.decimals)}")
    chance = number(exactly, 4)
    steps = (
        Step("Point estimate", formulas(f"{{estimate}} = {put_in(estimate, data.decimals)}")),
        Step(
            "Ends",
            (
                f"Let B be the number of the {whole(n)} values below the population value: {law}.",
                *formulas(*ranks, f"P({_chance(found.low_rank, found.high_rank, low_tail, high_tail)}) = {chance}"),
            ),
        ),
    )
    yield (
        interval_result(
            estimate,
            (found.low if low_tail else -np.inf, found.high if high_tail else np.inf),
            steps=steps,
            figures={"level": exactly, "low_rank": float(found.low_rank), "high_rank": float(found.high_rank)},
            text=f"ranks {found.low_rank} and {found.high_rank}",
            remarks=(
                (
                    f"Its exact confidence is {level(round(exactly, 4))}: only certain levels can be reached, "
                    "because the ends are data values."
                ),
            ),
        ),
        1.0,
    )


def _chance(low: int, high: int, low_tail: float, high_tail: float) -> str:
    if not low_tail:
        return f"B ≤ {high - 1}"
    return f"{low} ≤ B ≤ {high - 1}" if high_tail else f"B ≥ {low}"


PROCEDURES = (
    Procedure(
        "order statistics",
        "Order statistics",
        "Between two of the ordered values, with its exact level; no shape is needed.",
        ("one sample", "pairs"),
        ("median", "quantile"),
        (),
        interval=AsInterval(_ordered),
        order=1,
    ),
)
