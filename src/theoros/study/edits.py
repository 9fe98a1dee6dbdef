"""Every change of a study as a value: it can be applied, undone and written down.

An edit is applied to a study and gives another; undoing is going back to the study before,
which costs nothing, since what is unchanged is shared. `to_json` and `edit_from_json` write
it to the journal and read it back; tables go beside the journal as files of their own.
"""

from __future__ import annotations

import dataclasses
import types
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Protocol

from theoros.study.entries import Block, Entry, EntryBlock, Study, StudyError, TextBlock
from theoros.table import changes
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, TableError
from theoros.verbs.registry import statement_from_json
from theoros.verbs.statement import Statement


class TableStore(Protocol):
    """Where the journal keeps tables that come in whole."""

    def put(self, table: Table) -> str: ...

    def get(self, key: str) -> Table: ...


EDITS: dict[str, type[Edit]] = {}


@dataclass(frozen=True)
class Edit(ABC):
    """A change of a study. A subclass names itself in `kind` and is registered by it."""

    kind: ClassVar[str]

    def __init_subclass__(cls, **kwargs: object) -> None:
        super().__init_subclass__(**kwargs)
        EDITS[cls.kind] = cls

    @abstractmethod
    def apply(self, study: Study) -> Study:
        """The study after this edit. Raises StudyError or TableError; nothing is half done."""

    @property
    @abstractmethod
    def label(self) -> str:
        """What it did, for the undo entry of the menu: "typing in bushes"."""

    def to_json(self, store: TableStore) -> dict[str, Any]:
        made: dict[str, Any] = {"edit": self.kind}
        for field in dataclasses.fields(self):
            made[field.name] = _plain(getattr(self, field.name), store)
        return made


def edit_from_json(data: Mapping[str, Any], store: TableStore) -> Edit:
    """The edit that `to_json` wrote."""
    cls = EDITS[data["edit"]]
    values = {k: _value(v, store) for k, v in data.items() if k != "edit"}
    return cls(**values)


# tables


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
        entries = tuple(
            replace(e, statement=e.statement.renamed_table(self.name, new)) for e in made.entries
        )
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
        return study.with_table(self.table, self.change(study.table(self.table)))

    @abstractmethod
    def change(self, table: Table) -> Table:
        """The table after this edit."""


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
class InsertRows(TableEdit):
    kind: ClassVar[str] = "insert rows"
    at: int
    count: int

    def change(self, table: Table) -> Table:
        return changes.insert_rows(table, self.at, self.count)

    @property
    def label(self) -> str:
        return f"inserting rows in {self.table}"


@dataclass(frozen=True)
class DeleteRows(TableEdit):
    kind: ClassVar[str] = "delete rows"
    rows: tuple[int, ...]

    def change(self, table: Table) -> Table:
        return changes.delete_rows(table, self.rows)

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
        return changes.set_aside(table, self.rows, aside=self.aside)

    @property
    def label(self) -> str:
        what = "setting rows aside" if self.aside else "taking rows back"
        return f"{what} in {self.table}"


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
            replace(e, statement=e.statement.renamed_column(self.table, self.name, new))
            for e in made.entries
        )
        return made.with_(entries=entries)

    def change(self, table: Table) -> Table:
        return changes.change_column(table, self.name, self.column)

    @property
    def label(self) -> str:
        return f"changing {self.name}"


# entries


@dataclass(frozen=True)
class AddEntry(Edit):
    kind: ClassVar[str] = "add entry"
    entry: Entry

    def apply(self, study: Study) -> Study:
        if any(entry.id == self.entry.id for entry in study.entries):
            raise StudyError("There is an entry with that id already.")
        return study.with_(entries=(*study.entries, self.entry))

    @property
    def label(self) -> str:
        return f"the new {self.entry.statement.verb} entry"


@dataclass(frozen=True)
class ChangeEntry(Edit):
    """Another statement, title or question."""

    kind: ClassVar[str] = "change entry"
    entry: Entry

    def apply(self, study: Study) -> Study:
        study.entry(self.entry.id)
        return study.with_(
            entries=tuple(self.entry if e.id == self.entry.id else e for e in study.entries)
        )

    @property
    def label(self) -> str:
        return "changing the entry"


@dataclass(frozen=True)
class RemoveEntry(Edit):
    """Takes an entry out, and its place in the report."""

    kind: ClassVar[str] = "remove entry"
    id: str

    def apply(self, study: Study) -> Study:
        study.entry(self.id)
        return study.with_(
            entries=tuple(e for e in study.entries if e.id != self.id),
            report=tuple(
                b for b in study.report if not (isinstance(b, EntryBlock) and b.entry == self.id)
            ),
        )

    @property
    def label(self) -> str:
        return "removing the entry"


# report


@dataclass(frozen=True)
class AddBlock(Edit):
    """A block placed in the report, before position `at` or at the end."""

    kind: ClassVar[str] = "add block"
    block: Block
    at: int | None = None

    def apply(self, study: Study) -> Study:
        if isinstance(self.block, EntryBlock):
            study.entry(self.block.entry)
        at = len(study.report) if self.at is None else self.at
        return study.with_(report=(*study.report[:at], self.block, *study.report[at:]))

    @property
    def label(self) -> str:
        return "placing in the report"


@dataclass(frozen=True)
class SetText(Edit):
    kind: ClassVar[str] = "set text"
    id: str
    text: str

    def apply(self, study: Study) -> Study:
        return study.with_(
            report=tuple(TextBlock(b.id, self.text) if b.id == self.id else b for b in study.report)
        )

    @property
    def label(self) -> str:
        return "writing in the report"


@dataclass(frozen=True)
class MoveBlock(Edit):
    """A block moved to another position of the report."""

    kind: ClassVar[str] = "move block"
    id: str
    to: int

    def apply(self, study: Study) -> Study:
        moved = [b for b in study.report if b.id == self.id]
        rest = [b for b in study.report if b.id != self.id]
        return study.with_(report=tuple(rest[: self.to] + moved + rest[self.to :]))

    @property
    def label(self) -> str:
        return "moving in the report"


@dataclass(frozen=True)
class RemoveBlock(Edit):
    kind: ClassVar[str] = "remove block"
    id: str

    def apply(self, study: Study) -> Study:
        return study.with_(report=tuple(b for b in study.report if b.id != self.id))

    @property
    def label(self) -> str:
        return "taking out of the report"


@dataclass(frozen=True)
class SetTitle(Edit):
    kind: ClassVar[str] = "set title"
    title: str

    def apply(self, study: Study) -> Study:
        return study.with_(title=" ".join(self.title.split())[:200])

    @property
    def label(self) -> str:
        return "naming the study"


# writing down: a few value types, each marked by a key of its own


def _plain(value: object, store: TableStore) -> Any:
    if isinstance(value, Table):
        return {"$table": store.put(value)}
    if isinstance(value, Statement):
        return {"$statement": value.to_json()}
    if isinstance(value, Column | Entry | TextBlock | EntryBlock):
        fields = {f.name: getattr(value, f.name) for f in dataclasses.fields(value)}
        return {f"${type(value).__name__}": {k: _plain(v, store) for k, v in fields.items()}}
    if isinstance(value, tuple | list):
        return [_plain(item, store) for item in value]
    if value is None or isinstance(value, str | int | float | bool):
        return value
    raise TypeError(f"an edit cannot hold a {type(value).__name__}")


_TYPES: Mapping[str, type] = types.MappingProxyType(
    {"$Column": Column, "$Entry": Entry, "$TextBlock": TextBlock, "$EntryBlock": EntryBlock}
)


def _value(data: Any, store: TableStore) -> Any:
    if isinstance(data, list):
        return tuple(_value(item, store) for item in data)
    if isinstance(data, dict):
        ((key, held),) = data.items()
        if key == "$table":
            return store.get(held)
        if key == "$statement":
            return statement_from_json(held)
        values = {k: _value(v, store) for k, v in held.items()}
        if key == "$Column":
            values["kind"] = Kind(values["kind"])
        return _TYPES[key](**values)
    return data


__all__ = ["EDITS", "Edit", "StudyError", "TableError", "edit_from_json"]
