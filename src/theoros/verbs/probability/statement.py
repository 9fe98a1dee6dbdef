"""The statement of a probability: what X is, its distribution, and the parts that are asked."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.wording import sentence_case, with_article
from theoros.verbs.core.reading import StatementError
from theoros.verbs.core.registry import Verb
from theoros.verbs.core.slots import (
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
from theoros.verbs.probability.asking import NotUnderstood, read_part
from theoros.verbs.probability.events import Asked, Event, Span
from theoros.verbs.probability.families.binomial import BinomialCount
from theoros.verbs.probability.families.curves_of_tests import StudentCurve
from theoros.verbs.probability.families.normal import NormalMeasure
from theoros.verbs.probability.situation import Situation, situations, turned_into

if TYPE_CHECKING:
    from theoros.answer.parts import Draft

MOST_PARTS = 26
LETTERS = "abcdefghijklmnopqrstuvwxyz"


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

    @property
    def needs_table(self) -> bool:
        return False

    @property
    def counting(self) -> bool:
        return self.situation.counting

    def asked(self, at: int) -> Asked | None:
        """A part as it is understood; None where it is not."""
        try:
            return read_part(self.parts[at], counting=self.counting)
        except (NotUnderstood, IndexError):
            return None

    def phrase(self, tables: Tables) -> Phrase:
        kinds = tuple(
            Option(kind, cls.label, "whole values" if cls.counting else "", cls.help,
                   "counts" if cls.counting else "curves of tests" if cls.curve else "measures")
            for kind, cls in situations().items()
        )  # fmt: skip
        kind = choice_slot("situation", "the distribution", self.situation.kind, kinds)
        ending = (kind, *self.situation.phrase(), ".")
        if self.situation.curve:
            return ("The value X follows the distribution ", *ending)
        counts = TypeText(
            "What X counts, such as “sound seals”." if self.counting
            else "What X measures, such as “leaf length”.", longest=80,
        )  # fmt: skip
        holds = TypeText("What one repetition is, such as “crate” or “leaf”.", longest=60)
        each = text_slot("each", "one repetition", self.each, holds, empty="repetition")
        said = "successes" if self.counting else "value"
        what = text_slot("counts", "what X is", self.counts, counts, empty=said)
        start = "The number of " if self.counting else "The "
        joiner = " in one " if self.counting else " of one "
        return (start, what, " X", joiner, each, " is ", *ending)

    def settings(self, tables: Tables) -> tuple[Slot, ...]:
        made = []
        if not self.counting and not self.situation.curve:
            holds = TypeText("The unit of X, such as mm.", longest=30)
            made.append(text_slot("unit", "unit", self.unit, holds, empty="none"))
        per = TypeNumber(1, 10**9, whole=True, help="Of how many it is said how many there are.")
        made.append(number_slot("per", "said of", self.per, per))
        reason = TypeText("Why the conditions hold; it stands in the report.", longest=500)
        if self.situation.demands():
            made.append(text_slot("reason", "why it fits", self.reason, reason, empty="not said"))
        if self.counting:
            made.append(choice_slot("values", "table of values", self.values, _VALUES))
        return tuple(made)

    def with_slot(self, name: str, value: Any, tables: Tables) -> Mended:
        if name == "situation" and isinstance(value, str):
            if value not in situations():
                raise StatementError(f"There is no distribution “{value}”.")
            made = replace(self, situation=turned_into(self.situation, value))
            return Mended(replace(made, agreed=(), denied=()))
        if name.startswith("parts."):
            return Mended(self._with_part(int(name.removeprefix("parts.")), str(value)))
        if name in ("low_end", "high_end"):
            return Mended(self._with_end(name, float(value)))
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

    def _with_part(self, at: int, text: str) -> ProbabilityStatement:
        """With a part typed anew, one more behind the last, or one less where it is emptied."""
        text = " ".join(text.split())
        if not text:
            parts = (*self.parts[:at], *self.parts[at + 1 :])
            return replace(self, parts=parts, chosen=max(0, min(self.chosen, len(parts) - 1)))
        try:
            read_part(text, counting=self.counting)
        except NotUnderstood as problem:
            raise StatementError(str(problem)) from None
        if at >= MOST_PARTS:
            raise StatementError(f"There can be {MOST_PARTS} parts at most.")
        at = min(at, len(self.parts))
        return replace(self, parts=(*self.parts[:at], text, *self.parts[at + 1 :]), chosen=at)

    def _with_end(self, name: str, value: float) -> ProbabilityStatement:
        """With an end of the chosen event moved, as its handle is dragged."""
        asked = self.asked(self.chosen)
        if asked is None or asked.event is None or not math.isfinite(value):
            return self
        low = name == "low_end"
        if self.counting:  # handles stand between two values
            value = float(math.floor(value + 0.5) if low else math.ceil(value - 0.5))
        else:
            value = float(f"{value:.6g}")
        spans = moved(asked.event.spans, value, low=low, counting=self.counting)
        event = Event.of(spans)
        if not event.spans or event == asked.event:
            return self
        text = replace(asked, event=event, otherwise=None).words(self.counting)
        parts = (*self.parts[: self.chosen], text, *self.parts[self.chosen + 1 :])
        return replace(self, parts=parts)

    def title(self, tables: Tables) -> str:
        if self.counts and self.each:
            joiner = "in" if self.counting else "of"
            return f"{sentence_case(self.counts)} {joiner} {with_article(self.each)}"
        label = self.situation.label.split(",")[0]
        return sentence_case(self.counts) if self.counts else f"{sentence_case(label)} probability"

    def drafts(self, tables: Tables) -> Iterator[Draft]:
        from theoros.answer.parts import Draft
        from theoros.verbs.probability.answering import answered

        yield Draft(answered(self))


def moved(spans: tuple[Span, ...], value: float, *, low: bool, counting: bool) -> tuple[Span, ...]:
    """Spans with one end at another value: of one span, or the inner ends of two."""
    if len(spans) == 1:
        (one,) = spans
        if low:
            value = min(value, one.high)
            return (Span(value, one.high, True, one.high_in),)
        value = max(value, one.low)
        return (Span(one.low, value, one.low_in, True),)
    if len(spans) == 2:
        first, last = spans
        # between the two lies what is left out: its ends are the handles
        if low:
            edge = min(value - 1 if counting else value, last.low - (1 if counting else 0))
            return (Span(first.low, edge, first.low_in, True), last)
        edge = max(value + 1 if counting else value, first.high + (1 if counting else 0))
        return (first, Span(edge, last.high, True, last.high_in))
    return spans


_VALUES = (
    Option(False, "not shown"),
    Option(True, "shown", help="Every value with P(X = x), P(X ≤ x) and P(X ≥ x)."),
)


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
            situation=BinomialCount(12, 0.85), counts="sound seals", each="crate",
            parts=("exactly 11", "no more than 8", "more than 8", "from 9 to 11"), chosen=3,
        ),
        ProbabilityStatement(
            situation=NormalMeasure(62.0, 9.5), counts="leaf length", each="leaf", unit="mm",
            parts=("more than 75", "between 55 and 70", "top 10 %"),
        ),
        ProbabilityStatement(situation=StudentCurve(14.0), parts=("both tails 0.05", "X > 2.31")),
    ),
    methods=lambda: [(cls.label.split(",")[0], cls.help, "situation", kind)
                     for kind, cls in situations().items()],
    slot_help={
        "situation": "The distribution with its parameters, as {\"kind\": \"binomial\", \"n\": 12, "
        "\"p\": 0.85}. Kinds: see “Distributions” below.",
        "counts": "What X counts or measures, in words.",
        "each": "What one repetition is, such as “crate”.",
        "unit": "The unit of what X measures.",
        "parts": "What is asked, each as it is said or written: “at least 10”, “P(X < 10)”, “top "
        "10 %”, “at least 4 given at least 2”.",
        "chosen": "Which part is drawn and read, from 0.",
        "per": "Of how many repetitions it is said how many there are.",
        "agreed": "Conditions that were judged to hold, by their names.",
        "denied": "Conditions that were judged not to hold.",
        "reason": "Why the conditions hold, in the student’s words.",
        "values": "Whether every value is listed with its probabilities.",
    },
)  # fmt: skip
