"""What an arrangement is: a statement whose answer is a table."""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import ClassVar, Literal

from theoros.answer.nouns import counted
from theoros.plugins import listed_in
from theoros.table.changes import check_name
from theoros.table.reshape import standing
from theoros.table.table import Table, free_name
from theoros.verbs.core.fields import choice_field, text_field
from theoros.verbs.core.slots import Option, Phrase, Tables, TypeText
from theoros.verbs.core.statement import Statement

Into = Literal["new", "same"]


@dataclass(frozen=True)
class Arranged:
    """The table that an arrangement makes, and what is to be said of it."""

    table: Table
    new: bool
    """Whether it is a table of its own, beside the one it was made from."""
    notes: tuple[str, ...] = ()
    """What was left out, did not match, or had to be called otherwise."""


@dataclass(frozen=True)
class Arrangement(Statement):
    """Base of the arrangements. A subclass says itself, and makes the table."""

    answered_by: ClassVar[str] = "theoros.verbs.arrange.answering"
    label: ClassVar[str]
    help: ClassVar[str]
    """What it is for, in a sentence or two, shown beside the preview."""
    order: ClassVar[int]
    """Its place among the arrangements."""
    other_names: ClassVar[tuple[str, ...]] = ()
    """What it is called in other places, to be found by."""
    of_one_column: ClassVar[bool] = True
    """Whether it can begin from the column of the current cell, where none is selected."""

    @property
    def draws_on(self) -> tuple[str, ...]:
        """Other tables whose values it needs."""
        return ()

    @abstractmethod
    def arrange(self, table: Table, tables: Tables) -> Arranged:
        """The table made. Raises CannotAnswer or TableError where it cannot be."""

    @property
    @abstractmethod
    def line(self) -> str:
        """The line it leaves in the provenance of the table: "made long from spring, summer"."""

    @property
    def doing(self) -> str:
        """For the undo entry of the menu: "make long, bushes"."""
        return f"{self.label.lower()} in {self.table}"

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> Arrangement:
        """A statement filled in from the columns selected in a table."""
        return cls(table=table.name)

    def title(self, tables: Tables) -> str:
        return self.label


_INTO = (
    Option("new", "a new table", help="The table it is made from stays as it is."),
    Option("same", "the table itself", help="Entries that use its columns may need changes."),
)


@dataclass(frozen=True)
class NewTable(Arrangement):
    """Base of the arrangements whose result is better kept as a table of its own."""

    into: Into = choice_field("new", "where the result goes", _INTO)
    name: str = text_field("name of the new table", TypeText("The name of the new table."))
    """Of the new table; empty for one made from the name of the old."""

    suffix: ClassVar[str]
    """What is put behind the name of the old table."""

    @abstractmethod
    def reshape(self, table: Table, tables: Tables) -> tuple[Table, tuple[str, ...]]:
        """The table made from the rows in use, and what is to be said of it."""

    def ending(self, tables: Tables) -> Phrase:
        """The end of the sentence: where the result goes."""
        here = self.here(tables)
        into = self.field_slot("into", here)
        if self.into == "same":
            return (", in place of ", into, ".")
        called = self.field_slot("name", here, empty=self.new_name(tables))
        return (", as ", into, " called ", called, ".")

    def new_name(self, tables: Tables) -> str:
        return free_name(f"{self.table} {self.suffix}", tables)

    def arrange(self, table: Table, tables: Tables) -> Arranged:
        whole = standing(table)
        made, notes = self.reshape(whole, tables)
        left = table.rows - whole.rows
        if left:
            notes = (
                f"{counted(left, 'row')} of {table.name} {'is' if left == 1 else 'are'} not in "
                f"use, and {'is' if left == 1 else 'are'} not in the result.",
                *notes,
            )
        if self.into == "same":
            if left:
                notes = (*notes, "Undo restores everything.")
            return Arranged(made.with_(name=table.name, provenance=(*table.provenance, self.line)), False, notes)
        name = self.name.strip() or self.new_name(tables)
        name = check_name(name, "table", list(tables))
        line = f"from {self.table}: {self.line}"
        return Arranged(made.with_(name=name, provenance=(*table.provenance, line)), True, notes)


@dataclass(frozen=True)
class InPlace(Arrangement):
    """Base of the arrangements that change their own table."""

    @abstractmethod
    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        """The table after it, and what is to be said."""

    def arrange(self, table: Table, tables: Tables) -> Arranged:
        made, notes = self.change(table)
        return Arranged(made.with_(provenance=(*table.provenance, self.line)), False, notes)


@cache
def arrangements() -> Mapping[str, type[Arrangement]]:
    """The arrangements by name, in their order. Each module of this package adds its own."""
    return {one.verb: one for one in listed_in("theoros.verbs.arrange", "ARRANGEMENTS")}


def name_field(label: str = "name of the new column", empty: str = "") -> str:
    """A field for the name of a new column; `empty` is what it is called if none is typed."""
    return text_field(label, TypeText(f"The {label}.", longest=200), empty=empty)
