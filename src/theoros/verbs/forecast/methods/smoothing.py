"""Exponential smoothing: level, slope and seasons follow the values, the last ones most."""

from __future__ import annotations

from typing import ClassVar

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.notation import formula
from theoros.answer.parts import Step
from theoros.answer.wording import number, trimmed
from theoros.lazy_imports import np
from theoros.numeric.series.forecasts import ForecastResult, smoothing
from theoros.numeric.series.smoothing import STARTS, Smoothed, SmoothingForm
from theoros.verbs.forecast.methods.method import SEASONAL, Candidate, FitRequest, ForecastMethod, Parts, Shown, TooLong

MOST_WORK = 200_000_000
"""The square of a cycle times how many values there are, for which a search ends soon."""


class Smoothing(ForecastMethod):
    name: ClassVar[str] = "smoothing"
    label: ClassVar[str] = "smoothing"
    help: ClassVar[str] = "Exponential smoothing: the latest values have the most weight."
    order: ClassVar[int] = 30
    other_names: ClassVar[tuple[tuple[str, str], ...]] = (
        ("exponential smoothing, Holt-Winters", "The latest values have the most weight."),
    )
    parts: ClassVar[tuple[Parts, ...]] = (
        "level", "trend", "damped trend", "level with seasons", "trend with seasons", "damped trend with seasons",
    )  # fmt: skip
    multiplies: ClassVar[bool] = True

    def title(self, candidate: Candidate) -> str:
        parts = _on_its_scale(candidate)
        return f"smoothing: {parts}" + (f", seasons {candidate.seasons}" if candidate.seasonal else "")

    def how(self, candidate: Candidate) -> str:
        parts = _on_its_scale(candidate)
        return f"smoothing with a {parts}" + (f" and seasons {candidate.seasons}" if candidate.seasonal else "")

    def complexity(self, candidate: Candidate) -> int:
        return super().complexity(candidate) + 1

    def fit(self, asked: FitRequest) -> ForecastResult:
        if asked.candidate.seasonal and asked.cycle**2 * asked.values.size > MOST_WORK:
            raise TooLong
        parts = asked.candidate.parts
        form = SmoothingForm(
            "trend" in parts, parts.startswith("damped"), asked.cycle if asked.candidate.seasonal else 0
        )
        return smoothing(asked.values, asked.steps, form)

    def coefficients(self, result: ForecastResult) -> list[Step]:
        model = result.model
        assert isinstance(model, Smoothed)
        c, form = model.constants, model.form
        said = [f"α = {_constant(c.alpha)}"]
        if form.slope:
            said.append(f"β = {_constant(c.beta)}")
        if form.cycle:
            said.append(f"γ = {_constant(c.gamma)}")
        if form.damped:
            said.append(f"φ = {_constant(c.phi)}")
        lines: list[str | Formula] = [
            formula(", ".join(said)),
            "α sets how fast the level changes, "
            + ("β the slope, " if form.slope else "")
            + ("γ the seasons, " if form.cycle else "")
            + "each from 0 (never) to 1 (immediately)."
            + (
                (
                    " φ is the part of the slope that remains after each step: with 1 the slope stays, with 0 it "
                    "disappears immediately."
                )
                if form.damped
                else ""
            ),
            f"They have the highest likelihood (log-likelihood {number(model.log_likelihood, 2)}), found from the "
            f"best of {len(STARTS)} starts.",
        ]
        return [Step("Smoothing constants", tuple(lines))]

    def worked_out(self, shown: Shown) -> list[str | Formula]:
        series, model = shown.series, shown.result.model
        assert isinstance(model, Smoothed)
        levels, slopes, seasons = model.states
        h, phi = shown.at + 1, model.constants.phi
        terms, names = [shown.put(float(levels[-1]))], ["l"]
        if model.form.slope:
            grown = float(np.sum(phi ** np.arange(1, h + 1)))
            times = str(h) if not model.form.damped else trimmed(grown, 3)
            names.append("h b" if not model.form.damped else "(φ + … + φ^{h}) b")
            terms.append(f"{times} × {shown.put(float(slopes[-1]))}")
        if model.form.cycle:
            names.append("s")
            last = seasons[seasons.size - model.form.cycle :]
            terms.append(shown.put(float(last[shown.at % model.form.cycle])))
        slope, season = ", slope" if model.form.slope else "", " and season" if model.form.cycle else ""
        return [
            f"Level{slope}{season} after the last value, {h} {series.step if h == 1 else series.step + 's'} ahead:",
            formula(f"{' + '.join(names)} = {' + '.join(terms)} = {shown.total}"),
        ]


def _on_its_scale(candidate: Candidate) -> str:
    """Where seasons multiply the slope does, too: it is a rate of growth."""
    parts = candidate.parts.removesuffix(SEASONAL)
    return parts.replace("trend", "rate of growth") if candidate.multiplied else parts


def _constant(value: float) -> str:
    """A smoothing constant with four decimals; next to nothing is 0."""
    return number(value, 4) if value >= 0.00005 else "0"


METHODS = (Smoothing(),)
