"""Means and their differences, by t and by z: tests and intervals from one pivot each."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.wording import bracketed, exact, number, put_in, squared, statistic, taken_off, unmarked, whole
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.means import NoSpread, TooFewValues, TTest, one_t, pooled_t, welch_t
from theoros.numeric.procedures.z import z_mean, z_means
from theoros.verbs.data.data import Family
from theoros.verbs.data.samples import OneSample, OneSided, Paired, TwoSamples
from theoros.verbs.procedures.effects import standardized
from theoros.verbs.procedures.p_values import degrees
from theoros.verbs.procedures.pivots import Pivot, interval_of, test_of
from theoros.verbs.procedures.procedure import AsInterval, Procedure, ProcedureFails, Question


def _by_t(found: TTest, **more) -> Pivot:  # type: ignore[no-untyped-def]
    """The pivot of a mean or a difference by t; `more` is how it is written out."""
    df = degrees(found.df)
    figures = {"t": found.t, "df": found.df, "difference": found.difference, "standard_error": found.standard_error}
    if found.pooled_sd is not None:
        figures["pooled_sd"] = found.pooled_sd
    return Pivot(
        StudentT(found.df), "t", found.difference, found.standard_error,
        axis=f"t, {df} degrees of freedom", text=f"t = {statistic(found.t)}, df {df}",
        with_df=f" {{with}} df = {df}", figures=figures, observed=found.t, **more,
    )  # fmt: skip


def _one(question: Question) -> Pivot:
    """Of one sample, or of the differences in matched pairs."""
    data = question.of(OneSided)
    pairs = isinstance(data, Paired)
    try:
        found = one_t(data.single.data, question.null)
    except TooFewValues:
        raise ProcedureFails(f"needs at least two {'pairs' if pairs else 'values'}") from None
    except NoSpread:
        raise ProcedureFails(f"all {'differences' if pairs else 'values'} are equal") from None
    s, off = data.single.summary, taken_off(question.null)
    say = partial(put_in, decimals=data.decimals)
    mean, spread = ("d̄", "s_{d}") if pairs else ("x̄", "s")
    put_off = off if pairs or question.null else " − 0"
    return _by_t(
        found,
        lines=formulas(
            f"t = ({mean}{off if pairs else ' − μ_{0}'}) / ({spread} / √n)",
            f"t = ({say(s.mean)}{put_off}) / ({say(s.sd)} / √{s.n}) = {statistic(found.t, 1)}",
        ),
        point=formulas(f"{mean} = {say(s.mean)}"),
        error=formulas(f"{{SE}} = {spread} / √n", f"{{SE}} = {say(s.sd)} / √{s.n} = {say(found.standard_error)}"),
        df=formulas(f"df = {s.n} − 1 = {s.n - 1}"),
        effects=standardized(
            found.difference - question.null,
            s.sd,
            found.df,
            of="of differences" if isinstance(data, Paired) else "of values",
        ),
    )


def _total(question: Question) -> Pivot:
    """N times the mean; N cases make up the population."""
    data = question.of(OneSample)
    size = question.settings.population
    if size is None:
        raise ProcedureFails("needs the size of the population: type it under Settings")
    mean = _one(question)
    s, say = data.sample.summary, partial(put_in, decimals=data.decimals)
    total, error = size * s.mean, size * mean.standard_error
    return Pivot(
        mean.curve, "t", total, error,
        point=formulas(f"N x̄ = {whole(size)} × {say(s.mean)} = {say(total)}"),
        error=formulas("{SE} = N s / √n", f"{{SE}} = {whole(size)} × {say(s.sd)} / √{s.n} = {say(error)}"),
        df=mean.df,
    )  # fmt: skip


def _two(question: Question, *, pooled: bool) -> Pivot:
    data = question.of(TwoSamples)
    try:
        found = (pooled_t if pooled else welch_t)(data.first.data, data.second.data, question.null)
    except TooFewValues:
        raise ProcedureFails("needs at least two values in each group") from None
    except NoSpread:
        raise ProcedureFails("all values within each group are equal") from None
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    off, say = taken_off(question.null), partial(put_in, decimals=data.decimals)
    gap = f"{say(x.mean)} − {bracketed(say(y.mean))}"
    point = formulas(f"x̄_{{{one}}} − x̄_{{{two}}} = {gap} = {say(found.difference)}")
    letters = f"x̄_{{{one}}} − x̄_{{{two}}}{off}"
    if pooled:
        common = found.pooled_sd or 0.0
        numbers = (
            f"s_{{p}} = √(({x.n - 1} × {squared(say(x.sd))} + {y.n - 1} × {squared(say(y.sd))}) / "
            f"{x.n + y.n - 2}) = {say(common)}"
        )
        return _by_t(
            found,
            lines=formulas(
                f"s_{{p}} = √(((n_{{{one}}} − 1) s_{{{one}}}^{{2}} + (n_{{{two}}} − 1) s_{{{two}}}^{{2}})"
                f" / (n_{{{one}}} + n_{{{two}}} − 2))",
                numbers,
                f"t = ({letters}) / (s_{{p}} √(1/n_{{{one}}} + 1/n_{{{two}}}))",
                f"t = ({gap}{off}) / ({say(common)} × √(1/{x.n} + 1/{y.n})) = {statistic(found.t, 1)}",
            ),
            point=point,
            error=formulas(numbers, f"{{SE}} = s_{{p}} √(1/{x.n} + 1/{y.n}) = {say(found.standard_error)}"),
            df=formulas(f"df = {x.n} + {y.n} − 2 = {x.n + y.n - 2}"),
            effects=standardized(found.difference - question.null, common, found.df),
        )
    root = f"√(s_{{{one}}}^{{2}}/n_{{{one}}} + s_{{{two}}}^{{2}}/n_{{{two}}})"
    put_root = f"√({squared(say(x.sd))}/{x.n} + {squared(say(y.sd))}/{y.n})"
    spread = math.sqrt((x.sd**2 + y.sd**2) / 2)  # of both populations alike, for unequal ones
    df = formula(
        f"df = (a + b)^{{2}} / (a^{{2}}/{x.n - 1} + b^{{2}}/{y.n - 1}) = {number(found.df, 2)}, "
        f"with a = {squared(say(x.sd))}/{x.n} and b = {squared(say(y.sd))}/{y.n}"
    )
    return _by_t(
        found,
        lines=formulas(f"t = ({letters}) / {root}", f"t = ({gap}{off}) / {put_root} = {statistic(found.t, 1)}"),
        point=point,
        error=formulas(f"{{SE}} = {root}", f"{{SE}} = {put_root} = {say(found.standard_error)}"),
        df=(df,),
        df_said="Degrees of freedom by Welch and Satterthwaite:",
        effects=standardized(found.difference - question.null, spread, found.df),
    )


def _by_z(estimate: float, standard_error: float, z: float, lines: tuple[Formula, ...], what: str, **more) -> Pivot:  # type: ignore[no-untyped-def]
    figures = {"z": z, **({what: estimate} if what else {}), "standard_error": standard_error}
    return Pivot(Normal(), "z", estimate, standard_error, axis="z", lines=lines, figures=figures, observed=z, **more)


def _one_z(question: Question) -> Pivot:
    data = question.of(OneSample)
    sigma = question.settings.sigmas[0]
    if sigma is None:
        raise ProcedureFails("needs the standard deviation σ of the population: type it under Settings")
    try:
        found = z_mean(data.sample.data, sigma, question.null)
    except TooFewValues:
        raise ProcedureFails("needs a value") from None
    s, say = data.sample.summary, partial(put_in, decimals=data.decimals)
    put = f"z = ({say(s.mean)} − {bracketed(exact(question.null))}) / ({exact(sigma)} / √{s.n})"
    return _by_z(
        found.estimate,
        found.standard_error,
        found.z,
        formulas("z = (x̄ − μ_{0}) / (σ / √n)", f"{put} = {statistic(found.z, 1)}"),
        "",
        point=formulas(f"x̄ = {say(s.mean)}"),
        error=formulas("{SE} = σ / √n", f"{{SE}} = {exact(sigma)} / √{s.n} = {say(found.standard_error)}"),
    )


def _two_z(question: Question) -> Pivot:
    data = question.of(TwoSamples)
    first, second = question.settings.sigmas
    if first is None or second is None:
        raise ProcedureFails("needs the standard deviations of both populations: type them under Settings")
    try:
        found = z_means(data.first.data, data.second.data, first, second, question.null)
    except TooFewValues:
        raise ProcedureFails("needs a value in each group") from None
    x, y = data.first.summary, data.second.summary
    one, two = unmarked(data.first.label), unmarked(data.second.label)
    off, say = taken_off(question.null), partial(put_in, decimals=data.decimals)
    gap = f"{say(x.mean)} − {bracketed(say(y.mean))}"
    put_root = f"√({squared(exact(first))}/{x.n} + {squared(exact(second))}/{y.n})"
    return _by_z(
        found.estimate,
        found.standard_error,
        found.z,
        formulas(
            f"z = (x̄_{{{one}}} − x̄_{{{two}}}{off}) / √(σ_{{{one}}}^{{2}}/n_{{{one}}} + σ_{{{two}}}^{{2}}/n_{{{two}}})",
            f"z = ({gap}{off}) / {put_root} = {statistic(found.z, 1)}",
        ),
        "difference",
        point=formulas(f"x̄_{{{one}}} − x̄_{{{two}}} = {gap} = {say(found.estimate)}"),
        error=formulas(f"{{SE}} = {put_root} = {say(found.standard_error)}"),
    )


def _mean(name: str, label: str, help_: str, family: Family, needs: tuple[str, ...], pivot: Callable[[Question], Pivot],
          order: int, as_interval: tuple[str, str], asks: str = "") -> Procedure:  # fmt: skip
    """A procedure for means with both its halves."""
    return Procedure(
        name, label, help_, (family,), ("mean",), needs, test=test_of(pivot), order=order, from_figures=True,
        interval=AsInterval(interval_of(pivot), *as_interval), asks=asks,
        other_names=("z test",) if asks else ("t test",),
    )  # fmt: skip


USUAL = ("normal", "outliers")
PROCEDURES = (
    _mean("welch t", "Welch t", "Two means; the spreads of the groups may differ.", "two samples", USUAL,
          partial(_two, pooled=False), 1, ("", "The difference of two means, each with its own spread.")),
    _mean("pooled t", "Pooled t", "Two means; assumes that the two populations have equal spreads.", "two samples",
          (*USUAL, "spreads"), partial(_two, pooled=True), 2,
          ("", "The difference of two means; assumes equal spreads.")),
    _mean("paired t", "Paired t", "The mean of the differences in matched pairs.", "pairs", USUAL, _one, 1,
          ("t", "x̄ ± t* × s/√n.")),
    _mean("one-sample t", "One-sample t", "One mean against a claimed value.", "one sample", USUAL, _one, 1,
          ("t", "x̄ ± t* × s/√n.")),
    _mean("z", "z with known σ", "One mean, where the spread of the population is known.", "one sample", USUAL,
          _one_z, 2, ("", "x̄ ± z* × σ/√n, where the spread of the population is known."), asks="sigmas"),
    _mean("two-sample z", "z with known σ", "Two means, where both spreads are known.", "two samples", USUAL,
          _two_z, 3, ("", "The difference, where both spreads are known."), asks="sigmas"),
    Procedure("total t", "t", "N x̄ ± t* × N s/√n, for a population of N cases.", ("one sample",), ("total",),
              USUAL, order=1, from_figures=True, interval=AsInterval(interval_of(_total))),
)  # fmt: skip
