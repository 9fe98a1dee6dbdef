"""Make long: several columns into one of values and one that says where each came from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.wording import listed
from theoros.table.kinds import Kind
from theoros.table.reshape import common_kind, make_long
from theoros.table.table import Table
from theoros.verbs.arrange.arrangement import NewTable, name_field
from theoros.verbs.core.fields import columns_field
from theoros.verbs.core.slots import Phrase, Tables


@dataclass(frozen=True)
class MakeLong(NewTable):
    """Several columns put one below the other, with a column that says where each came from."""

    verb: ClassVar[str] = "make long"
    label: ClassVar[str] = "Make long"
    help: ClassVar[str] = (
        "Puts several columns, such as one for each season, one below the other: one column with "
        "all the values, and one that says which column each came from. The form to plot, describe "
        "and compare groups."
    )
    order: ClassVar[int] = 1
    other_names: ClassVar[tuple[str, ...]] = ("reshape", "stack columns", "unpivot")
    suffix: ClassVar[str] = "long"
    of_one_column: ClassVar[bool] = False
    columns: tuple[str, ...] = columns_field("columns to put together", least=2)
    value: str = name_field("name for the values", "value")
    source: str = name_field("name for where they came from", "from")

    def phrase(self, tables: Tables) -> Phrase:
        columns, value, source = (self.field_slot(name, self.here(tables)) for name in ("columns", "value", "source"))
        return (
            f"Make {self.table} long: put ",
            columns,
            " into one column called ",
            value,
            ", with ",
            source,
            " saying which each came from",
            *self.ending(tables),
        )

    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        made = make_long(table, self.columns, self.value or "value", self.source or "from")
        notes = []
        units = {table.column(name).unit for name in self.columns}
        if len(units) > 1:
            said = listed(sorted(unit or "none" for unit in units))
            notes.append(
                f"The columns have different units ({said}), so the values get none: check that "
                f"they may stand in one column."
            )
        kind = common_kind(table, self.columns)
        if any(table.column(name).kind is not kind for name in self.columns):
            notes.append(f"The columns are of different kinds, so the values are kept as {kind}.")
        if table.counts in self.columns:
            made = made.with_(counts="")
        missing = sum(table.missing(name) for name in self.columns)
        if missing:
            many = "value is" if missing == 1 else "values are"
            notes.append(f"{missing} {many} missing; the rows are kept.")
        return made, tuple(notes)

    @property
    def line(self) -> str:
        return f"made long from {listed(list(self.columns))}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> MakeLong:
        chosen = tuple(columns) if len(columns) > 1 else ()
        if not chosen:
            # columns with one unit are most likely the same thing measured several times
            by_unit: dict[str, list[str]] = {}
            for column in table.of_kind(Kind.NUMBER):
                by_unit.setdefault(column.unit, []).append(column.name)
            best = max(by_unit.values(), key=len, default=[])
            chosen = tuple(best) if len(best) > 1 else ()
        return cls(table=table.name, columns=chosen)


ARRANGEMENTS = (MakeLong,)
