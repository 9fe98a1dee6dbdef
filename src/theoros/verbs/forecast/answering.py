"""Answers a forecast: the parts first, then the chosen method, then the others beside it."""

from __future__ import annotations

import math
from collections.abc import Iterator

from theoros.answer.cannot import CannotAnswer
from theoros.answer.nouns import plural
from theoros.answer.parts import Answer, Draft, Link, Reading, Section
from theoros.lazy_imports import np
from theoros.table.formula import quoted
from theoros.table.table import free_name
from theoros.verbs import follow_ups
from theoros.verbs.core.slots import Tables
from theoros.verbs.forecast.methods.fits import Forecast, fits_of, suggested
from theoros.verbs.forecast.pictures import cycles_picture, effects_picture, picture_of
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.statement import ForecastStatement
from theoros.verbs.forecast.tables import drawn_table, effects_table, forecasts_table, methods_table
from theoros.verbs.forecast.words.assumptions import assumptions_of, cautions_of
from theoros.verbs.forecast.words.forecast import headline_of, method_words, read_out
from theoros.verbs.forecast.words.series import gap_words, left_over_words, season_words, strength_words, trend_words
from theoros.verbs.forecast.working import working_of

__all__ = ["drafts", "drawn_table"]

TAKING, FITTING = "Decomposing the series", "Fitting forecasting methods"


def drafts(s: ForecastStatement, tables: Tables) -> Iterator[Draft]:
    """The parts are shown before the first forecast of a series, and the chosen method before others.

    Raises CannotAnswer.
    """
    fits = fits_of(s, tables)
    report = ForecastReport(s, tables, fits)
    report.check()
    if not fits.fitted:
        yield Draft(_answer(report), 0.1, TAKING)
    chosen = fits.chosen(s)
    if chosen is not None:
        report = report.by(chosen)
        yield Draft(_answer(report), 0.3, FITTING)
    candidates, holdout = fits.candidates(), report.judged_by
    for at, candidate in enumerate(candidates):
        known = len(fits.fitted)
        report.found[candidate] = fits.fit(s, candidate, holdout, holdout or report.steps)
        if report.holdout and not holdout:
            fits.fit(s, candidate, report.holdout, report.holdout)  # what it is checked by
        if len(fits.fitted) > known:  # a turn in which it can be stopped
            yield Draft(None, 0.3 + 0.7 * (at + 1) / (len(candidates) + 1), FITTING)
    if chosen is None:
        best = suggested(report.found)
        if best is None:
            raise CannotAnswer(
                f"There are too few values for smoothing: only {fits.series.n - holdout} are left. "
                + ("Hold back fewer values, or carry" if report.holdout else "Carry")
                + " the last value on.",
                "method",
                (("Carry it on", "method", "naive"), ("Hold nothing back", "holdout", 0)),
            )
        report = report.by(best)
    yield Draft(_answer(report))


def _answer(r: ForecastReport) -> Answer:
    s, series = r.s, r.series
    figures = []
    if r.forecast is not None:
        figures.append(forecasts_table(r))
        if r.parts is not None and series.cycle > 1:
            figures.append(effects_table(series, r.parts))
    if len(r.found) > 1:
        figures.append(methods_table(r))
    return Answer(
        picture=picture_of(r),
        sections=_sections(r),
        figures=tuple(figures),
        reading=_reading(r),
        working=working_of(r),
        used=int(np.isfinite(series.raw).sum()),
        left_out=series.left_out,
        seed=s.seed if s.bands == "simulation" else None,
        numbers=_numbers(r),
    )


def _sections(r: ForecastReport) -> tuple[Section, ...]:
    s, series, made = r.s, r.series, []
    if "effects" in s.shown and r.parts is not None and series.cycle > 1:
        note = "as factors of the trend" if r.parts.multiplicative else "added to the trend"
        made.append(Section("Seasonal effects", effects_picture(series, r.parts), note=note))
    if "cycles" in s.shown and series.cycle > 1:
        note = "the last one is drawn strongest"
        made.append(Section("Cycles on top of each other", cycles_picture(series), note=note))
    return tuple(made)


def _reading(r: ForecastReport) -> Reading:
    s, series = r.s, r.series
    said = [*series.notes, gap_words(series)]
    if r.parts is not None:
        said += [
            trend_words(series, r.parts),
            season_words(series, r.parts),
            strength_words(r.parts),
            left_over_words(series, r.parts, s.reason),
        ]
    if s.read is not None:
        said.insert(0, f"{read_out(r)}.")
    if r.forecast is not None:
        said.append(method_words(r))
    return Reading(
        headline_of(r),
        tuple(text for text in said if text),
        assumptions=assumptions_of(r),
        assumptions_title="How far to trust it",
        cautions=cautions_of(r),
        next=links_of(r),
    )


def _numbers(r: ForecastReport) -> dict[str, object]:
    series, made = r.series, dict[str, object]()
    made["n"], made["cycle"], made["gaps"] = series.n, series.cycle, int(series.gaps.size)
    made["step"] = series.times.step
    if r.parts is not None:
        made["trend"] = r.parts.trend.tolist()[:2000]
        made["effects"] = r.parts.effects.tolist()
        made["strengths"] = list(r.parts.strengths)
    if r.forecast is not None:
        low, high = r.stretches[-1][2]
        made["forecast"] = r.forecast.result.median.tolist()
        made["low"], made["high"] = low.tolist(), high.tolist()
    if r.accuracy is not None:
        made["mae"], made["n_covered"] = r.accuracy.mae, r.accuracy.n_covered
    made["aicc"] = {
        candidate.key: one.result.aicc
        for candidate, one in r.found.items()
        if isinstance(one, Forecast) and math.isfinite(one.result.aicc)
    }
    return made


def links_of(r: ForecastReport) -> tuple[Link, ...]:
    """What is worth doing next, and what can be kept."""
    s, series = r.s, r.series
    made: list[Link] = []
    best = suggested(r.found)
    if best is not None and r.candidate is not None and best != r.candidate:
        made.append(Link(f"Use what is suggested: {best.how}", sets=("candidate", best.key)))
    if r.holdout == 0 and series.cycle > 1 and series.n >= 3 * series.cycle:
        many = f"{series.cycle} {plural(series.step)}"
        made.append(Link(f"Check it on the last {many}, held back", sets=("holdout", series.cycle)))
    if r.parts is not None and s.seasons != "suggested" and series.cycle > 1:
        suggests = "multiplied" if r.fits.suggests_products(s) else "added"
        if suggests != s.seasons:
            made.append(Link(f"The data suggest seasons {suggests}", sets=("seasons", suggests)))
    if "cycles" not in s.shown and series.cycle > 1:
        made.append(Link("Show the cycles on top of each other", sets=("shown", (*s.shown, "cycles"))))
    if r.forecast is not None:
        made.append(Link("Send the forecasts to a table", figures="forecasts"))
    if r.parts is not None:
        if series.cycle > 1:
            made.append(Link("Send the seasonal effects to a table", figures="effects"))
        made.append(Link("Send trend, season and remainder to a table", draws="parts"))
    made += _live(r)
    return tuple(made)


def _live(r: ForecastReport) -> list[Link]:
    """The trend as a column that follows, where the rows are the series as it stands."""
    series = r.series
    table = series.table
    plain = (
        r.s.decomposition == "means"
        and series.cycle > 1
        and not table.keep
        and not table.aside
        and series.n == table.rows
        and bool((series.rows == np.arange(table.rows)).all())
    )
    if not plain:
        return []
    names = table.by_name
    name = free_name(f"trend of {r.s.what}", names)
    text = f"moving({quoted(str(r.s.what), names)}, {series.cycle})"
    statement = follow_ups.new_column(table.name, name, text)
    return [Link("Keep the trend as a column", statement=statement)]
