"""Answering statements, and getting ready for it."""

from __future__ import annotations

import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from theoros.answer.digits import BY_RULE, Digits, using
from theoros.engine.tasks.task import Task
from theoros.table.table import Table

if TYPE_CHECKING:
    from theoros.verbs.core.statement import Statement

TELL_EVERY = 0.05
"""Seconds between two words on how far a task is."""


@dataclass(frozen=True)
class WarmUp(Task):
    """Imports what answers need, so that the first need not wait."""

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        import importlib
        import pkgutil

        from theoros import verbs

        for name in ("numpy", "polars", "pyarrow", "scipy.special", "scipy.stats"):
            yield importlib.import_module(name) and None
        for module in pkgutil.walk_packages(verbs.__path__, f"{verbs.__name__}."):
            if module.name.endswith(".answering"):
                yield importlib.import_module(module.name) and None


@dataclass(frozen=True)
class AnswerStatement(Task):
    """The answer to a statement, in drafts; those that only tell how far it is, now and then."""

    statement: Statement
    digits: Digits = BY_RULE

    @property
    def needs(self) -> tuple[str, ...]:
        return (self.statement.table,) if self.statement.needs_table else ()

    def steps(self, tables: Mapping[str, Table], folder: Path) -> Iterator[object]:
        from theoros.verbs.core.answering import drafts

        told = 0.0
        coming = drafts(self.statement, tables)
        while True:
            with using(self.digits):
                draft = next(coming, None)
            if draft is None:
                return
            now = time.monotonic()
            if draft.answer is None and now - told < TELL_EVERY:
                yield None  # nothing to tell, a place to be stopped at
                continue
            told = now
            yield draft
