"""Edits of entries."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.study.edits.edit import Edit
from theoros.study.entries import Entry, EntryBlock, Study, StudyError


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
    label: ClassVar[str] = "changing the entry"

    def apply(self, study: Study) -> Study:
        study.entry(self.entry.id)
        return study.with_(entries=tuple(self.entry if e.id == self.entry.id else e for e in study.entries))


@dataclass(frozen=True)
class RemoveEntry(Edit):
    """Takes an entry out, and its place in the report."""

    kind: ClassVar[str] = "remove entry"
    id: str
    label: ClassVar[str] = "removing the entry"

    def apply(self, study: Study) -> Study:
        study.entry(self.id)
        return study.with_(
            entries=tuple(e for e in study.entries if e.id != self.id),
            report=tuple(b for b in study.report if not (isinstance(b, EntryBlock) and b.entry == self.id)),
        )
