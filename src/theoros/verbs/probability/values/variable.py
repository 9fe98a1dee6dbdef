"""How a question about a value X with a law is said: the sentence, its parts, and what can be set."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import ClassVar

from theoros.answer.nouns import with_article
from theoros.answer.wording import sentence_case
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, TypeText
from theoros.verbs.laws.law import Law
from theoros.verbs.probability.data import About, ChanceQuestion
from theoros.verbs.probability.values.asking import read_part
from theoros.verbs.probability.values.spans import AskedPart
from theoros.verbs.probability.values.steps import moved, steps_of


def asked(law: Law, text: str) -> AskedPart:
    """A part as it is understood. Raises NotUnderstood."""
    return read_part(text, apart=law.discrete)


@dataclass(frozen=True)
class AboutValue(About):
    """A question about a value with a law."""

    law: Law

    answered_by: ClassVar[str] = "theoros.verbs.probability.values.answering"

    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        ending = (kind, *self.law.phrase(place), ".")
        if self.law.curve:
            return ("The value X follows the distribution ", *ending)
        about = (
            "What X counts, such as “sound seals”." if self.law.counting else "What X measures, such as “leaf length”."
        )
        what = s.field_slot(
            "counts",
            s.here(place.tables),
            holds=TypeText(about, longest=80),
            empty="successes" if self.law.counting else "value",
        )
        start = "The number of " if self.law.counting else "The "
        joiner = " in one " if self.law.counting else " of one "
        return (start, what, " X", joiner, s.field_slot("each", s.here(place.tables)), " is ", *ending)

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        names = []
        if not self.law.counting and not self.law.curve:
            names.append("unit")
        if len(s.parts) > 1:
            names.append("laid")
        if self.law.discrete:
            names.append("values")
        return tuple(s.field_slot(name, s.here(place.tables)) for name in names)

    def check_part(self, text: str, place: Place) -> None:
        asked(self.law, text)

    def moved(self, text: str, end: str, value: float, place: Place) -> str:
        part, one = asked(self.law, text), self.law.distribution(place.tables, place.table)
        if part.event is None:
            return text
        event = moved(part.event, end, value, steps_of(one))
        if not event.spans or event == part.event:
            return text
        return replace(part, event=event, otherwise=None).words(self.law.counting, self.law.discrete)

    def title(self, s: ChanceQuestion) -> str:
        if s.counts and s.each:
            joiner = "in" if self.law.counting else "of"
            return f"{sentence_case(s.counts)} {joiner} {with_article(s.each)}"
        return sentence_case(s.counts) if s.counts else f"{sentence_case(self.law.name)} probability"
