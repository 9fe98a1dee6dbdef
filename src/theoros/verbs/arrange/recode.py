"""Recode: other names for levels, merged where they get the same one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.wording import listed
from theoros.table.changes import check_name
from theoros.table.levels import recode
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.arrange.indicators import first_category, levels_slot
from theoros.verbs.core.fields import category_column, choice_field, levels_field, text_field
from theoros.verbs.core.slots import Mended, Option, Phrase, Tables, TypeText

_INTO = (
    Option("new", "a new column", help="The old column stays as it is."),
    Option("same", "the column itself", help="The old names are removed from the table."),
)


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
    by: str | None = category_column("the category")
    levels: tuple[str, ...] = levels_field("by")
    to: str = text_field("new name", TypeText("The name of the level they become.", may_be_empty=False), quotes=True)
    others: str = text_field(
        "what the others become",
        TypeText("Leave it empty to leave the other levels as they are."),
        empty="as they are",
        quotes=True,
    )
    into: Literal["new", "same"] = choice_field("new", "where it goes", _INTO)
    name: str = name_field()

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        by, to, others, into = (self.field_slot(name, here) for name in ("by", "to", "others", "into"))
        levels = levels_slot(here.own, self.by, self.levels)
        start: Phrase = ("Let ", levels, " of ", by, " become ", to, " and the others ", others, ", in ", into)
        if self.into == "same":
            return (*start, ".")
        return (*start, " called ", self.field_slot("name", here, empty=self._free(here.own)), ".")

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


ARRANGEMENTS = (Recode,)
