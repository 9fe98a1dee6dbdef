"""Figures of an answer as a table of the study, to go on with."""

from __future__ import annotations

from collections.abc import Iterable

from theoros.answer.parts import Cell, ResultTable
from theoros.answer.wording import to_plain
from theoros.lazy_imports import pl
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table, free_name


def figures_table(figures: ResultTable, taken: Iterable[str]) -> Table:
    """A row for each row of the figures at full precision, under a name that is free.

    A column of figures is a number column; one with words in it is a category.
    """
    columns: list[Column] = []
    series = []
    for at, heading in enumerate(figures.headings):
        cells = [row.cells[at] for row in figures.filled]
        numeric = all(_is_number(cell) for cell in cells) and any(cell.value is not None for cell in cells)
        name = free_name(to_plain(heading.label).strip() or "name", [c.name for c in columns])
        kind = Kind.NUMBER if numeric else Kind.CATEGORY
        values = [cell.value if numeric else to_plain(cell.text) or None for cell in cells]
        columns.append(Column(name, kind))
        series.append(pl.Series(name, values, dtype=kind.dtype, strict=False))
    name = free_name(figures.title or "figures", taken)
    return Table(name, tuple(columns), pl.DataFrame(series))


def _is_number(cell: Cell) -> bool:
    return (cell.value is None and cell.text in ("", "–")) or (
        isinstance(cell.value, int | float) and not isinstance(cell.value, bool)
    )
