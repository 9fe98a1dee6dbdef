"""The figures of a forecast: what is to come, the ways side by side, the seasonal effects."""

from __future__ import annotations

import math

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.result_tables import ComparedRow, TableColumn, aicc, comparison, figure
from theoros.answer.wording import number, percent_text
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.numeric.series.decomposition import Decomposition
from theoros.numeric.series.forecasts import HoldoutAccuracy
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.core.slots import Tables
from theoros.verbs.forecast.methods.fits import Forecast, fits_of, suggested
from theoros.verbs.forecast.methods.method import Candidate
from theoros.verbs.forecast.pictures import season_order
from theoros.verbs.forecast.report import ForecastReport
from theoros.verbs.forecast.series.series import Series
from theoros.verbs.forecast.statement import ForecastStatement
from theoros.verbs.forecast.words.series import effect_text, signed_value

MOST_ROWS = 500


def forecasts_table(r: ForecastReport) -> ResultTable:
    """A row for each step that was held back or is to come: forecast, band, what came."""
    series, places = r.series, r.series.decimals
    sure = percent_text(r.s.confidence)
    rows = []
    for first, forecast, (low, high) in r.stretches:
        middle = forecast.result.median
        for at in range(min(low.size, MOST_ROWS)):
            step = first + at
            ends = float(low[at]), float(high[at])
            cells = [
                Cell(series.short(step), series.short(step)),
                cell(float(middle[at]), number(float(middle[at]), places)),
                *(cell(end, number(end, places)) for end in ends),
            ]
            if r.holdout:
                cells += _came(series, step, float(middle[at]), ends)
            place = float(r.x[step])
            rows.append(FigureRow(tuple(cells), sets=("read", place), chosen=step == r.read_step))
    headings = [
        Heading("when", series.step, numeric=False),
        Heading("forecast", "forecast"),
        Heading("low", f"{sure} from"),
        Heading("high", "to"),
    ]
    if r.holdout:
        headings += [
            Heading("came", "observed"),
            Heading("off", "error", help="Observed value minus forecast."),
            Heading("inside", "", numeric=False),
        ]
    return ResultTable("forecasts", tuple(headings), tuple(rows), title="Forecasts")


def _came(series: Series, step: int, middle: float, ends: tuple[float, float]) -> list[Cell]:
    if step >= series.n or not math.isfinite(series.raw[step]):
        return [Cell("–"), Cell("–"), Cell("", "")]
    value = float(series.raw[step])
    said = "inside" if ends[0] <= value <= ends[1] else "outside"
    row = int(series.rows[step])
    rows = (row,) if row >= 0 else ()
    off = value - middle
    return [
        cell(value, number(value, series.decimals), rows=rows),
        cell(off, signed_value(series, off)),
        Cell(said, said, tone="good" if said == "inside" else "bad"),
    ]


def methods_table(r: ForecastReport) -> ResultTable:
    """Every method with its AICc and, where values were held back, how it did on them."""
    series = r.series
    places = series.decimals + 1
    unit = f" ({series.column.unit})" if series.column.unit else ""
    columns: list[TableColumn[tuple[Forecast, HoldoutAccuracy | None]]] = [aicc(lambda one: one[0].result.aicc)]
    if r.holdout:
        off, inside = "The mean absolute error.", "How many are inside their prediction interval."
        columns += [
            figure(
                "absolute",
                f"mean error{unit}",
                lambda one: one[1].mae if one[1] else None,
                lambda v: number(v, places),
                help=off,
            ),
            figure(
                "per cent",
                "in\u00a0%",
                lambda one: one[1].mape if one[1] else None,
                lambda v: number(v, 1),
                help="The mean absolute percentage error.",
            ),
            TableColumn(Heading("inside", "inside", help=inside), lambda one: _inside(one[1])),
        ]
    rows = []
    best = suggested(r.found)
    for candidate in sorted(r.found, key=lambda one: (_size(r, one), one.of.complexity(one))):
        one = r.found[candidate]
        if isinstance(one, str):
            rows.append(
                ComparedRow[tuple[Forecast, HoldoutAccuracy | None]](candidate.label, candidate.key, None, one, "mute")
            )
            continue
        came = r.came(candidate) if r.holdout else None
        said = "suggested" if candidate == best else ""
        chosen, sets = candidate == r.candidate, ("candidate", candidate.key)
        rows.append(
            ComparedRow(
                candidate.label, candidate.key, (one, came), said, "good" if said else "", sets=sets, chosen=chosen
            )
        )
    name = Heading("method", "method", numeric=False)
    return comparison("methods", rows, name, columns, Heading("note", "", numeric=False), title="Methods compared")


def _inside(came: HoldoutAccuracy | None) -> Cell:
    return Cell("–", None) if came is None else cell(came.n_covered, f"{came.n_covered} of {came.n}")


def _size(r: ForecastReport, candidate: Candidate) -> float:
    """What ways are ordered by: how far off they were, or the AICc."""
    one = r.found[candidate]
    if not isinstance(one, Forecast):
        return math.inf
    if r.holdout:
        came = r.came(candidate)
        return came.mae if came is not None else math.inf
    return one.result.aicc if math.isfinite(one.result.aicc) else 1e300


def effects_table(series: Series, parts: Decomposition) -> ResultTable:
    """The effect of each season, and the mean of its values."""
    rows = []
    for at in season_order(series, parts.cycle).tolist():
        own = series.raw[at :: parts.cycle]
        own = own[np.isfinite(own)]
        mean = float(own.mean()) if own.size else math.nan
        effect = float(parts.effects[at])
        rows.append(
            FigureRow(
                (
                    Cell(series.season(at), series.season(at)),
                    cell(effect, effect_text(series, parts, effect)),
                    cell(mean, number(mean, series.decimals + 1)),
                    cell(int(own.size)),
                )
            )
        )
    what = "factor" if parts.multiplicative else "effect"
    headings = (
        Heading("season", "season", numeric=False),
        Heading("effect", what),
        Heading("mean", "mean", help="Of the values of the season."),
        Heading("n", "n"),
    )
    return ResultTable("effects", headings, tuple(rows), title="Seasonal effects")


def drawn_table(s: ForecastStatement, what: str, tables: Tables) -> tuple[Table, str]:
    """The parts of the series as a table, with what was expected. Raises CannotAnswer."""
    if what != "parts":
        raise CannotAnswer(f"There is no table of {what} here.")
    r = ForecastReport(s, tables, fits_of(s, tables))
    r.check()
    candidate = r.fits.chosen(s)
    if candidate is not None:
        r = r.by(candidate)
    series, parts = r.series, r.parts
    if parts is None:
        raise CannotAnswer("The series cannot be decomposed.", "seasons")
    unit = series.column.unit
    columns: list[Column] = []
    held: list[pl.Series] = []

    def add(name: str, values: Floats, unit: str = unit) -> None:
        name = free_name(name, [c.name for c in columns])
        columns.append(Column(name, Kind.NUMBER, unit=unit))
        held.append(pl.Series(name, np.ascontiguousarray(values)).fill_nan(None))

    steps = np.arange(series.n)
    if series.times.on_calendar:
        days = pl.Series(series.step, series.times.day(steps + series.first)).cast(pl.Date)
        columns.append(Column(series.step, Kind.DATE))
        held.append(days)
    else:
        add(series.step, series.along(steps), "")
    add(series.column.name, series.raw)
    add("trend", parts.trend)
    if parts.cycle > 1:
        add("season", parts.season, "" if parts.multiplicative else unit)
        add("adjusted", parts.adjusted)
    add("left over", parts.remainder)
    if r.forecast is not None:
        errors = r.forecast.result.errors[: series.n]
        scale = r.forecast.result.scale
        add("smoothed", scale.back(scale.forward(series.values) - errors))
    name = f"parts of {series.column.name}"
    line = f"decomposition of {series.column.name} in {s.table}"
    made = Table(name, tuple(columns), pl.DataFrame(held), noun=series.step, provenance=(line,))
    return made, ""
