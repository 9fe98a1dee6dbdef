"""Sort: the rows in order of up to three columns."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar, Literal

from theoros.answer.wording import listed
from theoros.table.kinds import Kind
from theoros.table.rows import sort_rows
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import InPlace
from theoros.verbs.core.fields import choice_field, column_field
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables

Way = Literal["up", "down"]


def _ways(up: str, down: str) -> tuple[Option, ...]:
    return (Option("up", up), Option("down", down))


_WAYS = {
    Kind.NUMBER: _ways("from the least up", "from the greatest down"),
    Kind.DATE: _ways("from the earliest on", "from the latest back"),
    Kind.CATEGORY: _ways("in the order of its levels", "in the order of its levels, backwards"),
    Kind.ORDERED: _ways("in the order of its levels", "in the order of its levels, backwards"),
    Kind.TEXT: _ways("from A to Z", "from Z to A"),
}


@dataclass(frozen=True)
class Sort(InPlace):
    """The rows in order of up to three columns; equal rows keep their order."""

    verb: ClassVar[str] = "sort"
    label: ClassVar[str] = "Sort"
    help: ClassVar[str] = (
        "Puts the rows in order of a column, and rows equal in it in order of a second and a "
        "third. Categories go by the order of their levels; missing values come "
        "last. Table › Original order brings back the order from before."
    )
    order: ClassVar[int] = 7
    first: str | None = column_field("a column")
    way: Way = choice_field("up", "direction", _WAYS[Kind.NUMBER])
    second: str | None = column_field("the next column", none="nothing else", other_than=("first",))
    second_way: Way = choice_field("up", "direction", _WAYS[Kind.NUMBER])
    third: str | None = column_field("the third column", none="nothing else", other_than=("first", "second"))
    third_way: Way = choice_field("up", "direction", _WAYS[Kind.NUMBER])

    @property
    def _keys(self) -> list[tuple[str, bool]]:
        pairs = ((self.first, self.way), (self.second, self.second_way), (self.third, self.third_way))
        return [(name, way == "down") for name, way in pairs if name]

    def phrase(self, tables: Tables) -> Phrase:
        here, made = self.here(tables), tuple[str | Slot, ...]()
        names = (("first", "way"), ("second", "second_way"), ("third", "third_way"))
        for (name, way), joiner in zip(names, (f"Sort {self.table} by ", ", then by ", ", then by "), strict=True):
            made = (*made, joiner, self.field_slot(name, here))
            held: str | None = getattr(self, name)
            if held or name == "first":
                column = here.column(held)
                made = (*made, " ", self.field_slot(way, here, options=_WAYS[column.kind if column else Kind.NUMBER]))
            if not held:
                break
        return (*made, ".")

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        return sort_rows(table, self._keys), ()

    @property
    def line(self) -> str:
        return "sorted by " + listed([f"{n}{' down' if down else ''}" for n, down in self._keys])

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> Sort:
        names = [*columns, None, None, None]
        first = names[0] or (table.columns[0].name if table.columns else None)
        return cls(table=table.name, first=first, second=names[1], third=names[2])


ARRANGEMENTS = (Sort,)
