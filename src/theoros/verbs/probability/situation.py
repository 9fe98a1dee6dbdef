"""What a situation is: a distribution with its parameters as slots, its conditions and formulas.

A new family is a module of `families` with a frozen dataclass, listed in its `SITUATIONS`.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any, ClassVar

from theoros.answer.wording import exact
from theoros.numeric.distributions.distribution import Distribution
from theoros.verbs.core.listing import listed_in
from theoros.verbs.core.reading import family
from theoros.verbs.core.slots import Phrase, Slot, TypeNumber, number_slot


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


CHANCE = TypeNumber(0, 1, help="A chance, such as 0.85, 85 % or 1/6.")
ANY = TypeNumber()


@dataclass(frozen=True)
class Demand:
    """A condition under which a family fits; checked here, or for the student to judge."""

    key: str
    text: str
    met: bool | None = None
    """None where only the student can tell."""


@dataclass(frozen=True)
class Approximation:
    """Another distribution that comes near, with its rule of thumb and whether that holds."""

    label: str
    distribution: Distribution
    rule: str
    holds: bool
    half: float = 0.0
    """The continuity correction: what is added to both sides of a count."""


class Situation(ABC):
    """A family with its parameters. Subclasses are frozen dataclasses; None is not yet typed."""

    kind: ClassVar[str]
    label: ClassVar[str]
    """As it stands in the sentence: "binomial"."""
    help: ClassVar[str]
    counting: ClassVar[bool] = False
    """Whether X has whole values only."""
    curve: ClassVar[bool] = False
    """Whether it is a curve of statistics alone, which counts or measures nothing."""
    order: ClassVar[int] = 0
    parameters: ClassVar[tuple[Parameter, ...]] = ()

    @abstractmethod
    def made(self) -> Distribution:
        """The distribution itself, when every parameter is typed and fits the others."""

    def clash(self) -> tuple[str, str] | None:
        """The parameter that cannot be beside the others, and why."""
        return None

    def demands(self) -> tuple[Demand, ...]:
        """The conditions that make it fit."""
        return ()

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

    def slots(self, path: str = "situation.") -> tuple[Slot, ...]:
        clash = self.clash() if self.complete else None
        made = []
        for one in self.parameters:
            value = getattr(self, one.name)
            missing = f"Type {one.symbol}, {one.label}, in the sentence." if value is None else ""
            if clash and clash[0] == one.name:
                missing = clash[1]
            shown = "…" if value is None else exact(value)
            slot = number_slot(
                path + one.name, f"{one.symbol}, {one.label}", value, one.holds, shown
            )
            made.append(Slot(slot.name, slot.label, slot.shown, slot.value, slot.holds, missing))
        return tuple(made)

    @property
    def complete(self) -> bool:
        return all(
            getattr(self, one.name) is not None and not one.holds.problem(getattr(self, one.name))
            for one in self.parameters
        )

    def phrase(self) -> Phrase:
        """ " with n = 12 and p = 0.85", every number a slot."""
        made: list[str | Slot] = []
        for at, (one, slot) in enumerate(zip(self.parameters, self.slots(), strict=True)):
            last = at == len(self.parameters) - 1
            joiner = " with " if at == 0 else " and " if last else ", "
            made += [f"{joiner}{one.symbol} = ", slot]
        return tuple(made)

    @property
    def ready(self) -> Distribution | None:
        """The distribution, where there is one."""
        if not self.complete or self.clash():
            return None
        try:
            return self.made()
        except (ValueError, OverflowError):
            return None


@cache
def situations() -> Mapping[str, type[Situation]]:
    """The families by kind."""
    return {one.kind: one for one in listed_in("theoros.verbs.probability.families", "SITUATIONS")}


family(Situation, situations)  # type: ignore[type-abstract]


def turned_into(situation: Situation, kind: str) -> Situation:
    """Another family, with the parameters of the same name taken along."""
    cls: Any = situations()[kind]
    names = {one.name for one in cls.parameters} & {one.name for one in situation.parameters}
    return cls(**{name: getattr(situation, name) for name in names})  # type: ignore[no-any-return]


def is_whole(value: float) -> bool:
    return math.isfinite(value) and value == int(value)
