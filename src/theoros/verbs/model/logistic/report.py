"""A model of two outcomes as far as it is worked out."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from theoros.answer.wording import percent_text
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.verbs.core.slots import Tables
from theoros.verbs.model.logistic.fit import FittedOutcome
from theoros.verbs.model.multiple.data import Design, typed_values
from theoros.verbs.model.statement import ModelStatement


@dataclass
class LogisticReport:
    s: ModelStatement
    tables: Tables
    found: FittedOutcome
    alone: bool
    others: tuple[str, ...]

    @property
    def sure(self) -> str:
        return percent_text(self.s.confidence)

    @property
    def design(self) -> Design:
        return self.found.design

    @cached_property
    def predicted(self) -> tuple[Floats, tuple[str, ...], tuple[float, float, float]] | None:
        s = self.s
        if self.alone and s.read is not None:
            row, unsaid = np.array([[float(s.read)]]), tuple[str, ...]()
        elif s.values.strip():
            row, unsaid = typed_values(s, self.design)
        else:
            return None
        p, low, high = self.found.probability(self.design.row(row), s.confidence)
        return row[0], unsaid, (float(p[0]), float(low[0]), float(high[0]))
