"""A forecast as far as it is worked out: what tables, pictures, words and working read from."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.series.decomposition import Decomposition, NotPositive
from theoros.numeric.series.forecasts import HoldoutAccuracy, holdout_accuracy
from theoros.verbs.core.slots import Tables
from theoros.verbs.forecast.methods.fits import Forecast, ForecastFits
from theoros.verbs.forecast.methods.method import BEST, Candidate, forecast_methods
from theoros.verbs.forecast.series.series import Series
from theoros.verbs.forecast.statement import ForecastStatement

TOLD_FROM = 3
"""So many cycles are needed to tell seasons by."""
LEAST_FITTED = 4
"""So many values must be left when others are held back."""


@dataclass(frozen=True, eq=False)
class ForecastReport:
    """A forecast as far as it is worked out, ready to be written up."""

    s: ForecastStatement
    tables: Tables
    fits: ForecastFits
    candidate: Candidate | None = None
    forecast: Forecast | None = None
    """Of what is to come, from all values."""
    checked: Forecast | None = None
    """Of what was held back, without it."""
    found: dict[Candidate, Forecast | str] = field(default_factory=dict)

    @property
    def series(self) -> Series:
        return self.fits.series

    @cached_property
    def holdout(self) -> int:
        return self.s.holdout_of(self.series)

    @property
    def judged_by(self) -> int:
        """How many are held back where ways compete: none, where too little would be left to tell seasons by.

        A way with seasons has a number for each of them; of two cycles it cannot win, however plain
        they are.
        """
        cycle = self.series.cycle
        return self.holdout if cycle == 1 or self.series.n - self.holdout >= TOLD_FROM * cycle else 0

    @cached_property
    def steps(self) -> int:
        return self.s.steps_of(self.series)

    @property
    def most_holdout(self) -> int:
        """How many can be held back at the most."""
        least = 2 * self.series.cycle + 1 if self.series.cycle > 1 else LEAST_FITTED
        return max(self.holdout, self.series.n - max(LEAST_FITTED, least), 0)

    @property
    def until(self) -> int:
        """The last step that is shown."""
        return self.series.n + self.steps - 1

    @cached_property
    def x(self) -> Floats:
        """Where every step stands on the axis of time, those to come with them."""
        return self.series.along(np.arange(self.series.n + self.steps))

    def check(self) -> None:
        """Raises CannotAnswer for a series of which nothing can be told, or too much held back."""
        series = self.series
        there = series.raw[np.isfinite(series.raw)]
        if float(np.ptp(there)) == 0:
            raise CannotAnswer(
                f"All values of {series.column.name} are equal, so there is no trend, no season and no error to "
                "estimate. Choose another column.",
                "what",
            )
        left = series.n - self.holdout
        if left < LEAST_FITTED:
            raise CannotAnswer(
                f"Of {series.n} {plural(series.step)} {self.holdout} are held back, which leaves too few values "
                "for a forecast. Hold back fewer.",
                "holdout",
                (("Hold nothing back", "holdout", 0),),
            )
        if self.s.seasons == "multiplied" and series.cycle > 1 and not series.positive:
            low = float(there.min())
            raise CannotAnswer(
                f"Seasons that multiply need values above 0, and {series.column.name} goes down to "
                f"{low:g}: a share of nothing is nothing. Let the seasons be added.",
                "seasons",
                (("Use added seasons", "seasons", "added"),),
            )
        if self.s.method != BEST:
            method = forecast_methods()[self.s.method]
            method.check({name: getattr(self.s, name) for name in method.uses}, series.cycle)

    def by(self, candidate: Candidate) -> ForecastReport:
        """The same with a way fitted to all values, and to those that are not held back.

        Raises CannotAnswer.
        """
        whole = self.fits.fit(self.s, candidate, 0, self.steps)
        part = self.fits.fit(self.s, candidate, self.holdout, self.holdout) if self.holdout else None
        for one in (part, whole):
            if isinstance(one, str):
                raise CannotAnswer(
                    f"There is no forecast by {candidate.how}: {one}. "
                    + (
                        ("Hold back fewer values, or choose another method.")
                        if self.holdout
                        else "Choose another method."
                    ),
                    "method",
                    (
                        ("Carry the last value on", "candidate", "naive: level"),
                        *((("Hold nothing back", "holdout", 0),) if self.holdout else ()),
                    ),
                )
        return replace(
            self,
            candidate=candidate,
            forecast=whole if isinstance(whole, Forecast) else None,
            checked=part if isinstance(part, Forecast) else None,
        )

    @cached_property
    def parts(self) -> Decomposition | None:
        try:
            return self.fits.parts(self.s)
        except NotPositive:
            return None

    @cached_property
    def stretches(self) -> list[tuple[int, Forecast, tuple[Floats, Floats]]]:
        """The forecasts that are shown: their first step, and their bands."""
        made = []
        if self.checked is not None:
            made.append((self.series.n - self.holdout, self.checked, self.checked.band(self.s)))
        if self.forecast is not None:
            made.append((self.series.n, self.forecast, self.forecast.band(self.s)))
        return made

    @cached_property
    def accuracy(self) -> HoldoutAccuracy | None:
        """How what was held back came."""
        if self.checked is None:
            return None
        _, forecast, band = self.stretches[0]
        return self.accuracy_of(forecast, band)

    def holding_back(self, candidate: Candidate) -> Forecast | str:
        """A candidate without what is held back, whatever the ways compete on."""
        if self.judged_by == self.holdout:
            return self.found[candidate]
        return self.fits.fit(self.s, candidate, self.holdout, self.holdout)

    def came(self, candidate: Candidate) -> HoldoutAccuracy | None:
        """How what was held back came by a candidate; None where it could not be fitted without."""
        one = self.holding_back(candidate)
        return self.accuracy_of(one, one.band(self.s)) if isinstance(one, Forecast) else None

    def accuracy_of(self, forecast: Forecast, band: tuple[Floats, Floats]) -> HoldoutAccuracy | None:
        actual = self.series.raw[self.series.n - self.holdout :]
        if not np.isfinite(actual).any():
            return None
        return holdout_accuracy(forecast.result.median, band, actual)

    @property
    def simple_that_was_closer(self) -> str:
        """A method that only carries values on and was clearly closer over what was held back."""
        if self.accuracy is None or self.candidate is None or self.candidate.of.simple:
            return ""
        best, size = "", 0.9 * self.accuracy.mae
        for candidate in self.found:
            came = self.came(candidate) if candidate.of.simple else None
            if came is not None and came.mae < size:
                best, size = candidate.label, came.mae
        return best

    @property
    def exact(self) -> bool:
        """Whether the errors are but rounding."""
        if self.forecast is None:
            return False
        ahead = self.forecast.result
        values = self.series.raw[np.isfinite(self.series.raw)]
        size = float(np.abs(ahead.scale.forward(values)).max())
        return not ahead.sigma > 1e-9 * size

    @property
    def read_step(self) -> int | None:
        """The step that is read, within what is shown."""
        if self.s.read is None:
            return None
        return min(max(self.series.step_at(float(self.s.read)), 0), self.until)

    @property
    def reads_ahead(self) -> bool:
        return self.read_step is not None and self.read_step >= self.series.n

    def at(self, step: int | None) -> tuple[int, float, float, float, float] | None:
        """What is expected at a step, by default the first to come: step, middle, band, deviation.

        The deviation is that of a normal value with as wide a band. None where nothing is.
        """
        normal = Normal().critical(1 - self.s.confidence, "different")
        for first, forecast, (low, high) in self.stretches:
            wanted = self.series.n if step is None else step
            at = wanted - first
            if 0 <= at < low.size:
                wide = float(high[at] - low[at])
                middle = float(forecast.result.median[at])
                return wanted, middle, float(low[at]), float(high[at]), wide / (2 * normal)
        return None
