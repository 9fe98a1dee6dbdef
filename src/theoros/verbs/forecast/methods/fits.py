"""Fits of all methods to one series, beside each other, one of them suggested."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.levels import below
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.numeric.series.decomposition import Decomposition, NotPositive, parts_by_means, suggests_multiplicative
from theoros.numeric.series.forecasts import ForecastResult
from theoros.numeric.series.moving import moving_average
from theoros.numeric.series.residual_tests import season_p
from theoros.numeric.series.robust import parts_by_local_regression, trend_by_local_regression
from theoros.numeric.series.scales import LOG, PLAIN, ROOT, Negative, SeriesScale
from theoros.numeric.series.smoothing import TooShort
from theoros.verbs.forecast.methods.method import BEST, SEASONAL, Candidate, FitRequest, TooLong, forecast_methods
from theoros.verbs.forecast.series.reading_series import series_of
from theoros.verbs.forecast.series.series import Series, filled
from theoros.verbs.forecast.statement import ForecastStatement

if TYPE_CHECKING:
    from theoros.verbs.core.slots import Tables

AS_GOOD = 2.0
"""A way with fewer parameters is as good as another whose AICc is lower by no more than this."""
NO_SEASONS = 0.05
"""Seasons are not told where chance alone would give so large differences so often."""


@dataclass(frozen=True)
class Forecast:
    """A candidate fitted to the values that it was given."""

    candidate: Candidate
    result: ForecastResult

    def band(self, s: ForecastStatement) -> tuple[Floats, Floats]:
        if s.bands == "simulation":
            return self.result.simulated_band(s.confidence, s.seed)
        return self.result.band(s.confidence)


@dataclass(eq=False)
class ForecastFits:
    """Every candidate for one series, each fitted when it is first asked for."""

    series: Series
    fitted: dict[tuple[object, ...], Forecast | str] = field(default_factory=dict)
    decomposed: dict[tuple[object, ...], Decomposition] = field(default_factory=dict)
    products: dict[int, bool] = field(default_factory=dict)
    """Whether seasons seem to multiply, by how many values were known."""

    def suggests_products(self, s: ForecastStatement) -> bool:
        """Whether seasons seem to multiply, where there are any; what is held back has no say in it."""
        known = self.series.n - s.holdout_of(self.series)
        if known not in self.products:
            values, cycle = self.known(known), self.series.cycle
            made = cycle > 1 and values.size >= 2 * cycle and suggests_multiplicative(values, cycle)
            p = season_p(values - moving_average(values, cycle), cycle) if made else math.nan
            self.products[known] = not math.isnan(p) and below(p, NO_SEASONS)
        return self.products[known]

    def known(self, n: int) -> Floats:
        """The first n values, gaps filled from them alone."""
        raw = self.series.raw[:n]
        return filled(raw, self.series.cycle) if not np.isfinite(raw).all() else raw

    def multiplied(self, s: ForecastStatement) -> bool:
        """Whether seasons multiply, as was chosen or as the data suggest."""
        if s.seasons == "suggested":
            return self.suggests_products(s)
        return s.seasons == "multiplied" and self.series.cycle > 1

    def parts(self, s: ForecastStatement) -> Decomposition:
        """The series taken apart. Raises NotPositive."""
        series, products = self.series, self.multiplied(s)
        key = s.decomposition, products
        if key not in self.decomposed:
            whole = _whole(series)
            if series.cycle == 1:
                self.decomposed[key] = _without_seasons(whole, s.decomposition)
            elif s.decomposition == "means":
                self.decomposed[key] = parts_by_means(whole, series.cycle, multiplicative=products)
            else:
                self.decomposed[key] = parts_by_local_regression(whole, series.cycle, multiplicative=products)
        return self.decomposed[key]

    def candidates(self) -> list[Candidate]:
        """All methods with all parts that this series allows."""
        seasonal, positive = self.series.cycle > 1, self.series.positive
        methods = forecast_methods().values()
        return [one for method in methods for one in method.candidates(seasonal=seasonal, positive=positive)]

    def chosen(self, s: ForecastStatement) -> Candidate | None:
        """The candidate that the statement names; None for the one with the lowest AICc."""
        if s.method == BEST:
            return None
        method = forecast_methods()[s.method]
        if not method.parts:
            return Candidate(s.method)
        parts = s.effective(self.series)
        return Candidate(s.method, parts, parts.endswith(SEASONAL) and method.multiplies and self.multiplied(s))

    def fit(self, s: ForecastStatement, candidate: Candidate, holdout: int, steps: int) -> Forecast | str:
        """A candidate fitted to all values but those held back; in words why it cannot be."""
        settings = tuple((name, getattr(s, name)) for name in candidate.of.uses)
        negative = can_be_negative(s, self.series)
        key = candidate, holdout, steps, settings, negative, s.confidence
        if key not in self.fitted:
            n = self.series.n - holdout
            values = self.known(n) if self.series.filled else self.series.raw[:n]
            asked = FitRequest(values, steps, self.series.cycle, candidate, dict(settings))
            try:
                if not int(np.isfinite(values).sum()):
                    raise TooShort
                self.fitted[key] = Forecast(candidate, self._fit(s, asked))
            except (TooShort, TooFewCases, Dependent):
                self.fitted[key] = "too few values for it"
            except TooLong:
                self.fitted[key] = "the cycle is too long for so many values, or it is too far"
            except NotPositive:
                self.fitted[key] = "multiplied seasons need values above 0"
            except Negative:
                self.fitted[key] = "there are values below 0"
        return self.fitted[key]

    def _fit(self, s: ForecastStatement, asked: FitRequest) -> ForecastResult:
        if asked.candidate.multiplied:
            return _on(LOG, asked)
        found = _on(PLAIN, asked)
        known = self.series.raw[: asked.values.size]
        if can_be_negative(s, self.series) or bool((known[np.isfinite(known)] < 0).any()):
            return found
        if float(found.band(s.confidence)[0].min()) >= 0:
            return found
        # a band that would reach below 0 is worked out where there is no below
        return _on(ROOT, asked)


def _on(scale: SeriesScale, asked: FitRequest) -> ForecastResult:
    found = asked.candidate.of.fit(replace(asked, values=scale.forward(asked.values)))
    return found.on(scale, asked.values)


def can_be_negative(s: ForecastStatement, series: Series) -> bool:
    """Whether values below 0 can come: as was said, else as for any number that is no count."""
    said = s.below_zero or series.column.below_zero
    return said == "yes" if said else not series.counts


def suggested(found: dict[Candidate, Forecast | str]) -> Candidate | None:
    """Of the candidates with an AICc the one where it is lowest, or a simpler one within 2 of it."""
    able = {
        candidate: one.result.aicc
        for candidate, one in found.items()
        if isinstance(one, Forecast) and math.isfinite(one.result.aicc)
    }
    if not able:
        return None
    best = min(able.values())
    return min((c for c, aicc in able.items() if aicc <= best + AS_GOOD), key=lambda c: c.of.complexity(c))


def _whole(series: Series) -> Floats:
    """Without gaps, as taking apart needs it."""
    return filled(series.raw, series.cycle) if series.gaps.size else series.raw


def trend_width(n: int) -> int:
    """How many values a point of a trend without seasons is from: a fifth of them, 5 to 501."""
    width = min(max(5, n // 5), 501)
    return width + 1 - width % 2


def _without_seasons(values: Floats, decomposition: str) -> Decomposition:
    """A trend alone, by a moving average or by local regression."""
    width = trend_width(values.size)
    trend = moving_average(values, width) if decomposition == "means" else trend_by_local_regression(values, width)
    return Decomposition(values, 1, False, trend, np.zeros(1))


_LAST: list[tuple[Series, ForecastFits]] = []


def fits_of(s: ForecastStatement, tables: Tables) -> ForecastFits:
    """The fits to the series of a statement, those of the last one if it is the same.

    Raises CannotAnswer.
    """
    series = series_of(s.series_choice, tables)
    for held, fits in _LAST:
        if held is series:
            return fits
    made = ForecastFits(series)
    _LAST.insert(0, (series, made))
    del _LAST[2:]
    return made
