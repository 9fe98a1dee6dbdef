"""The verb of forecasts: how its statements are made, and what is said of it."""

from __future__ import annotations

from collections.abc import Sequence

from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.table.times import find_times
from theoros.verbs.core.registry import Offer, Verb
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
    "Take a series in time apart, and say what comes next and how far that can be trusted.",
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
        ("seasonal decomposition, time series", "Trend, seasons, what is left over.", "", None),
        ("moving average, trend of a series", "A mean over a cycle.", "decomposition", "means"),
        *(
            (names, text, "method", method.name)
            for method in forecast_methods().values()
            for names, text in method.other_names
        ),
    ],
    slot_help={
        "what": "The number that is forecast.",
        "steps": "How many steps ahead; null for one cycle.",
        "parts": "The parts the series is taken to have: level, trend or damped trend, each alone or “with seasons”.",
        "cycle": "How many steps a cycle of seasons has; 1 for no seasons, null for what is usual.",
        "method": "smoothing, best (the lowest AICc), line, naive or arima.",
        "holdout": "How many of the last steps are held back for a check; null for one cycle.",
        "seasons": "Whether seasons are added, multiplied, or as the data suggest (suggested).",
        "decomposition": "How trend and seasons are found: means or local regression.",
        "when": "The column that says when each row was; null to find it.",
        "step": "A longer step that rows are joined into (week, month, quarter, year), row for the "
        "order of the rows, or found.",
        "joined": "What a step with several rows stands for: mean or sum of them.",
        "gaps": "Steps without a value: filled by interpolation, or left.",
        "confidence": "How much of what comes the band should hold, between 0 and 1.",
        "bands": "Bands by formula, or by simulation of what was left over.",
        "seed": "Of the simulation.",
        "below_zero": "Whether values below 0 can come: no, yes, or what the column says (empty).",
        "orders": "Of ARIMA: p d q, then those of the seasons.",
        "read": "A time that is read, as its days since 1970-01-01, a year, or a row; null for none.",
        "low": "Where the axis of time begins, in the same unit.",
        "high": "Where it ends.",
        "shown": "What is drawn besides: trend, season, effects, remainder, cycles.",
        "reason": "The student’s reason for the largest left-overs.",
    },
)
