"""Tables of an estimate: the procedures side by side, the interval at the usual levels."""

from __future__ import annotations

import math

from theoros.answer.parts import Cell, FigureRow, Heading, ResultTable, cell
from theoros.answer.result_tables import TableColumn, table_of
from theoros.answer.wording import number
from theoros.verbs.estimate.report import EstimateReport
from theoros.verbs.procedures.drafting import WAITING, Results
from theoros.verbs.procedures.intervals import kept_possible, level
from theoros.verbs.procedures.procedure import Procedure, ProcedureFails, Result


def methods_table(r: EstimateReport, results: Results) -> ResultTable:
    best = r.suggested(results)
    rows = tuple(_method_row(r, method, results[method.name], best) for method in r.methods)
    headings = (
        Heading("method", "Way", numeric=False),
        Heading("estimate", "estimate"),
        Heading("error", "standard error", help="Of the estimate"),
        Heading("critical", "critical value"),
        Heading("margin", "margin"),
        Heading("low", "from"),
        Heading("high", "to"),
        Heading("width", "width"),
        Heading("conditions", "conditions", numeric=False),
    )
    return ResultTable("ways", headings, rows, methods=True)


def _method_row(r: EstimateReport, method: Procedure, result: Result | str, best: Procedure | None) -> FigureRow:
    blank = Cell("–", None)
    chosen = method.name == r.statement.method
    if not isinstance(result, Result) or result.interval is None:
        told, tone = r.said_of(method, None)
        if not isinstance(result, Result):
            told, tone = result, "" if result == WAITING else "bad"
        elif not result.sections:
            told, tone = result.remarks[0], "bad"
        cells = (Cell(method.label, method.name), *[blank] * 7, Cell(told, told, tone=tone))
        return FigureRow(cells, sets=("method", method.name), chosen=chosen, waits=result == WAITING)
    told, tone = r.said_of(method, best)
    low, high = result.interval
    places = r.words.places(result.interval, result.estimate) + 1
    margin = (high - low) / 2

    def write(value: float | None, decimals: int = places) -> Cell:
        return cell(value, number(value, decimals)) if value is not None else blank

    cells = (
        Cell(method.label, method.name),
        write(result.estimate),
        write(result.standard_error),
        write(result.figures.get("critical"), 3),
        write(margin),
        write(low),
        write(high),
        write(2 * margin),
        Cell(told, told, tone=tone),
    )
    return FigureRow(cells, sets=("method", method.name), chosen=chosen)


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
        title="more confidence, a wider interval",
        sets=lambda one: ("confidence", one[0]),
        chosen=lambda one: math.isclose(one[0], r.confidence),
    )
    return (made,)


LEVELS = (0.8, 0.9, 0.95, 0.98, 0.99)
"""The usual ones, to compare widths."""
