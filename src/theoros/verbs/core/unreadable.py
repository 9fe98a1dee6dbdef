"""A statement that could not be read: kept as it was written, so that nothing is lost."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Draft
from theoros.verbs.core.json_values import Json, StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.core.slots import Phrase, Tables
from theoros.verbs.core.statement import Statement


@dataclass(frozen=True)
class Unreadable(Statement):
    """Stands in for a damaged statement of a study, among others that are sound."""

    verb: ClassVar[str] = "unreadable"
    answered_by: ClassVar[str] = __name__
    written: str = "{}"
    """Its JSON, as it stood in the file."""
    why: str = ""

    needs_table: ClassVar[bool] = False

    def phrase(self, tables: Tables) -> Phrase:
        return ("This entry cannot be read.",)

    def title(self, tables: Tables) -> str:
        return "An entry that cannot be read"

    def to_json(self) -> Json:
        """What was written, unchanged."""
        return json.loads(self.written)  # type: ignore[no-any-return]


def read_statement(held: object) -> Statement:
    """A statement from JSON, or what stands in for one that cannot be read."""
    try:
        return statement_from_json(held)
    except StatementError as problem:
        return Unreadable(written=json.dumps(held, ensure_ascii=False), why=str(problem))


def drafts(statement: Unreadable, tables: Tables) -> Iterator[Draft]:
    """Nothing: it raises CannotAnswer, with what is wrong."""
    raise CannotAnswer(
        f"What is written for this entry is damaged, or from another version of Theoros: "
        f"{statement.why} It is kept as it is; ask anew, or remove it."
    )
