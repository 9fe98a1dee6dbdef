"""What a model of chance is: a value nested in the statement that says what is drawn.

A new one is a module of this package with a frozen dataclass, listed in its `MODELS`.
"""

from __future__ import annotations

from abc import abstractmethod
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.nouns import plural
from theoros.plugins import listed_in
from theoros.verbs.core.fields import number_field
from theoros.verbs.core.json_values import family
from theoros.verbs.core.nested import Nested
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, TypeNumber
from theoros.verbs.procedures.procedure import Purpose
from theoros.verbs.simulate.sampling.facts import Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure
    from theoros.verbs.simulate.sampling.facts import Facts

MOST_CASES = 1_000_000
CHANCE = TypeNumber(0, 1, help="A chance, such as 0.125, 12.5 % or 1/8.")


class ChanceModel(Nested):
    """Subclasses are frozen dataclasses; what is None is not yet typed."""

    uses: ClassVar[Purpose | None] = None
    """What its procedures are for, of models that take parameter, data and way of the statement."""
    at_level: ClassVar[bool] = False
    """Whether it makes a claim true that is judged at a level of significance."""
    other_names: ClassVar[tuple[str, ...]] = ()
    """What courses call it, to be found by."""
    takes: ClassVar[tuple[Takes, ...]] = ()
    """What statistics may be taken, as far as the kind tells."""
    statistic: ClassVar[str] = ""
    """What is taken as long as nothing is chosen."""

    @abstractmethod
    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        """What is drawn, as the first part of the sentence."""

    def settings(self, place: Place) -> tuple[Slot, ...]:
        """Slots beside the answer."""
        return ()

    def outcomes(self, place: Place) -> tuple[str, ...]:
        """Names that a statistic can count, for the list to choose from. Must not raise."""
        return ()

    def takes_now(self, place: Place) -> tuple[Takes, ...]:
        """What statistics may be taken as its slots are. Must not raise."""
        return self.takes

    @property
    def varies(self) -> tuple[str, ...]:
        """The fields of which several values can be compared."""
        return tuple(name for name in ("n", "p") if hasattr(self, name))

    @abstractmethod
    def title(self) -> str:
        """A short name for an entry about it."""


class DrawnModel(ChanceModel):
    """A model that says itself what is drawn."""

    @abstractmethod
    def facts(self, s: ByProcedure, place: Place) -> Facts:
        """What is known of it; every slot holds what it may. Raises CannotAnswer."""


@cache
def models() -> Mapping[str, type[ChanceModel]]:
    """The models by kind, in their order."""
    found = listed_in("theoros.verbs.simulate.models", "MODELS")
    return {one.kind: one for one in found}


family(ChanceModel, models)


def chance(label: str, default: float | None = None) -> float | None:
    """A field for a chance that must be typed."""
    return number_field(default, label, CHANCE, "A chance.")


def chance_slot(model: ChanceModel, place: Place, name: str = "p") -> Slot:
    """Its slot."""
    slot = model.field_slot(name, place)
    return replace(slot, missing=f"Type the {slot.label}, from 0 to 1.") if slot.value is None else slot


def size(label: str = "sample size n, how many are drawn") -> int | None:
    """A field for a number of cases that must be typed."""
    return number_field(None, label, TypeNumber(1, MOST_CASES, whole=True), "How many cases are drawn.")


def many(noun: str) -> str:
    """Several of what is counted; of a text that cannot be made a plural, itself."""
    return plural(noun) if noun.strip() else "cases"
