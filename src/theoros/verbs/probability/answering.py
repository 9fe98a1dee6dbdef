"""Answers a question of probability, by what its situation is."""

from __future__ import annotations

import importlib
from collections.abc import Iterator
from dataclasses import replace

from theoros.answer.parts import Assumption, Choice, Draft
from theoros.verbs.core.slots import Tables
from theoros.verbs.probability.statement import ProbabilityStatement


def drafts(s: ProbabilityStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, in one step. Raises CannotAnswer."""
    yield Draft(importlib.import_module(s.about.answered_by).answered(s, tables))


def assumptions(s: ProbabilityStatement) -> tuple[Assumption, ...]:
    """What must hold for the situation: checked, or for the student to judge."""
    return tuple(_judged(one, s) if one.key else one for one in s.situation.assumptions())


def _judged(one: Assumption, s: ProbabilityStatement) -> Assumption:
    agreed, denied = one.key in s.agreed, one.key in s.denied
    choices = (
        Choice("yes", "judge", f"+{one.key}", chosen=agreed),
        Choice("no", "judge", f"-{one.key}", chosen=denied),
    )
    return replace(one, mark="holds" if agreed else "fails" if denied else "judge", choices=choices)
