"""One standard deviation or variance whatever the shape, by the logarithm of the variance."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.parts import Step
from theoros.answer.wording import exact, number, put_in, statistic
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.spread_of_any_shape import LEAST, LogVariance, log_variance
from theoros.verbs.data.samples import OneSample
from theoros.verbs.procedures.intervals import interval_result, tails_of
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question, Steps


def _found(question: Question) -> LogVariance:
    try:
        return log_variance(question.of(OneSample).sample.values)
    except TooFewValues:
        raise ProcedureFails(f"needs {LEAST} values at least") from None
    except NoSpread:
        raise ProcedureFails("all values are equal") from None


def _kurtosis(found: LogVariance) -> str:
    return (
        f"γ, the kurtosis about the mean of all but the outermost values, is {number(found.kurtosis, 3)}; "
        f"of normal values it is about 3, and more where tails are long."
    )


def _test(question: Question) -> Steps:
    if not question.null > 0:
        raise ProcedureFails("needs a claimed standard deviation above 0")
    data, found = question.of(OneSample), _found(question)
    z = found.score(float(question.null))
    lines: tuple[str | Formula, ...] = (
        _kurtosis(found),
        *formulas(
            "{SE} {of} {ln} s^{2} = c √((γ − (n − 3)/n) / (n − 1)) {with} c = n/(n − |z|)",
            f"z = ({{ln}} (c s^{{2}}) − {{ln}} σ_{{0}}^{{2}}) / {{SE}} {{with}} "
            f"s = {put_in(found.sd, data.decimals)}, σ_{{0}} = {exact(question.null)}",
            f"z = {statistic(z, 1)}",
        ),
    )
    yield (
        result_of(
            question,
            Normal(),
            z,
            "z",
            lines,
            estimate=found.sd,
            axis="z",
            figures={"z": z, "sd": found.sd, "kurtosis": found.kurtosis},
            interval=_ends(found, question) if question.confidence is not None else None,
        ),
        1.0,
    )


def _ends(found: LogVariance, question: Question) -> tuple[float, float]:
    low, high = tails_of(question)
    curve = Normal()
    return (
        found.end(float(curve.quantile(low))) if low else 0.0,
        found.end(curve.upper_quantile(high)) if high else math.inf,
    )


def _interval(question: Question) -> Steps:
    data, found = question.of(OneSample), _found(question)
    root = question.parameter.name == "standard deviation"
    low, high = _ends(found, question)
    ends = (low, high) if root else (low**2, high**2)
    estimate, say = found.sd if root else found.sd**2, partial(put_in, decimals=data.decimals)
    tail = next(one for one in tails_of(question) if one)
    z = Normal().upper_quantile(tail)
    told = [
        f"{{{word} end}} = {say(end)}" for word, end in (("lower", ends[0]), ("upper", ends[1])) if 0 < end < math.inf
    ]
    form = "{exp} ({ln} (c s^{2}) ± z^{*} × {SE})"
    steps = (
        Step("Point estimate", formulas(f"{'s' if root else 's^{2}'} = {say(estimate)}")),
        Step(
            "Standard error of the logarithm",
            (
                _kurtosis(found),
                *formulas(
                    f"z^{{*}} = {number(z, 4)}, c = n/(n − z^{{*}})",
                    f"{{SE}} = c √((γ − (n − 3)/n) / (n − 1)) = {number(found.error(z), 4)}",
                ),
            ),
        ),
        Step("Ends", formulas(f"{{ends}} = {f'√({form})' if root else form}", *told)),
    )
    yield (
        interval_result(
            estimate,
            ends,
            steps=steps,
            figures={"kurtosis": found.kurtosis, "critical": z},
            text=f"γ = {number(found.kurtosis, 2)}",
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "Bonett",
        "Bonett",
        "One standard deviation or variance; suits long tails and skewed values.",
        ("one sample",),
        ("standard deviation",),
        (),
        _test,
        order=2,
        interval=AsInterval(_interval, compares=("standard deviation", "variance")),
        other_names=("log variance",),
    ),
)
