"""What of a forecast is kept: its figures and the parts of the series as tables, the trend live."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Link
from theoros.answer.wording import plural
from theoros.lazy_imports import np, pl
from theoros.numeric.arrays import Floats
from theoros.table.formula import quoted
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name
from theoros.verbs.core.registry import make
from theoros.verbs.core.slots import Tables
from theoros.verbs.forecast.ways import suggested, ways_of

if TYPE_CHECKING:
    from theoros.verbs.forecast.answering import Told
    from theoros.verbs.forecast.statement import ForecastStatement


def links_of(t: Told) -> tuple[Link, ...]:
    """What is worth doing next, and what can be kept."""
    s, series = t.s, t.series
    made: list[Link] = []
    best = suggested(t.found)
    if best is not None and t.rival is not None and best != t.rival:
        made.append(Link(f"Use what is suggested: {best.how}", sets=("rival", best.key)))
    if t.held == 0 and series.cycle > 1 and series.n >= 3 * series.cycle:
        many = f"{series.cycle} {plural(series.step)}"
        made.append(Link(f"Check it on the last {many}, held back", sets=("held", series.cycle)))
    if t.parts is not None and s.seasons != "suggested" and series.cycle > 1:
        suggests = "multiplied" if t.ways.suggests_products else "added"
        if suggests != s.seasons:
            made.append(Link(f"The data suggest seasons {suggests}", sets=("seasons", suggests)))
    if "cycles" not in s.shown and series.cycle > 1:
        made.append(Link("Lay the cycles over each other", sets=("shown", (*s.shown, "cycles"))))
    if t.forecast is not None:
        made.append(Link("Send the forecasts to a table", figures="forecasts"))
    if t.parts is not None:
        if series.cycle > 1:
            made.append(Link("Send the seasonal effects to a table", figures="effects"))
        made.append(Link("Send trend, season and what is left over to a table", draws="parts"))
    made += _live(t)
    return tuple(made)


def _live(t: Told) -> list[Link]:
    """The trend as a column that follows, where the rows are the series as it stands."""
    series = t.series
    table = series.table
    plain = (
        t.s.taken == "means"
        and series.cycle > 1
        and not table.keep
        and not table.aside
        and series.n == table.rows
        and bool((series.rows == np.arange(table.rows)).all())
    )
    if not plain:
        return []
    names = table.by_name
    name = free_name(f"trend of {t.s.what}", names)
    text = f"moving({quoted(str(t.s.what), names)}, {series.cycle})"
    statement = make("new column", table=table.name, name=name, formula=text)
    return [Link("Keep the trend as a column", statement=statement)]


def drawn_table(s: ForecastStatement, what: str, tables: Tables) -> tuple[Table, str]:
    """The parts of the series as a table, with what was expected. Raises CannotAnswer."""
    from theoros.verbs.forecast.answering import Told

    if what != "parts":
        raise CannotAnswer(f"There is no table of {what} here.")
    t = Told(s, tables, ways_of(s, tables))
    t.check()
    rival = t.ways.chosen(s)
    if rival is not None:
        t = t.by(rival)
    series, parts = t.series, t.parts
    if parts is None:
        raise CannotAnswer("The series cannot be taken apart.", "seasons")
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
    add("left over", parts.rest)
    if t.forecast is not None:
        errors = t.forecast.ahead.errors[: series.n]
        scale = t.forecast.ahead.scale
        add("smoothed", scale.back(scale.forward(series.values) - errors))
    name = f"parts of {series.column.name}"
    line = f"taken apart from {series.column.name} of {s.table}"
    made = Table(name, tuple(columns), pl.DataFrame(held), noun=series.step, provenance=(line,))
    return made, ""
