"""Classes: a number parted into classes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.nouns import counted
from theoros.answer.wording import listed
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.table.changes import check_name
from theoros.table.classes import class_names, class_of, equal_count, equal_width, given_cuts
from theoros.table.kinds import Kind
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, TableError, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.core.fields import choice_field, number_column, number_field, text_field
from theoros.verbs.core.slots import Mended, Option, Phrase, Tables, TypeNumber, TypeText

How = Literal["equal width", "equal count", "given cuts"]


_HOW = (
    Option("equal width", "equal width", help="All classes have the same width."),
    Option("equal count", "equal count", help="All classes have the same number of rows, if ties allow it."),
    Option("given cuts", "given cuts", help="Classes between the cuts that you type."),
)


@dataclass(frozen=True)
class ClassColumn(InPlace):
    """An ordered column that says in which class of a number each row lies."""

    verb: ClassVar[str] = "classes"
    label: ClassVar[str] = "Classes"
    help: ClassVar[str] = (
        "Divides a number into classes, as an ordered column: classes of equal width, classes that hold equally "
        "many rows, or classes between cuts that you type. A value on a cut belongs to the class above it."
    )
    order: ClassVar[int] = 5
    what: str | None = number_column("the number", elsewhere=False)
    how: How = choice_field("equal width", "how it is parted", _HOW)
    count: int = number_field(4, "number of classes", TypeNumber(2, 50, whole=True))
    cuts: str = text_field("cuts", TypeText("The cuts, separated by spaces: 10 20 30.", may_be_empty=False))
    name: str = name_field()

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        what, how = self.field_slot("what", here), self.field_slot("how", here)
        name = self.field_slot("name", here, empty=self._free(here.own))
        if self.how == "given cuts":
            return ("Part ", what, " into classes by ", how, " at ", self.field_slot("cuts", here), ", as ", name, ".")
        return ("Part ", what, " into ", self.field_slot("count", here), " classes of ", how, ", as ", name, ".")

    def _free(self, table: Table | None) -> str:
        return free_name(f"{self.what or 'number'} class", table.by_name if table else ())

    def mend(self, slot: str, tables: Tables) -> Mended:
        if slot == "what" and self.cuts:
            return Mended(replace(self, cuts=""), ("The cuts are for another column now.",))
        return Mended(self)

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        assert self.what is not None
        column, values = table.column(self.what), table.numbers(self.what)
        finite: Floats = values[np.isfinite(values)]
        if not finite.size:
            raise TableError(f"Every value of {self.what} is missing.")
        open_ends = self.how == "given cuts"
        if open_ends:
            cuts = given_cuts(self.cuts)
        else:
            cuts = (equal_width if self.how == "equal width" else equal_count)(finite, self.count)
        names = class_names(cuts, open_ends=open_ends)
        codes = class_of(values, cuts, open_ends=open_ends)
        texts = pl.Series([*names, None], dtype=pl.String).gather(np.where(codes < 0, len(names), codes))
        called = self.name.strip() or self._free(table)
        made = Column(
            check_name(called, "column", list(table.by_name)),
            Kind.ORDERED,
            column.unit,
            f"classes of {self.what}",
            names,
        )
        notes = []
        counts = np.bincount(codes[codes >= 0], minlength=len(names))
        if self.how == "equal count" and len(names) < self.count:
            notes.append(f"Equal values cannot be separated, so there are {counted(len(names), 'class')}.")
        empty = [name for name, n in zip(names, counts, strict=True) if not n]
        if empty:
            notes.append(f"No row lies in {listed(empty, 'or')}.")
        return with_columns(table, [(made, texts)], self.what), tuple(notes)

    @property
    def line(self) -> str:
        by = f"cuts at {self.cuts}" if self.how == "given cuts" else f"{self.count} of {self.how}"
        return f"classes of {self.what}: {by}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> ClassColumn:
        chosen = [table.column(name) for name in columns]
        numbers = [c.name for c in [*chosen, *table.columns] if c.kind is Kind.NUMBER]
        return cls(table=table.name, what=numbers[0] if numbers else None)


ARRANGEMENTS = (ClassColumn,)
