"""Which pairs of groups differ: a picture of the intervals, the pairs, letters for groups."""

from __future__ import annotations

import math
from collections.abc import Sequence

from theoros.answer.axis import Axis, span
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, Section, cell
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule
from theoros.answer.wording import number, p_value, percent_text
from theoros.lazy_imports import np
from theoros.numeric.procedures.pairwise import Pair, letters
from theoros.verbs.core.verdict import shown
from theoros.verbs.data.samples import SeveralSamples
from theoros.verbs.procedures.procedure import Question

MOST_GROUPS = 12
"""Of more groups the pairs are too many to be listed."""


def pairs_sections(question: Question, data: SeveralSamples, method: str, pairs: Sequence[Pair]) -> tuple[Section, ...]:
    """Which pairs differ: a picture of the intervals, a table, and letters for groups."""
    if not pairs:
        return ()
    places = min(6, data.decimals + 2)  # so that an end is not written as 0 that is not
    names = [group.label for group in data.groups]
    ranked = math.isnan(pairs[0].low)
    rows = []
    for pair in pairs:
        differs = shown(pair.p, question.alpha)
        ends = () if ranked else (cell(pair.low, number(pair.low, places)), cell(pair.high, number(pair.high, places)))
        label = f"{names[pair.first]} − {names[pair.second]}"
        gap = number(pair.difference, 1 if ranked else places)
        rows.append(
            FigureRow(
                (
                    Cell(label, label),
                    cell(pair.difference, gap),
                    *ends,
                    cell(pair.p, p_value(pair.p)),
                    Cell("they differ" if differs else "not shown to differ", tone="good" if differs else "mute"),
                )
            )
        )
    level = percent_text(1 - question.alpha)
    headings = (
        Heading("pair", "pair", numeric=False),
        Heading("difference", "mean rank difference" if ranked else "difference"),
        *(
            ()
            if ranked
            else (
                Heading("low", "low end", help=f"Of the {level} interval"),
                Heading("high", "high end", help=f"Of the {level} interval"),
            )
        ),
        Heading("p", "p, adjusted"),
        Heading("differs", "finding", numeric=False),
    )
    table = ResultTable("pairs", headings, tuple(rows), "pairs of groups")
    note = f"p-values and the {level} intervals hold for all pairs together."
    title = f"Which pairs differ: {method}"
    if ranked:
        note = "p-values hold for all pairs together."
        return (Section(title, note=note, figures=(table, _letters_table(question, data, pairs))),)
    picture = _pairs_picture(data, names, pairs)
    return (Section(title, picture, note=note, figures=(table, _letters_table(question, data, pairs))),)


def _letters_table(question: Question, data: SeveralSamples, pairs: Sequence[Pair]) -> ResultTable:
    """Groups from the highest down; two that share a letter are not shown to differ."""
    values = [question.parameter.value(group) for group in data.groups]
    order = sorted(range(len(values)), key=lambda at: -values[at])
    place = {group: at for at, group in enumerate(order)}
    moved = [Pair(place[pair.first], place[pair.second], pair.difference, pair.p) for pair in pairs]
    found = letters(len(order), moved, question.alpha)
    places = min(6, data.decimals + 1)
    rows = tuple(
        FigureRow(
            (
                Cell(data.groups[group].label, data.groups[group].label),
                cell(values[group], number(values[group], places)),
                Cell(found[at]),
            )
        )
        for at, group in enumerate(order)
    )
    headings = (
        Heading("group", "group", numeric=False),
        Heading("value", question.parameter.name),
        Heading("letters", "letters", numeric=False, help="Groups that share a letter do not differ significantly."),
    )
    return ResultTable("letters", headings, rows, "letters: groups that share one do not differ significantly")


def _pairs_picture(data: SeveralSamples, names: list[str], pairs: Sequence[Pair]) -> Picture:
    """The interval of each difference, with a line at none."""
    ends = np.array([[pair.low, pair.high] for pair in pairs])
    low, high = span(np.append(ends.ravel(), 0.0), 0.06)
    panels = tuple(
        Panel(
            (Lane((Interval(pair.low, pair.difference, pair.high, line_role="data"),)),),
            f"{names[pair.first]} − {names[pair.second]}",
        )
        for pair in pairs
    )
    unit = f" ({data.unit})" if data.unit else ""
    axis = Axis(low, high, f"difference of means{unit}")
    rule = Rule(0.0, "no difference", "mute", knob=False, dashed=True)
    said = [f"{names[p.first]} minus {names[p.second]} from {number(p.low, 2)} to {number(p.high, 2)}" for p in pairs]
    alt = f"Intervals of the differences of means: {'; '.join(said)}."
    return Picture((Frame(axis, panels, rules=(rule,)),), alt=alt)
