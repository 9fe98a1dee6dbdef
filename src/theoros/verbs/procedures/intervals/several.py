"""Intervals of several means that hold together."""

from __future__ import annotations

import math
from functools import partial

from theoros.answer.axis import Axis, span
from theoros.answer.formulas.notation import formula, formulas
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Section, Step, cell
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.answer.wording import number, put_in, unmarked, whole
from theoros.lazy_imports import np
from theoros.numeric.distributions.student import StudentT
from theoros.verbs.data.samples import SeveralSamples
from theoros.verbs.procedures.intervals.building import level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Question, Result, Steps


def _together(question: Question) -> Steps:
    """t for each mean with its own spread, the tails shared out by Bonferroni."""
    data: SeveralSamples = question.data
    few = [group.label for group in data.groups if group.n < 2]
    if few:
        raise ProcedureFails(f"needs at least two values in each group, and {few[0]} has fewer")
    alike = [group.label for group in data.groups if not group.summary.sd > 0]
    if alike:
        raise ProcedureFails(f"all values of {alike[0]} are equal")
    if len(data.groups) < 2:
        raise ProcedureFails("needs two groups at least")
    assert question.confidence is not None
    k, places = len(data.groups), min(6, data.decimals + 1)
    each = 1 - (1 - question.confidence) / k
    rows, bars, lines, ends = [], [], [], []
    for group in data.groups:
        s, df = group.summary, group.n - 1
        reach = StudentT(df).critical(1 - each, "different")
        error = s.sd / math.sqrt(s.n)
        low, high = s.mean - reach * error, s.mean + reach * error
        ends += [low, high]
        say = partial(put_in, decimals=data.decimals)
        bar = Interval(low, s.mean, high, line_role="range")
        bars.append(Panel((Lane((bar,)),), group.label))
        rows.append(
            FigureRow(
                (
                    Cell(group.label, group.label),
                    cell(s.n, whole(s.n)),
                    cell(s.mean, number(s.mean, places)),
                    cell(error, number(error, places)),
                    cell(reach, number(reach, 3)),
                    cell(low, number(low, places)),
                    cell(high, number(high, places)),
                )
            )
        )
        lines.append(
            formula(
                f"x̄_{{{unmarked(group.label)}}} ± t^{{*}} s/√n = {say(s.mean)} ± {number(reach, 3)} × "
                f"{say(s.sd)}/√{s.n}"
            )
        )
    headings = (
        Heading("group", "group", numeric=False),
        Heading("n", "n"),
        Heading("mean", "mean"),
        Heading("error", "standard error"),
        Heading("critical", "critical value"),
        Heading("low", "from"),
        Heading("high", "to"),
    )
    label = f"mean ({data.unit})" if data.unit else "mean"
    axis = Axis(*span(np.array(ends), 0.06), label)
    sure = level(question.confidence)
    picture = Picture((Frame(axis, tuple(bars)),), alt=f"The {sure} intervals of {k} means, which hold together.")
    section = Section("The intervals", picture, figures=(ResultTable("means", headings, tuple(rows)),))
    steps = (
        Step("Level of each", formulas(f"1 − (1 − {number(question.confidence, 4)}) / {k} = {number(each, 4)}")),
        Step("Intervals", tuple(lines)),
    )
    yield Result(
        estimate=math.nan, statistic=math.nan, statistic_text="", sections=(section,),
        working=steps, figures={"each": each, "groups": float(k)} | {
            f"{word} of {group.label}": ends[2 * at + side]
            for at, group in enumerate(data.groups) for side, word in enumerate(("low", "high"))
        },
        remarks=(f"We are {sure} confident that every one of the {k} means lies in its interval. "
                 f"Each alone is worked out with {level(each)}, so that all hold together.",),
    ), 1.0  # fmt: skip


PROCEDURES = (
    Procedure(
        "bonferroni t",
        "t, together",
        "For each mean its own, wide enough to hold together.",
        ("several samples",),
        ("mean",),
        ("normal", "outliers"),
        _together,
        order=1,
        from_figures=True,
    ),
)
