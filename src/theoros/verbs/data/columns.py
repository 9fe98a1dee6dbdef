"""Slots and arrays of columns, as several ways of having data need them."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.wording import shortened
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import GROUPING
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import EMPTY, Option, Pick, Slot
from theoros.verbs.data.data import LARGEST
from theoros.verbs.data.groups import group_labels, unit_of_count

if TYPE_CHECKING:
    from theoros.verbs.data.sample import Sample

ELSEWHERE = "\x1f"
"""Between a category and a level of it, where that is not the category in use."""
MOST_OFFERED = 200


def level_slot(
    place: Place,
    name: str,
    label: str,
    value: str | None,
    by: str | None,
    and_by: str | None = None,
    *,
    other: str | None = None,
    anywhere: bool = False,
    several: bool = True,
) -> Slot:
    """A slot for a level of the category `by`, or of its combinations with `and_by`.

    `other` is a level that is taken already; with `anywhere`, levels of other categories are
    offered too, and bring their category along. `several` says whether two levels are needed.
    """
    table, options = place.own, []
    missing, shown = "", value if value is not None else EMPTY
    if table is not None:
        grouping = table.of_kind(*GROUPING)
        own = [c for c in grouping if c.name == by]
        for column in own + ([c for c in grouping if c not in own] if anywhere else []):
            mine = column.name == by
            labels = group_labels(table, column.name, and_by if mine else None)
            for level in labels[:MOST_OFFERED]:
                chosen = level if mine else f"{column.name}{ELSEWHERE}{level}"
                options.append(Option(chosen, level, column.name, group=column.name))
        missing = _why_no_level(table, label, value, by, and_by, other, several)
    return place.slot(Slot(name, label, shown, value, Pick(tuple(options)), missing))


def _why_no_level(
    table: Table, label: str, value: str | None, by: str | None, and_by: str | None, other: str | None, several: bool
) -> str:
    """What is wrong with the level that a slot holds; empty for nothing."""
    if not table.of_kind(*GROUPING):
        return (
            f"There is no category column in {table.name} for two groups. Compare two columns instead, or change a "
            "column’s kind to category."
        )
    if by is None:
        return f"Choose {label}."
    home = table.by_name.get(by)
    if home is None:
        return f"There is no column “{shortened(by)}” in {table.name}. Choose a group."
    if not home.kind.is_grouping:
        return (
            f"{by} is a {home.kind} column, which has no groups. Choose another column, or change its kind to category."
        )
    have = group_labels(table, by, and_by)
    if value is None:
        if len(have) >= (2 if several else 1):
            return f"Choose {label}."
        if have:
            return f"{by} has only one level, and a test compares two groups."
        return f"Every value of {by} is missing, so there are no groups."
    if value not in have:
        both = f"{by} and {and_by}" if and_by else by
        return f"No row has {both} “{value}” any more. Choose another group."
    if other is not None and value == other:
        return "Both groups are the same. Choose another second group."
    return ""


def first_number(table: Table) -> str | None:
    """The first number column."""
    return next((c.name for c in table.of_kind(Kind.NUMBER)), None)


def is_number(table: Table, name: str | None) -> bool:
    return name in table.by_name and table.column(str(name)).kind is Kind.NUMBER


def is_grouping(table: Table, name: str | None) -> bool:
    return name in table.by_name and table.column(str(name)).kind.is_grouping


def known_in(table: Table, *names: str) -> tuple[Ints, int]:
    """The cases in which every one of these numbers is known, and how many have not all."""
    cases = table.cases
    there = np.ones(table.rows, dtype=np.bool_)
    for name in names:
        there &= np.isfinite(table.numbers(name))
    rows = cases[there[cases]]
    return rows, int(cases.size - rows.size)


def lost_words(table: Table, count: int, names: str) -> list[str]:
    """What is said of cases that are left out for a missing value; nothing for none."""
    return [f"{counted(count, unit_of_count(table))} left out: {names} is missing"] if count else []


def workable_sample(sample: Sample, measure: str, field: str) -> None:
    """Raises CannotAnswer for a sample that is empty or too large to reckon with."""
    if sample.n == 0:
        raise CannotAnswer(
            f"There is no value of {measure} for {sample.label}, so there is nothing to compare. Choose another group.",
            field,
        )
    if sample.given is None:
        squarable(sample.values, sample.label, "data.what")


def squarable(values: Floats, name: str, field: str) -> None:
    """Raises CannotAnswer for values (at least one) whose squares cannot be reckoned with."""
    if float(np.abs(values).max()) > LARGEST:
        raise CannotAnswer(
            f"{name} holds values too large to square. Put the column in a larger unit, so its numbers become smaller.",
            field,
        )
