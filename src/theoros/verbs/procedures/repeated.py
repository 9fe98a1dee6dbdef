"""Procedures for the same cases under several conditions."""

from __future__ import annotations

import math

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.parts import ResultTable, Section
from theoros.answer.wording import number, p_value, significant, statistic, whole
from theoros.numeric.distributions.chi_square import ChiSquare
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.pairwise import matched_pairs, ranked_within
from theoros.numeric.procedures.repeated import Repeated, friedman, repeated_measures
from theoros.verbs.data.samples import RepeatedSamples
from theoros.verbs.procedures.anova_table import CUTS, Source, anova_table
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import EffectSize, Procedure, ProcedureFails, Question, Steps
from theoros.verbs.procedures.which_pairs import MOST_GROUPS, pairs_sections


def _analysis(question: Question) -> Steps:
    data = question.of(RepeatedSamples)
    try:
        found = repeated_measures(data.matrix)
    except TooFewValues:
        raise ProcedureFails("needs at least two cases and two columns") from None
    except NoSpread:
        raise ProcedureFails("all cases change by the same amount, so there is no random variation") from None
    n, k = data.matrix.shape
    lines: list[str | Formula] = [
        "Differences between cases are removed, because every case is in every condition.",
        *formulas(
            f"F = (SS_{{conditions}} / ({k} − 1)) / (SS_{{error}} / (({n} − 1)({k} − 1))) = "
            f"({significant(found.conditions / found.df_conditions, 5)}) / "
            f"({significant(found.error / found.df_error, 5)}) = {statistic(found.f, 1)}"
        ),
    ]
    partial = found.conditions / (found.conditions + found.error)
    df = f"{found.df_conditions} and {found.df_error}"
    yield result_of(
        question, FisherF(found.df_conditions, found.df_error), found.f, "F", lines, upper=True,
        estimate=math.nan, axis=f"F, {df} degrees of freedom",
        text=f"F = {statistic(found.f)}, df {df}",
        figures={"F": found.f, "df1": found.df_conditions, "df2": found.df_error,
                 "epsilon": found.epsilon, "corrected_p": found.corrected_p},
        effects=(EffectSize("partial η²", partial, word(partial, CUTS)),), tables=(_table(found),),
        remarks=(f"If the differences between columns have unequal spreads, p is {p_value(found.corrected_p)} by "
                 f"Greenhouse and Geisser (ε = {number(found.epsilon, 2)}).",),
        sections=_pairs(question, data),
    ), 1.0  # fmt: skip


def _table(found: Repeated) -> ResultTable:
    cases = found.df_error // found.df_conditions
    return anova_table(
        (
            Source("conditions", found.conditions, found.df_conditions, found.f, found.p),
            Source("cases", found.cases, cases),
            Source("error", found.error, found.df_error),
        ),
        "analysis of variance, repeated measures",
    )


def _pairs(question: Question, data: RepeatedSamples) -> tuple[Section, ...]:
    if len(data.groups) > MOST_GROUPS or len(data.groups) < 3 or not question.in_full:
        return ()
    try:
        pairs = matched_pairs(data.matrix, question.level)
    except (TooFewValues, NoSpread):
        return ()
    return pairs_sections(question, data, "paired t, adjusted by Holm", pairs)


def _friedman(question: Question) -> Steps:
    data = question.of(RepeatedSamples)
    try:
        found = friedman(data.matrix)
    except TooFewValues:
        raise ProcedureFails("needs at least two cases and two columns") from None
    except NoSpread:
        raise ProcedureFails("every case has the same value throughout") from None
    n, k = data.matrix.shape
    ranks = ", ".join(
        f"{group.label} {number(rank, 2)}" for group, rank in zip(data.groups, found.mean_ranks, strict=True)
    )
    lines: list[str | Formula] = [
        f"Rank the {k} values of each of the {whole(n)} cases; mean ranks: {ranks}.",
        formula("χ^{2} = (12 n / (k (k + 1))) Σ (R̄ − (k + 1)/2)^{2}"),
        formula(f"χ^{{2}} = {statistic(found.statistic, 1)}"),
    ]
    kendall = found.statistic / (n * (k - 1))
    yield (
        result_of(
            question,
            ChiSquare(found.df),
            found.statistic,
            "χ²",
            lines,
            upper=True,
            estimate=math.nan,
            axis=f"χ², {found.df} degrees of freedom",
            text=f"χ² = {statistic(found.statistic)}, df {found.df}",
            figures={"chi_square": found.statistic, "df": float(found.df)},
            with_df=f" {{with}} df = {found.df}",
            sections=(
                pairs_sections(question, data, "mean ranks, adjusted by Holm", ranked_within(found.mean_ranks, n))
                if 2 < k <= MOST_GROUPS and question.in_full
                else ()
            ),
            effects=(EffectSize("Kendall’s W", kendall, word(kendall, (0.1, 0.3, 0.5))),),
        ),
        1.0,
    )


PROCEDURES = (
    Procedure(
        "repeated anova", "Analysis of variance, repeated measures",
        "Several means of the same cases.",
        ("repeated",), ("mean",), ("normal", "outliers"), _analysis, order=1, other_names=("ANOVA, repeated measures",)
    ),
    Procedure(
        "friedman", "Friedman", "Several medians of the same cases, by ranks within each.",
        ("repeated",), ("median",), (), _friedman, order=2,
    ),
)  # fmt: skip
