"""Procedures for counts: of one category against claimed shares, of two against each other."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.nouns import counted
from theoros.answer.parts import Step
from theoros.answer.wording import number, p_equals, statistic, trimmed, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.procedures.counts import (
    ChiSquareTest,
    chi_square_fit,
    chi_square_related,
    exact_fit,
    likelihood_ratio,
)
from theoros.numeric.procedures.exact_tables import exact_table
from theoros.numeric.procedures.means import NoSpread
from theoros.numeric.procedures.proportions import fisher_exact
from theoros.numeric.resampling.replicates import MakeBlock
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, Tally, TwoWayCounts
from theoros.verbs.procedures.by_chance import CHANCE, Again, ByChance, Simulated
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import EffectSize, Procedure, ProcedureFails, Question, Result, Steps

FEW_CELLS = 12
"""As many terms of a sum are written out."""


def _fit(question: Question) -> ChiSquareTest:
    data = question.of(CountsOfLevels)
    if data.counts.size < 2:
        raise ProcedureFails("needs at least two levels")
    if data.total == 0:
        raise ProcedureFails("all counts are 0")
    try:
        return chi_square_fit(data.counts, np.array(data.claimed), estimated=data.estimated)
    except NoSpread:
        why = "an expected count is 0"
        if data.counts.size - 1 - data.estimated < 1:
            why = "so few levels leave no degrees of freedom after the parameters are estimated"
        raise ProcedureFails(why) from None


def _related(question: Question) -> ChiSquareTest:
    data = question.of(TwoWayCounts)
    counts = data.counts
    if min(counts.shape) < 2:
        raise ProcedureFails("needs at least two rows and two columns")
    empty = [name for name, n in zip(data.rows, counts.sum(axis=1), strict=True) if n == 0]
    empty += [name for name, n in zip(data.columns, counts.sum(axis=0), strict=True) if n == 0]
    if empty:
        raise ProcedureFails(f"“{empty[0]}” has no cases: leave it out, or merge it with another level")
    return chi_square_related(counts)


def _chi_square(question: Question, found: ChiSquareTest, counts: Ints, expects: str) -> Result:
    lines: list[str | Formula] = [formula("χ^{2} = Σ (O − E)^{2} / E"), expects]
    if counts.size <= FEW_CELLS:
        pairs = zip(counts.ravel().tolist(), found.expected.ravel().tolist(), strict=True)
        terms = " + ".join(f"({round(o)} − {trimmed(e)})^{{2}}/({trimmed(e)})" for o, e in pairs)
        lines.append(formula(f"χ^{{2}} = {terms} = {statistic(found.statistic, 1)}"))
    else:
        lines.append(formula(f"χ^{{2}} = {statistic(found.statistic, 1)}"))
    return _with_df(question, found, "χ²", lines, {"chi_square": found.statistic})


def _with_df(
    question: Question, found: ChiSquareTest, symbol: str, lines: list[str | Formula], figures: dict[str, float]
) -> Result:
    degree = "degree" if found.df == 1 else "degrees"
    return result_of(
        question,
        ChiSquare(found.df),
        found.statistic,
        symbol,
        lines,
        upper=True,
        estimate=math.nan,
        axis=f"{symbol}, {found.df} {degree} of freedom",
        text=f"{symbol} = {statistic(found.statistic)}, df {found.df}",
        figures={**figures, "df": float(found.df)},
        with_df=f" {{with}} df = {found.df}",
        effects=_effects(question, found),
    )


def _effects(question: Question, found: ChiSquareTest) -> tuple[EffectSize, ...]:
    data = question.of(Tally)
    n = data.total
    if isinstance(data, TwoWayCounts):
        least = min(data.counts.shape) - 1
        v = math.sqrt(chi_square_related(data.counts).statistic / (n * least))
        return (EffectSize("Cramér’s V", v, word(v * math.sqrt(least), (0.1, 0.3, 0.5))),)
    w = math.sqrt(found.statistic / n)
    return (EffectSize("Cohen’s w", w, word(w, (0.1, 0.3, 0.5))),)


def _chi_square_fit(question: Question) -> Steps:
    found = _fit(question)
    data = question.of(CountsOfLevels)
    k, less = data.counts.size, f" − {data.estimated}" if data.estimated else ""
    share = "the claimed share of each level"
    if data.law:
        share = f"the chance of each level, with {data.law_values or data.law}"
    expects = f"E is n times {share}; df = {k} − 1{less} = {found.df}. {data.law_how}".rstrip()
    yield _chi_square(question, found, question.of(Tally).counts, expects), 1.0


def _chi_square_related(question: Question) -> Steps:
    found = _related(question)
    rows, columns = question.of(Tally).counts.shape
    expects = f"E is row total × column total / n; df = ({rows} − 1) × ({columns} − 1) = {found.df}."
    yield _chi_square(question, found, question.of(Tally).counts, expects), 1.0


def _g(question: Question) -> Steps:
    data = question.of(Tally)
    base = _related(question) if isinstance(data, TwoWayCounts) else _fit(question)
    found = likelihood_ratio(data.counts, base.expected, base.df)
    lines: list[str | Formula] = [
        *formulas("G = 2 Σ O × {ln}(O / E)", f"G = {statistic(found.statistic, 1)}"),
        "E is calculated as for chi-square.",
    ]
    yield _with_df(question, found, "G", lines, {"G": found.statistic}), 1.0


def _exact_fit(question: Question) -> Steps:
    data = question.of(CountsOfLevels)
    found = _fit(question)
    _given(data)
    p = exact_fit(data.counts, np.array(data.claimed))
    if p is None:
        raise ProcedureFails("there are too many results to count")
    n, k = data.total, data.counts.size
    ways = math.comb(n + k - 1, k - 1)
    lines = (
        f"There are {whole(ways)} ways to divide {counted(n, 'case')} among {k} levels.",
        "The probabilities of all results that are at most as likely under H_{0} as the observed one are added.",
        formula(p_equals(p)),
    )
    yield _beside_chi_square(found, p, f"{whole(ways)} results counted", float(ways), lines), 1.0


def _fisher(question: Question) -> Steps:
    data = question.of(TwoWayCounts)
    related = _related(question)
    if data.counts.shape != (2, 2):
        yield _larger_fisher(question, related), 1.0
        return
    (a, b), (c, d) = data.counts.tolist()
    found = fisher_exact(a, a + b, c, c + d, "different")
    p = found.p
    law = (
        "With these row and column totals, the first count is hypergeometric under H_{0}. The probabilities of "
        "all tables that are at most as likely as this one are added."
    )
    observed = f"X = {whole(a)}"
    yield (
        Result(
            estimate=math.nan,
            statistic=float(a),
            statistic_text=observed,
            distribution=found.law,
            observed=float(a),
            observed_text=observed,
            region=found.region,
            p=p,
            figures={"x": float(a), "p": p},
            working=(Step("Statistic", (formula(f"X = {a}"),)), Step("p-value", (law, formula(p_equals(p))))),
            axis=f"X, {data.rows[0]} and {data.columns[0]}",
        ),
        1.0,
    )


def _larger_fisher(question: Question, found: ChiSquareTest) -> Result:
    """Of a table with more than two rows or columns, beside its chi-square curve."""
    exact = exact_table(question.of(Tally).counts)
    if exact is None:
        raise ProcedureFails("there are too many tables to count")
    tables = f"{number(exact.tables, 0)} tables"
    lines = (
        f"There are {tables} with these row and column totals.",
        "The probabilities of all tables that are at most as likely under H_{0} as this one are added.",
        formula(p_equals(exact.p)),
    )
    return _beside_chi_square(found, exact.p, f"{tables} counted", exact.tables, lines)


def _beside_chi_square(
    found: ChiSquareTest, p: float, text: str, ways: float, lines: tuple[str | Formula, ...]
) -> Result:
    """An exact p-value of counts, drawn beside the curve that it does without."""
    curve = ChiSquare(found.df)
    return Result(
        estimate=math.nan,
        statistic=found.statistic,
        statistic_text=text,
        distribution=curve,
        observed=found.statistic,
        observed_text=f"χ² = {statistic(found.statistic)}",
        region=curve.region("greater", found.statistic),
        p=p,
        figures={"p": p, "ways": ways},
        working=(Step("p-value", lines),),
        axis="χ², beside the exact p-value",
        title="The chi-square curve, which the exact p-value does not use",
    )


def _given(data: CountsOfLevels) -> None:
    if data.estimated:
        raise ProcedureFails("needs claimed shares that are given, not estimated from the counts")


def _drawn_fit(question: Question) -> Simulated:
    data = question.of(CountsOfLevels)
    found = _fit(question)
    _given(data)
    shares = np.array(data.claimed)
    expected = found.expected

    def make(rng: np.random.Generator, size: int) -> Floats:
        drawn = rng.multinomial(data.total, shares, size=size)
        return np.asarray(((drawn - expected) ** 2 / expected).sum(axis=1))

    how = f"{counted(data.total, 'case')} are drawn with the claimed shares"

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        return replace(data, counts=rng.multinomial(data.total, shares, size=size)[at])

    return _simulated(question, found, make, how, again)


def _shuffled(question: Question) -> Simulated:
    data = question.of(TwoWayCounts)
    found = _related(question)
    rows, columns = data.counts.sum(axis=1), data.counts.sum(axis=0)
    expected = found.expected

    def dealt(rng: np.random.Generator, size: int) -> Iterator[Ints]:
        """The counts of each row in turn, shape (size, columns)."""
        left = np.broadcast_to(columns, (size, columns.size)).copy()
        for n in rows.tolist()[:-1]:
            row = _dealt(rng, left, n)
            left = left - row
            yield row
        yield left

    def make(rng: np.random.Generator, size: int) -> Floats:
        total = np.zeros(size)
        for at, row in enumerate(dealt(rng, size)):
            total += ((row - expected[at]) ** 2 / expected[at]).sum(axis=1)
        return total

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        return replace(data, counts=np.array([row[at] for row in dealt(rng, size)]))

    one, two = data.names
    how = f"the levels of {two} are shuffled among those of {one}"
    return _simulated(question, found, make, how, again)


def _dealt(rng: np.random.Generator, left: Ints, n: int) -> Ints:
    """n cases drawn without replacement from each row of counts, column by column."""
    made = np.zeros_like(left)
    wanted = np.full(left.shape[0], n)
    rest = left.sum(axis=1)
    for column in range(left.shape[1] - 1):
        rest = rest - left[:, column]
        taken = rng.hypergeometric(left[:, column], rest, wanted)
        made[:, column] = taken
        wanted = wanted - taken
    made[:, -1] = wanted
    return made


def _simulated(question: Question, found: ChiSquareTest, make: MakeBlock, how: str, again: Again) -> Simulated:
    observed = found.statistic
    said = f"χ² = {statistic(observed)}"
    line = formula(f"χ^{{2}} = Σ (O − E)^{{2}} / E = {statistic(observed, 1)}")
    return Simulated(
        make,
        question.of(Tally).counts.size,
        observed,
        how,
        axis="χ²",
        said=said,
        lines=(line,),
        resolution=1e-9 * max(observed, 1.0),
        upper=True,
        observed_text=said,
        noun="sample" if isinstance(question.data, CountsOfLevels) else "shuffle",
        again=again,
    )


PROCEDURES = (
    Procedure(
        "chi-square of fit", "Chi-square", "Observed counts against the counts that the claim expects.",
        ("counts",), ("shares",), ("expected",), _chi_square_fit, order=1, from_figures=True,
        other_names=("chi square", "goodness of fit")
    ),
    Procedure(
        "G of fit", "G test", "Observed and expected counts, by likelihoods.",
        ("counts",), ("shares",), ("expected",), _g, order=2, from_figures=True,
    ),
    Procedure(
        "exact multinomial", "Exact multinomial", "All ways to divide the cases among the levels are counted.",
        ("counts",), ("shares",), (), _exact_fit, order=3, from_figures=True,
    ),
    Procedure(
        "drawn counts", "Simulated draws", "Cases drawn at random with the claimed shares.",
        ("counts",), ("shares",), (), ByChance(_drawn_fit),
        order=4, from_figures=True, simulated=True, settings=CHANCE,
    ),
    Procedure(
        "chi-square", "Chi-square", "Two categories: observed counts against those expected if they are independent.",
        ("two-way counts",), ("relation",), ("expected",), _chi_square_related, order=1,
        from_figures=True, other_names=("chi square", "independence", "homogeneity", "contingency table")
    ),
    Procedure(
        "G", "G test", "Two categories by likelihoods.",
        ("two-way counts",), ("relation",), ("expected",), _g, order=2, from_figures=True,
    ),
    Procedure(
        "Fisher exact of a table", "Fisher exact", "Every table with the same totals is counted.",
        ("two-way counts",), ("relation",), (), _fisher, order=3, from_figures=True,
    ),
    Procedure(
        "shuffled table", "Shuffled levels", "Levels of one category shuffled.",
        ("two-way counts",), ("relation",), (), ByChance(_shuffled), order=4, from_figures=True,
        simulated=True, settings=CHANCE, other_names=("permutation test", "randomization test")
    ),
)  # fmt: skip
