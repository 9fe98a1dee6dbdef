"""Every change of a study as a value: it can be applied, undone and written down.

An edit is applied to a study and gives another; undoing is going back to the study before,
which costs nothing, since what is unchanged is shared. `to_json` and `edit_from_json` write
it to the journal and read it back; tables go beside the journal as files of their own.
"""

from __future__ import annotations

import dataclasses
import importlib
import pkgutil
import types
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, ClassVar, Protocol

from theoros.study.entries import Entry, EntryBlock, Study, TextBlock
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.statement import Statement
from theoros.verbs.core.unreadable import read_statement


class TableStore(Protocol):
    """Where the journal keeps tables that come in whole."""

    def put(self, table: Table) -> str: ...

    def get(self, key: str) -> Table: ...


_KINDS: dict[str, type[Edit]] = {}


@dataclass(frozen=True)
class Edit(ABC):
    """A change of a study. A subclass names itself in `kind` and is registered by it."""

    kind: ClassVar[str]

    def __init_subclass__(cls, **kwargs: object) -> None:
        super().__init_subclass__(**kwargs)
        _KINDS[cls.kind] = cls

    @abstractmethod
    def apply(self, study: Study) -> Study:
        """The study after this edit. Raises StudyError or TableError; nothing is half done."""

    @property
    @abstractmethod
    def label(self) -> str:
        """What it did, for the undo entry of the menu: "typing in bushes"."""

    def note(self, before: Study) -> str:
        """What its user should be told besides, once it is done; empty for nothing."""
        return ""

    def to_json(self, store: TableStore) -> dict[str, Any]:
        made: dict[str, Any] = {"edit": self.kind}
        for field in dataclasses.fields(self):
            made[field.name] = _plain(getattr(self, field.name), store)
        return made


@cache
def edit_kinds() -> Mapping[str, type[Edit]]:
    """All edits by their kind."""
    room = importlib.import_module(__package__ or "theoros.study.edits")
    for module in pkgutil.iter_modules(room.__path__):
        importlib.import_module(f"{room.__name__}.{module.name}")
    return _KINDS


def edit_from_json(data: Mapping[str, Any], store: TableStore) -> Edit:
    """The edit that `to_json` wrote."""
    cls = edit_kinds()[data["edit"]]
    values = {k: _value(v, store) for k, v in data.items() if k != "edit"}
    return cls(**values)


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
            return read_statement(held)
        values = {k: _value(v, store) for k, v in held.items()}
        if key == "$Column":
            values["kind"] = Kind(values["kind"])
        return _TYPES[key](**values)
    return data
