"""The law of a value X: its parameters as slots, its distribution, the conditions and the formulas.

Probability asks about it, Arrange and Simulate draw from it, Test claims it of counts. A new family
is a module of this package with a frozen dataclass, listed in its `LAWS`.
"""

from __future__ import annotations

import math
from abc import abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.parts import Assumption
from theoros.numeric.distributions.distribution import Distribution
from theoros.plugins import listed_in
from theoros.verbs.core.fields import HoldsNumber, declared
from theoros.verbs.core.json_values import StatementError, family
from theoros.verbs.core.nested import Nested, kind_options
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, Tables, TypeNumber, choice_slot

CHANCE = TypeNumber(0, 1, help="A chance, such as 0.85, 85 % or 1/6.")


def asked(key: str, text: str) -> Assumption:
    """An assumption that only the student can judge; `key` is what the statement calls it."""
    return Assumption("judge", text, key=key)


class Situation(Nested):
    """What chances come from: a law, or outcomes with events among them."""

    def assumptions(self) -> tuple[Assumption, ...]:
        """The conditions that make it fit."""
        return ()

    def left_out(self, tables: Tables, table: str) -> tuple[str, ...]:
        """Which rows of a table were not used, and why."""
        return ()


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


class Law(Situation):
    """A family with its parameters."""

    counting: ClassVar[bool] = False
    """Whether X has whole values only."""
    curve: ClassVar[bool] = False
    """Whether it is a curve of statistics alone, which counts or measures nothing."""
    usual: ClassVar[tuple[float, ...]] = ()
    """Parameters to begin with where values are drawn; () of one that nothing is drawn from, or claimed of."""
    fixed: ClassVar[int] = 0
    """As many of its first parameters are never estimated: n of a binomial."""
    least: ClassVar[float] = -math.inf
    """No value lies below it."""

    def __init_subclass__(cls) -> None:
        super().__init_subclass__()
        cls.group = "curves of tests" if cls.curve else "counts" if cls.counting else "measures"
        cls.detail = "whole values" if cls.counting else ""

    @classmethod
    def of(cls, *parameters: float) -> Law:
        """It with these parameters, in their order."""
        told = cls.parameters()
        held = {
            name: int(value) if told[name].holds.whole and value == int(value) else value
            for name, value in zip(told, parameters, strict=True)
        }
        return cls(**held)

    @classmethod
    def start(cls, mean: float, sd: float) -> tuple[float, ...]:
        """Where an estimate of its parameters, but for the fixed ones, starts from; () where none is made.

        `mean` and `sd` are those of the values; for a law with a fixed n, the mean in units of n.
        """
        return ()

    @property
    def name(self) -> str:
        """As it is called within a sentence: "Poisson"."""
        return self.label.partition(",")[0]

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

    def distribution(self, tables: Tables, table: str) -> Distribution:
        """The distribution itself. Raises CannotAnswer where there is none."""
        one = self.ready
        if one is None or not math.isfinite(one.centre):
            raise CannotAnswer("These parameters are too large for the calculation. Type smaller ones.", "situation")
        return one

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


@cache
def laws() -> Mapping[str, type[Law]]:
    """The laws by kind."""
    return {one.kind: one for one in listed_in("theoros.verbs.laws", "LAWS")}


def another_law(now: Law, kind: str) -> Law:
    """A law to draw from, of another kind, with its usual parameters; the same where the kind is.

    Raises StatementError where there is none of that kind.
    """
    law = laws_to_draw().get(kind)
    if law is None:
        raise StatementError(f"There is no distribution “{kind}” to draw from.")
    return now if kind == now.kind else law.of(*law.usual)


def law_to_draw_slot(law: Law) -> Slot:
    """The slot that says which law is drawn from."""
    return choice_slot("law", "distribution", law.kind, kind_options(laws_to_draw().values()))


def laws_to_draw() -> Mapping[str, type[Law]]:
    """Those that stand on typed parameters alone: values can be drawn from them, and they can be claimed."""
    return {kind: law for kind, law in laws().items() if law.usual}


family(Law, laws)
