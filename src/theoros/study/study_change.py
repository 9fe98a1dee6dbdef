"""What of a study became another: so that only what shows it is asked anew."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.study.edits.edit import Edit
from theoros.study.entries import Entry, Study


@dataclass(frozen=True)
class Change:
    """The step from one study to the next: an edit done, undone or done again, or another study opened."""

    edit: Edit | None
    """None where another study was opened."""
    tables: frozenset[str]
    """Tables that came, went, or are others now, by name."""
    entries: frozenset[str]
    """Entries that came, went, or are others now, by id."""
    throughout: bool
    """Whether it concerns every answer, as how many decimals are written does."""

    def concerns(self, entry: Entry) -> bool:
        """Whether an entry, or the table that it asks about, is another now."""
        of_table = entry.statement.needs_table and entry.statement.table in self.tables
        return self.throughout or entry.id in self.entries or of_table


def change_between(before: Study, after: Study, edit: Edit | None) -> Change:
    """What differs between two studies; tables and entries that are the same objects do not."""
    tables = _others({t.name: t for t in before.tables}, {t.name: t for t in after.tables})
    entries = _others({e.id: e for e in before.entries}, {e.id: e for e in after.entries})
    throughout = edit is None or before.digits != after.digits
    return Change(edit, tables, entries, throughout)


def _others(before: dict[str, object], after: dict[str, object]) -> frozenset[str]:
    return frozenset(key for key in {*before, *after} if before.get(key) is not after.get(key))
