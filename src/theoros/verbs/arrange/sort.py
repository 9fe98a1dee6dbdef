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
from theoros.verbs.core.slots import Option, Phrase, Tables, choice_slot, column_slot
from theoros.verbs.core.statement import column_field

Way = Literal["up", "down"]


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
    first: str | None = column_field()
    way: Way = "up"
    second: str | None = column_field()
    second_way: Way = "up"
    third: str | None = column_field()
    third_way: Way = "up"

    @property
    def _keys(self) -> list[tuple[str, bool]]:
        pairs = ((self.first, self.way), (self.second, self.second_way), (self.third, self.third_way))
        return [(name, way == "down") for name, way in pairs if name]

    def phrase(self, tables: Tables) -> Phrase:
        table = tables.get(self.table)

        def way(slot: str, value: Way, name: str | None) -> Phrase:
            kind = table.by_name[name].kind if table and name and name in table.by_name else Kind.NUMBER
            return (" ", choice_slot(slot, "direction", value, _WAYS[kind]))

        everything = tuple(Kind)
        first = column_slot("first", "a column", self.first, tables, self.table, everything)
        made: Phrase = (f"Sort {self.table} by ", first, *way("way", self.way, self.first))
        if not self.first:
            return (*made, ".")
        second = column_slot(
            "second",
            "the next column",
            self.second,
            tables,
            self.table,
            everything,
            none="nothing else",
            exclude=[self.first],
        )
        made = (*made, ", then by ", second)
        if not self.second:
            return (*made, ".")
        third = column_slot(
            "third",
            "the third column",
            self.third,
            tables,
            self.table,
            everything,
            none="nothing else",
            exclude=[self.first, self.second],
        )
        made = (*made, *way("second_way", self.second_way, self.second), ", then by ", third)
        if not self.third:
            return (*made, ".")
        return (*made, *way("third_way", self.third_way, self.third), ".")

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


def _ways(up: str, down: str) -> tuple[Option, ...]:
    return (Option("up", up), Option("down", down))


_WAYS = {
    Kind.NUMBER: _ways("from the least up", "from the greatest down"),
    Kind.DATE: _ways("from the earliest on", "from the latest back"),
    Kind.CATEGORY: _ways("in the order of its levels", "in the order of its levels, backwards"),
    Kind.ORDERED: _ways("in the order of its levels", "in the order of its levels, backwards"),
    Kind.TEXT: _ways("from A to Z", "from Z to A"),
}

ARRANGEMENTS = (Sort,)
