"""Along the rows: moving averages, changes, index numbers, values of rows before."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.table.changes import check_name
from theoros.table.formula import quoted
from theoros.table.formula.functions import MOST_MOVING
from theoros.table.kinds import Kind
from theoros.table.table import Table, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.arrange.new_column import NewColumn
from theoros.verbs.core.fields import choice_field, number_column, number_field
from theoros.verbs.core.slots import Mended, Option, Phrase, Tables, TypeNumber

Way = Literal["average", "change", "per cent", "index", "before"]


@dataclass(frozen=True)
class _Said:
    """How a way is said, named and worked out."""

    label: str
    help: str
    before: str
    """What stands before the number of rows in the sentence."""
    after: Callable[[int], str]
    rows: TypeNumber
    named: str
    formula: str
    """With {x} for the column and {k} for the number."""
    unit: str | None = None
    """Of the new column; None for that of the old one."""


def _rows_before(count: int) -> str:
    return f" row{'' if count == 1 else 's'} before"


_BACK = TypeNumber(1, 1_000_000, whole=True, help="12 for the same month of the year before.")
_WAYS: dict[str, _Said] = {
    "average": _Said(
        "the moving average",
        "The mean of the rows around each row; over a whole cycle it shows only the trend.",
        " over ", lambda count: f" row{'' if count == 1 else 's'}",
        TypeNumber(2, MOST_MOVING, whole=True, help="12 for a year of months, 4 of quarters."),
        "{what}, moving average", "moving({x}, {k})",
    ),
    "change": _Said(
        "the change", "Each value minus the one before.", " from ", _rows_before, _BACK,
        "{what}, change", "{x} - lag({x}, {k})",
    ),
    "per cent": _Said(
        "the percentage change", "The difference of each value from the one before, in per cent.",
        " from ", _rows_before, _BACK, "{what}, percentage change",
        "if lag({x}, {k}) > 0 then 100 * ({x} / lag({x}, {k}) - 1) else missing", "%",
    ),
    "index": _Said(
        "the index number", "Each value in per cent of that of one row, the base.",
        " with row ", lambda _: " as 100", TypeNumber(1, 100_000_000, whole=True),
        "{what}, index", "if at({x}, {k}) > 0 then 100 * {x} / at({x}, {k}) else missing", "",
    ),
    "before": _Said(
        "the value", "The value of an earlier row, to compare or to predict with.",
        " of ", _rows_before, _BACK, "{what}, before", "lag({x}, {k})",
    ),
}  # fmt: skip


_OPTIONS = tuple(Option(way, one.label, help=one.help) for way, one in _WAYS.items())


@dataclass(frozen=True)
class AlongRows(InPlace):
    """A live column that says how another goes along the rows, as along time."""

    verb: ClassVar[str] = "along the rows"
    label: ClassVar[str] = "Along the rows"
    help: ClassVar[str] = (
        "Follows a number from row to row, as from month to month: moving averages, changes, "
        "percentage changes, index numbers, earlier values. The new column stays up to date. Rows "
        "are taken in the order in which they stand."
    )
    order: ClassVar[int] = 5
    what: str | None = number_column("the number", elsewhere=False)
    way: Way = choice_field("average", "what it is given", _OPTIONS)
    rows: int = number_field(12, "rows", TypeNumber(1, 100_000_000, whole=True))
    name: str = name_field()

    def phrase(self, tables: Tables) -> Phrase:
        here, said = self.here(tables), _WAYS[self.way]
        return (
            "Give each row ",
            self.field_slot("way", here),
            " of ",
            self.field_slot("what", here),
            said.before,
            self.field_slot("rows", here, holds=said.rows),
            said.after(self.rows),
            ", as a new column ",
            self.field_slot("name", here, empty=self._free(here.own)),
            ".",
        )

    def _free(self, table: Table | None) -> str:
        wanted = _WAYS[self.way].named.format(what=self.what or "number")
        return free_name(wanted, table.by_name if table else ())

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot == "way":
            usual = {"average": 12}.get(self.way, 1)
            return Mended(replace(self, rows=usual, name=""))
        return Mended(self)

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        assert self.what is not None
        said = _WAYS[self.way]
        name = check_name(self.name.strip() or self._free(table), "column", list(table.by_name))
        old = table.column(self.what)
        formula = said.formula.format(x=quoted(self.what, table.by_name), k=self.rows)
        unit = old.unit if said.unit is None else said.unit
        made, notes = NewColumn(table.name, name, unit, formula).change(table)
        return made, (*_out_of_order(table), *notes)

    @property
    def line(self) -> str:
        said = _WAYS[self.way]
        number = f"{said.before}{self.rows}{said.after(self.rows)}"
        return f"{said.label.removeprefix('the ')} of {self.what}{number}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> AlongRows:
        numbers = [c.name for c in table.of_kind(Kind.NUMBER) if not c.formula]
        chosen = next((name for name in columns if name in numbers), None)
        return cls(table=table.name, what=chosen or next(iter(numbers), None))


def _out_of_order(table: Table) -> tuple[str, ...]:
    """What is said where dates show that rows do not stand in the order of time."""
    for column in table.of_kind(Kind.DATE):
        if not table.frame[column.name].drop_nulls().is_sorted():
            return (f"The rows are not in the order of {column.name}. Sort them first if they are a time series.",)
    return ()


ARRANGEMENTS = (AlongRows,)
