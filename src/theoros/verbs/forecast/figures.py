"""The figures of a forecast: what is to come, the ways side by side, the seasonal effects."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.wording import number
from theoros.lazy_imports import np
from theoros.numeric.series.parts import Parts
from theoros.verbs.forecast.pictures import effect_text, season_order
from theoros.verbs.forecast.saying import signed_value
from theoros.verbs.forecast.series import Series
from theoros.verbs.forecast.ways import Forecast, Rival, suggested

if TYPE_CHECKING:
    from theoros.verbs.forecast.answering import Told

MOST_ROWS = 500


def forecasts_table(t: Told) -> ResultTable:
    """A row for each step that was held back or is to come: forecast, band, what came."""
    series, places = t.series, t.series.decimals
    sure = f"{number(100 * t.s.level, 6).rstrip('0').rstrip('.')}\u00a0%"
    rows = []
    for first, forecast, (low, high) in t.stretches:
        middle = forecast.ahead.middle
        for at in range(min(low.size, MOST_ROWS)):
            step = first + at
            ends = float(low[at]), float(high[at])
            cells = [
                Cell(series.short(step), series.short(step)),
                cell(float(middle[at]), number(float(middle[at]), places)),
                *(cell(end, number(end, places)) for end in ends),
            ]
            if t.held:
                cells += _came(series, step, float(middle[at]), ends)
            place = float(t.x[step])
            rows.append(FigureRow(tuple(cells), sets=("read", place), chosen=step == t.read_step))
    headings = [
        Heading("when", series.step, numeric=False),
        Heading("forecast", "forecast"),
        Heading("low", f"{sure} from"),
        Heading("high", "to"),
    ]
    if t.held:
        headings += [
            Heading("came", "came"),
            Heading("off", "off by", help="What came less the forecast."),
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


def ways_table(t: Told) -> ResultTable:
    """Every way with its AICc and, where values were held back, how it did on them."""
    best = suggested(t.found)
    series = t.series
    places = series.decimals + 1
    rows = []
    order = sorted(t.found, key=lambda r: (_size(t, r), r.order))
    for rival in order:
        one = t.found[rival]
        name = Cell(rival.label, rival.key)
        if isinstance(one, str):
            blank = [Cell("–", None)] * (4 if t.held else 1)
            rows.append(FigureRow((name, *blank, Cell(one, one, tone="mute"))))
            continue
        aicc = one.ahead.aicc
        cells = [name, cell(aicc, number(aicc, 1))]
        if t.held:
            came = t.came_of(one, one.band(t.s))
            if came is None:
                cells += [Cell("–", None)] * 3
            else:
                cells += [
                    cell(came.absolute, number(came.absolute, places)),
                    cell(came.per_cent, number(came.per_cent, 1)),
                    cell(came.inside, f"{came.inside} of {came.n}"),
                ]
        said = "suggested" if rival == best else ""
        cells.append(Cell(said, said, tone="good" if said else ""))
        rows.append(FigureRow(tuple(cells), sets=("rival", rival.key), chosen=rival == t.rival))
    unit = f" ({series.column.unit})" if series.column.unit else ""
    headings = [
        Heading("way", "way", numeric=False),
        Heading("aicc", "AICc", help="Lower is better; less than 2 apart is about as good."),
    ]
    if t.held:
        headings += [
            Heading("absolute", f"off by{unit}", help="On average: the mean absolute error."),
            Heading("per cent", "in\u00a0%", help="On average, of what came."),
            Heading("inside", "inside", help="How many fell inside their band."),
        ]
    headings.append(Heading("note", "", numeric=False))
    return ResultTable("ways", tuple(headings), tuple(rows), title="Ways compared", ways=True)


def _size(t: Told, rival: Rival) -> float:
    """What ways are ordered by: how far off they were, or the AICc."""
    one = t.found[rival]
    if not isinstance(one, Forecast):
        return math.inf
    if t.held:
        came = t.came_of(one, one.band(t.s))
        return came.absolute if came is not None else math.inf
    return one.ahead.aicc if math.isfinite(one.ahead.aicc) else 1e300


def effects_table(series: Series, parts: Parts) -> ResultTable:
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
