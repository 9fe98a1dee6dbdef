"""Answers a model by what it asks: a curve of one predictor, several predictors, the chance of an outcome."""

from __future__ import annotations

from collections.abc import Iterator

from theoros.answer.parts import Draft
from theoros.verbs.core.slots import Tables
from theoros.verbs.model.logistic import answering as logistic
from theoros.verbs.model.multiple import answering as multiple
from theoros.verbs.model.simple import answering as simple
from theoros.verbs.model.statement import ModelStatement

ROOMS = {"curve": simple, "several": multiple, "outcome": logistic}


def drafts(s: ModelStatement, tables: Tables) -> Iterator[Draft]:
    """The answer, of many pairs in two steps. Raises CannotAnswer."""
    yield from ROOMS[s.asks(tables)].drafts(s, tables)
