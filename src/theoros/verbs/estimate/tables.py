"""Tables of an estimate: the procedures side by side, the interval at the usual levels."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.parts import Cell, Heading, ResultTable, cell
from theoros.answer.result_tables import ComparedRow, TableColumn, comparison, table_of
from theoros.answer.wording import number
from theoros.verbs.estimate.report import EstimateReport
from theoros.verbs.procedures.drafting import WAITING, Results
from theoros.verbs.procedures.intervals import kept_possible, level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Result


def methods_table(r: EstimateReport, results: Results) -> ResultTable:
    best = r.suggested(results)

    def figure_of(
        key: str, label: str, of: Callable[[Result], float | None], places: int | None = None, help_: str = ""
    ) -> TableColumn[Result]:
        def made(result: Result) -> Cell:
            value = of(result)
            assert result.interval is not None
            usual = r.words.places(result.interval, result.estimate) + 1
            return Cell("–", None) if value is None else cell(value, number(value, places or usual))

        return TableColumn(Heading(key, label, help=help_), made)

    columns = (
        figure_of("estimate", "estimate", lambda one: one.estimate),
        figure_of("error", "standard error", lambda one: one.standard_error, help_="Of the estimate"),
        figure_of("critical", "critical value", lambda one: one.figures.get("critical"), 3),
        figure_of("margin", "margin", _margin, help_="The same on either side; – where the sides differ"),
        figure_of("low", "from", lambda one: (one.interval or NOWHERE)[0]),
        figure_of("high", "to", lambda one: (one.interval or NOWHERE)[1]),
        figure_of("width", "width", _width),
    )
    rows = [_compared(r, method, results[method.name], best) for method in r.methods]
    name = Heading("method", "Method", numeric=False)
    return comparison("methods", rows, name, columns, Heading("conditions", "conditions", numeric=False))


NOWHERE = (math.nan, math.nan)


def _margin(result: Result) -> float | None:
    """Half the width, of an interval whose middle is the estimate; None of any other."""
    low, high = result.interval or NOWHERE
    half = (high - low) / 2
    return half if abs((low + high) / 2 - result.estimate) <= 1e-6 * half or math.isinf(half) else None


def _width(result: Result) -> float:
    low, high = result.interval or NOWHERE
    return 2 * ((high - low) / 2)


def _compared(
    r: EstimateReport, method: Procedure, result: Result | str, best: Procedure | None
) -> ComparedRow[Result]:
    found = result if isinstance(result, Result) and result.interval is not None else None
    told, tone = r.said_of(method, best if found else None)
    if not isinstance(result, Result):
        told, tone = result, "" if result == WAITING else "bad"
    elif found is None and not result.sections:
        told, tone = result.remarks[0], "bad"
    chosen, waits = method.name == r.statement.method, result == WAITING
    return ComparedRow(method.label, method.name, found, told, tone, waits, ("method", method.name), chosen)


def levels_tables(r: EstimateReport, method: Procedure, result: Result | None) -> tuple[ResultTable, ...]:
    """The interval at the usual levels, to compare how wide it is."""
    if result is None:
        return ()
    drawn = result.figures.get("replicates", r.statement.replicates)
    if drawn < r.statement.replicates:
        return ()  # until all resamples are there
    rows = []
    for sure in LEVELS:
        try:
            asked = r.question(method, sure)
            found = kept_possible(asked, method.found(asked))
        except ProcedureFails:
            continue
        if found.interval is not None:
            rows.append((sure, *found.interval, r.words.places(found.interval, found.estimate) + 1))
    if not rows:
        return ()
    columns: tuple[TableColumn[tuple[float, float, float, int]], ...] = (
        TableColumn(Heading("confidence", "confidence"), lambda one: cell(one[0], level(one[0]))),
        TableColumn(Heading("low", "from"), lambda one: cell(one[1], number(one[1], one[3]))),
        TableColumn(Heading("high", "to"), lambda one: cell(one[2], number(one[2], one[3]))),
        TableColumn(Heading("width", "width"), lambda one: cell(one[2] - one[1], number(one[2] - one[1], one[3]))),
    )
    made = table_of(
        "levels",
        columns,
        rows,
        title="a higher confidence level, a wider interval",
        sets=lambda one: ("confidence", one[0]),
        chosen=lambda one: math.isclose(one[0], r.confidence),
    )
    return (made,)


LEVELS = (0.8, 0.9, 0.95, 0.98, 0.99)
"""The usual ones, to compare widths."""
