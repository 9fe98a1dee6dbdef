"""What is shown of a column beside its table: a small picture, figures, or levels."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Cell, cell
from theoros.answer.picture import Picture
from theoros.answer.wording import between_data, number
from theoros.numeric.summaries import summarize
from theoros.table.kinds import Kind
from theoros.table.profile import level_counts
from theoros.table.table import Table
from theoros.verbs.data.groups import split
from theoros.verbs.data.pictures import describe_groups, dots_frame


@dataclass(frozen=True)
class ColumnAbout:
    """A column, its picture, its figures, and how many cases have each level."""

    name: str
    picture: Picture | None
    figures: tuple[tuple[str, str], ...]
    """Label and text of each."""
    levels: dict[str, int] | None = None


def column_facts(table: Table, name: str) -> ColumnAbout:
    """What is shown of a column."""
    about = table.column(name)
    if about.kind is Kind.NUMBER:
        try:
            picture, figures = number_facts(table, name)
        except CannotAnswer:
            return ColumnAbout(name, None, (("values", "0"), ("missing", str(table.rows))))
        return ColumnAbout(name, picture, tuple((label, one.text) for label, one in figures))
    there = table.frame[name].is_not_null().to_numpy()[table.in_use]
    facts = [("values", str(int(there.sum()))), ("missing", str(int((~there).sum())))]
    if not about.kind.is_grouping:
        return ColumnAbout(name, None, tuple(facts))
    facts.append(("levels", str(len(table.levels(name)))))
    return ColumnAbout(name, None, tuple(facts), level_counts(table, name))


def number_facts(table: Table, name: str) -> tuple[Picture, tuple[tuple[str, Cell], ...]]:
    """The small picture and figures of a number column.

    Raises CannotAnswer if every value is missing.
    """
    column, cases = table.column(name), split(table, name, None)
    summary = summarize(cases.all_values)
    places = table.decimals(name)
    frame = dots_frame(cases, column.unit or " ")
    figures = (
        ("values", Cell(str(summary.n), summary.n)),
        ("missing", cell(cases.groups[0].missing)),
        ("mean", Cell(number(summary.mean, places + 1 if places < 6 else 6), summary.mean)),
        ("median", Cell(between_data(summary.median, places), summary.median)),
    )
    return Picture((frame,), alt=describe_groups(cases.groups, name, column.unit, places)), figures
