"""The verb of forecasts: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.table.times import find_times
from theoros.verbs.core.registry import Findable, Offer, Verb
from theoros.verbs.core.slots import Tables
from theoros.verbs.core.suggesting import numbers_and_groups
from theoros.verbs.forecast.methods.method import forecast_methods
from theoros.verbs.forecast.statement import ForecastStatement

MOST_LOOKED_AT = 20_000
"""In longer tables no times are looked for unasked."""


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> ForecastStatement:
    """The number that is selected, or the first that is no time."""
    own = tables.get(table)
    if own is None:
        return ForecastStatement(table=table)
    numbers, _ = numbers_and_groups(own, columns)
    timed = find_times(own)[:2] if own.rows <= MOST_LOOKED_AT else ()
    known = [c.name for c in own.of_kind(Kind.NUMBER) if c.name not in timed]
    what = next((name for name in numbers if name not in timed), None)
    return ForecastStatement(table=table, what=what or next(iter(known), None))


def offers(table: Table, column: Column) -> list[Offer]:
    """A forecast of a number in a table whose rows have times."""
    if column.kind is not Kind.NUMBER or not 6 <= table.rows <= MOST_LOOKED_AT:
        return []
    name, also, times = find_times(table)
    if not name or column.name in (name, also) or times.doubled.size:
        return []
    made = ForecastStatement(table=table.name, what=column.name)
    return [Offer(f"Forecast {column.name}", made, 45)]


VERB = Verb(
    ForecastStatement,
    "Forecast",
    "Decompose a time series, forecast it, and check the forecast.",
    suggest,
    order=80,
    offers=offers,
    examples=(
        ForecastStatement(table="visits", what="visitors", steps=12, holdout=12),
        ForecastStatement(table="visits", what="visitors", steps=12, method="best", holdout=0),
        ForecastStatement(table="visits", what="visitors", steps=24, method="arima", holdout=12),
        ForecastStatement(
            table="visits",
            what="visitors",
            parts="level with seasons",
            method="naive",
            decomposition="local regression",
            shown=("trend", "season", "effects", "remainder", "cycles"),
        ),
        ForecastStatement(
            table="visits", what="visitors", step="year", joined="sum", method="line", parts="trend", steps=2
        ),
    ),
    methods=lambda: [
        Findable("seasonal decomposition, time series", "Trend, seasons and remainder."),
        Findable("moving average, trend of a series", "A mean over a cycle.", "decomposition", "means"),
        *(
            Findable(names, text, "method", method.name)
            for method in forecast_methods().values()
            for names, text in method.other_names
        ),
    ],
)
