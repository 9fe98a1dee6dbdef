"""Procedures for several groups: analysis of variance, ranks, shuffles, and which pairs differ."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from theoros.answer.axis import Axis, span
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import ResultTable, Section, Step
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.answer.result_tables import TableColumn, figure, table_of, words
from theoros.answer.wording import number, put_in, significant, statistic, unmarked, whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.procedures.analysis_of_variance import OneWay, kruskal_wallis, one_way, welch_anova
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.pairwise import Pair, dunn, games_howell, pooled_pairs, tukey
from theoros.numeric.resampling.shuffles import dealt, dealt_places
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import SeveralSamples
from theoros.verbs.procedures.anova_table import CUTS, Source, anova_table
from theoros.verbs.procedures.by_chance import CHANCE, ByChance, Simulated
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.intervals import level
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import (
    AsInterval,
    EffectSize,
    Procedure,
    ProcedureFails,
    Question,
    Result,
    Steps,
)
from theoros.verbs.procedures.which_pairs import MOST_GROUPS, pairs_sections


def _checked(question: Question) -> SeveralSamples:
    data = question.of(SeveralSamples)
    if len(data.groups) < 2:
        raise ProcedureFails("needs at least two groups")
    empty = [group.said for group in data.groups if group.n == 0]
    if empty:
        raise ProcedureFails(f"needs a value in each group, and {empty[0]} has none")
    return data


def _one_way(data: SeveralSamples) -> OneWay:
    try:
        return one_way([group.data for group in data.groups])
    except TooFewValues:
        raise ProcedureFails("needs at least two values in a group") from None
    except NoSpread:
        raise ProcedureFails("all values within each group are equal") from None


def _anova(question: Question) -> Steps:
    data = _checked(question)
    table = _one_way(data)
    k, n = len(data.groups), sum(group.n for group in data.groups)
    between, within = table.between / table.df_between, table.mean_within
    lines = formulas(
        f"SS_{{between}} = Σ n_{{i}} (x̄_{{i}} − x̄)^{{2}} = {significant(table.between, 6)}",
        f"SS_{{within}} = Σ (n_{{i}} − 1) s_{{i}}^{{2}} = {significant(table.within, 6)}",
        f"F = (SS_{{between}} / ({k} − 1)) / (SS_{{within}} / ({n} − {k})) = "
        f"({significant(between, 5)}) / ({significant(within, 5)}) = {statistic(table.f, 1)}",
    )
    method, pairs = _mean_pairs(question, data)
    df = f"{table.df_between} and {table.df_within}"
    yield result_of(
        question, FisherF(table.df_between, table.df_within), table.f, "F", lines, upper=True,
        estimate=math.nan, axis=f"F, {df} degrees of freedom",
        text=f"F = {statistic(table.f)}, df {df}",
        figures={"F": table.f, "df1": table.df_between, "df2": table.df_within,
                 "ss_between": table.between, "ss_within": table.within},
        effects=(
            EffectSize("η²", table.eta_squared, word(table.eta_squared, CUTS)),
            EffectSize("ω²", table.omega_squared, word(table.omega_squared, CUTS)),
        ),
        tables=(_anova_table(table),), sections=pairs_sections(question, data, method, pairs),
    ), 1.0  # fmt: skip


def _anova_table(table: OneWay) -> ResultTable:
    within = Source("within groups", table.within, table.df_within)
    between = Source("between groups", table.between, table.df_between, table.f, table.p)
    ss, df = table.between + table.within, table.df_between + table.df_within
    return anova_table((between, within, Source("total", ss, df, mean=False)))


def _mean_pairs(question: Question, data: SeveralSamples) -> tuple[str, list[Pair]]:
    """Which pairs of means differ, by the method that was chosen."""
    if len(data.groups) > MOST_GROUPS or not question.in_full:
        return "", []
    groups, confidence = [group.data for group in data.groups], question.level
    method = question.settings.pairs
    try:
        if method == "Tukey":
            return method, tukey(groups, confidence)
        return method, pooled_pairs(groups, confidence, holm=method == "Holm")
    except (TooFewValues, NoSpread):
        return "", []


def _welch(question: Question) -> Steps:
    data = _checked(question)
    groups = [group.data for group in data.groups]
    try:
        found = welch_anova(groups)
    except TooFewValues:
        raise ProcedureFails("needs at least two values in each group") from None
    except NoSpread:
        raise ProcedureFails("all values of a group are equal") from None
    pairs = []
    if len(groups) <= MOST_GROUPS and question.in_full:
        pairs = games_howell(groups, question.level)
    lines: list[str | Formula] = [
        "Each group has the weight w = n/s², so that no common spread is needed.",
        formula("F = (Σ w (x̄ − x̃)^{2} / (k − 1)) / (1 + (2 (k − 2) / (k^{2} − 1)) Λ)"),
        formula(f"F = {statistic(found.f, 1)} {{with}} df = {found.df_between} {{and}} {number(found.df_within, 2)}"),
    ]
    df = f"{found.df_between} and {number(found.df_within, 1)}"
    yield (
        result_of(
            question,
            FisherF(found.df_between, found.df_within),
            found.f,
            "F",
            lines,
            upper=True,
            estimate=math.nan,
            axis=f"F, {df} degrees of freedom",
            text=f"F = {statistic(found.f)}, df {df}",
            figures={"F": found.f, "df1": found.df_between, "df2": found.df_within},
            sections=pairs_sections(question, data, "Games–Howell", pairs),
        ),
        1.0,
    )


def _kruskal(question: Question) -> Steps:
    data = _checked(question)
    groups = [group.values for group in data.groups]
    try:
        found = kruskal_wallis(groups)
    except NoSpread:
        raise ProcedureFails("all values are equal") from None
    n = sum(group.size for group in groups)
    ties = " H is corrected for ties." if found.tied else ""
    lines: list[str | Formula] = [
        f"Rank all {whole(n)} values together; ties share the average rank.{ties}",
        formula("H = (12 / (N (N + 1))) Σ n_{i} R̄_{i}^{2} − 3 (N + 1)"),
        formula(f"H = {statistic(found.h, 1)}"),
    ]
    pairs = dunn(groups) if len(groups) <= MOST_GROUPS and question.in_full else []
    degree = "degree" if found.df == 1 else "degrees"
    epsilon = found.h / (n - 1)
    yield result_of(
        question, ChiSquare(found.df), found.h, "H", lines, upper=True, estimate=math.nan,
        axis=f"H, {found.df} {degree} of freedom", text=f"H = {statistic(found.h)}, df {found.df}",
        figures={"H": found.h, "df": float(found.df)}, with_df=f" {{with}} df = {found.df}",
        effects=(EffectSize("ε²", epsilon, word(epsilon, CUTS)),),
        sections=pairs_sections(question, data, "Dunn, adjusted by Holm", pairs),
    ), 1.0  # fmt: skip


def _shuffled(question: Question) -> Simulated:
    data = _checked(question)
    table = _one_way(data)
    values = np.concatenate([group.values for group in data.groups])
    sizes = np.array([group.n for group in data.groups])
    starts = np.concatenate([[0], np.cumsum(sizes)[:-1]])
    centred = values - values.mean()
    whole_ss = float(centred @ centred)
    df1, df2 = table.df_between, table.df_within

    def make(rng: np.random.Generator, size: int) -> Floats:
        sums = np.add.reduceat(dealt(rng, centred, size), starts, axis=1)
        between = (sums**2 / sizes).sum(axis=1)
        within = np.maximum(whole_ss - between, 1e-12 * whole_ss)
        return np.asarray((between / df1) / (within / df2))

    observed = table.f
    said = f"F = {statistic(observed)}"

    def again(rng: np.random.Generator, size: int, at: int) -> Observation:
        places = dealt_places(rng, values.size, size)[at]
        return data.with_values(np.split(values[places], starts[1:]))

    return Simulated(
        make,
        values.size,
        observed,
        "the group labels are shuffled among the values",
        axis="F",
        said=said,
        lines=(formula(f"F = {statistic(observed, 1)}"),),
        around=1.0,
        resolution=1e-9 * max(observed, 1.0),
        upper=True,
        observed_text=said,
        again=again,
    )


@dataclass(frozen=True)
class _OwnInterval:
    """The interval of one mean, with its own spread."""

    label: str
    n: int
    mean: float
    sd: float
    error: float
    critical: float

    @property
    def ends(self) -> tuple[float, float]:
        return self.mean - self.critical * self.error, self.mean + self.critical * self.error

    def line(self, decimals: int) -> Formula:
        """How it is worked out."""
        say = partial(put_in, decimals=decimals)
        return formula(
            f"x̄_{{{unmarked(self.label)}}} ± t^{{*}} s/√n = {say(self.mean)} ± {number(self.critical, 3)} × "
            f"{say(self.sd)}/√{self.n}"
        )


def _own_interval(group: Sample, each: float) -> _OwnInterval:
    s = group.summary
    critical = StudentT(group.n - 1).critical(1 - each, "different")
    return _OwnInterval(group.label, s.n, s.mean, s.sd, s.sd / math.sqrt(s.n), critical)


def _why_not_together(data: SeveralSamples) -> str:
    """Why there are no such intervals; empty where there are."""
    few = [group.label for group in data.groups if group.n < 2]
    if few:
        return f"needs at least two values in each group, and {few[0]} has fewer"
    alike = [group.label for group in data.groups if not group.summary.sd > 0]
    if alike:
        return f"all values of {alike[0]} are equal"
    return "" if len(data.groups) > 1 else "needs at least two groups"


def _intervals_table(made: Sequence[_OwnInterval], places: int) -> ResultTable:
    say = partial(number, decimals=places)
    columns: list[TableColumn[_OwnInterval]] = [
        words("group", "group", lambda one: one.label),
        figure("n", "n", lambda one: one.n, lambda n: whole(int(n))),
        figure("mean", "mean", lambda one: one.mean, say),
        figure("error", "standard error", lambda one: one.error, say),
        figure("critical", "critical value", lambda one: one.critical, partial(number, decimals=3)),
        figure("low", "from", lambda one: one.ends[0], say),
        figure("high", "to", lambda one: one.ends[1], say),
    ]
    return table_of("means", columns, made)


def _together(question: Question) -> Steps:
    """t for each mean with its own spread, the tails shared out by Bonferroni."""
    data = question.of(SeveralSamples)
    why = _why_not_together(data)
    if why:
        raise ProcedureFails(why)
    assert question.confidence is not None
    k, sure = len(data.groups), level(question.confidence)
    each = 1 - (1 - question.confidence) / k
    made = [_own_interval(group, each) for group in data.groups]
    bars = [Panel((Lane((Interval(m.ends[0], m.mean, m.ends[1], line_role="range"),)),), m.label) for m in made]
    axis = Axis(*span(np.array([one.ends for one in made]), 0.06), f"mean ({data.unit})" if data.unit else "mean")
    picture = Picture((Frame(axis, tuple(bars)),), alt=f"The {sure} intervals of {k} means, which hold together.")
    table = _intervals_table(made, min(6, data.decimals + 1))
    told = {f"{word} of {one.label}": end for one in made for word, end in zip(("low", "high"), one.ends, strict=True)}
    remark = (
        f"We are {sure} confident that all {k} means lie in their intervals. Each interval alone has {level(each)} "
        "confidence."
    )
    result = Result(
        estimate=math.nan,
        statistic=math.nan,
        statistic_text="",
        sections=(Section("The intervals", picture, figures=(table,)),),
        working=(
            Step("Level of each", formulas(f"1 − (1 − {number(question.confidence, 4)}) / {k} = {number(each, 4)}")),
            Step("Intervals", tuple(one.line(data.decimals) for one in made)),
        ),
        figures={"each": each, "groups": float(k)} | told,
        remarks=(remark,),
    )
    yield result, 1.0


PROCEDURES = (
    Procedure(
        "anova", "Analysis of variance", "Several means; assumes equal spreads.",
        ("several samples",), ("mean",), ("normal", "outliers", "spreads"), _anova, order=1,
        from_figures=True, settings=("pairs",), other_names=("ANOVA, one-way", "F test of means")
    ),
    Procedure(
        "welch anova", "Welch analysis of variance", "Several means; the spreads may differ.",
        ("several samples",), ("mean",), ("normal", "outliers"), _welch, order=2,
        from_figures=True,
    ),
    Procedure(
        "kruskal–wallis", "Kruskal–Wallis", "Several medians by ranks.",
        ("several samples",), ("median",), ("alike",), _kruskal, order=3,
    ),
    Procedure(
        "shuffled groups F", "Shuffled labels", "F of the values with shuffled labels.",
        ("several samples",), ("mean",), ("pull", "spreads"), ByChance(_shuffled), order=4,
        simulated=True, settings=CHANCE, other_names=("permutation test", "randomization test")
    ),
    Procedure(
        "bonferroni t",
        "Bonferroni t",
        "One for each mean, wide enough to be right for all of them together.",
        ("several samples",),
        ("mean",),
        ("normal", "outliers"),
        interval=AsInterval(_together),
        order=1,
        from_figures=True,
    ),
)  # fmt: skip
