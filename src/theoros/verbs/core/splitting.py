"""The part of a sentence that says by what cases are split: a category, or two at once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Protocol, TypeVar

from theoros.answer.wording import plural
from theoros.table.kinds import Kind
from theoros.verbs.core.slots import Phrase, Slot, Tables, column_slot

GROUPS = (Kind.CATEGORY, Kind.ORDERED)


class Splits(Protocol):
    """A statement that is split by the category in `by`, and by that in `and_by` too."""

    @property
    def table(self) -> str: ...
    @property
    def by(self) -> str | None: ...
    @property
    def and_by(self) -> str | None: ...


S = TypeVar("S", bound=Splits)


def for_each(statement: Splits, tables: Tables, exclude: Iterable[str] = ()) -> Phrase:
    """ " for each netting", " for each netting and grade" or " for all bushes together"."""
    table = tables.get(statement.table)
    noun = plural(table.noun) if table else "rows"
    by = column_slot(
        "by", "the groups", statement.by, tables, statement.table, GROUPS, none=f"all {noun} together", exclude=exclude
    )
    if not statement.by:
        return (" for ", by)
    if not statement.and_by:
        return (" for each ", by)
    return (" for each ", by, " and ", and_by_slot(statement, tables))


def and_by_slot(statement: Splits, tables: Tables) -> Slot:
    """The slot for a second category: then each combination of levels is a group."""
    return and_by_slot_at(statement.by, statement.and_by, tables, statement.table)


def and_by_slot_at(by: str | None, and_by: str | None, tables: Tables, table: str) -> Slot:
    """The same for a category `by` of a table."""
    return column_slot(
        "and_by",
        "each combination with",
        and_by,
        tables,
        table,
        GROUPS,
        none="no second category",
        exclude=[by] if by else [],
    )


def and_by_aside(statement: Splits, tables: Tables) -> tuple[Slot, ...]:
    """The slot among the settings, as long as the sentence does not hold it."""
    if statement.by is None or statement.and_by is not None:
        return ()
    slot = and_by_slot(statement, tables)
    return (slot,) if len(slot.holds.options) > 1 else ()  # type: ignore[union-attr]


def mend_split(statement: S, tables: Tables) -> tuple[S, list[str]]:
    """The statement without categories that its table does not have, and what is said of that."""
    table = tables.get(statement.table)
    notes: list[str] = []
    if table is None:
        return statement, notes
    made = statement
    if made.by is not None and made.by not in table.by_name:
        notes.append(f"{table.name} has no column “{made.by}”, so the groups were taken out.")
        made = replace(made, by=None, and_by=None)  # type: ignore[type-var]
    if made.and_by is not None and (made.by in (None, made.and_by) or made.and_by not in table.by_name):
        made = replace(made, and_by=None)  # type: ignore[type-var]
    return made, notes


def split_words(statement: Splits) -> str:
    """ "netting and grade"; empty where all cases are together."""
    return " and ".join(name for name in (statement.by, statement.and_by) if name)


def grouped_title(what: str, statement: Splits) -> str:
    """ "Leaf mass by netting and grade"."""
    both = split_words(statement)
    return f"{what} by {both}" if both else what
