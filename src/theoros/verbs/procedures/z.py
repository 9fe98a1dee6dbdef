"""The z procedures for means: where the standard deviations of the populations are known."""

from __future__ import annotations

from functools import partial

from theoros.answer.formulas.notation import formulas
from theoros.answer.wording import bracketed, exact, put_in, squared, statistic, taken_off, unmarked
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.procedures.means import TooFewValues
from theoros.numeric.procedures.z import ZTest, z_mean, z_means
from theoros.verbs.data.samples import OneSample, TwoSamples
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Steps
from theoros.verbs.procedures.tails import result_of


def _one(question: Question) -> Steps:
    data: OneSample = question.data
    sigma = question.settings.sigmas[0]
    if sigma is None:
        raise ProcedureFails("needs the standard deviation σ of the population, under Settings")
    try:
        found = z_mean(data.sample.data, sigma, question.null)
    except TooFewValues:
        raise ProcedureFails("needs a value") from None
    s, say = data.sample.summary, partial(put_in, decimals=data.decimals)
    lines = formulas(
        "z = (x̄ − μ_{0}) / (σ / √n)",
        f"z = ({say(s.mean)} − {bracketed(exact(question.null))}) / ({exact(sigma)} / √{s.n}) = "
        f"{statistic(found.z, 1)}",
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
            figures={"z": found.z, "standard_error": found.standard_error},
            interval=_interval(question, found),
        ),
        1.0,
    )


def _two(question: Question) -> Steps:
    data: TwoSamples = question.data
    first, second = question.settings.sigmas
    if first is None or second is None:
        raise ProcedureFails("needs the standard deviations of both populations, under Settings")
    try:
        found = z_means(data.first.data, data.second.data, first, second, question.null)
    except TooFewValues:
        raise ProcedureFails("needs a value in each group") from None
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    off, say = taken_off(question.null), partial(put_in, decimals=data.decimals)
    lines = formulas(
        f"z = (x̄_{{{one}}} − x̄_{{{two}}}{off}) / √(σ_{{{one}}}^{{2}}/n_{{{one}}} + σ_{{{two}}}^{{2}}/n_{{{two}}})",
        f"z = ({say(x.mean)} − {bracketed(say(y.mean))}{off}) / "
        f"√({squared(exact(first))}/{x.n} + {squared(exact(second))}/{y.n}) = "
        f"{statistic(found.z, 1)}",
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
            interval=_interval(question, found),
        ),
        1.0,
    )


def _interval(question: Question, found: ZTest) -> tuple[float, float] | None:
    if question.confidence is None:
        return None
    reach = Normal().critical(1 - question.confidence, "different") * found.standard_error
    return found.estimate - reach, found.estimate + reach


PROCEDURES = (
    Procedure(
        "z", "z with known σ", "One mean, where the spread of the population is known.",
        ("one sample",), ("mean",), ("normal", "outliers"), _one, order=2, from_figures=True,
        asks="sigmas",
    ),
    Procedure(
        "two-sample z", "z with known σ", "Two means, where both spreads are known.",
        ("two samples",), ("mean",), ("normal", "outliers"), _two, order=3, from_figures=True,
        asks="sigmas",
    ),
)  # fmt: skip
