"""Edits of tables as wholes, and the base of edits within one."""

from __future__ import annotations

from abc import abstractmethod
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.study.edits.edit import Edit
from theoros.study.entries import Study
from theoros.table import changes
from theoros.table.recalculation import check_counts, settled
from theoros.table.table import GOT, Table, TableError


@dataclass(frozen=True)
class AddTable(Edit):
    kind: ClassVar[str] = "add table"
    table: Table

    def apply(self, study: Study) -> Study:
        name = changes.check_name(self.table.name, "table", [t.name for t in study.tables])
        return study.with_(tables=(*study.tables, self.table.with_(name=name)))

    @property
    def label(self) -> str:
        return f"adding {self.table.name}"


@dataclass(frozen=True)
class RemoveTable(Edit):
    kind: ClassVar[str] = "remove table"
    name: str

    def apply(self, study: Study) -> Study:
        study.table(self.name)
        return study.with_(tables=tuple(t for t in study.tables if t.name != self.name))

    @property
    def label(self) -> str:
        return f"removing {self.name}"


@dataclass(frozen=True)
class RenewTable(Edit):
    """Other rows and columns for a table that was drawn by an entry, which has changed since."""

    kind: ClassVar[str] = "renew table"
    table: Table

    def apply(self, study: Study) -> Study:
        before = study.table(self.table.name)
        return study.with_table(before.name, settled(self.table, None))

    @property
    def label(self) -> str:
        return f"drawing {self.table.name} anew"


@dataclass(frozen=True)
class ChangeTable(Edit):
    """Another name for a table, or for what one of its rows is."""

    kind: ClassVar[str] = "change table"
    name: str
    new_name: str
    noun: str

    def apply(self, study: Study) -> Study:
        table = study.table(self.name)
        new = self.name
        if self.new_name != self.name:
            taken = [t.name for t in study.tables if t.name != self.name]
            new = changes.check_name(self.new_name, "table", taken)
        noun = " ".join(self.noun.split())[:60] or "row"
        made = study.with_table(self.name, table.with_(name=new, noun=noun))
        entries = tuple(replace(e, statement=e.statement.renamed_table(self.name, new)) for e in made.entries)
        return made.with_(entries=entries)

    @property
    def label(self) -> str:
        return f"changing {self.name}"


@dataclass(frozen=True)
class TableEdit(Edit):
    """An edit within one table."""

    kind: ClassVar[str] = "table"
    table: str

    def apply(self, study: Study) -> Study:
        return study.with_table(self.table, settled(self.change(study.table(self.table)), study.table(self.table)))

    @abstractmethod
    def change(self, table: Table) -> Table:
        """The table after this edit."""


@dataclass(frozen=True)
class SetGot(TableEdit):
    """How the rows were got: one of `GOT`."""

    kind: ClassVar[str] = "set got"
    got: str

    def change(self, table: Table) -> Table:
        if self.got not in GOT:
            raise TableError(f"Rows cannot be got as “{self.got}”.")
        return table.with_(sampling=self.got)

    @property
    def label(self) -> str:
        return f"saying how the rows of {self.table} were got"


@dataclass(frozen=True)
class SetCounts(TableEdit):
    """How rows count: as often as a column says, or (the empty name) once each."""

    kind: ClassVar[str] = "set counts"
    column: str

    def change(self, table: Table) -> Table:
        if self.column:
            if table.column(self.column).formula:
                raise TableError(
                    f"{self.column} is calculated by a formula. Keep its values as they are first, then rows can "
                    "count by it."
                )
            check_counts(table, self.column)
        return table.with_(counts=self.column)

    @property
    def label(self) -> str:
        return f"saying how the rows of {self.table} count"


@dataclass(frozen=True)
class SetKeep(TableEdit):
    """The condition on the rows that are kept for analysis; empty keeps all."""

    kind: ClassVar[str] = "set keep"
    keep: str

    def change(self, table: Table) -> Table:
        return table.with_(keep=self.keep.strip())

    @property
    def label(self) -> str:
        return f"keeping {'some' if self.keep else 'all'} rows of {self.table}"
