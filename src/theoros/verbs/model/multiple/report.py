"""A model of several predictors as far as it is worked out."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.fisher_f import FisherF
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import sum_of_squares
from theoros.verbs.core.slots import Tables
from theoros.verbs.model.data import ModelPairs
from theoros.verbs.model.multiple.data import typed_values
from theoros.verbs.model.multiple.fit import DiagnosedSeveral, Several
from theoros.verbs.model.statement import ModelStatement


@dataclass
class MultipleReport:
    s: ModelStatement
    tables: Tables
    fit: Several
    pairs: ModelPairs

    @cached_property
    def judged(self) -> DiagnosedSeveral:
        return DiagnosedSeveral(self.fit)

    @property
    def plain(self) -> bool:
        """Whether each predictor stands by itself, without products and squares."""
        return not (self.s.products or self.s.squares)

    @cached_property
    def overall(self) -> tuple[float, int, float]:
        """F of the whole model, its degrees of freedom, and p."""
        f, total = self.fit, sum_of_squares(self.fit.y)
        df = f.terms - 1
        ratio = (total - f.rss) / df / f.sigma**2 if f.sigma > 0 else math.inf
        p = float(FisherF(df, f.df).sf(ratio)) if math.isfinite(ratio) else 0.0
        return ratio, df, p

    @cached_property
    def predicted(self) -> tuple[Floats, float, dict[str, tuple[float, float]], tuple[str, ...]]:
        f = self.fit
        row, unsaid = typed_values(self.s, f.design)
        line = f.design.row(row)
        value = float((line @ f.coefficients)[0])
        spread = float(f.linear.spread(line)[0])
        reach = StudentT(f.df).critical(1 - self.s.confidence, "different") * f.sigma
        wide = reach * math.sqrt(1 + spread**2)
        ends = {"mean": (value - reach * spread, value + reach * spread), "single": (value - wide, value + wide)}
        return row[0], value, ends, unsaid
