"""The answers that are known, shared by every page that shows entries and by the report."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.study.entries import Entry
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Statement

if TYPE_CHECKING:
    from theoros.answer.parts import Answer


@dataclass(frozen=True)
class Known:
    """An answer with what it was worked out from."""

    statement: Statement
    table: object
    answer: Answer


class KnownAnswers:
    """The newest answer of each entry, good for as long as its statement and its table are."""

    def __init__(self) -> None:
        self._known: dict[str, Known] = {}

    def keep(self, entry: Entry, statement: Statement, table: object, answer: Answer) -> None:
        self._known[entry.id] = Known(statement, table, answer)

    def find(self, entry: Entry, tables: Tables) -> Answer | None:
        """The answer of an entry if it has been worked out from what is there now."""
        known = self._known.get(entry.id)
        if known is None or known.statement != entry.statement:
            return None
        return known.answer if known.table is tables.get(entry.statement.table) else None
