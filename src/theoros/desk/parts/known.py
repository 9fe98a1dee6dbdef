"""The answers that are known, shared by every page that shows entries and by the report."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from theoros.answer.digits import Digits
from theoros.study.entries import Entry, Study
from theoros.verbs.core.statement import Statement

if TYPE_CHECKING:
    from theoros.answer.parts import Answer


@dataclass(frozen=True)
class Known:
    """An answer with what it was worked out from."""

    statement: Statement
    table: object
    digits: Digits
    answer: Answer


class KnownAnswers:
    """The newest answer of each entry, good while its statement, table and decimals stay."""

    def __init__(self) -> None:
        self._known: dict[str, Known] = {}

    def keep(self, entry: Entry, known: Known) -> None:
        self._known[entry.id] = known

    def find(self, entry: Entry, study: Study) -> Answer | None:
        """The answer of an entry if it has been worked out from what is there now."""
        known = self._known.get(entry.id)
        if known is None or known.statement != entry.statement or known.digits != study.digits:
            return None
        return known.answer if known.table is study.by_name.get(entry.statement.table) else None
