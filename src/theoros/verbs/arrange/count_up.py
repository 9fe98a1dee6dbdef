"""Count up: a category, or two, into a table of counts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.nouns import counted
from theoros.answer.wording import listed
from theoros.table.reshape import count_up
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import GROUPING, category_column, column_field
from theoros.verbs.core.slots import Mended, Phrase, Tables


@dataclass(frozen=True)
class CountUp(NewTable):
    """A row for each level, or each pair of levels, with the number of cases that have it."""

    verb: ClassVar[str] = "count up"
    label: ClassVar[str] = "Count up"
    help: ClassVar[str] = (
        "Makes a table of counts: a row for each level of a category, or for each combination of "
        "two, and how many cases have it. The rows of the result count as often as it says."
    )
    order: ClassVar[int] = 12
    other_names: ClassVar[tuple[str, ...]] = ("pivot", "frequency table", "tally")
    suffix: ClassVar[str] = "counts"
    by: str | None = category_column("a category")
    and_by: str | None = column_field("a second category", GROUPING, none="nothing else", other_than=("by",))

    def phrase(self, tables: Tables) -> Phrase:
        by, other = (self.field_slot(name, self.here(tables)) for name in ("by", "and_by"))
        return (f"Count the cases of {self.table} for each ", by, " and ", other, *self.ending(tables))

    def mend(self, slot: str, tables: Tables) -> Mended:
        return Mended(replace(self, and_by=None) if self.by == self.and_by else self)

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        names = [name for name in (self.by, self.and_by) if name]
        made, lost = count_up(table, names)
        if not lost:
            return made, ()
        is_missing = f"{listed(names, 'or')} is missing"
        return made, (f"{counted(lost, 'case')} not counted, since {is_missing}.",)

    @property
    def line(self) -> str:
        both = f" and {self.and_by}" if self.and_by else ""
        return f"cases counted for each {self.by}{both}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> CountUp:
        chosen = [c for c in columns if table.column(c).kind.is_grouping]
        chosen += [c.name for c in table.of_kind(*GROUPING) if not chosen][:1]
        return cls(table=table.name, by=chosen[0] if chosen else None, and_by=chosen[1] if len(chosen) > 1 else None)


ARRANGEMENTS = (CountUp,)
