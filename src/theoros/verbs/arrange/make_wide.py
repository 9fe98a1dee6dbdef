"""Make wide: one column into several, by a category."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.nouns import counted
from theoros.answer.wording import listed_briefly
from theoros.table.kinds import Kind
from theoros.table.reshape import make_wide
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable
from theoros.verbs.core.fields import category_column, column_field
from theoros.verbs.core.slots import Phrase, Tables


@dataclass(frozen=True)
class MakeWide(NewTable):
    """A column for each level of a category; rows that agree in all else become one."""

    verb: ClassVar[str] = "make wide"
    label: ClassVar[str] = "Make wide"
    help: ClassVar[str] = (
        "Gives each level of a category a column of its own. Rows that agree in every other column "
        "become one row; groups may be of different sizes. The form in which matched values stand "
        "side by side."
    )
    order: ClassVar[int] = 2
    other_names: ClassVar[tuple[str, ...]] = ("reshape", "pivot")
    suffix: ClassVar[str] = "wide"
    value: str | None = column_field("the values", other_than=("by",))
    by: str | None = category_column("the category")

    def phrase(self, tables: Tables) -> Phrase:
        value, by = (self.field_slot(name, self.here(tables)) for name in ("value", "by"))
        return (f"Make {self.table} wide: a column of ", value, " for each ", by, *self.ending(tables))

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        assert self.value is not None
        assert self.by is not None
        made, homeless = make_wide(table, self.value, self.by)
        notes = []
        if homeless:
            notes.append(f"{counted(homeless, 'row')} left out, since {self.by} is missing there.")
        levels = [name for name in made.by_name if name not in table.by_name]
        short = [name for name in levels if made.missing(name)]
        if short:
            notes.append(
                f"Not every row has a value for every {self.by}: there are missing values in {listed_briefly(short)}."
            )
        return made, tuple(notes)

    @property
    def line(self) -> str:
        return f"made wide: {self.value} for each {self.by}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> MakeWide:
        chosen = [table.column(name) for name in columns]
        groups = [c.name for c in [*chosen, *table.columns] if c.kind.is_grouping]
        numbers = [c.name for c in [*chosen, *table.columns] if c.kind is Kind.NUMBER]
        return cls(table=table.name, value=numbers[0] if numbers else None, by=groups[0] if groups else None)


ARRANGEMENTS = (MakeWide,)
