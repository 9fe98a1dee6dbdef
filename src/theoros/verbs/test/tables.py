"""Tables of a test: the procedures side by side, how large something is."""

from __future__ import annotations

from theoros.answer.parts import Cell, Heading, ResultTable
from theoros.answer.result_tables import TableColumn, figure, table_of, words
from theoros.answer.wording import number, p_value
from theoros.verbs.procedures.drafting import WAITING, Results
from theoros.verbs.procedures.procedure import Effect, Procedure, Result
from theoros.verbs.test.report import TestReport


def ways_table(r: TestReport, results: Results) -> ResultTable:
    best = r.suggested(results)

    def compares(way: Procedure) -> str:
        return r.asked_about(way).plural

    def label(way: Procedure) -> Cell:
        drawn = f", {number(r.statement.shuffles, 0)}" if way.simulated else ""
        return Cell(f"{way.label}{drawn}", way.name)

    def found(way: Procedure) -> Result | None:
        held = results[way.name]
        return held if isinstance(held, Result) else None

    def statistic_cell(way: Procedure) -> Cell:
        held = found(way)
        if held is None:
            return Cell(WAITING if results[way.name] == WAITING else "–")
        return Cell(held.statistic_text, held.statistic)

    def p_cell(way: Procedure) -> Cell:
        held = found(way)
        return Cell("–") if held is None else Cell(p_value(held.p or 0.0), held.p)

    def conditions(way: Procedure) -> Cell:
        told, tone = r.said_of(way, best)
        if found(way) is None and results[way.name] != WAITING:
            told, tone = str(results[way.name]), "bad"
        return Cell(told, told, tone=tone)

    columns: tuple[TableColumn[Procedure], ...] = (
        TableColumn(Heading("way", "Way", numeric=False), label),
        words("compares", "compares", compares),
        TableColumn(Heading("statistic", "statistic"), statistic_cell),
        TableColumn(Heading("p", "p-value"), p_cell),
        TableColumn(Heading("conditions", "conditions", numeric=False), conditions),
    )
    return table_of(
        "ways",
        columns,
        r.ways,
        ways=True,
        sets=lambda way: ("way", way.name),
        chosen=lambda way: way.name == r.statement.way,
    )


def effects_table(r: TestReport, result: Result | None) -> tuple[ResultTable, ...]:
    """How large it is, with a word for that and whose word it is."""
    if result is None or not result.effects:
        return ()
    return (table_of("effects", EFFECTS, result.effects),)


EFFECTS: tuple[TableColumn[Effect], ...] = (
    words("effect", "how large", lambda one: one.name),
    figure("value", "value", lambda one: one.value, lambda v: number(v, 3)),
    words("word", "size", lambda one: one.word or "–"),
    words("source", "by the rule of", lambda one: one.source if one.word else ""),
)
"""How large something is, with a word for that and whose word it is."""
