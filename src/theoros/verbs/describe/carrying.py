"""Carrying the figures of groups into a test, where they stand typed in its sentence."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.parts import Link
from theoros.answer.wording import shortened
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs.core.registry import make
from theoros.verbs.data.groups import Group

Described = tuple[Group, Summary]

DIGITS = 5
"""Significant figures with which a mean or a standard deviation is carried over."""
MOST = 6
"""Other groups that a row offers to be tested against one by one."""


def carried(table: str, column: Column, groups: Sequence[Described]) -> tuple[Link, ...]:
    """A test that holds the figures of one group, or of the first two; none it cannot hold."""
    typed: list[dict[str, object]] = [
        {
            "name": shortened(group.phrase if group.label else f"these {group.phrase}", 80),
            "n": s.n,
            "mean": _short(s.mean),
            "sd": _short(s.sd),
        }
        for group, s in groups[:2]
    ]
    own = {"measure": shortened(column.name, 80), "unit": column.unit}
    both = [*typed, {}][:2]  # one that is not carried has still to be typed
    made = make("test", table=table, data={"kind": "two typed samples", **own, "groups": both})
    carried_slots = [f"data.groups.{at}." for at in range(len(typed))]
    if any(slot.problem for slot in made.slots({}) if slot.name.startswith(tuple(carried_slots))):
        return ()  # such as figures too large to square
    if len(groups) == 1:
        return (Link("Carry these figures into a test", statement=made),)
    one, two = (shortened(group.label, 30) for group, _ in groups[:2])
    return (Link(f"Test {one} against {two} by these figures", statement=made),)


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
        return carried(table, column, [own])
    return tuple(link for other in others for link in carried(table, column, [own, other]))


def _short(value: float) -> float:
    return float(f"{value:.{DIGITS}g}")
