"""Two-way analysis of variance: the interaction, and what each category does beside the other."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.axis import Axis, role_of, span
from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formulas
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line
from theoros.answer.layers.points import Points
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Section, cell
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture
from theoros.answer.result_tables import named_headings
from theoros.answer.wording import number, significant, statistic, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.procedures.means import NoSpread, TooFewValues
from theoros.numeric.procedures.two_way import EmptyCell, TwoWay, two_way
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.samples import TwoFactorSamples
from theoros.verbs.procedures.anova_table import CUTS, Source, anova_table
from theoros.verbs.procedures.effects import word
from theoros.verbs.procedures.p_values import result_of
from theoros.verbs.procedures.procedure import EffectSize, Procedure, ProcedureFails, Question, Steps

MOST_LINES = 8
"""Of more levels a picture of lines cannot be read."""


def _worked_out(question: Question) -> TwoWay:
    data = question.of(TwoFactorSamples)
    for name, levels in zip(data.factors, data.levels, strict=True):
        if len(levels) < 2:
            raise ProcedureFails(f"needs at least two levels of {name} with values")
    shape = len(data.levels[0]), len(data.levels[1])
    try:
        return two_way(data.values, *data.codes, shape, question.settings.sums)
    except EmptyCell as empty:
        pair = f"{data.levels[0][empty.first]} and {data.levels[1][empty.second]}"
        raise ProcedureFails(
            f"needs values for every pair of levels, and {pair} has none: merge levels, or leave one out"
        ) from None
    except TooFewValues:
        raise ProcedureFails("needs two values for some pair of levels at least") from None
    except NoSpread:
        raise ProcedureFails("all values of each pair of levels are equal") from None


def _effect(question: Question, *, of: str) -> Steps:
    data = question.of(TwoFactorSamples)
    table = _worked_out(question)
    effect = {"interaction": table.interaction, "first": table.first, "second": table.second}[of]
    one, two = data.factors
    name = {"interaction": f"{one} × {two}", "first": one, "second": two}[of]
    f, df = table.f(effect), f"{effect.df} and {table.error.df}"
    lines: list[str | Formula] = [
        _how(question.settings.sums, of, one, two, balanced=table.balanced),
        *formulas(
            f"F = (SS / {effect.df}) / (SS_{{error}} / {table.error.df}) = "
            f"({significant(effect.ss / effect.df, 5)}) / ({significant(table.mean_error, 5)}) = "
            f"{statistic(f, 1)}"
        ),
    ]
    partial_eta = effect.ss / (effect.ss + table.error.ss)
    remarks: tuple[str, ...] = ()
    if of != "interaction" and shown(table.p(table.interaction), question.alpha):
        remarks = (
            f"There is evidence of an interaction too: the effect of {name} depends on the other category, so look "
            "at the cell means.",
        )
    yield (
        result_of(
            question,
            FisherF(effect.df, table.error.df),
            f,
            "F",
            lines,
            upper=True,
            estimate=math.nan,
            axis=f"F, {df} degrees of freedom",
            text=f"F = {statistic(f)}, df {df}",
            figures={"F": f, "df1": effect.df, "df2": table.error.df, "ss": effect.ss, "ss_error": table.error.ss},
            effects=(EffectSize(f"partial η² of {name}", partial_eta, word(partial_eta, CUTS)),),
            tables=(_table(question, data, table),),
            sections=(_cell_means(data, table),),
            remarks=remarks,
        ),
        1.0,
    )


def _how(sums: str, of: str, one: str, two: str, *, balanced: bool) -> str:
    if balanced:
        return "Every pair of levels has as many values, so all types of sums of squares agree."
    if of == "interaction":
        return "SS is what the interaction adds to a model with both categories."
    name, other = (one, two) if of == "first" else (two, one)
    return {
        "II": f"SS is what {name} adds to a model with {other} (type II).",
        "III": f"SS is what {name} adds to a model with {other} and the interaction (type III).",
        "I": f"SS is what {one} explains alone (type I)."
        if of == "first"
        else f"SS is what {two} adds once {one} is in the model (type I).",
    }[sums]


def _table(question: Question, data: TwoFactorSamples, table: TwoWay) -> ResultTable:
    one, two = data.factors
    pairs = ((one, table.first), (two, table.second), (f"{one} × {two}", table.interaction))
    kind = "" if table.balanced else f", sums of squares of type {question.settings.sums}"
    return anova_table(
        (
            *(Source(name, e.ss, e.df, table.f(e), table.p(e)) for name, e in pairs),
            Source("error", table.error.ss, table.error.df),
            Source("total", table.total, int(data.values.size) - 1, mean=False),
        ),
        f"two-way analysis of variance{kind}",
    )


def _cell_means(data: TwoFactorSamples, table: TwoWay) -> Section:
    """The mean of each pair of levels: lines that are not parallel are an interaction."""
    one, two = data.factors
    places = min(6, data.decimals + 1)
    rows = tuple(
        FigureRow(
            (
                Cell(level, level),
                *(
                    cell(float(mean), f"{number(float(mean), places)} (n = {whole(int(n))})")
                    for mean, n in zip(table.means[at], table.cells[at], strict=True)
                ),
            )
        )
        for at, level in enumerate(data.levels[0])
    )
    headings = (Heading("level", one, numeric=False), *named_headings(data.levels[1], ("level",)))
    figures = (ResultTable("cells", headings, rows, f"means of {data.measure}"),)
    note = "Lines that are not parallel suggest an interaction."
    if len(data.levels[1]) > MOST_LINES:
        return Section("Cell means", figures=figures)
    at = np.arange(len(data.levels[0]), dtype=np.float64)
    layers: list[Layer] = []
    for code in range(len(data.levels[1])):
        means = np.asarray(table.means[:, code])
        codes = np.full(at.size, code, dtype=np.int64)
        layers.append(Line(at, means, role_of(code), 2.0))
        layers.append(Points(at, means, codes, codes, 10.0, stands_for="case"))
    low, high = span(table.means.ravel(), 0.12)
    names = tuple((float(k), level) for k, level in enumerate(data.levels[0]))
    axis = Axis(-0.4, at.size - 0.6, one, names=names)
    frame = Frame(axis, (Panel((Lane(tuple(layers), y=Axis(low, high, f"mean {data.axis}")),)),), show_y=True)
    said = [
        f"{level}: "
        + ", ".join(
            f"{other} {number(float(mean), places)}" for other, mean in zip(data.levels[1], table.means[k], strict=True)
        )
        for k, level in enumerate(data.levels[0])
    ]
    alt = f"Means of {data.measure} for {one} by {two}, a line for each {two}. {'; '.join(said)}."
    picture = Picture((frame,), tuple(Key(level) for level in data.levels[1]), alt)
    return Section(f"Cell means: {one} along, a line for each {two}", picture, note=note, figures=figures)


_NEEDS = ("normal", "outliers", "spreads")
PROCEDURES = (
    Procedure(
        "interaction", "F test of the interaction", "Whether the effect of one category depends on the other.",
        ("two factors",), ("mean",), _NEEDS, partial(_effect, of="interaction"), order=1,
        settings=("sums",), other_names=("ANOVA, two-way",)
    ),
    Procedure(
        "first factor", "F test of the first category",
        "Whether means differ between levels of the first category, allowing for the second.",
        ("two factors",), ("mean",), _NEEDS, partial(_effect, of="first"), order=2,
        settings=("sums",),
    ),
    Procedure(
        "second factor", "F test of the second category",
        "Whether means differ between levels of the second category, allowing for the first.",
        ("two factors",), ("mean",), _NEEDS, partial(_effect, of="second"), order=3,
        settings=("sums",),
    ),
)  # fmt: skip
