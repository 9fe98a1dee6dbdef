"""The statement of a description: its fields and its sentence."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Draft
from theoros.answer.wording import sentence_case
from theoros.table.kinds import Kind
from theoros.verbs.quartile_rules import rule_slot
from theoros.verbs.registry import Verb
from theoros.verbs.slots import Mended, Phrase, Slot, Tables, column_slot
from theoros.verbs.splitting import and_by_aside, for_each, grouped_title, mend_split
from theoros.verbs.statement import Statement, column_field
from theoros.verbs.suggesting import number_to_ask_about, numbers_and_groups


@dataclass(frozen=True)
class DescribeStatement(Statement):
    """Describe a number by its summary figures, for each level of a category."""

    verb: ClassVar[str] = "describe"
    what: str | None = column_field()
    by: str | None = column_field()
    and_by: str | None = column_field()
    quartiles: str = "halves"

    def phrase(self, tables: Tables) -> Phrase:
        what = column_slot(
            "what", "the number to describe", self.what, tables, self.table, (Kind.NUMBER,),
            elsewhere=True,
        )  # fmt: skip
        rule = rule_slot(self.quartiles)
        return ("Describe ", what, *for_each(self, tables), ", with quartiles by ", rule, ".")

    def asides(self, tables: Tables) -> tuple[Slot, ...]:
        return and_by_aside(self, tables)

    def mend(self, slot: str, tables: Tables) -> Mended:
        made, notes = mend_split(self, tables)
        return Mended(made, tuple(notes))

    def title(self, tables: Tables) -> str:
        if not self.what:
            return "Describe"
        return grouped_title(sentence_case(self.what), self)

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.verbs.describe.answering import described

        yield Draft(described(self, tables))


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """The selected number for each level of the selected category."""
    own = tables.get(table)
    if own is None:
        return DescribeStatement(table=table)
    numbers, groups = numbers_and_groups(own, columns)
    what = number_to_ask_about(own, numbers)
    return DescribeStatement(table=table, what=what, by=groups[0] if groups else None)


VERB = Verb(
    DescribeStatement,
    "Describe",
    "Sum up a number: centre, spread, quartiles, fences and what lies outside them.",
    suggest,
    examples=(
        DescribeStatement(table="bushes", what="leaf length", by="cultivar"),
        DescribeStatement(table="trays", what="moisture loss", quartiles="type 7"),
    ),
    methods=lambda: (
        ("mean, median, standard deviation", "Summary figures of a number", "", None),
        ("quartiles, fences, outliers", "By a named rule, with working", "", None),
    ),
    slot_help={
        "what": "The number column to describe.",
        "and_by": "A second category: figures for each combination of levels.",
        "by": "A category column: figures for each level. None for all rows together.",
        "quartiles": "The quartile rule; textbooks differ.",
    },
)
