"""Indicators: 0/1 columns for chosen levels of a category."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.wording import listed
from theoros.table.reshape import indicators, with_columns
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import InPlace
from theoros.verbs.core.fields import category_column, levels_field
from theoros.verbs.core.slots import EMPTY, Mended, Option, Phrase, PickSeveral, Slot, Tables


@dataclass(frozen=True)
class Indicators(InPlace):
    """A column of 0 and 1 for each chosen level of a category."""

    verb: ClassVar[str] = "indicators"
    label: ClassVar[str] = "Indicators"
    help: ClassVar[str] = (
        "Makes a column for each chosen level that is 1 in the rows of that level and 0 in the "
        "others, named after the level. The mean of such a column is a proportion."
    )
    order: ClassVar[int] = 3
    by: str | None = category_column("the category")
    levels: tuple[str, ...] = levels_field("by")

    def phrase(self, tables: Tables) -> Phrase:
        by = self.field_slot("by", self.here(tables))
        return ("Make a 0/1 column for ", levels_slot(tables.get(self.table), self.by, self.levels), " of ", by, ".")

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot != "by" or self.by is None or self.table not in tables:
            return Mended(self)
        return Mended(replace(self, levels=tables[self.table].levels(self.by)))

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        assert self.by is not None
        made = indicators(table, self.by, self.levels)
        return with_columns(table, made, self.by), ()

    @property
    def line(self) -> str:
        return f"0/1 columns for {listed(list(self.levels))} of {self.by}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> Indicators:
        by = first_category(table, columns)
        return cls(table=table.name, by=by, levels=table.levels(by)[:12] if by else ())


def levels_slot(table: Table | None, by: str | None, chosen: tuple[str, ...]) -> Slot:
    """A slot for some levels of the column `by`."""
    levels: tuple[str, ...] = ()
    if table is not None and by is not None and by in table.by_name:
        levels = table.levels(by) if table.column(by).kind.is_grouping else ()
    holds = PickSeveral(tuple(Option(level, level) for level in levels), what="levels")
    shown = listed(list(chosen)) if chosen else EMPTY
    if levels and chosen == levels:
        shown = "each level"
    return Slot("levels", "levels", shown, chosen, holds, "" if chosen else "Choose levels.")


def first_category(table: Table, columns: Sequence[str]) -> str | None:
    """The first selected category, or the first that the table has."""
    chosen = [table.column(name) for name in columns]
    return next((c.name for c in [*chosen, *table.columns] if c.kind.is_grouping), None)


ARRANGEMENTS = (Indicators,)
