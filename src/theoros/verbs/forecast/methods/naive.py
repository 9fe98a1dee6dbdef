"""The last value, or the last cycle, comes again."""

from __future__ import annotations

from typing import ClassVar

from theoros.answer.formulas.formula import Formula
from theoros.numeric.series.forecasts import ForecastResult, naive
from theoros.verbs.forecast.methods.method import Candidate, FitRequest, ForecastMethod, Parts, Shown


class Naive(ForecastMethod):
    name: ClassVar[str] = "naive"
    label: ClassVar[str] = "carrying it on"
    help: ClassVar[str] = "The last value or the last cycle is repeated (naive)."
    order: ClassVar[int] = 10
    other_names: ClassVar[tuple[tuple[str, str], ...]] = (
        (("naive forecast, seasonal naive"), "The last cycle is repeated."),
    )
    parts: ClassVar[tuple[Parts, ...]] = ("level", "level with seasons")
    simple: ClassVar[bool] = True

    def parts_label(self, parts: Parts) -> str:
        return {"level": "the last value", "level with seasons": "the last cycle"}[parts]

    def title(self, candidate: Candidate) -> str:
        return f"the last {_what(candidate)} repeated"

    def how(self, candidate: Candidate) -> str:
        return f"repeating the last {_what(candidate)}"

    def fit(self, asked: FitRequest) -> ForecastResult:
        return naive(asked.values, asked.steps, asked.season_length)

    def worked_out(self, shown: Shown) -> list[str | Formula]:
        cycle = shown.series.cycle if shown.candidate.seasonal else 1
        place = shown.series.n - cycle + shown.at % cycle
        return [f"The value of {shown.series.named(place)} is repeated: {shown.total}."]


def _what(candidate: Candidate) -> str:
    return "cycle" if candidate.seasonal else "value"


METHODS = (Naive(),)
