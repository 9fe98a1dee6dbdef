"""Answers an arrangement: the table that it makes, and how large it is."""

from __future__ import annotations

from collections.abc import Iterator

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import counted
from theoros.answer.parts import Answer, Draft, Reading
from theoros.table.table import TableError
from theoros.verbs.arrange.arrangement import Arranged, Arrangement
from theoros.verbs.core.answering import check
from theoros.verbs.core.slots import Tables


def drafts(statement: Arrangement, tables: Tables) -> Iterator[Draft]:
    """What the table would be. Raises TableError with what stands in its way."""
    made = arranged(statement, tables)
    size = f"{counted(made.table.rows, 'row')} and {counted(len(made.table.columns), 'column')}"
    said = Reading(f"{made.table.name} would have {size}.", cautions=made.notes)
    yield Draft(Answer(reading=said))


def arranged(statement: Arrangement, tables: Tables) -> Arranged:
    """What an arrangement makes. Raises TableError with what stands in its way."""
    try:
        check(statement, tables)
        return statement.arrange(tables[statement.table], tables)
    except CannotAnswer as found:
        raise TableError(found.problem.sentence) from None
