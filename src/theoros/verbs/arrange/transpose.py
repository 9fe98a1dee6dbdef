"""Transpose: rows become columns, and columns rows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.table.kinds import Kind
from theoros.table.reshape import common_kind, transpose
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import column_field
from theoros.verbs.core.slots import Phrase, Tables


@dataclass(frozen=True)
class Transpose(NewTable):
    """Each row becomes a column."""

    verb: ClassVar[str] = "transpose"
    label: ClassVar[str] = "Transpose"
    help: ClassVar[str] = (
        "Each row becomes a column, and each column a row. For a table whose cases were typed side by side."
    )
    order: ClassVar[int] = 14
    suffix: ClassVar[str] = "transposed"
    names: str | None = column_field("the names", none="row numbers")
    line: ClassVar[str] = "transposed"

    def phrase(self, tables: Tables) -> Phrase:
        names = self.field_slot("names", self.here(tables))
        return (f"Transpose {self.table}, with columns named by ", names, *self.ending(tables))

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        made = transpose(table, self.names)
        body = [c.name for c in table.columns if c.name != self.names]
        kind = common_kind(table, body)
        if all(table.column(name).kind is kind for name in body):
            return made, ()
        return made, (f"The columns are of different kinds, so all values are kept as {kind}.",)

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> Transpose:
        words = [c.name for c in table.columns if c.kind in (Kind.TEXT, Kind.CATEGORY)]
        chosen = [name for name in columns if name in words] or words
        unique = [n for n in chosen if len(table.levels(n)) == table.rows]
        return cls(table=table.name, names=unique[0] if unique else None)


ARRANGEMENTS = (Transpose,)
