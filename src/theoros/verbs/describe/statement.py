"""The statement of a description: its fields and its sentence."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar, Literal

from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.quartile_rules import rule_slot
from theoros.verbs.core.slots import (
    Mended,
    Option,
    Phrase,
    PickSeveral,
    Slot,
    Tables,
    TypeText,
    choice_slot,
    column_slot,
    columns_slot,
    text_slot,
)
from theoros.verbs.core.splitting import GROUPS, and_by_aside, for_each, grouped_title, mend_split
from theoros.verbs.core.statement import Statement, column_field

if TYPE_CHECKING:
    pass

USUAL = (
    "n", "missing", "mean", "sd", "minimum", "q1", "median", "q3", "maximum", "iqr", "lower_fence",
    "upper_fence", "outside",
)  # fmt: skip
"""The figures of a description that nobody has chosen yet."""


_LIMITS = (
    Option("halfway", "halfway to the next", help="For numbers that were rounded."),
    Option("next", "up to the next", help="For ages in full years, and what else was cut off."),
)


@dataclass(frozen=True)
class DescribeStatement(Statement):
    """Describe a number by its summary figures, for each level of a category."""

    verb: ClassVar[str] = "describe"
    answered_by: ClassVar[str] = "theoros.verbs.describe.answering"
    remembers: ClassVar[tuple[str, ...]] = ("figures",)
    what: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    also: tuple[str, ...] = column_field(())
    quartiles: str = "halves"
    figures: tuple[str, ...] = USUAL
    percentiles: str = ""
    share: Literal["counts", "row percent", "column percent", "total percent"] = "counts"
    order: Literal["levels", "by count", "as they come"] = "levels"
    limits: Literal["halfway", "next"] = "halfway"

    def subject(self, table: Table | None) -> str:
        """What is described: a number, several numbers, or a category."""
        if table is not None and self.what in table.by_name and (table.column(str(self.what)).kind in GROUPS):
            return "category"
        return "numbers" if self.also else "number"

    def phrase(self, tables: Tables) -> Phrase:
        table = tables.get(self.table)
        subject = self.subject(table)
        what = column_slot(
            "what", "what to describe", self.what, tables, self.table, (Kind.NUMBER, *GROUPS), elsewhere=True
        )
        rule = rule_slot(self.quartiles)
        own = [self.what] if self.what else []
        if subject == "category":
            start: Phrase = ("Describe ", what, *for_each(self, tables, own))
            if self.by:
                share = choice_slot("share", "what the cells say", self.share, _SHARES)
                return (*start, ", with ", share, ".")
            order = choice_slot("order", "order of levels", self.order, _ORDERS)
            return (*start, ", levels ", order, ".")
        if subject == "numbers":
            also = self._also_slot(tables)
            return ("Describe ", what, " beside ", also, ", with quartiles by ", rule, ".")
        return ("Describe ", what, *for_each(self, tables), ", with quartiles by ", rule, ".")

    def _also_slot(self, tables: Tables) -> Slot:
        slot = columns_slot(
            "also", "further numbers", self.also, tables, self.table, (Kind.NUMBER,), none="no other number"
        )
        assert isinstance(slot.holds, PickSeveral)
        options = tuple(o for o in slot.holds.options if o.value != self.what)
        return replace(slot, holds=replace(slot.holds, options=options, least=0))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        table = tables.get(self.table)
        subject = self.subject(table)
        if subject == "category":
            return self._limits_setting(table)
        made = list(and_by_aside(self, tables)) if subject == "number" else []
        if subject == "number" and self.by is None:
            made.append(self._also_slot(tables))
        from theoros.verbs.describe.tables import FIGURES, percentile_list

        options = tuple(Option(name, figure.name, help=figure.help) for name, figure in FIGURES.items())
        shown = f"{len(self.figures)} chosen"
        known = PickSeveral(options, 1, "figures")
        made.append(Slot("figures", "figures", shown, self.figures, known))
        typed = TypeText("Percentiles from 0 to 100, with spaces between: 10 90.")
        slot = text_slot("percentiles", "percentiles", self.percentiles, typed, empty="none")
        try:
            percentile_list(self.percentiles)
        except ValueError as problem:
            slot = replace(slot, missing=str(problem))
        made.append(slot)
        return tuple(made)

    def _limits_setting(self, table: Table | None) -> tuple[Slot, ...]:
        """How far classes reach, where their limits leave gaps."""
        from theoros.verbs.describe.counts.classes import classes_of

        if table is None or self.what is None or self.by is not None:
            return ()
        levels = table.levels(self.what)
        classes = classes_of(levels, [1] * len(levels))
        if classes is None or not classes.gaps:
            return ()
        return (choice_slot("limits", "class limits", self.limits, _LIMITS),)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        made, notes = mend_split(self, tables)
        if table is not None:
            kept = tuple(
                name
                for name in made.also
                if name != made.what and name in table.by_name and table.column(name).kind is Kind.NUMBER
            )
            if made.subject(table) == "category":
                kept = ()
                made = replace(made, and_by=None, by=None if made.by == made.what else made.by)
            made = replace(made, also=kept)
            if kept and (made.by or made.and_by) and slot == "also":
                made = replace(made, by=None, and_by=None)
            elif kept and made.by:
                made = replace(made, also=())
        return Mended(made, tuple(notes))

    def title(self, tables: Tables) -> str:
        if not self.what:
            return "Describe"
        if self.also:
            return f"{sentence_case(self.what)} and {listed(list(self.also))}"
        return grouped_title(sentence_case(self.what), self)


_SHARES = (
    Option("counts", "counts alone"),
    Option("row percent", "percent of each row", help="Of the cases of each level down."),
    Option("column percent", "percent of each column", help="Of the cases of each level across."),
    Option("total percent", "percent of all"),
)
_ORDERS = (
    Option("levels", "in their order"),
    Option("by count", "by count", help="The most frequent first."),
    Option("as they come", "as they come", help="In the order of the rows."),
)
