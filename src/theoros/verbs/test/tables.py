"""Tables of a test: the procedures side by side, how large something is."""

from __future__ import annotations

from theoros.answer.parts import Cell, Heading, ResultTable
from theoros.answer.result_tables import TableColumn, figure, table_of, words
from theoros.answer.wording import number, p_value
from theoros.verbs.procedures.drafting import WAITING, Results
from theoros.verbs.procedures.procedure import EffectSize, Procedure, Result
from theoros.verbs.test.report import TestReport


def methods_table(r: TestReport, results: Results) -> ResultTable:
    best = r.suggested(results)

    def compares(method: Procedure) -> str:
        return r.asked_about(method).plural

    def label(method: Procedure) -> Cell:
        drawn = f", {number(r.statement.replicates, 0)}" if method.simulated else ""
        return Cell(f"{method.label}{drawn}", method.name)

    def found(method: Procedure) -> Result | None:
        held = results[method.name]
        return held if isinstance(held, Result) else None

    def statistic_cell(method: Procedure) -> Cell:
        held = found(method)
        if held is None:
            return Cell(WAITING if results[method.name] == WAITING else "–")
        return Cell(held.statistic_text, held.statistic)

    def p_cell(method: Procedure) -> Cell:
        held = found(method)
        return Cell("–") if held is None else Cell(p_value(held.p or 0.0), held.p)

    def conditions(method: Procedure) -> Cell:
        told, tone = r.said_of(method, best)
        if found(method) is None and results[method.name] != WAITING:
            told, tone = str(results[method.name]), "bad"
        return Cell(told, told, tone=tone)

    columns: tuple[TableColumn[Procedure], ...] = (
        TableColumn(Heading("method", "Method", numeric=False), label),
        words("compares", "compares", compares),
        TableColumn(Heading("statistic", "statistic"), statistic_cell),
        TableColumn(Heading("p", "p-value"), p_cell),
        TableColumn(Heading("conditions", "conditions", numeric=False), conditions),
    )
    return table_of(
        "methods",
        columns,
        r.methods,
        methods=True,
        sets=lambda method: ("method", method.name),
        chosen=lambda method: method.name == r.statement.method,
    )


def effects_table(r: TestReport, result: Result | None) -> tuple[ResultTable, ...]:
    """How large it is, with a word for that and whose word it is."""
    if result is None or not result.effects:
        return ()
    return (table_of("effects", EFFECTS, result.effects),)


EFFECTS: tuple[TableColumn[EffectSize], ...] = (
    words("effect", "effect size", lambda one: one.name),
    figure("value", "value", lambda one: one.value, lambda v: number(v, 3)),
    words("word", "size", lambda one: one.word or "–"),
    words("source", "rule", lambda one: one.source if one.word else ""),
)
"""How large something is, with a word for that and whose word it is."""
