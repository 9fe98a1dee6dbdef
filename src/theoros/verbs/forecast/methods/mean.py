"""The mean of all values, for a series that goes nowhere: neither trend nor seasons."""

from __future__ import annotations

from typing import ClassVar

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.lazy_imports import np
from theoros.numeric.series.forecasts import ForecastResult, mean
from theoros.verbs.forecast.methods.method import Candidate, FitRequest, ForecastMethod, Shown


class Mean(ForecastMethod):
    name: ClassVar[str] = "mean"
    label: ClassVar[str] = "the mean"
    help: ClassVar[str] = "All values have the same weight; for a series without trend and seasons."
    order: ClassVar[int] = 15
    other_names: ClassVar[tuple[tuple[str, str], ...]] = (("average", "The mean of all values."),)
    simple: ClassVar[bool] = True

    def title(self, candidate: Candidate) -> str:
        return "the mean of all values"

    def how(self, candidate: Candidate) -> str:
        return "the mean of all values"

    def fit(self, asked: FitRequest) -> ForecastResult:
        return mean(asked.values, asked.steps)

    def worked_out(self, shown: Shown) -> list[str | Formula]:
        values = shown.series.values
        n = int(np.isfinite(values).sum())
        return [formula(f"x̄ = Σ x / n = {shown.total} {{with}} n = {n}")]


METHODS = (Mean(),)
