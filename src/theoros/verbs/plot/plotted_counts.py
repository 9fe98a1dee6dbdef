"""What a picture of counts has to show: the cases of each level, in each group."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.parts import CannotAnswer
from theoros.answer.picture import Key
from theoros.answer.wording import counted
from theoros.heavy import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import Column, Table
from theoros.verbs.data.groups import said_unused, unit_of_count
from theoros.verbs.plot.colouring import tinted
from theoros.verbs.plot.statement import PlotStatement


@dataclass(frozen=True, eq=False)
class PlottedCounts:
    """A plot of one category, or of two: how many cases have each level, or each pair."""

    statement: PlotStatement
    table: Table
    column: Column
    levels: tuple[str, ...]
    """In the order in which they are drawn."""
    groups: tuple[str, ...]
    """Levels of the second category; one empty text where there is none."""
    counts: Floats
    """Shape (groups, levels)."""
    rows: tuple[tuple[Ints, ...], ...]
    """The rows of each, by group and level."""
    left_out: tuple[str, ...]

    @property
    def total(self) -> float:
        return float(self.counts.sum())

    @property
    def keys(self) -> tuple[Key, ...]:
        return tinted(self.statement, tuple(Key(level) for level in self.levels))


MOST_LEVELS = 60


def plotted_counts(statement: PlotStatement, table: Table) -> PlottedCounts:
    """What a plot of a category has to show. Raises CannotAnswer."""
    assert statement.what is not None
    what, by = statement.what, statement.by
    cases, codes = table.cases, table.codes(what)
    levels = list(table.levels(what))
    if len(levels) > MOST_LEVELS:
        raise CannotAnswer(
            f"{what} has {len(levels)} levels, more than the {MOST_LEVELS} that can be shown. "
            f"Choose another column, or merge levels.",
            "what",
        )
    there = codes[cases] >= 0
    left = [f"{counted(int((~there).sum()), unit_of_count(table))} left out: {what} is missing"]
    left_out = left if (~there).any() else []
    cases = cases[there]
    second: tuple[str, ...] = ("",)
    if by is not None:
        second = table.levels(by)
        if len(second) > MOST_LEVELS:
            raise CannotAnswer(
                f"{by} has {len(second)} levels, more than the {MOST_LEVELS} that can be shown. "
                f"Choose another column, or merge levels.",
                "by",
            )
        known = table.codes(by)[cases] >= 0
        if (~known).any():
            lost = counted(int((~known).sum()), unit_of_count(table))
            left_out.append(f"{lost} left out: {by} is missing")
        cases = cases[known]
    if not cases.size:
        from theoros.verbs.data.groups import why_none

        raise CannotAnswer(why_none(table, what), "what")
    order = ordered_levels(statement, codes[cases], len(levels))
    place = np.argsort(order)
    of_level = place[codes[cases]]
    of_group = table.codes(by)[cases] if by is not None else np.zeros_like(of_level)
    rows = tuple(
        tuple(cases[(of_group == g) & (of_level == k)] for k in range(len(levels)))
        for g in range(len(second))
    )
    counts = np.array([[r.size for r in line] for line in rows], dtype=np.float64)
    return PlottedCounts(
        statement, table, table.column(what), tuple(levels[k] for k in order), second, counts,
        rows, (*left_out, *said_unused(table)),
    )  # fmt: skip


def ordered_levels(statement: PlotStatement, codes: Ints, count: int) -> Ints:
    """The levels in the order in which they are to be drawn."""
    everyone = np.arange(count)
    if statement.order == "by count":
        return np.argsort(-np.bincount(codes, minlength=count), kind="stable")
    if statement.order == "as they come":
        first = np.full(count, codes.size)
        np.minimum.at(first, codes, np.arange(codes.size))
        return np.argsort(first, kind="stable")
    return everyone
