"""Join: the columns of another table beside those of this one, by a key."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly
from theoros.table.joining import join
from theoros.table.kinds import Kind
from theoros.table.reshape import standing
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import choice_field, column_field
from theoros.verbs.core.slots import EMPTY, Mended, Option, Phrase, Tables, choice_slot, column_slot

KINDS = tuple(Kind)


_ROWS = (
    Option("all", "every row of this table", help="Without a partner, values are missing."),
    Option("matched", "only rows with a partner"),
)


@dataclass(frozen=True)
class JoinTables(NewTable):
    """Rows of two tables side by side where a key is equal."""

    verb: ClassVar[str] = "join"
    label: ClassVar[str] = "Join with a table"
    help: ClassVar[str] = (
        "Puts the columns of another table beside the rows of this one where a key, such as a name or a number, "
        "is the same in both. Rows without a partner are listed."
    )
    order: ClassVar[int] = 11
    other_names: ClassVar[tuple[str, ...]] = ("merge", "lookup")
    suffix: ClassVar[str] = "joined"
    key: str | None = column_field("the key")
    other_table: str | None = None
    other_key: str | None = None
    rows: Literal["all", "matched"] = choice_field("all", "rows", _ROWS)

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        others = [Option(name, name) for name in tables if name != self.table]
        other = choice_slot("other_table", "the other table", self.other_table, others)
        if self.other_table is None:
            why = "Choose the other table." if others else "There is no other table to join with."
            other = replace(other, shown=EMPTY, missing=why)
        other_key = column_slot(
            "other_key", "the key of the other", self.other_key, tables, self.other_table or "", KINDS
        )
        start: Phrase = (
            f"Join {self.table} with ",
            other,
            " where ",
            self.field_slot("key", here),
            " equals ",
            other_key,
        )
        return (*start, ", keeping ", self.field_slot("rows", here), *self.ending(tables))

    @property
    def draws_on(self) -> tuple[str, ...]:
        return (self.other_table,) if self.other_table else ()

    def new_name(self, tables: Tables) -> str:
        from theoros.table.table import free_name

        return free_name(f"{self.table} with {self.other_table or 'another'}", tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot != "other_table" or not self.other_table or self.other_table not in tables:
            return Mended(self)
        other = tables[self.other_table]
        if self.other_key in other.by_name:
            return Mended(self)
        return Mended(replace(self, other_key=self.key if self.key in other.by_name else None))

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        assert self.key is not None
        assert self.other_table is not None
        assert self.other_key is not None
        other = standing(tables[self.other_table])
        made = join(table, other, self.key, self.other_key, keep_all=self.rows == "all")
        notes = []
        for alone, one, two in ((made.left_alone, table.name, other.name), (made.right_alone, other.name, table.name)):
            if alone:
                keys = counted(len(alone), "key")
                has = "has" if len(alone) == 1 else "have"
                named = _some(alone)
                notes.append(f"{keys} of {one} {has} no partner in {two}: {named}.")
        if made.keyless:
            rows = counted(made.keyless, "row")
            has, stays = ("has", "stays") if made.keyless == 1 else ("have", "stay")
            left = f"{stays} without a partner" if self.rows == "all" else "left out"
            notes.append(f"{rows} of {table.name} {has} no {self.key}: {left}.")
        if made.repeated:
            named = _some(made.repeated)
            notes.append(f"In {other.name} several rows have the key {named}, so rows of {table.name} are repeated.")
        return made.table, tuple(notes)

    def renamed_table(self, old: str, new: str) -> JoinTables:
        made = super().renamed_table(old, new)
        return replace(made, other_table=new) if made.other_table == old else made

    @property
    def line(self) -> str:
        return f"joined with {self.other_table} by {self.key}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> JoinTables:
        return cls(table=table.name, key=columns[0] if columns else None)


def _some(keys: Sequence[str], most: int = 8) -> str:
    """Keys in a sentence, the first few of them if they are many."""
    return listed_briefly([*keys[:most], *(["others"] if len(keys) > most else [])], most + 1)


ARRANGEMENTS = (JoinTables,)
