"""Random values: a new column drawn from a law."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.wording import exact
from theoros.lazy_imports import np, pl
from theoros.table.changes import check_name
from theoros.table.reshape import with_columns
from theoros.table.table import Column, Table, TableError, free_name
from theoros.verbs.arrange.arrangement import InPlace, name_field
from theoros.verbs.core.fields import nested_field, seed_field
from theoros.verbs.core.json_values import Json
from theoros.verbs.core.slots import Mended, Phrase, Tables
from theoros.verbs.laws.law import Law, another_law, law_to_draw_slot, laws_to_draw
from theoros.verbs.laws.normal import NormalMeasure

_BEFORE = {"whole numbers": "discrete uniform"}
"""Kinds of laws that had names of their own here."""


def _usual() -> Law:
    return NormalMeasure.of(*NormalMeasure.usual)


@dataclass(frozen=True)
class RandomValues(InPlace):
    """A column of values drawn from a law."""

    verb: ClassVar[str] = "random values"
    label: ClassVar[str] = "Random values"
    help: ClassVar[str] = (
        "Fills a new column with values drawn from a distribution, independently of each other. The same seed "
        "draws the same values."
    )
    order: ClassVar[int] = 10
    law: Law = nested_field(_usual, "The distribution with its parameters.")
    seed: int = seed_field()
    name: str = name_field()

    @classmethod
    def upgraded(cls, data: Json) -> Json:
        """A law was a name, with its first and its second parameter beside it."""
        if not isinstance(data.get("law", ""), str):
            return data
        name = str(data.get("law", "normal"))
        law = laws_to_draw().get(_BEFORE.get(name, name))
        if law is None:
            return data
        held = data.get("first", law.usual[0]), data.get("second", law.usual[-1])
        made = {key: value for key, value in data.items() if key not in ("first", "second")}
        given = {
            name: int(value) if told.holds.whole and value == int(value) else value
            for (name, told), value in zip(law.parameters().items(), held, strict=False)
        }
        return {**made, "law": {"kind": law.kind, **given}}

    def phrase(self, tables: Tables) -> Phrase:
        here, place = self.here(tables), self.place_of("law", tables)
        free = free_name("random", here.own.by_name if here.own else ())
        name = self.field_slot("name", here, empty=free)
        drawn: Phrase = ("Draw ", law_to_draw_slot(self.law), " values", *self.law.phrase(place))
        return (*drawn, ", seed ", self.field_slot("seed", here), ", as a new column ", name, ".")

    def of_kind(self, field: str, kind: str, tables: Tables) -> Mended:
        """Another law, with its usual parameters."""
        return Mended(replace(self, law=another_law(self.law, kind)))

    def change(self, table: Table) -> tuple[Table, tuple[str, ...]]:
        name = check_name(self.name.strip() or free_name("random", table.by_name), "column", list(table.by_name))
        one = self.law.ready
        if one is None:
            raise TableError("These parameters do not make a distribution. Type others.")
        values = one.draws(np.random.default_rng(self.seed), table.rows)
        column = Column(name, meaning=self.line, checked=True)
        return with_columns(table, [(column, pl.Series(values))], ""), ()

    @property
    def line(self) -> str:
        told = self.law.parameters()
        said = ", ".join(f"{one.symbol} = {exact(getattr(self.law, name))}" for name, one in told.items())
        return f"drawn: {self.law.name}, {said}, seed {self.seed}"


ARRANGEMENTS = (RandomValues,)
