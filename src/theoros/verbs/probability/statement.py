"""The statement of a probability: what X is, its distribution, and the parts that are asked."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.verbs.core.fields import nested_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.nested import kind_options, turned_into
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Mended, Phrase, Slot, SlotGrid, Tables, choice_slot
from theoros.verbs.laws.binomial import BinomialCount
from theoros.verbs.laws.law import Law, Situation
from theoros.verbs.probability.data import About, ChanceQuestion, NotUnderstood, situations
from theoros.verbs.probability.values.variable import AboutValue

MOST_PARTS = 26


@dataclass(frozen=True)
class ProbabilityStatement(ChanceQuestion):
    """What X counts or measures, how it is distributed, and what is asked about it."""

    verb: ClassVar[str] = "probability"
    answered_by: ClassVar[str] = "theoros.verbs.probability.answering"
    situation: Situation = nested_field(
        BinomialCount,
        'The distribution with its parameters, as {"kind": "binomial", "n": 12, "p": 0.85}, or what events come from. '
        "Kinds: see “Situations” below.",
    )

    @property
    def needs_table(self) -> bool:
        return self.situation.needs_table

    @property
    def about(self) -> About:
        """How a question about its situation is said."""
        if isinstance(self.situation, Law):
            return AboutValue(self.situation)
        assert isinstance(self.situation, About)
        return self.situation

    def place(self, tables: Tables) -> Place:
        """Where its situation stands."""
        return self.place_of("situation", tables)

    def phrase(self, tables: Tables) -> Phrase:
        kinds = kind_options(situations().values())
        kind = choice_slot("situation", "the situation", self.situation.kind, kinds)
        return self.about.sentence(self, kind, self.place(tables))

    def grid(self, tables: Tables) -> SlotGrid | None:
        return self.situation.grid(self.place(tables))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        names = ["per", "replicates"]
        if self.replicates:
            names.append("seed")
        if self.situation.assumptions():
            names.append("reason")
        made = (self.field_slot(name, self.here(tables)) for name in names)
        return (*self.about.settings(self, self.place(tables)), *made)

    def of_kind(self, field: str, kind: str, tables: Tables) -> Mended:
        if kind not in situations():
            raise StatementError(f"There is no situation “{kind}”.")
        made = replace(self, situation=turned_into(self.situation, situations()[kind], self.place(tables)))
        return Mended(made.put_back("situation"))

    def put(self, name: str, value: object, slot: Slot | None, tables: Tables) -> Mended:
        if name.startswith("parts."):
            return Mended(self._with_part(int(name.removeprefix("parts.")), str(value), self.place(tables)))
        if name in ("low_end", "high_end") and isinstance(value, int | float):
            return Mended(self._with_end(name, float(value), self.place(tables)))
        if name == "judge":
            sign, key = str(value)[:1], str(value)[1:]
            agreed = tuple(one for one in self.agreed if one != key)
            denied = tuple(one for one in self.denied if one != key)
            if sign == "+":
                agreed = (*agreed, key)
            else:
                denied = (*denied, key)
            return Mended(replace(self, agreed=agreed, denied=denied))
        return super().put(name, value, slot, tables)

    def _with_part(self, at: int, text: str, place: Place) -> ProbabilityStatement:
        """With a part typed anew, one more behind the last, or one less where it is emptied."""
        text = " ".join(text.split())
        if not text:
            parts = (*self.parts[:at], *self.parts[at + 1 :])
            return replace(self, parts=parts, chosen=max(0, min(self.chosen, len(parts) - 1)))
        try:
            self.about.check_part(text, place)
        except NotUnderstood as problem:
            raise StatementError(str(problem)) from None
        if at >= MOST_PARTS:
            raise StatementError(f"There can be {MOST_PARTS} parts at most.")
        at = min(at, len(self.parts))
        return replace(self, parts=(*self.parts[:at], text, *self.parts[at + 1 :]), chosen=at)

    def misread(self, tables: Tables) -> str:
        for part in self.parts:
            try:
                self.about.check_part(part, self.place(tables))
            except NotUnderstood as problem:
                return str(problem)
        return ""

    def _with_end(self, name: str, value: float, place: Place) -> ProbabilityStatement:
        """With an end of the chosen event moved, as its handle is dragged."""
        if not (self.chosen < len(self.parts) and math.isfinite(value)):
            return self
        try:
            text = self.about.moved(self.parts[self.chosen], name, value, place)
        except (NotUnderstood, CannotAnswer):
            return self
        parts = (*self.parts[: self.chosen], text, *self.parts[self.chosen + 1 :])
        return replace(self, parts=parts)

    def title(self, tables: Tables) -> str:
        return self.about.title(self)
