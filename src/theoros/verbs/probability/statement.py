"""The statement of a probability: what X is, its distribution, and the parts that are asked."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.registry import Verb
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
    text_slot,
)
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.counts import TwoCategories
from theoros.verbs.data.data import Place
from theoros.verbs.probability.families.binomial import BinomialCount
from theoros.verbs.probability.families.curves_of_tests import StudentCurve
from theoros.verbs.probability.families.normal import NormalMeasure
from theoros.verbs.probability.outcomes.tree import TreeOfStages
from theoros.verbs.probability.outcomes.two_way import TwoWayTable
from theoros.verbs.probability.simulated import check_slots
from theoros.verbs.probability.situation import NotUnderstood, Situation, situations, turned_into

if TYPE_CHECKING:
    from theoros.answer.parts import Draft

MOST_PARTS = 26


@dataclass(frozen=True)
class ProbabilityStatement(Statement):
    """What X counts or measures, how it is distributed, and what is asked about it."""

    verb: ClassVar[str] = "probability"
    situation: Situation = field(default_factory=BinomialCount)
    counts: str = ""
    each: str = ""
    unit: str = ""
    parts: tuple[str, ...] = ()
    chosen: int = 0
    per: int = 1000
    agreed: tuple[str, ...] = ()
    denied: tuple[str, ...] = ()
    reason: str = ""
    values: bool = False
    laid: bool = False
    simulated: int = 0
    seed: int = 1

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

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.answer.parts import Draft

        yield Draft(self.situation.answered(self, tables))


def suggest(tables: Tables, table: str, columns: Sequence[str]) -> Statement:
    """An empty binomial question: no table is needed."""
    return ProbabilityStatement(table=table if table in tables else "")


VERB = Verb(
    ProbabilityStatement,
    "Probability",
    "From a distribution to the probability of an event, or to the value that cuts one off.",
    suggest,
    order=30,
    examples=(
        ProbabilityStatement(
            situation=BinomialCount(12, 0.85),
            counts="sound seals",
            each="crate",
            parts=("exactly 11", "no more than 8", "more than 8", "from 9 to 11"),
            chosen=3,
        ),
        ProbabilityStatement(
            situation=NormalMeasure(62.0, 9.5),
            counts="leaf length",
            each="leaf",
            unit="mm",
            parts=("more than 75", "between 55 and 70", "top 10 %"),
        ),
        ProbabilityStatement(situation=StudentCurve(14.0), parts=("both tails 0.05", "X > 2.31")),
        ProbabilityStatement(
            table="bushes",
            parts=("netted and fine", "fine given open"),
            situation=TwoWayTable(data=TwoCategories(what="netting", by="grade")),
        ),
        ProbabilityStatement(
            situation=TreeOfStages("mite, no mite", "spotted, clean", chances=(0.02, 0.9, 0.15)),
            each="leaf",
            parts=("spotted", "mite given spotted"),
        ),
    ),
    methods=lambda: [(cls.label.split(",")[0], cls.help, "situation", kind) for kind, cls in situations().items()],
    slot_help={
        "situation": 'The distribution with its parameters, as {"kind": "binomial", "n": 12, '
        '"p": 0.85}, or what events come from. Kinds: see “Situations” below.',
        "counts": "What X counts or measures, in words.",
        "each": "What one repetition is, such as “crate”.",
        "unit": "The unit of what X measures.",
        "parts": "What is asked, each as it is said or written: “at least 10”, “P(X < 10)”, “top "
        "10 %”, “at least 4 given at least 2”; of events “netted and fine”, “fine given open”.",
        "chosen": "Which part is drawn and read, from 0.",
        "per": "Of how many repetitions it is said how many there are.",
        "agreed": "Conditions that were judged to hold, by their names.",
        "denied": "Conditions that were judged not to hold.",
        "reason": "Why the conditions hold, in the student’s words.",
        "values": "Whether every value is listed with its probabilities.",
        "laid": "Whether all parts are drawn, laid over each other.",
        "simulated": "How many repetitions are drawn as a check: 0, 100, 1000, 10000 or 100000.",
        "seed": "The seed that they are drawn from.",
    },
)
