"""How far a forecast can be trusted: what came of what was held back, what the errors show."""

from __future__ import annotations

import math

from theoros.answer.nouns import counted, plural
from theoros.answer.parts import Assumption, Choice
from theoros.answer.wording import number, p_equals, with_unit
from theoros.lazy_imports import np
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.levels import below
from theoros.numeric.normality import shapiro_wilk
from theoros.numeric.series.forecasts import HoldoutAccuracy
from theoros.numeric.series.residual_tests import ljung_box
from theoros.numeric.series.scales import ROOT
from theoros.verbs.forecast.methods.fits import can_be_negative
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.words.series import counts_many, rounded, rounding

CLEAR = 0.01
"""Errors are told to have a pattern, or not to be normal, where chance alone gives so much in fewer
than this share of series."""
UNLIKELY = 0.05
USELESS = 50.0
"""A mean absolute error of so many per cent is no good forecast, however wide its interval is."""
MOST_LAGS = 8
"""Below most cycles: effects of seasons that were fitted make errors a cycle apart go against each
other."""
PLENTY = 4
"""So many values for each season and the trend are needed to see a pattern."""


FILLED = 0.1
"""A share of filled values from which on bands are clearly too narrow."""


def assumptions_of(r: ForecastReport) -> tuple[Assumption, ...]:
    """What was held back, the errors, whether it can be below 0, and what must stay the same."""
    made = []
    if r.accuracy is not None:
        made.append(_came(r, r.accuracy))
    if r.forecast is not None:
        if r.exact:
            made.append(Assumption("holds", "all values follow it exactly, so there are no errors to judge"))
        else:
            made.append(_pattern(r))
            made += _normal(r)
        made += _below_zero(r)
        name = r.series.column.name
        made.append(Assumption("judge", f"the causes behind {name} stay the same in the future: give a reason"))
    return tuple(made)


def _came(r: ForecastReport, came: HoldoutAccuracy) -> Assumption:
    """How many fell inside, and how far off they were on average."""
    series = r.series
    chance = float(Binomial(came.n, r.s.confidence).cdf(came.n_covered))
    unit = rounding(series, came.mae)
    off = with_unit(rounded(series, came.mae, unit), series.column.unit)
    if counts_many(series):
        off = f"{off} {series.column.name}"
    if not float(came.mae) >= unit / 2:
        off = "almost 0"
    many = counted(came.n, series.step)
    if came.n == 1:
        where = "inside" if came.n_covered else "outside"
        said = f"the {series.step} held back is {where} its prediction interval; the error is {off}"
    else:
        number_in = {0: "none", came.n: "all"}.get(came.n_covered, str(came.n_covered))
        of_all = f"all {many}" if number_in == "all" else f"{number_in} of the {many}"
        said = f"{of_all} held back are inside their prediction interval; the mean error is {off}"
    if math.isfinite(came.mape) and came.mae >= unit / 2:
        said += f" ({number(came.mape, 0 if came.mape >= 1 else 1)}\u00a0%)"
    if chance < UNLIKELY:
        return Assumption("fails", said)
    known = series.raw[: series.n - r.holdout]
    known = known[np.isfinite(known)]
    if known.size > 2 and came.mae > float(known.std()) and float(known.std()) > 0:
        return Assumption("judge", f"{said}, more than the standard deviation of the earlier values")
    if came.mape >= USELESS:
        return Assumption("judge", f"{said}, which is large")
    return Assumption("holds", said)


def _pattern(r: ForecastReport) -> Assumption:
    assert r.forecast is not None
    p = pattern_of(r.forecast.result.errors, r.series.cycle, r.forecast.result.fitted)
    if math.isnan(p):
        return Assumption("judge", "too few values to see whether the errors have a pattern")
    if below(p, CLEAR):
        return Assumption("fails", f"the errors still have a pattern ({p_equals(p)}): another method may be better")
    return Assumption("holds", "the errors show no pattern")


def pattern_of(errors: object, cycle: int, fitted: int) -> float:
    """p of Ljung and Box over a few steps; NaN where there are too few errors for it."""
    held = np.asarray(errors, dtype=np.float64)
    held = held[np.flatnonzero(np.isfinite(held))[0] :] if np.isfinite(held).any() else held
    if held.size < PLENTY * (cycle + 2):
        return math.nan
    return ljung_box(held, max(min(MOST_LAGS, held.size // 5), fitted + 3), fitted)


def _normal(r: ForecastReport) -> list[Assumption]:
    """Whether the errors are normal, as a band by formula takes them to be."""
    assert r.forecast is not None
    errors = r.forecast.result.errors
    errors = errors[np.isfinite(errors)]
    p = shapiro_wilk(errors[-5000:])
    if p is None or not below(p, CLEAR):
        return []
    if r.s.bands == "simulation":
        return [Assumption("holds", "the errors are not normal, and an interval by simulation does not need that")]
    choice = Choice("Use an interval by simulation", "bands", "simulation")
    return [
        Assumption(
            "fails", (f"the errors are not normal ({p_equals(p)}), but the interval by formula needs that"), (choice,)
        )
    ]


def _below_zero(r: ForecastReport) -> list[Assumption]:
    """Asked once of each column, where the band would reach below 0."""
    s, series, forecast = r.s, r.series, r.forecast
    assert forecast is not None
    if series.below_zero:
        return []
    said = s.below_zero or series.column.below_zero
    name = series.column.name
    negative = can_be_negative(s, series)
    choices = (Choice("no, never", "below_zero", "no", said == "no"), Choice("yes", "below_zero", "yes", said == "yes"))
    if forecast.result.scale is ROOT:
        if said:
            return [
                Assumption(
                    "holds", f"{name} cannot be below 0, so the interval was calculated from square roots and ends at 0"
                )
            ]
        text = (
            f"can {name} be below 0? All values are whole numbers of 0 or more, so the interval was calculated "
            "from square roots and ends at 0"
        )
        return [Assumption("judge", text, choices)]
    reaches = any(float(band[0].min()) < 0 for _, _, band in r.stretches)
    if negative and not said and reaches:
        return [Assumption("judge", f"can {name} be below 0? The prediction interval reaches below 0", choices)]
    return []


def cautions_of(r: ForecastReport) -> tuple[str, ...]:
    """What is to be kept in mind."""
    series, made = r.series, []
    if not series.when and r.s.step != "row":
        made.append(
            f"No column has times, so the order of the {plural(series.table.noun)} is used as time. A forecast "
            "makes sense only if they follow each other in time."
        )
    gaps = int(series.gaps.size)
    if series.filled and gaps > FILLED * series.n:
        made.append(
            f"{counted(gaps, series.step)} of {series.n} have no value and were filled. They are used as if they "
            "were observed, so prediction intervals are too narrow. Leave the gaps open in the settings."
        )
    if series.wanted > 1:
        made.append(
            f"There are too few values for a cycle of {series.wanted} {plural(series.step)}, so seasons cannot be "
            "estimated. What looks like a trend may be a season."
        )
    if r.steps > max(2 * series.cycle, series.n // 2) and r.forecast is not None:
        made.append(
            f"This is far ahead for {counted(series.n, 'value')}: the prediction interval assumes that the same "
            "parts continue."
        )
    if r.simple_that_was_closer:
        made.append(
            f"For the values held back, {r.simple_that_was_closer} had a smaller error. Check whether the more "
            "complicated method is worth it."
        )
    return tuple(made)
