"""The statement of a description: its fields and its sentence."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.wording import listed, sentence_case
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.fields import GROUPING, choice_field, choices_field, column_field, columns_field, text_field
from theoros.verbs.core.quartile_rules import quartile_rule
from theoros.verbs.core.slots import Mended, Option, Phrase, Slot, Tables, TypeText
from theoros.verbs.core.splitting import SplitStatement, split_by, split_by_more

USUAL = (
    "n", "missing", "mean", "sd", "minimum", "q1", "median", "q3", "maximum", "iqr", "lower_fence",
    "upper_fence", "outside",
)  # fmt: skip
"""The figures of a description that nobody has chosen yet."""


_LIMITS = (
    Option("halfway", "halfway to the next", help="For numbers that were rounded."),
    Option("next", "up to the next", help="For ages in full years, and other numbers that were rounded down."),
)


_SHARES = (
    Option("counts", "counts alone"),
    Option("row percent", "percent of each row", help="Of the cases in each row of the table."),
    Option("column percent", "percent of each column", help="Of the cases in each column of the table."),
    Option("total percent", "percent of all"),
)
_ORDERS = (
    Option("levels", "in their order"),
    Option("by count", "by count", help="The most frequent first."),
    Option("as they come", "as they come", help="In the order of the rows."),
)
PERCENTILES = TypeText("Percentiles from 0 to 100, separated by spaces: 10 90.")


@dataclass(frozen=True)
class DescribeStatement(SplitStatement):
    """Describe a number by its summary figures, for each level of a category."""

    verb: ClassVar[str] = "describe"
    answered_by: ClassVar[str] = "theoros.verbs.describe.answering"
    remembers: ClassVar[tuple[str, ...]] = ("figures",)
    what: str | None = column_field(
        "what to describe", (Kind.NUMBER, *GROUPING), "The column to describe: a number or a category.", elsewhere=True
    )
    by: str | None = split_by("A category column: figures for each level. None for all rows together.")
    and_by: str | None = split_by_more("A second category: figures for each combination of levels.")
    also: tuple[str, ...] = columns_field(
        "more numbers", (Kind.NUMBER,), "More numbers: figures for each, and their correlations.",
        none="no other number", other_than=("what",),
    )  # fmt: skip
    quartiles: str = quartile_rule("The quartile rule; textbooks differ.")
    figures: tuple[str, ...] = choices_field(
        USUAL, "figures", (), "Which figures, in their order.", what="figures", least=1
    )
    percentiles: str = text_field("percentiles", PERCENTILES, "Further percentiles, such as “10 90”.", empty="none")
    share: Literal["counts", "row percent", "column percent", "total percent"] = choice_field(
        "counts", "what the cells say", _SHARES, "Of two categories: what percent are of."
    )
    order: Literal["levels", "by count", "as they come"] = choice_field(
        "levels", "order of levels", _ORDERS, "Of a category: the order of its levels."
    )
    limits: Literal["halfway", "next"] = choice_field(
        "halfway", "class limits", _LIMITS, "For levels that are classes, such as 10–19: where each class ends."
    )

    def subject(self, table: Table | None) -> str:
        """What is described: a number, several numbers, or a category."""
        if table is not None and self.what in table.by_name and (table.column(str(self.what)).kind in GROUPING):
            return "category"
        return "numbers" if self.also else "number"

    def phrase(self, tables: Tables) -> Phrase:
        here = self.here(tables)
        subject = self.subject(here.own)
        what, rule = self.field_slot("what", here), self.field_slot("quartiles", here)
        if subject == "category":
            start: Phrase = ("Describe ", what, *self.for_each(tables, ("what",)))
            if self.by:
                return (*start, ", with ", self.field_slot("share", here), ".")
            return (*start, ", levels ", self.field_slot("order", here), ".")
        if subject == "numbers":
            return ("Describe ", what, " beside ", self.field_slot("also", here), ", with quartiles by ", rule, ".")
        return ("Describe ", what, *self.for_each(tables), ", with quartiles by ", rule, ".")

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        from theoros.verbs.describe.tables import FIGURES, percentile_list

        here = self.here(tables)
        subject = self.subject(here.own)
        if subject == "category":
            return (self.field_slot("limits", here),) if self._has_gaps(here.own) else ()
        made = list(self.and_by_aside(tables)) if subject == "number" else []
        if subject == "number" and self.by is None:
            made.append(self.field_slot("also", here))
        options = tuple(Option(name, figure.name, help=figure.help) for name, figure in FIGURES.items())
        made.append(self.field_slot("figures", here, options=options, shown=f"{len(self.figures)} chosen"))
        missing = ""
        try:
            percentile_list(self.percentiles)
        except ValueError as problem:
            missing = str(problem)
        made.append(self.field_slot("percentiles", here, missing=missing))
        return tuple(made)

    def _has_gaps(self, table: Table | None) -> bool:
        """Whether levels that name classes leave gaps between their limits."""
        from theoros.verbs.describe.counts.classes import classes_of

        if table is None or self.what is None or self.by is not None:
            return False
        levels = table.levels(self.what)
        classes = classes_of(levels, [1] * len(levels))
        return classes is not None and bool(classes.gaps)

    def mend(self, slot: str, tables: Tables) -> Mended:
        table = tables.get(self.table)
        made, notes = self.without_lost_groups(tables)
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
        return self.grouped_title(sentence_case(self.what))
