"""Intervals of correlations and slopes."""

from __future__ import annotations

import math

from theoros.answer.formulas.notation import formulas
from theoros.answer.parts import Step
from theoros.answer.wording import number, significant, statistic
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.data.samples import Associated, NumberPairs
from theoros.verbs.procedures.intervals.building import by_curve, interval_result
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Steps


def _fisher(question: Question) -> Steps:
    """By artanh r, which varies nearly normally (Fisher 1921)."""
    data: Associated = question.data
    if math.isnan(data.r):
        raise ProcedureFails("one of the numbers does not vary")
    if data.n < 4 or abs(data.r) >= 1 - 1e-15:
        raise ProcedureFails("needs four pairs at least, not all on a line")
    z, error = math.atanh(data.r), 1 / math.sqrt(data.n - 3)
    on_scale = by_curve(question, Normal(), "z", z, error, point=(), spread=(), decimals=3)
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


def _slope(question: Question) -> Steps:
    data = question.data
    assert isinstance(data, NumberPairs)
    if data.n < 3:
        raise ProcedureFails("needs three pairs at least")
    x, y = data.x - data.x.mean(), data.y - data.y.mean()
    sxx = float(x @ x)
    if not sxx > 0:
        raise ProcedureFails("one of the numbers does not vary")
    slope, df = float(x @ y) / sxx, data.n - 2
    rest = y - slope * x
    left = float(rest @ rest)
    if not left > 1e-28 * max(float(y @ y), 1e-300):
        raise ProcedureFails("the pairs lie on a line exactly, so that nothing is left to chance")
    error = math.sqrt(left / df / sxx)
    yield (
        by_curve(
            question,
            StudentT(df),
            "t",
            slope,
            error,
            point=formulas(f"b = S_{{xy}} / S_{{xx}} = {significant(slope, 4)}"),
            spread=formulas(
                f"{{SE}} = √({{squares left}} / (n − 2) / S_{{xx}}) = "
                f"√({significant(left, 5)} / {df} / {significant(sxx, 5)}) = {significant(error, 4)}"
            ),
            df=formulas(f"df = {data.n} − 2 = {df}"),
            decimals=4,
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "fisher z",
        "Fisher z",
        "The correlation, by a scale on which it varies nearly normally.",
        ("two numbers",),
        ("correlation",),
        ("straight",),
        _fisher,
        order=1,
        from_figures=True,
    ),
    Procedure("t of a slope", "t", "b ± t* × SE.", ("two numbers",), ("slope",), ("straight",), _slope, order=2),
)
