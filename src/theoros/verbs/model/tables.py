"""What of a model is kept: live columns of the table, and its equation to be copied."""

from __future__ import annotations

from collections.abc import Collection
from typing import TYPE_CHECKING

from theoros.answer.parts import Link
from theoros.table.formula import quoted
from theoros.table.table import Table, free_name
from theoros.verbs import follow_ups

if TYPE_CHECKING:
    from theoros.verbs.model.multiple.data import Design
    from theoros.verbs.model.statement import ModelStatement


def design_terms(design: Design) -> list[str]:
    """The terms of a design but the constant as formulas; none where a level cannot be written."""
    names, columns = design.table.by_name, []
    for one in design.predictors:
        if any('"' in level for level in one.levels):
            return []
        column = quoted(one.name, names)
        columns.append(
            [f'(if {column} = "{level}" then 1 else 0)' for level in one.levels[1:]] if one.levels else [column]
        )
    terms: list[str] = []
    for term in design.terms:
        block = columns[term.parts[0]]
        for at in term.parts[1:]:
            block = [f"{one} * {other}" for one in block for other in columns[at]]
        terms += block
    return terms


def is_whole(table: Table) -> bool:
    """Whether the model uses all rows, as a live column does."""
    return not table.keep


def live_links(s: ModelStatement, names: Collection[str], y: str, terms: str, *, logs: bool) -> tuple[Link, ...]:
    """Columns that follow when the data change."""
    inner = f"ln({y})" if logs else y
    fitted = f"fitted({inner}, {terms})"

    def out(text: str) -> str:
        return f"exp({text})" if logs else text

    made = [_keep(s, names, "Keep fitted values as a column", f"fitted {s.what}", out(fitted))]
    residual = f"{y} - exp({fitted})" if logs else f"residual({y}, {terms})"
    made.append(_keep(s, names, "Keep residuals as a column", f"residual of {s.what}", residual))
    leverage = f"leverage({inner}, {terms})"
    made.append(_keep(s, names, "Keep leverage as a column", f"leverage for {s.what}", leverage))
    if s.bands != "none":
        kind = "meanband" if s.bands == "mean" else "caseband"
        half = f"{kind}({s.confidence!r}, {inner}, {terms})"
        for word, sign in (("low", "-"), ("high", "+")):
            made.append(
                _keep(
                    s,
                    names,
                    f"Keep the {word} end of the band as a column",
                    f"{word} end for {s.what}",
                    out(f"{fitted} {sign} {half}"),
                )
            )
    return tuple(made)


def _keep(s: ModelStatement, names: Collection[str], label: str, name: str, text: str) -> Link:
    name = free_name(name, names)
    return Link(label, statement=follow_ups.new_column(s.table, name, text))
