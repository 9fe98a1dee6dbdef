"""Statements that split their cases by a category, or by two at once, and how that is said."""

from __future__ import annotations

from dataclasses import replace
from typing import Self

from theoros.answer.nouns import plural
from theoros.verbs.core.fields import GROUPING, column_field
from theoros.verbs.core.slots import Phrase, Slot, Tables
from theoros.verbs.core.statement import Statement


def split_by(told: str) -> str | None:
    """The field of the category."""
    return column_field("the groups", GROUPING, told, none="all cases together")


def split_by_more(told: str) -> str | None:
    """The field of a second category: then each combination of levels is a group."""
    return column_field("each combination with", GROUPING, told, none="no second category", other_than=("by",))


class SplitStatement(Statement):
    """A statement that is split by the category in `by`, and by that in `and_by` too."""

    by: str | None
    and_by: str | None

    def by_slot(self, tables: Tables, other_than: tuple[str, ...] = ()) -> Slot:
        """The slot of the category; fields in `other_than` hold columns that it cannot be."""
        here = self.here(tables)
        noun = plural(here.own.noun) if here.own else "rows"
        return self.field_slot("by", here, none=f"all {noun} together", other_than=other_than)

    def for_each(self, tables: Tables, other_than: tuple[str, ...] = ()) -> Phrase:
        """ " for each netting", " for each netting and grade" or " for all bushes together"."""
        by = self.by_slot(tables, other_than)
        if not self.by:
            return (" for ", by)
        if not self.and_by:
            return (" for each ", by)
        return (" for each ", by, " and ", self.field_slot("and_by", self.here(tables)))

    def and_by_aside(self, tables: Tables) -> tuple[Slot, ...]:
        """The slot of the second category among the settings, as long as the sentence does not hold it."""
        if self.by is None or self.and_by is not None:
            return ()
        slot = self.field_slot("and_by", self.here(tables))
        return (slot,) if len(slot.holds.options) > 1 else ()  # type: ignore[union-attr]

    def without_lost_groups(self, tables: Tables) -> tuple[Self, list[str]]:
        """It without categories that its table does not have, and what is said of that."""
        table = tables.get(self.table)
        made, notes = self, list[str]()
        if table is None:
            return made, notes
        if made.by is not None and made.by not in table.by_name:
            notes.append(f"{table.name} has no column “{made.by}”, so the groups were taken out.")
            made = replace(made, by=None, and_by=None)  # type: ignore[call-arg]
        if made.and_by is not None and (made.by in (None, made.and_by) or made.and_by not in table.by_name):
            made = replace(made, and_by=None)  # type: ignore[call-arg]
        return made, notes

    @property
    def split_words(self) -> str:
        """ "netting and grade"; empty where all cases are together."""
        return " and ".join(name for name in (self.by, self.and_by) if name)

    def grouped_title(self, what: str) -> str:
        """ "Leaf mass by netting and grade"."""
        return f"{what} by {self.split_words}" if self.split_words else what
