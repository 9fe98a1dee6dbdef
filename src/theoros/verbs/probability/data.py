"""What questions of probability are about: a value X with a distribution, or events.

A situation is nested in the statement: a law (`verbs/laws`), or what has events (modules of
`outcomes`, each of which lists its situations in `SITUATIONS`). How a question about it is said,
and which parts can be asked, is an `About`.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import ClassVar

from theoros.answer.wording import whole
from theoros.plugins import listed_in
from theoros.verbs.core.fields import bare_field, choice_field, number_field, seed_field, text_field, word_field
from theoros.verbs.core.json_values import family
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, TypeNumber, TypeText
from theoros.verbs.core.statement import Statement
from theoros.verbs.laws.law import Situation, laws

LONGEST = 200


class NotUnderstood(ValueError):
    """A part that cannot be read, said in a sentence."""


COUNTS = TypeText(longest=80)
PER = TypeNumber(1, 10**9, whole=True, help="Results are given as “about so many of this number”.")
REASON = TypeText("Why the conditions hold; it stands in the report.", longest=500)
_LAID = (Option(False, "the chosen one"), Option(True, "all", help="All parts in one picture, on top of each other."))
_VALUES = (Option(False, "not shown"), Option(True, "shown", help="Every value with P(X = x), P(X ≤ x) and P(X ≥ x)."))
SIZES = (0, 100, 1_000, 10_000, 100_000)
_SIZES = tuple(
    Option(
        size,
        f"draw {whole(size)}" if size else "none",
        help=f"In {whole(size)} simulated repetitions, those in which a part comes true are counted." if size else "",
    )
    for size in SIZES
)


@dataclass(frozen=True)
class ChanceQuestion(Statement):
    """What is asked about a situation, in whatever it is: the words for it, and the parts."""

    before: ClassVar[Mapping[str, str]] = {"simulated": "replicates"}
    counts: str = text_field("what X is", COUNTS, "What X counts or measures, in words.", empty="value")
    each: str = word_field("one repetition", "What one repetition is, such as “crate” or “leaf”.", empty="repetition")
    unit: str = text_field(
        "unit", TypeText("The unit of X, such as mm.", longest=30), "The unit of what X measures.", empty="none"
    )
    parts: tuple[str, ...] = bare_field(
        (),
        "What is asked, each as it is said or written: “at least 10”, “P(X < 10)”, “top 10 %”, "
        "“at least 4 given at least 2”; of events “netted and fine”, “fine given open”.",
    )
    chosen: int = bare_field(0, "Which part is shown, from 0.")
    per: int = number_field(
        1000, "results per", PER, ("Results are given as “about so many of this number of repetitions”.")
    )
    agreed: tuple[str, ...] = bare_field((), "Conditions that hold, by their names.", reset_by=("situation",))
    denied: tuple[str, ...] = bare_field((), "Conditions that do not hold.", reset_by=("situation",))
    reason: str = text_field(
        "why it fits", REASON, "Why the conditions hold, in the student’s words.", empty="not said"
    )
    values: bool = choice_field(
        False, "table of values", _VALUES, "Whether every value is listed with its probabilities."
    )
    laid: bool = choice_field(False, "parts drawn", _LAID, "Whether all parts are drawn on top of each other.")
    replicates: int = choice_field(
        0, "simulated check", _SIZES, "How many repetitions are drawn as a check: 0, 100, 1000, 10000 or 100000."
    )
    seed: int = seed_field("draws", "The seed that they are drawn from.")


class About(ABC):
    """How a question about a situation is said: its sentence and its parts."""

    answered_by: ClassVar[str]
    """The module whose `answered` works its answer out, named as text as that of a statement."""

    @abstractmethod
    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        """The whole sentence; `kind` is the slot that chooses the situation."""

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        """Slots beside the answer, besides those of every situation."""
        return ()

    @abstractmethod
    def check_part(self, text: str, place: Place) -> None:
        """Raises NotUnderstood where nothing is asked with such a text."""

    def moved(self, text: str, end: str, value: float, place: Place) -> str:
        """A part as it is after its "low_end" or "high_end" was dragged to a value."""
        return text

    @abstractmethod
    def title(self, s: ChanceQuestion) -> str:
        """A short name for an entry about it."""


@cache
def situations() -> Mapping[str, type[Situation]]:
    """The situations by kind, in the order in which they are offered: laws, and what has events."""
    return {**laws(), **{one.kind: one for one in listed_in("theoros.verbs.probability.outcomes", "SITUATIONS")}}


family(Situation, situations)
