"""Edits of columns and their levels."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.study.edits.tables import TableEdit
from theoros.study.entries import Study
from theoros.table import changes, levels
from theoros.table.plain_text import storable
from theoros.table.table import Column, Table


@dataclass(frozen=True)
class AddColumn(TableEdit):
    kind: ClassVar[str] = "add column"
    column: Column
    at: int | None = None

    def change(self, table: Table) -> Table:
        return changes.add_column(table, self.column, self.at)

    @property
    def label(self) -> str:
        return f"adding {self.column.name}"


@dataclass(frozen=True)
class DeleteColumns(TableEdit):
    kind: ClassVar[str] = "delete columns"
    names: tuple[str, ...]

    def change(self, table: Table) -> Table:
        return changes.delete_columns(table, self.names)

    def note(self, before: Study) -> str:
        frozen = changes.frozen_by(before.table(self.table), self.names)
        if not frozen:
            return ""
        many = len(frozen) > 1
        return (
            f"{', '.join(frozen)} {'were' if many else 'was'} calculated from what is gone; "
            f"{'their' if many else 'its'} values stay, but are no longer updated."
        )

    @property
    def label(self) -> str:
        return f"deleting {', '.join(self.names)}"


@dataclass(frozen=True)
class ChangeColumn(TableEdit):
    """Another name, unit, meaning, kind or order of levels; entries follow a new name."""

    kind: ClassVar[str] = "change column"
    name: str
    column: Column

    def apply(self, study: Study) -> Study:
        made = super().apply(study)
        new = made.table(self.table).columns[study.table(self.table).place(self.name)].name
        entries = tuple(
            replace(e, statement=e.statement.renamed_column(self.table, self.name, new)) for e in made.entries
        )
        return made.with_(entries=entries)

    def change(self, table: Table) -> Table:
        return changes.change_column(table, self.name, self.column)

    @property
    def label(self) -> str:
        return f"changing {self.name}"


@dataclass(frozen=True)
class DuplicateColumns(TableEdit):
    kind: ClassVar[str] = "duplicate columns"
    names: tuple[str, ...]

    def change(self, table: Table) -> Table:
        return changes.duplicate_columns(table, self.names)

    @property
    def label(self) -> str:
        return f"duplicating {', '.join(self.names)}"


@dataclass(frozen=True)
class MoveColumns(TableEdit):
    """Columns put before the one that is at `to`."""

    kind: ClassVar[str] = "move columns"
    names: tuple[str, ...]
    to: int

    def change(self, table: Table) -> Table:
        return changes.move_columns(table, self.names, self.to)

    @property
    def label(self) -> str:
        return f"moving {', '.join(self.names)}"


@dataclass(frozen=True)
class RecodeLevels(TableEdit):
    """Other names for levels of a category, as pairs (old, new); the same name merges them."""

    kind: ClassVar[str] = "recode levels"
    name: str
    names: tuple[tuple[str, str], ...]

    def apply(self, study: Study) -> Study:
        made = super().apply(study)
        new = {old: storable(" ".join(text.split())) for old, text in self.names}
        entries = tuple(
            replace(e, statement=e.statement.renamed_levels(self.table, self.name, new)) for e in made.entries
        )
        return made.with_(entries=entries)

    def change(self, table: Table) -> Table:
        return levels.recode(table, self.name, dict(self.names))

    @property
    def label(self) -> str:
        return f"naming levels of {self.name}"


@dataclass(frozen=True)
class OrderLevels(TableEdit):
    kind: ClassVar[str] = "order levels"
    name: str
    levels: tuple[str, ...]

    def change(self, table: Table) -> Table:
        return levels.order_levels(table, self.name, self.levels)

    @property
    def label(self) -> str:
        return f"ordering the levels of {self.name}"
