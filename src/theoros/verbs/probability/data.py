"""What questions of probability are about: a value X with a distribution, or events.

A situation is nested in the statement and says its own part of the sentence, reads the parts that
are asked of it and answers them. Distributions are modules of `families`, and what has events
modules of `outcomes`; each lists its situations in `SITUATIONS`.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, ClassVar

from theoros.plugins import listed_in
from theoros.verbs.core.reading import family, field_types
from theoros.verbs.core.slots import Grid, Phrase, Slot, TypeNumber, TypeText, text_slot
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.data import Place

LONGEST = 200


class NotUnderstood(ValueError):
    """A part that cannot be read, said in a sentence."""


@dataclass(frozen=True)
class Demand:
    """A condition under which a situation fits; checked here, or for the student to judge."""

    key: str
    text: str
    met: bool | None = None
    """None where only the student can tell."""


CHANCE = TypeNumber(0, 1, help="A chance, such as 0.85, 85 % or 1/6.")


@dataclass(frozen=True)
class ChanceQuestion(Statement):
    """What is asked about a situation, in whatever it is: the words for it, and the parts."""

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


class Situation(ABC):
    """Subclasses are frozen dataclasses; a parameter that is None is not yet typed."""

    kind: ClassVar[str]
    label: ClassVar[str]
    """As it stands in the sentence: "binomial"."""
    help: ClassVar[str]
    detail: ClassVar[str] = ""
    """What is said beside the label where situations are chosen."""
    group: ClassVar[str]
    """Under which heading it stands there."""
    order: ClassVar[int] = 0
    answered_by: ClassVar[str]
    """The module whose `answered` works its answer out, named as text as that of a statement."""

    @property
    def needs_table(self) -> bool:
        return False

    @abstractmethod
    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        """The whole sentence; `kind` is the slot that chooses the situation."""

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        """Slots beside the answer, besides those of every situation."""
        return ()

    def grid(self, place: Place) -> Grid | None:
        """Slots in a grid below the sentence."""
        return None

    @abstractmethod
    def check_part(self, text: str, place: Place) -> None:
        """Raises NotUnderstood where nothing is asked with such a text."""

    def put(self, field: str, value: Any, place: Place) -> tuple[Situation, list[str]] | None:
        """What setting a field comes to where it is not that alone; None where it is."""
        return None

    def filled(self, place: Place) -> Situation:
        """With columns chosen where it names none that the table has."""
        return self

    def moved(self, text: str, end: str, value: float, place: Place) -> str:
        """A part as it is after its "low_end" or "high_end" was dragged to a value."""
        return text

    def demands(self) -> tuple[Demand, ...]:
        """The conditions that make it fit."""
        return ()

    @abstractmethod
    def title(self, s: ChanceQuestion) -> str:
        """A short name for an entry about it."""


def each_slot(s: ChanceQuestion, empty: str) -> Slot:
    """What one repetition is."""
    holds = TypeText("What one repetition is, such as “crate” or “leaf”.", longest=60)
    return text_slot("each", "one repetition", s.each, holds, empty=empty)


@cache
def situations() -> Mapping[str, type[Situation]]:
    """The situations by kind, in the order in which they are offered."""
    rooms = ("theoros.verbs.probability.families", "theoros.verbs.probability.outcomes")
    found = [one for room in rooms for one in listed_in(room, "SITUATIONS")]
    return {one.kind: one for one in found}


family(Situation, situations)  # type: ignore[type-abstract]


def turned_into(situation: Situation, kind: str, place: Place) -> Situation:
    """Another situation, with the fields of the same name taken along where they fit."""
    cls: Any = situations()[kind]
    have, want = field_types(type(situation)), field_types(cls)
    kept = {name: getattr(situation, name) for name, hint in want.items() if have.get(name) == hint}
    return cls(**kept).filled(place)  # type: ignore[no-any-return]
