"""Answers a forecast: the parts first, then the chosen way, then the others beside it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Answer, Draft, Reading, Section
from theoros.answer.wording import plural
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.series.ahead import Came, compared
from theoros.numeric.series.parts import NotPositive, Parts
from theoros.verbs.core.slots import Tables
from theoros.verbs.forecast.figures import effects_table, forecasts_table, ways_table
from theoros.verbs.forecast.judging import cautions_of, conditions_of
from theoros.verbs.forecast.keeping import drawn_table, links_of
from theoros.verbs.forecast.pictures import cycles_picture, effects_picture, picture_of
from theoros.verbs.forecast.saying import (
    gap_words,
    headline_of,
    left_over_words,
    read_out,
    season_words,
    strength_words,
    trend_words,
)
from theoros.verbs.forecast.series import Series
from theoros.verbs.forecast.ways import Forecast, Rival, Ways, suggested, ways_of
from theoros.verbs.forecast.working import working_of

if TYPE_CHECKING:
    from theoros.verbs.forecast.statement import ForecastStatement

__all__ = ["drafts", "drawn_table"]

TAKING, FITTING = "Taking the series apart", "Fitting ways of forecasting"
LEAST_FITTED = 4
"""So many values must be left when others are held back."""


def drafts(s: ForecastStatement, tables: Tables) -> Iterator[Draft]:
    """The parts are shown before the first forecast of a series, and the chosen way before others.

    Raises CannotAnswer.
    """
    ways = ways_of(s, tables)
    told = Told(s, tables, ways)
    told.check()
    if not ways.fitted:
        yield Draft(told.answer(), 0.1, TAKING)
    chosen = ways.chosen(s)
    if chosen is not None:
        told = told.by(chosen)
        yield Draft(told.answer(), 0.3, FITTING)
    rivals = ways.rivals(s)
    held = told.held
    for at, rival in enumerate(rivals):
        known = len(ways.fitted)
        told.found[rival] = ways.fit(s, rival, held, held or told.steps)
        if len(ways.fitted) > known:  # a turn in which it can be stopped
            yield Draft(None, 0.3 + 0.7 * (at + 1) / (len(rivals) + 1), FITTING)
    if chosen is None:
        best = suggested(told.found)
        if best is None:
            raise CannotAnswer(
                f"There are too few values for any smoothing: {ways.series.n - held} are left. "
                f"Hold fewer back, or carry the last value on.",
                "way",
                (("Carry it on", "way", "again"), ("Hold nothing back", "held", 0)),
            )
        told = told.by(best)
    yield Draft(told.answer())


@dataclass(frozen=True, eq=False)
class Told:
    """A forecast as far as it is worked out, ready to be written up."""

    s: ForecastStatement
    tables: Tables
    ways: Ways
    rival: Rival | None = None
    forecast: Forecast | None = None
    """Of what is to come, from all values."""
    checked: Forecast | None = None
    """Of what was held back, without it."""
    found: dict[Rival, Forecast | str] = field(default_factory=dict)

    @property
    def series(self) -> Series:
        return self.ways.series

    @cached_property
    def held(self) -> int:
        return self.s.held_of(self.series)

    @cached_property
    def steps(self) -> int:
        return self.s.steps_of(self.series)

    @property
    def most_held(self) -> int:
        """How many can be held back at the most."""
        least = 2 * self.series.cycle + 1 if self.series.cycle > 1 else LEAST_FITTED
        return max(self.held, self.series.n - max(LEAST_FITTED, least), 0)

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
                f"All values of {series.column.name} are alike, so there is neither a trend nor a "
                f"season to tell, and nothing to say how far off a forecast may be. Choose another "
                f"column.",
                "what",
            )
        left = series.n - self.held
        if left < LEAST_FITTED:
            raise CannotAnswer(
                f"Of {series.n} {plural(series.step)} {self.held} are held back, which leaves too "
                f"few to forecast from. Hold fewer back.",
                "held",
                (("Hold nothing back", "held", 0),),
            )
        if self.s.seasons == "multiplied" and series.cycle > 1 and not series.positive:
            low = float(there.min())
            raise CannotAnswer(
                f"Seasons that multiply need values above 0, and {series.column.name} goes down to "
                f"{low:g}: a share of nothing is nothing. Let the seasons be added.",
                "seasons",
                (("Seasons are added", "seasons", "added"),),
            )
        if self.s.way == "arima":
            from theoros.verbs.forecast.ways import orders_of

            orders_of(self.s, series.cycle)

    def by(self, rival: Rival) -> Told:
        """The same with a way fitted to all values, and to those that are not held back.

        Raises CannotAnswer.
        """
        whole = self.ways.fit(self.s, rival, 0, self.steps)
        part = self.ways.fit(self.s, rival, self.held, self.held) if self.held else None
        for one in (part, whole):
            if isinstance(one, str):
                raise CannotAnswer(
                    f"By {rival.how} nothing can be forecast here: {one}. Hold fewer back, or choose another way.",
                    "way",
                    (("Carry the last value on", "rival", "again: level"), ("Hold nothing back", "held", 0)),
                )
        return replace(
            self,
            rival=rival,
            forecast=whole if isinstance(whole, Forecast) else None,
            checked=part if isinstance(part, Forecast) else None,
        )

    @cached_property
    def parts(self) -> Parts | None:
        try:
            return self.ways.parts(self.s)
        except NotPositive:
            return None

    @cached_property
    def stretches(self) -> list[tuple[int, Forecast, tuple[Floats, Floats]]]:
        """The forecasts that are shown: their first step, and their bands."""
        made = []
        if self.checked is not None:
            made.append((self.series.n - self.held, self.checked, self.checked.band(self.s)))
        if self.forecast is not None:
            made.append((self.series.n, self.forecast, self.forecast.band(self.s)))
        return made

    @cached_property
    def came(self) -> Came | None:
        """How what was held back came."""
        if self.checked is None:
            return None
        _, forecast, band = self.stretches[0]
        return self.came_of(forecast, band)

    def came_of(self, forecast: Forecast, band: tuple[Floats, Floats]) -> Came | None:
        actual = self.series.raw[self.series.n - self.held :]
        if not np.isfinite(actual).any():
            return None
        return compared(forecast.ahead.middle, band, actual)

    @property
    def better_again(self) -> str:
        """A way that only carries values on and was clearly closer over what was held back."""
        if self.came is None or self.rival is None or self.rival.way == "again":
            return ""
        best, size = "", 0.9 * self.came.absolute
        for rival, one in self.found.items():
            if rival.way == "again" and isinstance(one, Forecast):
                came = self.came_of(one, one.band(self.s))
                if came is not None and came.absolute < size:
                    best, size = rival.label, came.absolute
        return best

    @property
    def exact(self) -> bool:
        """Whether the errors are but rounding."""
        if self.forecast is None:
            return False
        ahead = self.forecast.ahead
        values = self.series.raw[np.isfinite(self.series.raw)]
        size = float(np.abs(ahead.scale.forward(values)).max())
        return not ahead.known > 1e-9 * size

    @property
    def read_step(self) -> int | None:
        """The step that is read, within what is shown."""
        if self.s.read is None:
            return None
        return min(max(self.series.step_at(float(self.s.read)), 0), self.until)

    @property
    def reads_ahead(self) -> bool:
        return self.read_step is not None and self.read_step >= self.series.n

    @property
    def read_text(self) -> str:
        return read_out(self)

    @property
    def headline(self) -> str:
        return headline_of(self)

    def at(self, step: int | None) -> tuple[int, float, float, float, float] | None:
        """What is expected at a step, by default the first to come: step, middle, band, deviation.

        The deviation is that of a normal value with as wide a band. None where nothing is.
        """
        for first, forecast, (low, high) in self.stretches:
            wanted = self.series.n if step is None else step
            at = wanted - first
            if 0 <= at < low.size:
                wide = float(high[at] - low[at])
                middle = float(forecast.ahead.middle[at])
                return wanted, middle, float(low[at]), float(high[at]), wide / 3.92
        return None

    def answer(self) -> Answer:
        s, series = self.s, self.series
        figures = []
        if self.forecast is not None:
            figures.append(forecasts_table(self))
            if self.parts is not None and series.cycle > 1:
                figures.append(effects_table(series, self.parts))
        if len(self.found) > 1:
            figures.append(ways_table(self))
        return Answer(
            s.text(self.tables),
            picture=picture_of(self),
            sections=self._sections(),
            figures=tuple(figures),
            reading=self._reading(),
            working=working_of(self),
            used=int(np.isfinite(series.raw).sum()),
            left_out=series.left_out,
            seed=s.seed if s.bands == "simulation" else None,
            numbers=self._numbers(),
        )

    def _sections(self) -> tuple[Section, ...]:
        s, series, made = self.s, self.series, []
        if "effects" in s.shown and self.parts is not None and series.cycle > 1:
            note = "as factors of the trend" if self.parts.multiplicative else "added to the trend"
            picture = effects_picture(series, self.parts)
            made.append(Section("Seasonal effects", picture, note=note))
        if "cycles" in s.shown and series.cycle > 1:
            made.append(
                Section("Cycles laid over each other", cycles_picture(series), note="the last one is drawn strongest")
            )
        return tuple(made)

    def _reading(self) -> Reading:
        s, series = self.s, self.series
        said = [*series.notes]
        said.append(gap_words(series))
        if self.parts is not None:
            said += [
                trend_words(series, self.parts),
                season_words(series, self.parts),
                strength_words(self.parts),
                left_over_words(series, self.parts, s.reason),
            ]
        if s.read is not None:
            said.insert(0, f"{self.read_text}.")
        if self.forecast is not None:
            said.append(self._how())
        return Reading(
            self.headline,
            tuple(text for text in said if text),
            conditions=conditions_of(self),
            conditions_title="How far to trust it",
            cautions=cautions_of(self),
            next=links_of(self),
        )

    def _how(self) -> str:
        """From what the forecasts were worked out."""
        series = self.series
        assert self.rival is not None
        said = f"Forecast by {self.rival.how}, from all {series.n} {plural(series.step)}"
        if self.held:
            many = self.held
            last = f"{many} {plural(series.step)} are" if many > 1 else f"{series.step} is"
            said += f"; for the check, the last {last} forecast from the {series.n - many} before"
        return f"{said}."

    def _numbers(self) -> dict[str, object]:
        series, made = self.series, dict[str, object]()
        made["n"], made["cycle"], made["gaps"] = series.n, series.cycle, int(series.gaps.size)
        made["step"] = series.times.step
        if self.parts is not None:
            made["trend"] = self.parts.trend.tolist()[:2000]
            made["effects"] = self.parts.effects.tolist()
            made["strengths"] = list(self.parts.strengths)
        if self.forecast is not None:
            low, high = self.stretches[-1][2]
            made["forecast"] = self.forecast.ahead.middle.tolist()
            made["low"], made["high"] = low.tolist(), high.tolist()
        if self.came is not None:
            made["absolute"], made["inside"] = self.came.absolute, self.came.inside
        made["aicc"] = {
            rival.key: one.ahead.aicc
            for rival, one in self.found.items()
            if isinstance(one, Forecast) and math.isfinite(one.ahead.aicc)
        }
        return made
