"""The statement of a plot: its fields, its sentence, and how its slots depend on each other."""

from __future__ import annotations

from dataclasses import dataclass, replace

from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.fields import GROUPING
from theoros.verbs.core.slots import Mended, Phrase, Slot, Tables
from theoros.verbs.plot.sentence import sentence
from theoros.verbs.plot.sentence.fields import BOXES, TOGETHER, PlotFields, kind_of
from theoros.verbs.plot.sentence.sentence import shape_options
from theoros.verbs.plot.shapes.shape import shapes_for


@dataclass(frozen=True)
class PlotStatement(PlotFields):
    """Plot a number or a category, for groups of cases, or a number against another."""

    def phrase(self, tables: Tables) -> Phrase:
        return sentence.phrase(self, tables)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        return sentence.settings(self, tables)

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        """As for every statement; ends of axes are forgotten when the axes become others.

        A box is drawn one way or the other: of both ways, the one that was picked last stays.
        """
        if name == "marks" and isinstance(value, tuple) and set(BOXES) <= set(value):
            old = next((way for way in BOXES if way in self.marks), BOXES[1])
            value = tuple(mark for mark in value if mark != old)
        made = super().put(name, value, slot, tables)
        plot = made.statement
        if isinstance(plot, PlotStatement) and name == "shape" and plot.pairs != self.pairs:
            return Mended(replace(plot, read=None)._whole_axes(), made.notes)
        return made

    def slot_for_drop(self, zone: str, column: Column) -> str:
        """The axis takes what is plotted or what it is set against; panels and key, groups."""
        if zone == "axis":
            return "against" if self.pairs else "what"
        if zone == "middle":
            return "by" if column.kind.is_grouping else "what"
        return {"panels": "by", "key": "colour"}[zone]

    # mending

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        if table is None:
            return Mended(self)
        made, notes = self.without_lost_groups(tables)
        if made.colour is not None and made.colour not in table.by_name:
            notes.append(f"{table.name} has no column “{made.colour}”, so the colours were removed.")
            made = replace(made, colour=None)
        if made.also:
            made, said = made._beside_numbers(table, slot)
            notes += said
        if slot == "colour":
            made = replace(made, hidden=(), tints=())
        if slot == "what":
            made, said = made._for_another_column()
            notes += said
        if made.by is not None and made.by == made.what:
            made = replace(made, by=None, and_by=None)
        if slot == "shape" and made.shape in TOGETHER and kind_of(table, made.what) in GROUPING:
            number = next((c.name for c in table.of_kind(Kind.NUMBER)), None)
            made = replace(made, what=number)
        made, said = made._fitting_shape(table)
        notes += said
        if slot == "against":
            made = replace(made, read=None)._whole_axes()
        if made.shape == "scatter" and (
            made.against is None or made.against == made.what or kind_of(table, made.against) is not Kind.NUMBER
        ):
            other = next((c.name for c in table.of_kind(Kind.NUMBER) if c.name != made.what), None)
            made = replace(made, against=other)
            if other and slot != "shape":
                notes.append(f"It is now plotted against {other}.")
        if made.shape == "line" and slot == "shape":
            day = next((c.name for c in table.of_kind(Kind.DATE)), None)
            if day is not None:
                made = replace(made, against=day)
        if made.cut is None and made.cut2 is not None:
            made = replace(made, cut=made.cut2, cut2=None)
        return Mended(made, tuple(notes))

    def _beside_numbers(self, table: Table, slot: str) -> tuple[PlotStatement, list[str]]:
        """Several numbers stand in for groups and colours; whichever was set last stays."""
        kept = tuple(
            name for name in self.also if name not in (self.what, self.against) and kind_of(table, name) is Kind.NUMBER
        )
        made = replace(self, also=kept)
        if kind_of(table, made.what) is not Kind.NUMBER or (slot in ("by", "colour") and kept):
            return replace(made, also=()), []
        if kept and (made.by or made.colour):
            made = replace(made, by=None, and_by=None, colour=None, hidden=())
            return made, ["The numbers are shown separately instead of groups and colours."]
        return made, []

    def _for_another_column(self) -> tuple[PlotStatement, list[str]]:
        """Without numbers that suited the column there was, and not another."""
        notes = []
        if self.bins is not None or self.start is not None:
            notes.append("The bins were chosen again for this column.")
        bare = replace(self, bins=None, start=None, cut=None, cut2=None, read=None)
        return bare._whole_axes(), notes

    def _whole_axes(self) -> PlotStatement:
        return replace(self, low=None, high=None, bottom=None, top=None)

    def _fitting_shape(self, table: Table) -> tuple[PlotStatement, list[str]]:
        subject = self.subject(table)
        fitting = [str(option.value) for option in shape_options(subject)]
        if self.shape in fitting or self.what not in table.by_name:
            return self, []
        made = replace(self, shape=shapes_for(subject)[0].name)
        if made.scale == "density":
            made = replace(made, scale="count")
        return made, [f"The shape is now {made.shape}, which suits {self.what}."]

    def title(self, tables: Tables) -> str:
        if self.heading:
            return self.heading
        if not self.what:
            return "Plot"
        several = listed([self.what, *self.also])
        if self.shape in TOGETHER and self.against:
            return f"{sentence_case(several)} against {self.against}"
        if self.also:
            return sentence_case(several)
        return self.grouped_title(sentence_case(self.what))
