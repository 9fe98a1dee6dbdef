"""The table of an analysis of variance, whatever its lines are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.wording import p_value, significant, statistic

CUTS = (0.01, 0.06, 0.14)
"""Where a small, a medium and a large η² begin (Cohen 1988)."""


@dataclass(frozen=True)
class Source:
    """A line: sum of squares and degrees of freedom, with F and p where there are such."""

    name: str
    ss: float
    df: int
    f: float | None = None
    p: float | None = None
    mean: bool = True
    """Whether its mean square is shown."""


def anova_table(sources: Sequence[Source], title: str = "analysis of variance") -> ResultTable:
    blank = Cell("")
    rows = []
    for one in sources:
        tested = one.f is not None and one.p is not None
        rows.append(
            FigureRow(
                (
                    Cell(one.name, one.name),
                    cell(one.ss, significant(one.ss, 6)),
                    cell(one.df),
                    cell(one.ss / one.df, significant(one.ss / one.df, 5)) if one.mean else blank,
                    cell(one.f, statistic(one.f)) if tested and one.f is not None else blank,
                    cell(one.p, p_value(one.p)) if tested and one.p is not None else blank,
                )
            )
        )
    headings = (
        Heading("source", "source", numeric=False),
        Heading("ss", "sum of squares"),
        Heading("df", "df"),
        Heading("ms", "mean square"),
        Heading("F", "F"),
        Heading("p", "p-value"),
    )
    return ResultTable("anova", headings, tuple(rows), title)
