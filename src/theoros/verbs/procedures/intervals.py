"""What intervals have in common: tails, ends, the curve behind them, and their working."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import Step
from theoros.answer.wording import bracketed, exact, percent_text, put_in, statistic
from theoros.lazy_imports import np
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.location_scale import Moved
from theoros.verbs.data.samples import Measured, Observed, Paired
from theoros.verbs.data.shares import Shares
from theoros.verbs.parameters.parameter import Parameter
from theoros.verbs.procedures.p_values import table_rows
from theoros.verbs.procedures.procedure import Question, Result

Lines = Sequence[str | Formula]
Ends = tuple[float, float]
EVERYWHERE = (-math.inf, math.inf)


def level(share: float) -> str:
    """A confidence in words, to two decimals at the most: "95 %", "78.07 %"."""
    return percent_text(share, 2)


def places_of_interval(data: Observed, parameter: Parameter, ends: Ends, estimate: float) -> int:
    """Decimals of an interval's ends: they show the smaller margin with two figures, in Test as in Estimate.

    A proportion has three at least; in the units of the data one more is given where the data have it.
    """
    width = [abs(end - estimate) for end in ends if math.isfinite(end) and end != estimate]
    if not width:
        return min(6, int(data.decimals) + 1)
    needed = 1 - math.floor(math.log10(min(width)))
    if isinstance(data, Shares) and not parameter.ratio:
        needed = max(needed, 3)
    if parameter.in_units:
        needed = max(needed, min(needed + 1, int(data.decimals)))
    places = max(0, min(needed, 10))
    if any(end and float(f"{end:.{places}f}") == 0 for end in ends):
        places += 1  # or an end would read as the 0 that it is not
    return places


def tails_of(question: Question) -> Ends:
    """What is left out below and above; 0 where the interval is a bound on the other side."""
    if question.tails is not None:
        return question.tails
    assert question.confidence is not None
    half = (1 - question.confidence) / 2
    return half, half


def ends_of(question: Question, interval: Callable[[float], Ends], limits: Ends = EVERYWHERE) -> Ends:
    """Both ends, each of the equal-tailed interval that leaves as much out on its side.

    A side of which nothing is left out ends at what is possible.
    """
    low, high = tails_of(question)
    return (interval(1 - 2 * low)[0] if low else limits[0], interval(1 - 2 * high)[1] if high else limits[1])


@dataclass(frozen=True)
class HowWorked:
    """The lines of a working that come before the ends: of the estimate, of its error, of degrees of freedom."""

    point: Lines = ()
    spread: Lines = ()
    df: Lines = ()


def by_curve(
    question: Question,
    curve: Distribution,
    symbol: str,
    estimate: float,
    error: float,
    *,
    how: HowWorked,
    decimals: int,
) -> Result:
    """estimate ± critical value × standard error, with all steps of its working."""
    low_tail, high_tail = tails_of(question)
    below = -float(curve.quantile(low_tail)) if low_tail else math.inf
    above = curve.upper_quantile(high_tail) if high_tail else math.inf
    low, high = estimate - below * error, estimate + above * error
    ends = low if low_tail else -math.inf, high if high_tail else math.inf
    reach = below if low_tail else above
    equal = math.isclose(low_tail, high_tail)
    tail = exact(round(low_tail or high_tail, 10))
    out = round(2 * low_tail if equal else low_tail or high_tail, 10)
    rows = table_rows(curve, out, "different" if equal else "greater", reach, skew=False)
    steps = [
        Step("Point estimate", tuple(how.point)),
        Step("Standard error", tuple(how.spread)),
        Step(
            "Critical value",
            (
                *how.df,
                formula(f"{symbol}^{{*}} = {statistic(reach, 1)}"),
                f"It leaves {tail} out on {'either' if equal else 'that'} side.",
                *rows,
            ),
        ),
    ]
    say = partial(put_in, decimals=decimals)
    figures = {"critical": reach, "standard_error": error}
    if equal:
        figures["margin"] = reach * error
        margin = f"{{margin}} = {statistic(reach, 2)} × {say(error)} = {say(reach * error)}"
        steps.append(Step("Margin", formulas(margin)))
    shown = []
    if low_tail:
        shown.append(f"{{lower end}} = {say(estimate)} − {say(below * error)} = {say(low)}")
    if high_tail:
        shown.append(f"{{upper end}} = {say(estimate)} + {bracketed(say(above * error))} = {say(high)}")
    steps.append(Step("Ends", formulas(*shown)))
    return interval_result(
        estimate,
        ends,
        steps=steps,
        error=error,
        figures=figures,
        curve=Moved(curve, estimate, error),
        text=f"{symbol}* = {statistic(reach)}",
    )


def interval_result(
    estimate: float,
    ends: Ends,
    *,
    steps: Sequence[Step],
    error: float | None = None,
    figures: dict[str, float] | None = None,
    curve: Distribution | None = None,
    text: str = "",
    remarks: tuple[str, ...] = (),
) -> Result:
    """A result that is an interval. `curve` is that of the estimate, on its own axis."""
    return Result(
        estimate=estimate,
        statistic=estimate,
        statistic_text=text,
        standard_error=error,
        distribution=curve,
        observed=estimate,
        interval=ends,
        working=tuple(steps),
        remarks=remarks,
        figures={"estimate": estimate, "low": ends[0], "high": ends[1], **(figures or {})},
    )


def kept_possible(question: Question, result: Result) -> Result:
    """With a lower end below 0 kept to 0, where what is counted cannot be negative."""
    data = question.data
    samples = data.samples if isinstance(data, Measured) else ()
    counted = len(samples) == 1 and question.parameter.name in ("mean", "median", "quantile")
    if not counted or result.interval is None or isinstance(data, Paired):
        return result
    values = samples[0].values
    low, high = result.interval
    if low >= 0 or math.isinf(low) or not values.size or (values < 0).any():
        return result
    if (values != np.round(values)).any():
        return result
    remark = "Counts cannot be negative: the lower end is kept to 0."
    return replace(
        result, interval=(0.0, high), remarks=(*result.remarks, remark), figures={**result.figures, "low": 0.0}
    )
