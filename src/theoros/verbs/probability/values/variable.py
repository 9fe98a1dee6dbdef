"""A value X with its distribution: the parameters as slots, the conditions and the formulas.

A new family is a module of `families` with a frozen dataclass, listed in its `SITUATIONS`.
"""

from __future__ import annotations

import math
from abc import abstractmethod
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import exact, sentence_case, with_article
from theoros.numeric.distributions.distribution import Distribution
from theoros.verbs.core.slots import (
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
from theoros.verbs.data.data import Place
from theoros.verbs.probability.data import Situation, each_slot
from theoros.verbs.probability.values.asking import read_part
from theoros.verbs.probability.values.spans import Asked
from theoros.verbs.probability.values.steps import moved, steps_of

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion


@dataclass(frozen=True)
class Parameter:
    """A parameter that is typed: its field, its letter, what it is, and its range."""

    name: str
    symbol: str
    label: str
    holds: TypeNumber


def whole(low: float, high: float = 1e15, help_: str = "") -> TypeNumber:
    return TypeNumber(low, high, whole=True, help=help_)


def above_zero(help_: str = "") -> TypeNumber:
    return TypeNumber(0, low_open=True, help=help_)


ANY = TypeNumber()


@dataclass(frozen=True)
class Approximation:
    """Another distribution that comes near, with its rule of thumb and whether that holds."""

    label: str
    distribution: Distribution
    rule: str
    holds: bool
    half: float = 0.0
    """The continuity correction: what is added to both sides of a count."""


class Variable(Situation):
    """A family with its parameters."""

    counting: ClassVar[bool] = False
    """Whether X has whole values only."""
    curve: ClassVar[bool] = False
    """Whether it is a curve of statistics alone, which counts or measures nothing."""
    parameters: ClassVar[tuple[Parameter, ...]] = ()
    answered_by: ClassVar[str] = "theoros.verbs.probability.values.answering"

    def __init_subclass__(cls) -> None:
        super().__init_subclass__()
        cls.group = "curves of tests" if cls.curve else "counts" if cls.counting else "measures"
        cls.detail = "whole values" if cls.counting else ""

    @abstractmethod
    def made(self) -> Distribution:
        """The distribution itself, when every parameter is typed and fits the others."""

    def clash(self) -> tuple[str, str] | None:
        """The parameter that cannot be beside the others, and why."""
        return None

    @property
    def mean_formula(self) -> str:
        """The mean by its formula, in the notation of formulas; empty for none."""
        return ""

    @property
    def sd_formula(self) -> str:
        return ""

    @property
    def law(self) -> str:
        """P(X = k), or the density, in letters."""
        return ""

    def law_at(self, k: float) -> str:
        """The right side of the law with numbers put in; empty where it helps nobody."""
        return ""

    def near(self) -> tuple[Approximation, ...]:
        """Distributions that may stand in for it."""
        return ()

    # what follows is the same for every family

    @property
    def discrete(self) -> bool:
        """Whether values lie apart, so that it matters which ends are included."""
        return self.counting

    def slots(self) -> tuple[Slot, ...]:
        clash = self.clash() if self.complete else None
        made = []
        for one in self.parameters:
            value = getattr(self, one.name)
            missing = f"Type {one.symbol}, {one.label}, in the sentence." if value is None else ""
            if clash and clash[0] == one.name:
                missing = clash[1]
            shown = "…" if value is None else exact(value)
            slot = number_slot(f"situation.{one.name}", f"{one.symbol}, {one.label}", value, one.holds, shown)
            made.append(replace(slot, missing=missing))
        return tuple(made)

    @property
    def complete(self) -> bool:
        return all(
            getattr(self, one.name) is not None and not one.holds.problem(getattr(self, one.name))
            for one in self.parameters
        )

    def phrase(self, place: Place) -> Phrase:
        """ " with n = 12 and p = 0.85", every number a slot."""
        made: list[str | Slot] = []
        for at, (one, slot) in enumerate(zip(self.parameters, self.slots(), strict=True)):
            last = at == len(self.parameters) - 1
            joiner = " with " if at == 0 else " and " if last else ", "
            made += [f"{joiner}{one.symbol} = ", slot]
        return tuple(made)

    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        ending = (kind, *self.phrase(place), ".")
        if self.curve:
            return ("The value X follows the distribution ", *ending)
        counts = TypeText(
            "What X counts, such as “sound seals”." if self.counting else "What X measures, such as “leaf length”.",
            longest=80,
        )
        said = "successes" if self.counting else "value"
        what = text_slot("counts", "what X is", s.counts, counts, empty=said)
        start = "The number of " if self.counting else "The "
        joiner = " in one " if self.counting else " of one "
        return (start, what, " X", joiner, each_slot(s, "repetition"), " is ", *ending)

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        made = []
        if not self.counting and not self.curve:
            holds = TypeText("The unit of X, such as mm.", longest=30)
            made.append(text_slot("unit", "unit", s.unit, holds, empty="none"))
        if len(s.parts) > 1:
            made.append(choice_slot("laid", "parts drawn", s.laid, _LAID))
        if self.discrete:
            made.append(choice_slot("values", "table of values", s.values, _VALUES))
        return tuple(made)

    def check_part(self, text: str, place: Place) -> None:
        self.asked(text)

    def asked(self, text: str) -> Asked:
        """A part as it is understood. Raises NotUnderstood."""
        return read_part(text, apart=self.discrete)

    def moved(self, text: str, end: str, value: float, place: Place) -> str:
        asked, one = self.asked(text), self.distribution(place.tables, place.table)
        if asked.event is None:
            return text
        event = moved(asked.event, end, value, steps_of(one))
        if not event.spans or event == asked.event:
            return text
        return replace(asked, event=event, otherwise=None).words(self.counting, self.discrete)

    def title(self, s: ChanceQuestion) -> str:
        if s.counts and s.each:
            joiner = "in" if self.counting else "of"
            return f"{sentence_case(s.counts)} {joiner} {with_article(s.each)}"
        label = self.label.split(",")[0]
        return sentence_case(s.counts) if s.counts else f"{sentence_case(label)} probability"

    def distribution(self, tables: Tables, table: str) -> Distribution:
        """The distribution itself. Raises CannotAnswer where there is none."""
        one = self.ready
        if one is None or not math.isfinite(one.centre):
            raise CannotAnswer(
                "With parameters of this size the numbers grow beyond what can be worked out.", "situation"
            )
        return one

    def left_out(self, tables: Tables, table: str) -> tuple[str, ...]:
        """Which rows of a table were not used, and why."""
        return ()

    @property
    def ready(self) -> Distribution | None:
        """The distribution of the parameters, where there is one."""
        if not self.complete or self.clash():
            return None
        try:
            return self.made()
        except (ValueError, OverflowError):
            return None


def is_whole(value: float) -> bool:
    return math.isfinite(value) and value == int(value)


_LAID = (Option(False, "the chosen one"), Option(True, "all", help="All parts in one picture, laid over each other."))
_VALUES = (Option(False, "not shown"), Option(True, "shown", help="Every value with P(X = x), P(X ≤ x) and P(X ≥ x)."))
