"""Answers a question of probability, by what its situation is."""

from __future__ import annotations

import importlib
from collections.abc import Iterator

from theoros.answer.parts import Choice, Condition, Draft
from theoros.verbs.core.slots import Tables
from theoros.verbs.probability.statement import ProbabilityStatement


def drafts(s: ProbabilityStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, in one step. Raises CannotAnswer."""
    yield Draft(importlib.import_module(s.about.answered_by).answered(s, tables))


def conditions(s: ProbabilityStatement) -> tuple[Condition, ...]:
    """What must hold: checked, or for the student to judge."""
    made = []
    for demand in s.situation.demands():
        if demand.met is not None:
            made.append(Condition("holds" if demand.met else "fails", demand.text))
            continue
        agreed, denied = demand.key in s.agreed, demand.key in s.denied
        choices = (
            Choice("yes", "judge", f"+{demand.key}", chosen=agreed),
            Choice("no", "judge", f"-{demand.key}", chosen=denied),
        )
        mark = "holds" if agreed else "fails" if denied else "judge"
        made.append(Condition(mark, demand.text, choices))  # type: ignore[arg-type]
    return tuple(made)
