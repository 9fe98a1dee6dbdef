"""A straight trend with an effect for each season, by least squares, that goes on as it was."""

from __future__ import annotations

from typing import ClassVar

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.wording import bracketed, significant
from theoros.numeric.regression.least_squares import LinearFit
from theoros.numeric.series.forecasts import ForecastResult, line
from theoros.verbs.forecast.methods.method import Candidate, FitRequest, ForecastMethod, Parts, Shown


class StraightLine(ForecastMethod):
    name: ClassVar[str] = "line"
    label: ClassVar[str] = "a straight line"
    help: ClassVar[str] = "A trend that continues unchanged, by least squares."
    order: ClassVar[int] = 20
    parts: ClassVar[tuple[Parts, ...]] = ("trend", "trend with seasons")
    multiplies: ClassVar[bool] = True

    def title(self, candidate: Candidate) -> str:
        if candidate.multiplied:  # a line of the logarithms: so much per cent a step
            return "steady rate of growth, seasons multiplied"
        return f"straight line, seasons {candidate.seasons}" if candidate.seasonal else "straight line"

    def how(self, candidate: Candidate) -> str:
        return f"a {self.title(candidate)}"

    def fit(self, asked: FitRequest) -> ForecastResult:
        return line(asked.values, asked.steps, asked.season_length)

    def worked_out(self, shown: Shown) -> list[str | Formula]:
        series, model = shown.series, shown.result.model
        assert isinstance(model, LinearFit)
        b, step = model.coefficients, shown.step
        terms = [shown.put(float(b[0])), f"{bracketed(significant(float(b[1]), 5))} × {step}"]
        names = ["a", "b t"]
        season = step % (b.size - 1) if b.size > 2 else 0
        if season:
            names.append("s")
            terms.append(shown.put(float(b[1 + season])))
        relative = f" and seasons relative to {series.season(0)}:" if b.size > 2 else ":"
        return [
            f"Least squares, with t = 0 {series.when_in(0)}{relative}",
            formula(f"{' + '.join(names)} = {' + '.join(terms)} = {shown.total}"),
        ]


METHODS = (StraightLine(),)
