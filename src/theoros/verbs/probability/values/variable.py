"""A value X with its distribution: the parameters as slots, the conditions and the formulas.

A new family is a module of `families` with a frozen dataclass, listed in its `SITUATIONS`.
"""

from __future__ import annotations

import math
from abc import abstractmethod
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case, with_article
from theoros.numeric.distributions.distribution import Distribution
from theoros.verbs.core.fields import HoldsNumber, Place, declared
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, TypeText
from theoros.verbs.probability.data import Situation
from theoros.verbs.probability.values.asking import read_part
from theoros.verbs.probability.values.spans import Asked
from theoros.verbs.probability.values.steps import moved, steps_of

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion


@dataclass(frozen=True, kw_only=True)
class TypedParameter(HoldsNumber):
    """A parameter that is typed, with the letter that stands for it."""

    symbol: str = ""


def parameter(symbol: str, label: str, holds: TypeNumber) -> Any:
    """A field for a parameter of a family."""
    return field(default=None, metadata={"slot": TypedParameter(symbol=symbol, label=label, told=label, holds=holds)})


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

    @classmethod
    def parameters(cls) -> dict[str, TypedParameter]:
        """Its parameters by the fields that hold them."""
        return {name: told for name, told in declared(cls).items() if isinstance(told, TypedParameter)}

    @property
    def given(self) -> tuple[Any, ...]:
        """The parameters as numbers, all of them typed: whole ones as int, others as float."""
        held = [(told, getattr(self, name)) for name, told in self.parameters().items()]
        return tuple(value if told.holds.whole else float(value) for told, value in held)

    def slots(self, place: Place) -> tuple[Slot, ...]:
        clash = self.clash() if self.complete else None
        made = []
        for name, told in self.parameters().items():
            missing = f"Type {told.symbol}, {told.label}, in the sentence." if getattr(self, name) is None else ""
            if clash and clash[0] == name:
                missing = clash[1]
            made.append(self.field_slot(name, place, label=f"{told.symbol}, {told.label}", missing=missing))
        return tuple(made)

    @property
    def complete(self) -> bool:
        held = [(told, getattr(self, name)) for name, told in self.parameters().items()]
        return all(value is not None and not told.holds.problem(value) for told, value in held)

    def phrase(self, place: Place) -> Phrase:
        """ " with n = 12 and p = 0.85", every number a slot."""
        made: list[str | Slot] = []
        slots = self.slots(place)
        for at, (told, slot) in enumerate(zip(self.parameters().values(), slots, strict=True)):
            joiner = " with " if at == 0 else " and " if at == len(slots) - 1 else ", "
            made += [f"{joiner}{told.symbol} = ", slot]
        return tuple(made)

    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        ending = (kind, *self.phrase(place), ".")
        if self.curve:
            return ("The value X follows the distribution ", *ending)
        about = "What X counts, such as “sound seals”." if self.counting else "What X measures, such as “leaf length”."
        what = s.field_slot(
            "counts",
            s.here(place.tables),
            holds=TypeText(about, longest=80),
            empty="successes" if self.counting else "value",
        )
        start = "The number of " if self.counting else "The "
        joiner = " in one " if self.counting else " of one "
        return (start, what, " X", joiner, s.field_slot("each", s.here(place.tables)), " is ", *ending)

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        names = []
        if not self.counting and not self.curve:
            names.append("unit")
        if len(s.parts) > 1:
            names.append("laid")
        if self.discrete:
            names.append("values")
        return tuple(s.field_slot(name, s.here(place.tables)) for name in names)

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
