"""Statistics of cases that are numbers: means, quantiles, spreads, and a formula of one's own."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.cannot import CannotAnswer
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.wording import number, percent_text, significant
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.chance import statistics as of
from theoros.numeric.chance.laws import law_of_total
from theoros.numeric.chance.samples import Samples
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.statistic import AsksStatistic, Statistic
from theoros.verbs.simulate.statistics.theory import PLENTY, Theory, scaled

Lines = tuple[str | Formula, ...]


def _taking(work: Callable[[Floats], Floats]) -> Callable[[Samples, Facts, AsksStatistic], Floats]:
    return lambda samples, facts, s: work(facts.values(samples))


def _named(word: str) -> Callable[[Facts, AsksStatistic], str]:
    return lambda facts, s: (
        f"{word} {facts.measure}"
        if facts.measure != "value"
        else (f"{word} of the values" if word.endswith("deviation") else word)
    )


def _shrunk(facts: Facts) -> float:
    """What drawing without replacement takes off a standard error."""
    if facts.finite is None or facts.finite < 2:
        return 1.0
    return math.sqrt(max(facts.finite - facts.n, 0) / (facts.finite - 1))


def _mean_theory(facts: Facts, s: AsksStatistic) -> Theory | None:
    total = _total_theory(facts, s)
    if total is None or facts.moments is None:
        return None
    mu, sigma = facts.moments
    n, error = facts.n, total.error / facts.n
    fpc = "" if facts.finite is None else " √((N − n) / (N − 1))"
    put = "" if facts.finite is None else f" × {number(_shrunk(facts), 4)}"
    places = min(6, facts.decimals + 2)
    lines = formulas(
        f"{{mean}} = μ = {number(mu, places)}",
        f"{{SE}} = σ / √n{fpc} = {number(sigma, places)} / √({n}){put} = {significant(error, 3)}",
    )
    return Theory(mu, error, lines, scaled(total.law, 1 / n), total.law_name, total.fits)


def _total_theory(facts: Facts, s: AsksStatistic) -> Theory | None:
    if facts.moments is None:
        return None
    (mu, sigma), n = facts.moments, facts.n
    error = math.sqrt(n) * sigma * _shrunk(facts)
    places = min(6, facts.decimals + 2)
    fpc = "" if facts.finite is None else " √((N − n) / (N − 1))"
    put = "" if facts.finite is None else f" × {number(_shrunk(facts), 4)}"
    lines = formulas(
        f"{{mean}} = n μ = {n} × {number(mu, places)} = {number(n * mu, places)}",
        f"{{SE}} = σ √n{fpc} = {number(sigma, places)} × √({n}){put} = {significant(error, 3)}",
    )
    law: Distribution | None = None
    name = ""
    one = facts.law()
    if facts.normal and sigma > 0:
        law, name = Normal(n * mu, error), "Exact normal"
    elif one is not None and facts.finite is None:
        law, name = law_of_total(one[0], one[1], n), "Every outcome counted"
    fits = (
        None if facts.normal else (n >= PLENTY, f"n = {n}, which is {'at least' if n >= PLENTY else 'below'} {PLENTY}")
    )
    return Theory(n * mu, error, lines, law, name if law is not None else "", fits)


def _quantile_said(facts: Facts, s: AsksStatistic) -> str:
    what = f" of {facts.measure}" if facts.measure != "value" else ""
    return f"{percent_text(s.share)} quantile{what}"


def _by_formula(samples: Samples, facts: Facts, s: AsksStatistic) -> Floats:
    """The value of the formula for each sample; NaN where it has none."""
    from theoros.table.formula import evaluate_for_each
    from theoros.table.formula.tokens import FormulaError
    from theoros.table.kinds import Kind
    from theoros.table.table import Column, Table

    values = facts.values(samples)
    size, n = values.shape
    which = np.repeat(np.arange(size), n)
    table = Table("sample", (Column("x", Kind.NUMBER),), pl.DataFrame({"x": values.ravel()}))
    try:
        return evaluate_for_each(s.formula, table, which, size)
    except FormulaError as problem:
        raise CannotAnswer(str(problem), "formula") from None


def _no_theory(facts: Facts, s: AsksStatistic) -> Theory | None:
    return None


def _of_numbers(
    name: str,
    work: Callable[[Floats], Floats],
    order: int,
    theory: Callable[[Facts, AsksStatistic], Theory | None] = _no_theory,
) -> Statistic:
    return Statistic(name, f"the {name}", "numbers", _taking(work), _named(name), theory, in_units=True, order=order)


STATISTICS = (
    _of_numbers("mean", of.means, 10, _mean_theory),
    _of_numbers("median", lambda x: of.quantiles(x, 0.5), 11),
    _of_numbers("total", of.totals, 12, _total_theory),
    _of_numbers("standard deviation", of.standard_deviations, 13),
    _of_numbers("range", of.ranges, 14),
    _of_numbers("least", lambda x: x.min(axis=1), 15),
    _of_numbers("greatest", lambda x: x.max(axis=1), 16),
    Statistic(
        "quantile",
        "a quantile",
        "numbers",
        lambda x, f, s: of.quantiles(f.values(x), s.share),
        _quantile_said,
        asks=("share",),
        in_units=True,
        order=17,
    ),
    Statistic(
        "formula",
        "a formula",
        "numbers",
        _by_formula,
        lambda f, s: f"value of {s.formula.strip() or 'the formula'}",
        asks=("formula",),
        order=18,
    ),
)
