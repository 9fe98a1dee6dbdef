"""Carrying the figures of groups into a test, where they stand typed in its sentence."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.parts import Link
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs.groups import Group
from theoros.verbs.registry import make

Described = tuple[Group, Summary]

DIGITS = 5
"""Significant figures with which a mean or a standard deviation is carried over."""
MOST = 6
"""Other groups that a row offers to be tested against one by one."""


def carried(table: str, column: Column, groups: Sequence[Described]) -> Link:
    """A test that holds the figures of one group, or of the first two."""
    fields: dict[str, object] = {}
    for place, (group, s) in zip(("first", "second"), groups, strict=False):
        fields |= {
            f"{place}_name": group.phrase if group.label else f"these {group.phrase}",
            f"{place}_n": s.n,
            f"{place}_mean": _short(s.mean),
            f"{place}_sd": _short(s.sd),
        }
    made = make(
        "test", table=table, groups="figures", measure=column.name, unit=column.unit, **fields
    )
    if len(groups) == 1:
        return Link("Carry these figures into a test", statement=made)
    one, two = groups[0][0].label, groups[1][0].label
    return Link(f"Test {one} against {two} by these figures", statement=made)


def links_of_row(
    table: str, column: Column, groups: Sequence[Described], at: int
) -> tuple[Link, ...]:
    """What the row of group `at` can be carried into: a test against each other group."""
    able = [pair for pair in groups if pair[1].n > 1]
    own = groups[at]
    if own[1].n < 2:
        return ()
    others = [pair for pair in able if pair is not own]
    if not 0 < len(others) <= MOST:
        return (carried(table, column, [own]),)
    return tuple(carried(table, column, [own, other]) for other in others)


def _short(value: float) -> float:
    return float(f"{value:.{DIGITS}g}")
