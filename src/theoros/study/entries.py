"""A study as a value: tables, entries, report."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

from theoros.answer.digits import BY_RULE, Digits
from theoros.table.table import Table
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement


class StudyError(ValueError):
    """Something that a study cannot do or be, said in a sentence for its user."""


@dataclass(frozen=True)
class Entry:
    """A statement with a title and, if it was pasted, the question as it was set."""

    id: str
    statement: Statement
    title: str = ""
    question: str = ""

    def name(self, tables: Tables) -> str:
        """Its title, or one made from its statement."""
        return self.title or self.statement.title(tables)


@dataclass(frozen=True)
class TextBlock:
    """The student's own text in the report; a line followed by a blank one is a heading."""

    id: str
    text: str


@dataclass(frozen=True)
class EntryBlock:
    """An entry placed in the report, with the parts of it that are shown."""

    id: str
    entry: str
    parts: tuple[str, ...] | None = None
    """Names of `report_parts`; none for those that suit the answer."""


Block = TextBlock | EntryBlock


@dataclass(frozen=True)
class Study:
    """Everything a student keeps together. Changing one makes another."""

    title: str = ""
    tables: tuple[Table, ...] = ()
    entries: tuple[Entry, ...] = ()
    report: tuple[Block, ...] = ()
    digits: Digits = BY_RULE
    """With how many decimals p-values and statistics are written."""
    _named: dict[str, Table] = field(default_factory=dict, repr=False, compare=False)

    def __post_init__(self) -> None:
        object.__setattr__(self, "_named", {table.name: table for table in self.tables})

    @property
    def by_name(self) -> Tables:
        """The tables by name."""
        return self._named

    def table(self, name: str) -> Table:
        if name not in self._named:
            raise StudyError(f"There is no table called “{name}” in this study.")
        return self._named[name]

    def entry(self, key: str) -> Entry:
        for entry in self.entries:
            if entry.id == key:
                return entry
        raise StudyError("That entry is no longer in this study.")

    def with_table(self, name: str, table: Table) -> Study:
        """The study with one table replaced."""
        self.table(name)
        return self.with_(tables=tuple(table if t.name == name else t for t in self.tables))

    def with_(self, **changes: Any) -> Study:
        return replace(self, **changes)

    def free_id(self, letter: str) -> str:
        """An id that no entry (letter e) or block of the report (letter r) has."""
        taken = {entry.id for entry in self.entries} | {block.id for block in self.report}
        number = 1 + max((int(key[1:]) for key in taken if key[:1] == letter and key[1:].isdigit()), default=0)
        return f"{letter}{number}"
