"""The statement of a probability: what X is, its distribution, and the parts that are asked."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import whole
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.slots import (
    Grid,
    Mended,
    Option,
    Phrase,
    Slot,
    Tables,
    TypeNumber,
    TypeText,
    choice_slot,
    number_slot,
    seed_slot,
    text_slot,
)
from theoros.verbs.data.data import Place
from theoros.verbs.probability.data import ChanceQuestion, NotUnderstood, Situation, situations, turned_into
from theoros.verbs.probability.families.binomial import BinomialCount

if TYPE_CHECKING:
    pass

MOST_PARTS = 26


@dataclass(frozen=True)
class ProbabilityStatement(ChanceQuestion):
    """What X counts or measures, how it is distributed, and what is asked about it."""

    verb: ClassVar[str] = "probability"
    answered_by: ClassVar[str] = "theoros.verbs.probability.answering"
    situation: Situation = field(default_factory=BinomialCount)

    @property
    def needs_table(self) -> bool:
        return self.situation.needs_table

    def place(self, tables: Tables) -> Place:
        """Where its situation stands."""
        return Place(tables, self.table, "situation.")

    def phrase(self, tables: Tables) -> Phrase:
        kinds = tuple(Option(kind, cls.label, cls.detail, cls.help, cls.group) for kind, cls in situations().items())
        kind = choice_slot("situation", "the situation", self.situation.kind, kinds)
        return self.situation.sentence(self, kind, self.place(tables))

    def grid(self, tables: Tables) -> Grid | None:
        return self.situation.grid(self.place(tables))

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        per = TypeNumber(1, 10**9, whole=True, help="Of how many it is said how many there are.")
        made = [*self.situation.settings(self, self.place(tables)), number_slot("per", "said of", self.per, per)]
        made += check_slots(self)
        reason = TypeText("Why the conditions hold; it stands in the report.", longest=500)
        if self.situation.demands():
            made.append(text_slot("reason", "why it fits", self.reason, reason, empty="not said"))
        return tuple(made)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        place = self.place(tables)
        if name == "situation" and isinstance(value, str):
            if value not in situations():
                raise StatementError(f"There is no situation “{value}”.")
            made = replace(self, situation=turned_into(self.situation, value, place))
            return Mended(replace(made, agreed=(), denied=()))
        if name.startswith("situation."):
            slot = self.slot(name, tables)
            if slot is not None and slot.holds.problem(value):
                raise StatementError(slot.holds.problem(value))
            put = self.situation.put(name.removeprefix("situation."), value, place)
            if put is not None:
                return Mended(replace(self, situation=put[0]), tuple(put[1]))
        if name.startswith("parts."):
            return Mended(self._with_part(int(name.removeprefix("parts.")), str(value), place))
        if name in ("low_end", "high_end"):
            return Mended(self._with_end(name, float(value), place))
        if name == "judge":
            sign, key = str(value)[:1], str(value)[1:]
            agreed = tuple(one for one in self.agreed if one != key)
            denied = tuple(one for one in self.denied if one != key)
            if sign == "+":
                agreed = (*agreed, key)
            else:
                denied = (*denied, key)
            return Mended(replace(self, agreed=agreed, denied=denied))
        return super().with_slot(name, value, tables)

    def _with_part(self, at: int, text: str, place: Place) -> ProbabilityStatement:
        """With a part typed anew, one more behind the last, or one less where it is emptied."""
        text = " ".join(text.split())
        if not text:
            parts = (*self.parts[:at], *self.parts[at + 1 :])
            return replace(self, parts=parts, chosen=max(0, min(self.chosen, len(parts) - 1)))
        try:
            self.situation.check_part(text, place)
        except NotUnderstood as problem:
            raise StatementError(str(problem)) from None
        if at >= MOST_PARTS:
            raise StatementError(f"There can be {MOST_PARTS} parts at most.")
        at = min(at, len(self.parts))
        return replace(self, parts=(*self.parts[:at], text, *self.parts[at + 1 :]), chosen=at)

    def _with_end(self, name: str, value: float, place: Place) -> ProbabilityStatement:
        """With an end of the chosen event moved, as its handle is dragged."""
        if not (self.chosen < len(self.parts) and math.isfinite(value)):
            return self
        try:
            text = self.situation.moved(self.parts[self.chosen], name, value, place)
        except (NotUnderstood, CannotAnswer):
            return self
        parts = (*self.parts[: self.chosen], text, *self.parts[self.chosen + 1 :])
        return replace(self, parts=parts)

    def title(self, tables: Tables) -> str:
        return self.situation.title(self)


SIZES = (0, 100, 1_000, 10_000, 100_000)


def check_slots(s: ChanceQuestion) -> tuple[Slot, ...]:
    """How many are drawn, and from which seed."""
    options = [
        Option(
            size,
            f"draw {whole(size)}" if size else "none",
            help="Repetitions are drawn, and those counted in which a part comes true.",
        )
        for size in SIZES
    ]
    made = [choice_slot("simulated", "simulated check", s.simulated, options)]
    if s.simulated:
        made.append(seed_slot(s.seed))
    return tuple(made)
