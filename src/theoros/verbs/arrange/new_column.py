"""New column: worked out by a formula, and following what it uses."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.table.changes import check_name
from theoros.table.formula import quoted
from theoros.table.kinds import Kind
from theoros.table.recalculation import settled
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.core.fields import text_field
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeFormula, TypeText, text_slot


@dataclass(frozen=True)
class NewColumn(InPlace):
    """A live column: its values follow whatever its formula uses."""

    verb: ClassVar[str] = "new column"
    label: ClassVar[str] = "New column by a formula"
    help: ClassVar[str] = (
        "Calculates a column from others, such as leaf mass / leaf length, and keeps it up to date "
        'when they change. Conditions: if pluck mass >= 50 then "heavy" else "light". A name '
        "with spaces is written as it is."
    )
    order: ClassVar[int] = 4
    other_names: ClassVar[tuple[str, ...]] = ("compute", "calculate", "transform")
    name: str = name_field()
    unit: str = text_field("unit", TypeText("Such as g or cm.", longest=40), empty="no unit")
    formula: str = ""

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        name, unit = self.field_slot("name", here, empty=self._free(tables)), self.field_slot("unit", here)
        return (
            "Make a new column called ",
            name,
            " in " if self.unit else " with ",
            unit,
            ": ",
            formula_slot("formula", self.formula, tables, self.table),
            ".",
        )

    def _free(self, tables: Tables) -> str:
        table = tables.get(self.table)
        return free_name("new column", table.by_name if table else ())

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        name = self.name.strip() or free_name("new column", table.by_name)
        name = check_name(name, "column", list(table.by_name))
        import theoros.table.formula as formulas

        worked = formulas.evaluate(self.formula, table)
        column = Column(name, Kind.NUMBER, self.unit.strip(), formula=self.formula.strip())
        # the values are put in when the table settles; here it gets the place
        blank = worked.values.clear(table.rows).cast(Kind.NUMBER.dtype, strict=False)
        used = formulas.columns_in(self.formula, table.by_name)
        behind = max(used, key=table.place, default="")
        made = settled(with_columns(table, [(column, blank)], behind), None)
        notes: tuple[str, ...] = ()
        lost = made.missing(name)
        if lost:
            those = "row" if lost == 1 else "rows"
            notes = (f"It is missing in {lost} {those}, because it cannot be calculated there.",)
        return made, notes

    @property
    def line(self) -> str:
        return f"{self.name or 'a new column'} = {self.formula}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> NewColumn:
        numbers = [name for name in columns if table.column(name).kind is Kind.NUMBER]
        formula = ""
        if len(numbers) > 1:
            one, two = (quoted(name, table.by_name) for name in numbers[:2])
            formula = f"{one} - {two}"
        return cls(table=table.name, formula=formula)


def formula_slot(name: str, value: str, tables: Tables, table: str, *, condition: bool = False) -> Slot:
    """A slot for a formula over a table's columns, with what is wrong with it."""
    own = tables.get(table)
    columns = tuple(own.by_name) if own else ()
    what = "a condition" if condition else "a formula"
    holds = TypeFormula(columns=columns, condition=condition, help=f"Type {what}.")
    slot = text_slot(name, what, value, holds)
    if not value.strip():
        return Slot(name, slot.label, slot.shown, value, holds, f"Type {what}.")
    return slot


ARRANGEMENTS = (NewColumn,)
