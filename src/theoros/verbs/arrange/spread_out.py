"""Spread out counts: a row for each case."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.table.kinds import Kind
from theoros.table.reshape import spread_out
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import number_column
from theoros.verbs.core.slots import Phrase, Tables


@dataclass(frozen=True)
class SpreadOut(NewTable):
    """Every row as often as its count says, so that each case has a row."""

    verb: ClassVar[str] = "spread out"
    label: ClassVar[str] = "Spread out counts"
    help: ClassVar[str] = (
        "Turns a table of counts into one with a row for each case: a row with a count of 7 "
        "becomes 7 rows. The reverse of counting up."
    )
    order: ClassVar[int] = 13
    suffix: ClassVar[str] = "cases"
    count: str | None = number_column("the counts", elsewhere=False)

    def phrase(self, tables: Tables) -> Phrase:
        count = self.field_slot("count", self.here(tables))
        return (f"Give each case of {self.table} a row, as often as ", count, " says", *self.ending(tables))

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        assert self.count is not None
        lost = table.missing(self.count)
        those = "row has" if lost == 1 else "rows have"
        notes = (f"{lost} {those} no count, and {'is' if lost == 1 else 'are'} left out.",)
        return spread_out(table, self.count), notes if lost else ()

    @property
    def line(self) -> str:
        return f"spread out by {self.count}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> SpreadOut:
        chosen = [name for name in columns if table.column(name).kind is Kind.NUMBER]
        return cls(table=table.name, count=table.counts or (chosen[0] if chosen else None))


ARRANGEMENTS = (SpreadOut,)
