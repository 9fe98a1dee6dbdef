"""Intervals of means and their differences, by t and by z."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.wording import bracketed, exact, number, put_in, squared, unmarked, whole
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.means import NoSpread, TooFewValues, one_t, pooled_t, welch_t
from theoros.verbs.data.samples import OneSample, Paired, TwoSamples
from theoros.verbs.procedures.intervals.building import by_curve
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Steps


def _t(question: Question) -> Steps:
    data: OneSample | Paired = question.data
    pairs = isinstance(data, Paired)
    try:
        found = one_t(data.single.data)
    except TooFewValues:
        raise ProcedureFails(f"needs at least two {'pairs' if pairs else 'values'}") from None
    except NoSpread:
        raise ProcedureFails(f"all {'differences' if pairs else 'values'} are equal") from None
    s, say = data.single.summary, partial(put_in, decimals=data.decimals)
    mean, spread = ("d̄", "s_{d}") if pairs else ("x̄", "s")
    yield (
        by_curve(
            question,
            StudentT(found.df),
            "t",
            found.difference,
            found.standard_error,
            point=formulas(f"{mean} = {say(s.mean)}"),
            spread=formulas(f"{{SE}} = {spread} / √n", f"{{SE}} = {say(s.sd)} / √{s.n} = {say(found.standard_error)}"),
            df=formulas(f"df = {s.n} − 1 = {s.n - 1}"),
            decimals=data.decimals,
        ),
        1.0,
    )


def _z(question: Question) -> Steps:
    data: OneSample = question.data
    sigma = question.settings.sigmas[0]
    if sigma is None:
        raise ProcedureFails("needs the standard deviation σ of the population, under Settings")
    s, say = data.sample.summary, partial(put_in, decimals=data.decimals)
    error = sigma / math.sqrt(s.n)
    yield (
        by_curve(
            question,
            Normal(),
            "z",
            s.mean,
            error,
            point=formulas(f"x̄ = {say(s.mean)}"),
            spread=formulas("{SE} = σ / √n", f"{{SE}} = {exact(sigma)} / √{s.n} = {say(error)}"),
            decimals=data.decimals,
        ),
        1.0,
    )


def _two(question: Question, *, pooled: bool) -> Steps:
    data: TwoSamples = question.data
    try:
        found = (pooled_t if pooled else welch_t)(data.first.data, data.second.data)
    except TooFewValues:
        raise ProcedureFails("needs at least two values in each group") from None
    except NoSpread:
        raise ProcedureFails("all values within each group are equal") from None
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    say = partial(put_in, decimals=data.decimals)
    if pooled:
        common = found.pooled_sd or 0.0
        spread = formulas(
            f"s_{{p}} = √(({x.n - 1} × {squared(say(x.sd))} + {y.n - 1} × {squared(say(y.sd))}) / "
            f"{x.n + y.n - 2}) = {say(common)}",
            f"{{SE}} = s_{{p}} √(1/{x.n} + 1/{y.n}) = {say(found.standard_error)}",
        )
        df = formulas(f"df = {x.n} + {y.n} − 2 = {x.n + y.n - 2}")
    else:
        spread = formulas(
            f"{{SE}} = √(s_{{{one}}}^{{2}}/n_{{{one}}} + s_{{{two}}}^{{2}}/n_{{{two}}})",
            f"{{SE}} = √({squared(say(x.sd))}/{x.n} + {squared(say(y.sd))}/{y.n}) = {say(found.standard_error)}",
        )
        df = (
            formula(
                f"df = (a + b)^{{2}} / (a^{{2}}/{x.n - 1} + b^{{2}}/{y.n - 1}) = "
                f"{number(found.df, 2)}, with a = {squared(say(x.sd))}/{x.n} and "
                f"b = {squared(say(y.sd))}/{y.n}"
            ),
        )
    yield (
        by_curve(
            question,
            StudentT(found.df),
            "t",
            found.difference,
            found.standard_error,
            point=formulas(
                f"x̄_{{{one}}} − x̄_{{{two}}} = {say(x.mean)} − {bracketed(say(y.mean))} = {say(found.difference)}"
            ),
            spread=spread,
            df=df,
            decimals=data.decimals,
        ),
        1.0,
    )


def _two_z(question: Question) -> Steps:
    data: TwoSamples = question.data
    first, second = question.settings.sigmas
    if first is None or second is None:
        raise ProcedureFails("needs the standard deviations of both populations, under Settings")
    x, y, say = data.first.summary, data.second.summary, partial(put_in, decimals=data.decimals)
    error, gap = math.sqrt(first**2 / x.n + second**2 / y.n), x.mean - y.mean
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    yield (
        by_curve(
            question,
            Normal(),
            "z",
            gap,
            error,
            point=formulas(f"x̄_{{{one}}} − x̄_{{{two}}} = {say(x.mean)} − {bracketed(say(y.mean))} = {say(gap)}"),
            spread=formulas(
                f"{{SE}} = √({squared(exact(first))}/{x.n} + {squared(exact(second))}/{y.n}) = {say(error)}"
            ),
            decimals=data.decimals,
        ),
        1.0,
    )


def _total(question: Question) -> Steps:
    """N times the mean; N cases make up the population."""
    data: OneSample = question.data
    size = question.settings.population
    if size is None:
        raise ProcedureFails("needs how many cases there are in all, under Settings")
    try:
        found = one_t(data.sample.data)
    except TooFewValues:
        raise ProcedureFails("needs at least two values") from None
    except NoSpread:
        raise ProcedureFails("all values are equal") from None
    s, say = data.sample.summary, partial(put_in, decimals=data.decimals)
    total, error = size * s.mean, size * found.standard_error
    yield (
        by_curve(
            question,
            StudentT(found.df),
            "t",
            total,
            error,
            point=formulas(f"N x̄ = {whole(size)} × {say(s.mean)} = {say(total)}"),
            spread=formulas("{SE} = N s / √n", f"{{SE}} = {whole(size)} × {say(s.sd)} / √{s.n} = {say(error)}"),
            df=formulas(f"df = {s.n} − 1 = {s.n - 1}"),
            decimals=data.decimals,
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "total t", "t", "N x̄ ± t* × N s/√n, for a population of N cases.", ("one sample",),
        ("total",), ("normal", "outliers"), _total, order=1, from_figures=True,
    ),
    Procedure(
        "t", "t", "x̄ ± t* × s/√n.", ("one sample", "pairs"), ("mean",), ("normal", "outliers"),
        _t, order=1, from_figures=True,
    ),
    Procedure(
        "z", "z with known σ", "x̄ ± z* × σ/√n, where the spread of the population is known.",
        ("one sample",), ("mean",), ("normal", "outliers"), _z, order=2, from_figures=True,
        asks="sigmas",
    ),
    Procedure(
        "welch t", "Welch t", "The difference of two means, each with its own spread.",
        ("two samples",), ("mean",), ("normal", "outliers"), partial(_two, pooled=False),
        order=1, from_figures=True,
    ),
    Procedure(
        "pooled t", "Pooled t", "The difference of two means that vary alike.",
        ("two samples",), ("mean",), ("normal", "outliers", "spreads"),
        partial(_two, pooled=True), order=2, from_figures=True,
    ),
    Procedure(
        "two-sample z", "z with known σ", "The difference, where both spreads are known.",
        ("two samples",), ("mean",), ("normal", "outliers"), _two_z, order=3, from_figures=True,
        asks="sigmas",
    ),
)  # fmt: skip
