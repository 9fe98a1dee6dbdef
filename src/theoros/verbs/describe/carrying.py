"""Carrying the figures of groups into a test, where they stand typed in its sentence."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.answer.parts import Link
from theoros.answer.wording import shortened
from theoros.numeric.summaries import Summary
from theoros.table.table import Column
from theoros.verbs import follow_ups
from theoros.verbs.data.counted import Counted
from theoros.verbs.data.counts import TypedCount, TypedCounts, TypedTable
from theoros.verbs.data.groups import Group
from theoros.verbs.data.typed import SeveralTyped, TypedGroup, TypedSamples
from theoros.verbs.data.typed_from import short as _short

Described = tuple[Group, Summary]

MOST_TOGETHER = 12
"""As many groups, or levels of each category, are carried over at once."""
MOST = 6
"""Other groups that a row offers to be tested against one by one."""


def _typed(group: Group, s: Summary, name: str) -> TypedGroup:
    """The figures of a group as they would be typed."""
    return TypedGroup(shortened(name, 80), s.n, _short(s.mean), _short(s.sd))


def carried(table: str, column: Column, groups: Sequence[Described]) -> tuple[Link, ...]:
    """A test that holds the figures of one group, or of the first two; none it cannot hold."""
    typed = [_typed(group, s, f"these {group.phrase}" if not group.label else group.phrase) for group, s in groups[:2]]
    both = (*typed, TypedGroup())[:2]  # one that is not carried has still to be typed
    data = TypedSamples(shortened(column.name, 80), column.unit, both)
    made = follow_ups.hypothesis_test(data, table=table)
    carried_slots = [f"data.groups.{at}." for at in range(len(typed))]
    if any(slot.problem for slot in made.slots({}) if slot.name.startswith(tuple(carried_slots))):
        return ()  # such as figures too large to square
    if len(groups) == 1:
        return (Link("Carry these figures into a test", statement=made),)
    one, two = (shortened(group.label, 30) for group, _ in groups[:2])
    return (Link(f"Test {one} against {two} by these figures", statement=made),)


def carried_together(column: Column, groups: Sequence[Described]) -> tuple[Link, ...]:
    """A test of several means that holds the figures of all groups."""
    if not 2 < len(groups) <= MOST_TOGETHER:
        return ()
    typed = tuple(_typed(group, s, group.phrase) for group, s in groups)
    data = SeveralTyped(shortened(column.name, 80), column.unit, typed)
    made = follow_ups.hypothesis_test(data, way="anova")
    if any(slot.problem for slot in made.slots({})):
        return ()
    return (Link(f"Test these {len(groups)} means by their figures", statement=made),)


def carried_counts(p: Counted) -> tuple[Link, ...]:
    """A test that holds the counts of one category, or of two."""
    counts = p.counts.T.astype(int).tolist()  # (levels, groups)
    name = shortened(p.column.name, 80)
    levels = [shortened(level, 80) for level in p.levels]
    if len(levels) < 2 or (p.by is not None and max(len(levels), len(p.groups)) > MOST_TOGETHER):
        return ()
    if p.by is None:
        held = tuple(TypedCount(n, line[0]) for n, line in zip(levels, counts, strict=True))
        made = follow_ups.hypothesis_test(TypedCounts(name, held), "shares", "chi-square of fit")
        return (Link("Test the shares by these counts", statement=made),)
    columns = tuple(shortened(group, 80) for group in p.groups)
    data = TypedTable(name, shortened(p.by, 80), tuple(levels), columns, tuple(tuple(line) for line in counts))
    made = follow_ups.hypothesis_test(data, "relation", "chi-square")
    return (Link(f"Test {name} against {p.by} by these counts", statement=made),)


def links_of_row(table: str, column: Column, groups: Sequence[Described], at: int) -> tuple[Link, ...]:
    """What the row of group `at` can be carried into: a test against each other group."""
    able = [pair for pair in groups if pair[1].n > 1]
    own = groups[at]
    if own[1].n < 2:
        return ()
    others = [pair for pair in able if pair is not own]
    if not 0 < len(others) <= MOST:
        return carried(table, column, [own])
    return tuple(link for other in others for link in carried(table, column, [own, other]))
