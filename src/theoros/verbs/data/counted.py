"""Cases of a category counted by level, in all or in the groups of a second category."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import Column, Table
from theoros.verbs.data.groups import said_unused, unit_of_count, why_none


@dataclass(frozen=True, eq=False)
class Counted:
    """How many cases have each level of a category, or each pair of levels of two."""

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
    by: str | None = None
    """The second category; None where there is none."""
    percent: bool = False
    """Whether shares rather than counts are to be shown."""

    @property
    def total(self) -> float:
        return float(self.counts.sum())


MOST_LEVELS = 60
Order = Literal["levels", "by count", "as they come"]


def count_levels(table: Table, what: str, by: str | None, *, order: Order = "levels", percent: bool = False) -> Counted:
    """Counts of the levels of `what`, for each level of `by`. Raises CannotAnswer."""
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
        raise CannotAnswer(why_none(table, what), "what")
    drawn = ordered_levels(order, codes[cases], len(levels))
    place = np.argsort(drawn)
    of_level = place[codes[cases]]
    of_group = table.codes(by)[cases] if by is not None else np.zeros_like(of_level)
    rows = tuple(
        tuple(cases[(of_group == g) & (of_level == k)] for k in range(len(levels))) for g in range(len(second))
    )
    counts = np.array([[r.size for r in line] for line in rows], dtype=np.float64)
    return Counted(
        table,
        table.column(what),
        tuple(levels[k] for k in drawn),
        second,
        counts,
        rows,
        (*left_out, *said_unused(table)),
        by,
        percent,
    )


def ordered_levels(order: Order, codes: Ints, count: int) -> Ints:
    """The levels in the order in which they are to be drawn."""
    everyone = np.arange(count)
    if order == "by count":
        return np.argsort(-np.bincount(codes, minlength=count), kind="stable")
    if order == "as they come":
        first = np.full(count, codes.size)
        np.minimum.at(first, codes, np.arange(codes.size))
        return np.argsort(first, kind="stable")
    return everyone
