"""Splitting a number column into groups of cases, and saying which rows were left out."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.parts import CannotAnswer
from theoros.answer.wording import counted, group_phrase, plural
from theoros.heavy import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.table import Table

MOST_GROUPS = 60
LARGEST = 1e300


@dataclass(frozen=True, eq=False)
class Group:
    """The cases of one level: their values (finite) and the rows they stand in."""

    label: str
    phrase: str
    """How to speak of its cases: "slow trays"."""
    values: Floats
    rows: Ints
    missing: int


@dataclass(frozen=True)
class Split:
    """Groups in the order of their levels, and what was left out, in words."""

    groups: tuple[Group, ...]
    left_out: tuple[str, ...]

    @property
    def used(self) -> int:
        return sum(group.values.size for group in self.groups)

    @property
    def all_values(self) -> Floats:
        return np.concatenate([group.values for group in self.groups])


def said_aside(table: Table) -> list[str]:
    """What is said of the rows that are set aside; nothing if none is."""
    count = len(table.aside)
    return [f"{counted(count, 'row')} set aside"] if count else []


def workable(table: Table, what: str) -> Floats:
    """The numbers of a column, NaN where missing; raises CannotAnswer if some are too large."""
    values = table.numbers(what)
    if np.abs(values[np.isfinite(values)]).max(initial=0.0) > LARGEST:
        raise CannotAnswer(
            f"{what} holds values beyond 10³⁰⁰, too large to work with. Put the column in a larger "
            f"unit, so that its numbers become smaller.",
            "what",
        )
    return values


def split(table: Table, what: str, by: str | None, levels: tuple[str, ...] | None = None) -> Split:
    """The values of `what` for each level of `by`, or all together.

    Raises CannotAnswer if no value is left, or there are more groups than can be shown.
    """
    values, used = workable(table, what), table.in_use
    present = np.isfinite(values) & used
    left_out: list[str] = []
    if by is None:
        rows = np.flatnonzero(present)
        missing = int(used.sum() - rows.size)
        groups = [Group("", plural(table.noun), values[rows], rows, missing)]
    else:
        codes = table.codes(by)
        wanted = table.levels(by) if levels is None else levels
        if len(wanted) > MOST_GROUPS:
            raise CannotAnswer(
                f"{by} has {counted(len(wanted), 'level')}, more than the {MOST_GROUPS} groups that"
                f" can be shown. Choose another column, or merge levels.",
                "by",
            )
        place = {level: code for code, level in enumerate(table.levels(by))}
        groups = []
        for level in wanted:
            member = (codes == place.get(level, -2)) & used
            rows = np.flatnonzero(member & present)
            missing = int(member.sum() - rows.size)
            phrase = group_phrase(level, by, table.noun)
            groups.append(Group(level, phrase, values[rows], rows, missing))
        others = int(np.isin(codes[used], [place[x] for x in place if x not in wanted]).sum())
        if others:
            left_out.append(f"{counted(others, 'row')} left out: another {by}")
        homeless = int((codes[used] < 0).sum())
        if homeless:
            left_out.append(f"{counted(homeless, 'row')} left out: {by} is missing")
    lost = sum(group.missing for group in groups)
    if lost:
        left_out.insert(0, f"{counted(lost, 'row')} left out: {what} is missing")
    left_out += said_aside(table)
    if not any(group.values.size for group in groups):
        if table.rows == 0:
            raise CannotAnswer(f"{table.name} has no rows yet. Type or paste some values.")
        if not used.any():
            raise CannotAnswer(f"Every row of {table.name} is set aside. Take some rows back.")
        raise CannotAnswer(
            f"Every value of {what} is missing, so there is nothing to work with. "
            f"Type some values, or choose another column.",
            "what",
        )
    return Split(tuple(groups), tuple(left_out))
