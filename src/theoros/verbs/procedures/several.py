"""Procedures for several groups: analysis of variance, ranks, shuffles, and which pairs differ."""

from __future__ import annotations

import math
from collections.abc import Sequence

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Section, cell
from theoros.answer.picture import Axis, Frame, Lane, Panel, Picture, Rule, span
from theoros.answer.wording import (
    exact,
    number,
    p_value,
    significant,
    statistic,
    whole,
)
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.analysis_of_variance import (
    OneWay,
    kruskal_wallis,
    one_way,
    welch_anova,
)
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.pairwise import (
    Pair,
    dunn,
    games_howell,
    letters,
    pooled_pairs,
    tukey,
)
from theoros.verbs.data.samples import SeveralSamples
from theoros.verbs.procedures.anova_table import CUTS, Source, anova_table
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.procedure import (
    Effect,
    Procedure,
    ProcedureFails,
    Question,
    Steps,
)
from theoros.verbs.procedures.simulated import CHANCE, Simulated, simulate
from theoros.verbs.procedures.tails import result_of

MOST_GROUPS = 12
"""Of more groups the pairs are too many to be listed."""


def _checked(question: Question) -> SeveralSamples:
    data: SeveralSamples = question.data
    if len(data.groups) < 2:
        raise ProcedureFails("needs two groups at least")
    empty = [group.said for group in data.groups if group.n == 0]
    if empty:
        raise ProcedureFails(f"needs a value in each group, and {empty[0]} has none")
    return data


def _one_way(data: SeveralSamples) -> OneWay:
    try:
        return one_way([group.data for group in data.groups])
    except TooFewValues:
        raise ProcedureFails("needs two values in a group at least") from None
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
            Effect("η²", table.eta_squared, word(table.eta_squared, CUTS)),
            Effect("ω²", table.omega_squared, word(table.omega_squared, CUTS)),
        ),
        tables=(_anova_table(table),), sections=_sections(question, data, method, pairs),
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
    groups, confidence = [group.data for group in data.groups], 1 - question.alpha
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
        raise ProcedureFails("needs two values in each group at least") from None
    except NoSpread:
        raise ProcedureFails("all values of a group are equal") from None
    pairs = []
    if len(groups) <= MOST_GROUPS and question.in_full:
        pairs = games_howell(groups, 1 - question.alpha)
    lines: list[str | Formula] = [
        "Each group has the weight w = n/s², so that no common spread is needed.",
        formula(
            "F = (Σ w (x̄ − x̃)^{2} / (k − 1)) / (1 + (2 (k − 2) / (k^{2} − 1)) Λ)"
        ),
        formula(
            f"F = {statistic(found.f, 1)} {{with}} df = {found.df_between} {{and}} "
            f"{number(found.df_within, 2)}"
        ),
    ]  # fmt: skip
    df = f"{found.df_between} and {number(found.df_within, 1)}"
    yield result_of(
        question, FisherF(found.df_between, found.df_within), found.f, "F", lines, upper=True,
        estimate=math.nan, axis=f"F, {df} degrees of freedom",
        text=f"F = {statistic(found.f)}, df {df}",
        figures={"F": found.f, "df1": found.df_between, "df2": found.df_within},
        sections=_sections(question, data, "Games–Howell", pairs),
    ), 1.0  # fmt: skip


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
        f"Rank all {whole(n)} values together, ties sharing the average rank.{ties}",
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
        effects=(Effect("ε²", epsilon, word(epsilon, CUTS)),),
        sections=_sections(question, data, "Dunn, adjusted by Holm", pairs),
    ), 1.0  # fmt: skip


def _shuffled(question: Question) -> Steps:
    data = _checked(question)
    table = _one_way(data)
    values = np.concatenate([group.values for group in data.groups])
    sizes = np.array([group.n for group in data.groups])
    starts = np.concatenate([[0], np.cumsum(sizes)[:-1]])
    centred = values - values.mean()
    whole_ss = float(centred @ centred)
    df1, df2 = table.df_between, table.df_within

    def make(rng: np.random.Generator, size: int) -> Floats:
        dealt = rng.permuted(np.broadcast_to(centred, (size, centred.size)), axis=1)
        sums = np.add.reduceat(dealt, starts, axis=1)
        between = (sums**2 / sizes).sum(axis=1)
        within = np.maximum(whole_ss - between, 1e-12 * whole_ss)
        return np.asarray((between / df1) / (within / df2))

    seen = table.f
    said = f"F = {statistic(seen)}"
    yield from simulate(question, Simulated(
        make, values.size, seen, "the group labels are given to the values anew, by chance",
        axis="F", said=said, lines=(formula(f"F = {statistic(seen, 1)}"),),
        around=1.0, resolution=1e-9 * max(seen, 1.0), upper=True, seen_text=said,
    ))  # fmt: skip


def _sections(
    question: Question, data: SeveralSamples, method: str, pairs: Sequence[Pair]
) -> tuple[Section, ...]:
    """Which pairs differ: a picture of the intervals, a table, and letters for groups."""
    if not pairs:
        return ()
    places = min(6, data.decimals + 2)  # so that an end is not written as 0 that is not
    names = [group.label for group in data.groups]
    ranked = math.isnan(pairs[0].low)
    rows = []
    for pair in pairs:
        differs = pair.p <= question.alpha
        ends = (
            () if ranked else (cell(pair.low, number(pair.low, places)),
                               cell(pair.high, number(pair.high, places)))
        )  # fmt: skip
        label = f"{names[pair.first]} − {names[pair.second]}"
        gap = number(pair.difference, 1 if ranked else places)
        rows.append(
            FigureRow(
                (Cell(label, label), cell(pair.difference, gap), *ends,
                 cell(pair.p, p_value(pair.p)),
                 Cell("they differ" if differs else "not shown to differ",
                      tone="good" if differs else "mute"))
            )
        )  # fmt: skip
    level = f"{exact(round(100 * (1 - question.alpha), 8))}\u00a0%"
    headings = (
        Heading("pair", "pair", numeric=False),
        Heading("difference", "mean rank difference" if ranked else "difference"),
        *(() if ranked else (Heading("low", "low end", help=f"Of the {level} interval"),
                             Heading("high", "high end", help=f"Of the {level} interval"))),
        Heading("p", "p, adjusted"), Heading("differs", "finding", numeric=False),
    )  # fmt: skip
    table = ResultTable("pairs", headings, tuple(rows), "pairs of groups")
    note = f"p-values and the {level} intervals hold for all pairs together."
    title = f"Which pairs differ: {method}"
    if ranked:
        note = "p-values hold for all pairs together."
        return (Section(title, note=note, figures=(table, _letters_table(question, data, pairs))),)
    picture = _pairs_picture(data, names, pairs)
    return (
        Section(title, picture, note=note, figures=(table, _letters_table(question, data, pairs))),
    )  # fmt: skip


def _letters_table(question: Question, data: SeveralSamples, pairs: Sequence[Pair]) -> ResultTable:
    """Groups from the highest down; two that share a letter are not shown to differ."""
    values = [question.parameter.value(group) for group in data.groups]
    order = sorted(range(len(values)), key=lambda at: -values[at])
    place = {group: at for at, group in enumerate(order)}
    moved = [Pair(place[pair.first], place[pair.second], pair.difference, pair.p) for pair in pairs]
    found = letters(len(order), moved, question.alpha)
    places = min(6, data.decimals + 1)
    rows = tuple(
        FigureRow((Cell(data.groups[group].label, data.groups[group].label),
                   cell(values[group], number(values[group], places)), Cell(found[at])))
        for at, group in enumerate(order)
    )  # fmt: skip
    headings = (
        Heading("group", "group", numeric=False), Heading("value", question.parameter.name),
        Heading("letters", "letters", numeric=False,
                help="Groups that share a letter are not shown to differ."),
    )  # fmt: skip
    return ResultTable("letters", headings, rows, "letters: who shares one is not told apart")


def _pairs_picture(data: SeveralSamples, names: list[str], pairs: Sequence[Pair]) -> Picture:
    """The interval of each difference, with a line at none."""
    ends = np.array([[pair.low, pair.high] for pair in pairs])
    low, high = span(np.append(ends.ravel(), 0.0), 0.06)
    panels = tuple(
        Panel((Lane((Interval(pair.low, pair.difference, pair.high, line_role="data"),)),),
              f"{names[pair.first]} − {names[pair.second]}")
        for pair in pairs
    )  # fmt: skip
    unit = f" ({data.unit})" if data.unit else ""
    axis = Axis(low, high, f"difference of means{unit}")
    rule = Rule(0.0, "no difference", "mute", knob=False, dashed=True)
    said = [
        f"{names[p.first]} minus {names[p.second]} from {number(p.low, 2)} to {number(p.high, 2)}"
        for p in pairs
    ]
    alt = f"Intervals of the differences of means: {'; '.join(said)}."
    return Picture((Frame(axis, panels, rules=(rule,)),), alt=alt)


PROCEDURES = (
    Procedure(
        "anova", "Analysis of variance", "Several means; takes their spreads as equal.",
        ("several samples",), ("mean",), ("normal", "outliers", "spreads"), _anova, order=1,
        from_figures=True, settings=("pairs",),
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
        "shuffled groups F", "Shuffled labels", "F of the values with labels dealt out by chance.",
        ("several samples",), ("mean",), ("pull", "spreads"), _shuffled, order=4, simulated=True,
        settings=CHANCE,
    ),
)  # fmt: skip
