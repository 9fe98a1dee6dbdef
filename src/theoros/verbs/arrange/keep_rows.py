"""Keep rows: only those that meet conditions stay in use; the others are still there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar, Literal

from theoros.answer.nouns import counted
from theoros.table.formula import quoted, truth
from theoros.table.kinds import Kind, NotAValue, parse, show
from theoros.table.recalculation import settled
from theoros.table.table import Table, TableError
from theoros.verbs.arrange.arrangement import InPlace
from theoros.verbs.arrange.new_column import formula_slot
from theoros.verbs.core.fields import column_field
from theoros.verbs.core.slots import EMPTY, Mended, Option, Phrase, Slot, Tables, TypeText, choice_slot, text_slot

Relation = Literal["is", "is not", "above", "at least", "below", "at most", "contains", "is missing", "is there"]
Joiner = Literal["", "and", "or"]
MOST = 3


@dataclass(frozen=True)
class KeepRows(InPlace):
    """The rows that meet up to three conditions, or one typed as a formula, stay in use."""

    verb: ClassVar[str] = "keep rows"
    label: ClassVar[str] = "Keep rows"
    help: ClassVar[str] = (
        "Only the rows that meet the conditions stay in use; the others are greyed and out of every analysis, and "
        "come back with one click. The condition stands above the table, and every entry says how many rows it "
        "used. Type other conditions as a formula."
    )
    order: ClassVar[int] = 8
    other_names: ClassVar[tuple[str, ...]] = ("filter", "subset")
    by: Literal["conditions", "a formula"] = "conditions"
    column1: str | None = column_field("a column")
    relation1: Relation = "is"
    value1: str = ""
    joiner: Joiner = ""
    column2: str | None = column_field("a column")
    relation2: Relation = "is"
    value2: str = ""
    joiner2: Joiner = ""
    column3: str | None = column_field("a column")
    relation3: Relation = "is"
    value3: str = ""
    formula: str = ""
    line: ClassVar[str] = "rows kept by a condition"

    def phrase(self, tables: Tables) -> Phrase:
        by = choice_slot("by", "how it is said", self.by, _BY)
        start: Phrase = (f"Keep the rows of {self.table} by ", by, ": ")
        if self.by == "a formula":
            slot = formula_slot("formula", self.formula, tables, self.table, condition=True)
            return (*start, slot, ".")
        made: list[str | Slot] = list(start)
        for number in range(1, self._conditions + 1):
            made += self._condition(number, tables)
            if number < MOST:
                name = "joiner" if number == 1 else "joiner2"
                joiner = getattr(self, name)
                made += [" ", choice_slot(name, "another condition", joiner, _JOINERS)]
                if joiner:
                    made.append(" ")
        return (*made, ".")

    @property
    def _conditions(self) -> int:
        return 1 if not self.joiner else 2 if not self.joiner2 else 3

    def _with(self, name: str, value: object) -> KeepRows:
        return replace(self, **{name: value})  # type: ignore[arg-type]

    def _part(self, what: str, number: int) -> str:
        return str(getattr(self, f"{what}{number}") or "")

    def _condition(self, number: int, tables: Tables) -> list[str | Slot]:
        name, relation = self._part("column", number), self._part("relation", number)
        column = self.field_slot(f"column{number}", self.here(tables))
        table = tables.get(self.table)
        about = table.by_name.get(name) if table and name else None
        fits = [o for o in _RELATIONS if about is None or _suits(str(o.value), about.kind)]
        made: list[str | Slot] = [column, " ", choice_slot(f"relation{number}", "relation", relation, fits)]
        if relation in ("is missing", "is there"):
            return made
        levels: tuple[str, ...] = ()
        if table is not None and about is not None and about.kind.is_grouping:
            levels = table.levels(about.name)
        holds = TypeText("What it is compared with.", levels, may_be_empty=False)
        slot = text_slot(f"value{number}", "value", self._part("value", number), holds)
        if about is not None and table is not None and slot.value:
            slot = replace(slot, missing=self._misfit(number, table))
            if about.unit:
                slot = replace(slot, shown=f"{slot.shown}\u00a0{about.unit}")
        elif not slot.value:
            slot = replace(slot, shown=EMPTY, missing="Choose a value to compare with.")
        return [*made, " ", slot]

    def _misfit(self, number: int, table: Table) -> str:
        """Why a typed value does not fit its column."""
        about, value = table.column(self._part("column", number)), self._part("value", number)
        relation = self._part("relation", number)
        try:
            parse(value, about.kind)
        except NotAValue as problem:
            return f"{problem}."
        ordering = about.kind is Kind.ORDERED and relation in _ORDERING
        exactly = about.kind.is_grouping and relation in ("is", "is not")
        if (ordering or exactly) and value.strip() not in table.levels(about.name):
            levels = table.levels(about.name)
            return f"{about.name} has no level “{value}”. Its levels are: {', '.join(levels[:12])}."
        return ""

    def condition(self, table: Table) -> str:
        """The conditions as one formula."""
        if self.by == "a formula":
            return self.formula.strip()
        parts = [self._formula(number, table) for number in range(1, self._conditions + 1)]
        if len(parts) == 3 and self.joiner == "or" and self.joiner2 == "and":
            # as it is read: from left to right
            return f"({parts[0]} or {parts[1]}) and {parts[2]}"
        made = parts[0]
        for joiner, part in zip((self.joiner, self.joiner2), parts[1:], strict=False):
            made = f"{made} {joiner} {part}"
        return made

    def _formula(self, number: int, table: Table) -> str:
        about = table.column(self._part("column", number))
        name = quoted(about.name, table.by_name)
        relation, text = self._part("relation", number), self._part("value", number).strip()
        if relation == "is missing":
            return f"{name} is missing"
        if relation == "is there":
            return f"{name} is not missing"
        value = parse(text, about.kind)
        written = '"' + text.replace('"', '""') + '"'
        if relation == "contains":
            return f"contains({name}, {written})"
        if about.kind is Kind.NUMBER:
            written = show(value)
        elif about.kind is Kind.DATE and value is not None:
            year, month, day = show(value).split("-")
            written = f"date({int(year)}, {int(month)}, {int(day)})"
        return f"{name} {_SIGNS[relation]} {written}"

    def mend(self, slot: str, tables: Tables) -> Mended:
        table, made = tables.get(self.table), self
        if table is None:
            return Mended(self)
        for number in range(1, MOST + 1):
            name = made._part("column", number)
            if slot != f"column{number}" or name not in table.by_name:
                continue
            about = table.column(name)
            if not _suits(made._part("relation", number), about.kind):
                made = made._with(f"relation{number}", "is")
            made = made._with(f"value{number}", "")
        for slot_name, number in (("joiner", 2), ("joiner2", 3)):
            if slot == slot_name and getattr(made, slot_name) and not made._part("column", number):
                made = made._with(f"column{number}", made._part("column", number - 1))
        if slot == "by" and made.by == "a formula" and not made.formula and self._said(table):
            made = replace(made, formula=replace(made, by="conditions").condition(table))
        return Mended(made)

    def _said(self, table: Table) -> bool:
        """Whether the conditions are complete."""
        for number in range(1, self._conditions + 1):
            if self._part("column", number) not in table.by_name:
                return False
            if self._part("relation", number) in ("is missing", "is there"):
                continue
            if not self._part("value", number).strip() or self._misfit(number, table):
                return False
        return True

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        condition = self.condition(table)
        holds = int(truth(condition, table).sum())
        if not holds:
            raise TableError("No row meets this condition, so no row would be left. Change the condition.")
        made = settled(table.with_(keep=condition), table)
        kept = f"{holds} of {counted(table.rows, 'row')} {'meets' if holds == 1 else 'meet'} it."
        return made, (kept,)

    @classmethod
    def suggest(cls, table: Table, columns: Sequence[str]) -> KeepRows:
        if table.keep:
            return cls(table=table.name, by="a formula", formula=table.keep)
        first = next(iter([*columns, *(c.name for c in table.columns)]), None)
        return cls(table=table.name, column1=first)


_BY = (
    Option("conditions", "conditions", help="Up to three conditions, chosen from lists."),
    Option("a formula", "a formula", help='Such as elevation > 400 and grade <> "coarse".'),
)
_JOINERS = (
    Option("", "and nothing more"),
    Option("and", "and", help="Both must hold."),
    Option("or", "or", help="One of them must hold."),
)
_RELATIONS = (
    Option("is", "is"),
    Option("is not", "is not"),
    Option("above", "is above"),
    Option("at least", "is at least"),
    Option("below", "is below"),
    Option("at most", "is at most"),
    Option("contains", "contains"),
    Option("is missing", "is missing"),
    Option("is there", "is not missing"),
)
_ORDERING = ("above", "at least", "below", "at most")
_SIGNS = {"is": "=", "is not": "<>", "above": ">", "at least": ">=", "below": "<", "at most": "<="}


def _suits(relation: str, kind: Kind) -> bool:
    if relation in _ORDERING:
        return kind in (Kind.NUMBER, Kind.DATE, Kind.ORDERED)
    if relation == "contains":
        return kind not in (Kind.NUMBER, Kind.DATE)
    return True


ARRANGEMENTS = (KeepRows,)
