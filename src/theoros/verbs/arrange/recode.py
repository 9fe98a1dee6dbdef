"""Recode: other names for levels, merged where they get the same one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.wording import listed
from theoros.table.changes import check_name
from theoros.table.kinds import Kind
from theoros.table.levels import recode
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_slot
from theoros.verbs.arrange.indicators import first_category, levels_slot
from theoros.verbs.core.slots import Mended, Option, Phrase, Tables, TypeText, choice_slot, column_slot, text_slot
from theoros.verbs.core.statement import column_field, level_field


@dataclass(frozen=True)
class Recode(InPlace):
    """Some levels of a category become one level, here or in a new column."""

    verb: ClassVar[str] = "recode"
    label: ClassVar[str] = "Recode levels"
    help: ClassVar[str] = (
        "Gives one or several levels of a category another name. Several that get the same name "
        "become one level, so this also merges levels. With a new column, the old one stays."
    )
    order: ClassVar[int] = 6
    by: str | None = column_field()
    levels: tuple[str, ...] = level_field("by", ())
    to: str = ""
    others: str = ""
    """What every other level becomes; empty for staying as it is."""
    into: Literal["new", "same"] = "new"
    name: str = ""

    def phrase(self, tables: Tables) -> Phrase:
        groups = (Kind.CATEGORY, Kind.ORDERED)
        by = column_slot("by", "the category", self.by, tables, self.table, groups)
        to = text_slot(
            "to", "new name", self.to, TypeText("The name of the level they become.", may_be_empty=False), quotes=True
        )
        others = text_slot(
            "others",
            "what the others become",
            self.others,
            TypeText("Leave it empty to leave the other levels as they are."),
            empty="as they are",
            quotes=True,
        )
        into = choice_slot("into", "where it goes", self.into, _INTO)
        start: Phrase = (
            "Let ",
            levels_slot(tables.get(self.table), self.by, self.levels),
            " of ",
            by,
            " become ",
            to,
            " and the others ",
            others,
            ", in ",
            into,
        )
        if self.into == "same":
            return (*start, ".")
        name = name_slot(self.name, self._free(tables.get(self.table)))
        return (*start, " called ", name, ".")

    def _free(self, table: Table | None) -> str:
        return free_name(f"{self.by or 'category'} recoded", table.by_name if table else ())

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot == "by":
            return Mended(replace(self, levels=()))
        return Mended(self)

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        assert self.by is not None
        mapping = dict.fromkeys(self.levels, self.to)
        if self.others.strip():
            rest = (level for level in table.levels(self.by) if level not in mapping)
            mapping |= dict.fromkeys(rest, self.others)
        if self.into == "same":
            return recode(table, self.by, mapping), ()
        name = check_name(self.name.strip() or self._free(table), "column", list(table.by_name))
        old = table.column(self.by)
        copy = Column(name, old.kind, old.unit, "", table.levels(self.by))
        made = with_columns(table, [(copy, table.frame[self.by])], self.by)
        return recode(made, name, mapping), ()

    @property
    def line(self) -> str:
        return f"{listed(list(self.levels))} of {self.by} became {self.to}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> Recode:
        return cls(table=table.name, by=first_category(table, columns))


_INTO = (
    Option("new", "a new column", help="The old column stays as it is."),
    Option("same", "the column itself", help="The old names are gone from the table."),
)

ARRANGEMENTS = (Recode,)
