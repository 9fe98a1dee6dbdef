"""Edits of cells and rows."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.study.edits.tables import TableEdit
from theoros.study.entries import Study
from theoros.table import changes, rows
from theoros.table.table import Table


@dataclass(frozen=True)
class SetCells(TableEdit):
    """Typed or pasted text, from a cell on rightwards and down."""

    kind: ClassVar[str] = "set cells"
    row: int
    column: int
    block: tuple[tuple[str, ...], ...]

    def change(self, table: Table) -> Table:
        return changes.set_cells(table, self.row, self.column, self.block)

    @property
    def label(self) -> str:
        one = len(self.block) == 1 and len(self.block[0]) == 1
        return f"{'typing' if one else 'pasting'} in {self.table}"


@dataclass(frozen=True)
class PasteTable(TableEdit):
    """A pasted block whose first line names its columns: they follow those that are there.

    A column of the block that bears the name of one in the table goes into that one.
    """

    kind: ClassVar[str] = "paste table"
    block: tuple[tuple[str, ...], ...]

    def change(self, table: Table) -> Table:
        return changes.paste_columns(table, self.block)

    @property
    def label(self) -> str:
        return f"pasting in {self.table}"


@dataclass(frozen=True)
class FillDown(TableEdit):
    """The values of a row put into the rows below it, in some columns."""

    kind: ClassVar[str] = "fill down"
    top: int
    bottom: int
    names: tuple[str, ...]

    def change(self, table: Table) -> Table:
        return changes.fill_down(table, self.top, self.bottom, self.names)

    @property
    def label(self) -> str:
        return f"filling down in {self.table}"


@dataclass(frozen=True)
class InsertRows(TableEdit):
    kind: ClassVar[str] = "insert rows"
    at: int
    count: int

    def change(self, table: Table) -> Table:
        return rows.insert_rows(table, self.at, self.count)

    @property
    def label(self) -> str:
        return f"inserting rows in {self.table}"


@dataclass(frozen=True)
class DeleteRows(TableEdit):
    kind: ClassVar[str] = "delete rows"
    rows: tuple[int, ...]

    def change(self, table: Table) -> Table:
        return rows.delete_rows(table, self.rows)

    @property
    def label(self) -> str:
        return f"deleting rows of {self.table}"


@dataclass(frozen=True)
class SetAside(TableEdit):
    """Rows put out of every analysis, or taken back into it."""

    kind: ClassVar[str] = "set aside"
    rows: tuple[int, ...]
    aside: bool

    def change(self, table: Table) -> Table:
        return rows.set_aside(table, self.rows, aside=self.aside)

    @property
    def label(self) -> str:
        what = "setting rows aside" if self.aside else "taking rows back"
        return f"{what} in {self.table}"


@dataclass(frozen=True)
class DuplicateRows(TableEdit):
    kind: ClassVar[str] = "duplicate rows"
    rows: tuple[int, ...]

    def change(self, table: Table) -> Table:
        return rows.duplicate_rows(table, self.rows)

    @property
    def label(self) -> str:
        return f"duplicating rows of {self.table}"


@dataclass(frozen=True)
class MoveRows(TableEdit):
    """Rows put before the one that is at `to`."""

    kind: ClassVar[str] = "move rows"
    rows: tuple[int, ...]
    to: int

    def change(self, table: Table) -> Table:
        return rows.move_rows(table, self.rows, self.to)

    @property
    def label(self) -> str:
        return f"moving rows of {self.table}"


@dataclass(frozen=True)
class OriginalOrder(TableEdit):
    """The order of the rows from before they were sorted."""

    kind: ClassVar[str] = "original order"

    def change(self, table: Table) -> Table:
        return rows.original_order(table)

    @property
    def label(self) -> str:
        return f"putting {self.table} back in its order"


@dataclass(frozen=True)
class NamesFromFirstRow(TableEdit):
    """The first row's values become the names of the columns; entries follow them."""

    kind: ClassVar[str] = "names from first row"

    def apply(self, study: Study) -> Study:
        made = super().apply(study)
        pairs = zip(study.table(self.table).columns, made.table(self.table).columns, strict=True)
        entries = made.entries
        for old, new in pairs:
            entries = tuple(
                replace(e, statement=e.statement.renamed_column(self.table, old.name, new.name)) for e in entries
            )
        return made.with_(entries=entries)

    def change(self, table: Table) -> Table:
        from theoros.table.names_row import names_from_first_row

        return names_from_first_row(table)

    @property
    def label(self) -> str:
        return f"taking the names of {self.table} from its first row"


@dataclass(frozen=True)
class ReplaceText(TableEdit):
    """A text replaced by another in every cell in which it stands."""

    kind: ClassVar[str] = "replace text"
    text: str
    by: str
    whole: bool = False
    case: bool = False

    def change(self, table: Table) -> Table:
        from theoros.table.searching import Search, replace_in_cells

        return replace_in_cells(table, Search(self.text, self.whole, self.case), self.by)[0]

    @property
    def label(self) -> str:
        return f"replacing in {self.table}"
