"""Answers: the half of a verb that only the engine imports, found by the name a statement gives."""

from __future__ import annotations

import importlib
from collections.abc import Iterator
from dataclasses import replace
from types import ModuleType

from theoros.answer.cannot import CannotAnswer, Problem
from theoros.answer.parts import Answer, Draft
from theoros.answer.wording import shortened
from theoros.table.table import Table, TableError
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.statement import Said, Statement

TOO_FAR = (
    "The numbers in this question are too large, too small or too far apart for the calculation. Check them, or "
    "use another unit."
)


def answering_of(statement: Statement) -> ModuleType:
    """The module that answers statements of its kind."""
    return importlib.import_module(statement.answered_by)


def check(statement: Statement, tables: Tables, said: Said | None = None) -> None:
    """Raises CannotAnswer if the table is not there or a slot holds what it may not.

    `said` is the statement as it is said, where somebody has it at hand.
    """
    if statement.needs_table and statement.table not in tables:
        have = ", ".join(tables) or "none yet"
        raise CannotAnswer(f"There is no table called “{shortened(statement.table)}” in this study. Tables: {have}.")
    for slot in (said or statement.said(tables)).slots:
        if slot.problem:
            raise CannotAnswer(slot.problem, slot.name)


def drafts(statement: Statement, tables: Tables) -> Iterator[Draft]:
    """The answer in drafts, the last of which is the answer. Never raises for bad input."""
    said = statement.said(tables)
    for draft in _drafts(statement, tables, said):
        yield replace(draft, answer=replace(draft.answer, caption=said.text)) if draft.answer else draft


def _drafts(statement: Statement, tables: Tables, said: Said) -> Iterator[Draft]:
    try:
        check(statement, tables, said)
        yield from answering_of(statement).drafts(statement, tables)
    except CannotAnswer as found:
        yield Draft(Answer(problem=found.problem))
    except TableError as found:
        yield Draft(Answer(problem=Problem(str(found))))
    except ArithmeticError:  # an overflow, or a division by what is rounded to zero
        yield Draft(Answer(problem=Problem(TOO_FAR)))


def answer(statement: Statement, tables: Tables) -> Answer:
    """The answer to a statement: a pure function of it and the tables."""
    last = None
    for draft in drafts(statement, tables):
        last = draft.answer or last
    assert last is not None
    return last


def drawn_table(statement: Statement, what: str, tables: Tables) -> tuple[Table, str]:
    """What of a statement becomes a table of the study, as a link names it, and what is said of that.

    Raises CannotAnswer.
    """
    check(statement, tables)
    made: tuple[Table, str] = answering_of(statement).drawn_table(statement, what, tables)
    return made
