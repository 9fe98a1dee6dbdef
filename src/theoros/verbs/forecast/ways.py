"""The ways of forecasting: each fitted to a series, beside the others, one of them suggested."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.regression.least_squares import Dependent, TooFewCases
from theoros.numeric.series.ahead import Ahead, by_arima, line, naive, smoothing
from theoros.numeric.series.arima import Orders
from theoros.numeric.series.leftover import season_p
from theoros.numeric.series.moving import moving_average
from theoros.numeric.series.parts import NotPositive, Parts, parts_by_means, suggests_multiplicative
from theoros.numeric.series.robust import parts_by_local_regression, trend_by_local_regression
from theoros.numeric.series.scales import LOG, PLAIN, ROOT, Negative, Scale
from theoros.numeric.series.smoothing import Form, TooShort
from theoros.verbs.forecast.series import Series, filled
from theoros.verbs.forecast.statement import SEASONAL, ForecastStatement

if TYPE_CHECKING:
    from theoros.verbs.core.slots import Tables

AS_GOOD = 2.0
"""A way with fewer parameters is as good as another whose AICc is lower by no more than this."""
NO_SEASONS = 0.05
"""Seasons are not told where chance alone would give so large differences so often."""
MOST_ORDER = 5
MOST_WORK = 200_000_000
"""The square of a cycle times how many values there are, for which a search ends soon."""
MOST_BY_ARIMA = 2000
"""Steps ahead."""
LABELS = {
    "level": "level",
    "trend": "trend",
    "damped trend": "damped trend",
    "level with seasons": "level, seasons {}",
    "trend with seasons": "trend, seasons {}",
    "damped trend with seasons": "damped trend, seasons {}",
}


class TooLong(ValueError):
    """A cycle too long to search for the constants of its seasons."""


@dataclass(frozen=True)
class Rival:
    """One way of forecasting, with the parts it takes a series to have."""

    way: str
    parts: str = ""
    multiplied: bool = False

    @property
    def key(self) -> str:
        """What choosing it sets."""
        if not self.seasonal or self.way == "again":
            return f"{self.way}: {self.parts}" if self.parts else self.way
        return f"{self.way}: {self.parts}, {'multiplied' if self.multiplied else 'added'}"

    @property
    def seasonal(self) -> bool:
        return self.parts.endswith(SEASONAL)

    @property
    def label(self) -> str:
        how = "multiplied" if self.multiplied else "added"
        if self.way == "again":
            return "the last cycle again" if self.seasonal else "the last value again"
        if self.way == "line":
            return f"straight line, seasons {how}" if self.seasonal else "straight line"
        if self.way == "arima":
            return "seasonal ARIMA"
        return "smoothing: " + LABELS[self.parts].format(how)

    @property
    def how(self) -> str:
        """The same in a sentence, after "by"."""
        if self.way == "again":
            return f"carrying on the last {'cycle' if self.seasonal else 'value'}"
        seasons = f"seasons {'multiplied' if self.multiplied else 'added'}"
        if self.way == "line":
            return f"a straight line, {seasons}" if self.seasonal else "a straight line"
        if self.way == "arima":
            return self.label
        parts = self.parts.removesuffix(SEASONAL)
        return f"smoothing with a {parts}" + (f" and {seasons}" if self.seasonal else "")

    @property
    def order(self) -> int:
        """How many parts it has: the simpler of two that are as good is suggested."""
        return len(self.parts.split()) + (self.way == "smoothing") + self.multiplied

    def form(self, cycle: int) -> Form:
        damped = self.parts.startswith("damped")
        return Form("trend" in self.parts, damped, cycle if self.seasonal else 0)


@dataclass(frozen=True)
class Forecast:
    """A rival fitted to the values that it was given."""

    rival: Rival
    ahead: Ahead

    def band(self, s: ForecastStatement) -> tuple[Floats, Floats]:
        if s.bands == "simulation":
            return self.ahead.simulated_band(s.level, s.seed)
        return self.ahead.band(s.level)


@dataclass(eq=False)
class Ways:
    """Every way through one series, each fitted when it is first asked for."""

    series: Series
    fitted: dict[tuple[object, ...], Forecast | str] = field(default_factory=dict)
    taken: dict[tuple[object, ...], Parts] = field(default_factory=dict)

    @cached_property
    def suggests_products(self) -> bool:
        """Whether seasons seem to multiply, where there are any."""
        values, cycle = _whole(self.series), self.series.cycle
        if cycle == 1 or not suggests_multiplicative(values, cycle):
            return False
        return season_p(values - moving_average(values, cycle), cycle) < NO_SEASONS

    def multiplied(self, s: ForecastStatement) -> bool:
        """Whether seasons multiply, as was chosen or as the data suggest."""
        if s.seasons == "suggested":
            return self.suggests_products
        return s.seasons == "multiplied" and self.series.cycle > 1

    def parts(self, s: ForecastStatement) -> Parts:
        """The series taken apart. Raises NotPositive."""
        series, products = self.series, self.multiplied(s)
        key = s.taken, products
        if key not in self.taken:
            whole = _whole(series)
            if series.cycle == 1:
                self.taken[key] = _without_seasons(whole, s.taken)
            elif s.taken == "means":
                self.taken[key] = parts_by_means(whole, series.cycle, multiplicative=products)
            else:
                self.taken[key] = parts_by_local_regression(whole, series.cycle, multiplicative=products)
        return self.taken[key]

    def rivals(self, s: ForecastStatement) -> list[Rival]:
        """All ways that this series allows."""
        made = [Rival("again", "level")]
        seasonal = self.series.cycle > 1
        if seasonal:
            made.append(Rival("again", "level with seasons"))
        kinds = [False, True] if self.series.positive else [False]
        for way in ("line", "smoothing"):
            for parts in ("level", "trend", "damped trend"):
                if way == "line" and parts != "trend":
                    continue
                made.append(Rival(way, parts))
                if seasonal:
                    made += [Rival(way, parts + SEASONAL, products) for products in kinds]
        return [*made, Rival("arima")]

    def chosen(self, s: ForecastStatement) -> Rival | None:
        """The rival that the statement names; None for the one with the lowest AICc."""
        if s.way == "best":
            return None
        if s.way == "arima":
            return Rival("arima")
        parts = s.effective(self.series)
        return Rival(s.way, parts, parts.endswith(SEASONAL) and self.multiplied(s) and s.way != "again")

    def fit(self, s: ForecastStatement, rival: Rival, held: int, steps: int) -> Forecast | str:
        """A rival fitted to all values but those held back; in words why it cannot be."""
        orders = s.orders if rival.way == "arima" else ""
        negative = can_be_negative(s, self.series)
        key = rival, held, steps, orders, negative, s.level
        if key not in self.fitted:
            values = self.series.values[: self.series.n - held]
            try:
                found = self._fit(s, rival, values, steps)
                self.fitted[key] = Forecast(rival, found)
            except (TooShort, TooFewCases, Dependent):
                self.fitted[key] = "too few values for it"
            except TooLong:
                self.fitted[key] = "the cycle is too long for so many values, or it is too far"
            except NotPositive:
                self.fitted[key] = "values of 0 or less have no share that multiplies"
            except Negative:
                self.fitted[key] = "there are values below 0"
        return self.fitted[key]

    def _fit(self, s: ForecastStatement, rival: Rival, values: Floats, steps: int) -> Ahead:
        if rival.multiplied:
            return self._on(LOG, s, rival, values, steps)
        found = self._on(PLAIN, s, rival, values, steps)
        if can_be_negative(s, self.series) or self.series.below_zero:
            return found
        if float(found.band(s.level)[0].min()) >= 0:
            return found
        # a band that would reach below 0 is worked out where there is no below
        return self._on(ROOT, s, rival, values, steps)

    def _on(self, scale: Scale, s: ForecastStatement, rival: Rival, values: Floats, steps: int) -> Ahead:
        cycle = self.series.cycle
        z = scale.forward(values)
        slow = rival.way == "arima" or (rival.way == "smoothing" and rival.seasonal)
        far = rival.way == "arima" and steps > MOST_BY_ARIMA
        if far or (slow and cycle**2 * z.size > MOST_WORK):
            raise TooLong
        if rival.way == "again":
            made = naive(z, steps, cycle if rival.seasonal else 1)
        elif rival.way == "line":
            made = line(z, steps, cycle if rival.seasonal else 1)
        elif rival.way == "arima":
            made = by_arima(filled(z, cycle), steps, orders_of(s, cycle))
        else:
            made = smoothing(z, steps, rival.form(cycle))
        return made.on(scale, values)


def can_be_negative(s: ForecastStatement, series: Series) -> bool:
    """Whether values below 0 can come: as was said, else as for any number that is no count."""
    said = s.below_zero or series.column.below_zero
    return said == "yes" if said else not series.counts


def suggested(found: dict[Rival, Forecast | str]) -> Rival | None:
    """Of the rivals with an AICc the one where it is lowest, or a simpler one within 2 of it."""
    able = {
        rival: one.ahead.aicc
        for rival, one in found.items()
        if isinstance(one, Forecast) and math.isfinite(one.ahead.aicc)
    }
    if not able:
        return None
    best = min(able.values())
    return min((r for r, aicc in able.items() if aicc <= best + AS_GOOD), key=lambda r: r.order)


def orders_of(s: ForecastStatement, cycle: int) -> Orders:
    """The orders that were typed. Raises CannotAnswer."""
    found = [int(one) for one in re.findall(r"\d+", s.orders)[:7]]
    good = re.fullmatch(r"[\s\d,;()]*", s.orders) and len(found) in (3, 6)
    if len(found) == 3:
        found += [0, 0, 0]
    if not good or max(found) > MOST_ORDER or found[1] > 2 or found[4] > 1:
        raise CannotAnswer(
            f"Orders of ARIMA are three whole numbers, p, d and q, and three more for the seasons, "
            f"such as 0 1 1, 0 1 1: none above {MOST_ORDER}, at most two differences and one of "
            f"seasons.",
            "orders",
            (("Use 0 1 1, 0 1 1", "orders", "0 1 1, 0 1 1"),),
        )
    if cycle == 1:
        found[3:] = [0, 0, 0]
    p, d, q, *rest = found
    return Orders(p, d, q, rest[0], rest[1], rest[2], cycle)


def _whole(series: Series) -> Floats:
    """Without gaps, as taking apart needs it."""
    return filled(series.raw, series.cycle) if series.gaps.size else series.raw


def trend_width(n: int) -> int:
    """How many values a point of a trend without seasons is from: a fifth of them, 5 to 501."""
    width = min(max(5, n // 5), 501)
    return width + 1 - width % 2


def _without_seasons(values: Floats, taken: str) -> Parts:
    """A trend alone, by a moving average or by local regression."""
    width = trend_width(values.size)
    trend = moving_average(values, width) if taken == "means" else trend_by_local_regression(values, width)
    return Parts(values, 1, False, trend, np.zeros(1))


_LAST: list[tuple[Series, Ways]] = []


def ways_of(s: ForecastStatement, tables: Tables) -> Ways:
    """The ways through the series of a statement, those of the last one if it is the same.

    Raises CannotAnswer.
    """
    from theoros.verbs.forecast.series import series_of

    series = series_of(s, tables)
    for held, ways in _LAST:
        if held is series:
            return ways
    made = Ways(series)
    _LAST.insert(0, (series, made))
    del _LAST[2:]
    return made
