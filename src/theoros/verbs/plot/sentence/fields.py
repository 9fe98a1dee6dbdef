"""The fields of a plot, and what follows from them alone."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any, ClassVar, Literal, Self

from theoros.answer.palette import CATEGORY_NAMES
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.statement import Statement, column_field, level_field
from theoros.verbs.data.counted import Order
from theoros.verbs.plot.shapes.shape import Subject, shapes

GROUPING = (Kind.CATEGORY, Kind.ORDERED)
Scale = Literal["count", "percent", "density"]
Part = Literal["", "lower half", "upper half", "lower three quarters", "upper three quarters"]
TOGETHER = ("scatter", "line")
"""Shapes that set a number against something else."""


@dataclass(frozen=True)
class PlotFields(Statement):
    """The fields of a plot, and what follows from them alone."""

    verb: ClassVar[str] = "plot"
    answered_by: ClassVar[str] = "theoros.verbs.plot.answering"
    what: str | None = column_field()
    also: tuple[str, ...] = column_field(())
    against: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    colour: str | None = column_field()
    shape: str = "stacked dots"
    bins: float | None = None
    start: float | None = None
    scale: Scale = "count"
    order: Order = "levels"
    marks: tuple[str, ...] = ("boxes",)
    quartiles: str = "halves"
    cut: float | None = None
    cut2: float | None = None
    low: float | None = None
    high: float | None = None
    bottom: float | None = None
    top: float | None = None
    what_log: bool = False
    against_log: bool = False
    read: float | None = None
    side_by_side: bool = False
    first_part: Part = ""
    second_part: Part = ""
    gap: bool = False
    hidden: tuple[str, ...] = level_field("colour", ())
    tints: tuple[str, ...] = ()
    heading: str = ""

    @classmethod
    def upgraded(cls, data: Mapping[str, Any]) -> Mapping[str, Any]:
        """Marks were one word before they were several."""
        old = {"boxes": ["boxes"], "boxes and means": ["boxes", "mean"], "nothing": []}
        if isinstance(data.get("marks"), str) and data["marks"] in old:
            return {**data, "marks": old[data["marks"]]}
        return data

    def subject(self, table: Table | None) -> Subject:
        """What it shows, by the kinds of its columns."""
        if table is not None and kind_of(table, self.what) in GROUPING:
            return "two categories" if self.by else "category"
        if self.shape == "line":
            return "over time"
        return "two numbers" if self.shape == "scatter" else "number"

    @property
    def uses(self) -> frozenset[str]:
        """The slots that its shape knows."""
        shape = shapes().get(self.shape)
        return shape.uses if shape else frozenset()

    @property
    def picked(self) -> tuple[tuple[str, int], ...]:
        """Which levels were given which of the colours: "blue: fine" as (level, place)."""
        made = []
        for text in self.tints:
            name, _, level = text.partition(": ")
            if name in CATEGORY_NAMES:
                made.append((level, CATEGORY_NAMES.index(name)))
        return tuple(made)

    def with_tint(self, label: str, name: str) -> Self:
        """With another colour for an entry of the legend; an empty name takes its own again."""
        kept = tuple(text for text in self.tints if text.partition(": ")[2] != label)
        return replace(self, tints=(*kept, f"{name}: {label}") if name else kept)

    def renamed_levels(self, table: str, column: str, new: Mapping[str, str]) -> Self:
        """As for every statement; picked colours follow."""
        made = super().renamed_levels(table, column, new)
        if table != self.table or column not in (self.colour, self.what) or not self.tints:
            return made
        parts = [text.partition(": ") for text in self.tints]
        tints = [f"{name}: {new.get(level, level)}" for name, _, level in parts]
        return replace(made, tints=tuple(dict.fromkeys(tints)))

    @property
    def pairs(self) -> bool:
        """Whether it sets a number against something else."""
        return self.shape in TOGETHER

    @property
    def framed(self) -> bool:
        """Whether the ends of its axis can be dragged."""
        return "ends" in self.uses


def kind_of(table: Table | None, name: str | None) -> Kind | None:
    return table.column(name).kind if table and name is not None and name in table.by_name else None
