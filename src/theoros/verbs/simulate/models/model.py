"""What a model of chance is: a value nested in the statement that says what is drawn.

A new one is a module of this package with a frozen dataclass, listed in its `MODELS`.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from typing import TYPE_CHECKING, Any, ClassVar

from theoros.answer.wording import exact, plural, whole
from theoros.plugins import listed_in
from theoros.verbs.core.reading import family, field_types
from theoros.verbs.core.slots import Grid, Phrase, Slot, TypeNumber, TypeText, number_slot, text_slot
from theoros.verbs.data.data import Place
from theoros.verbs.procedures.procedure import Purpose
from theoros.verbs.simulate.statistics.choices import Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure
    from theoros.verbs.simulate.sampling.facts import Facts

MOST_CASES = 1_000_000
CHANCE = TypeNumber(0, 1, help="A chance, such as 0.125, 12.5 % or 1/8.")


class ChanceModel(ABC):
    """Subclasses are frozen dataclasses; what is None is not yet typed."""

    kind: ClassVar[str]
    label: ClassVar[str]
    """Where models are chosen: "a share"."""
    help: ClassVar[str]
    order: ClassVar[int] = 0
    uses: ClassVar[Purpose | None] = None
    """What its procedures are for, of models that take parameter, data and way of the statement."""
    takes: ClassVar[tuple[Takes, ...]] = ()
    """What statistics may be taken, as far as the kind tells."""
    statistic: ClassVar[str] = ""
    """What is taken as long as nothing is chosen."""

    @property
    def needs_table(self) -> bool:
        return False

    @abstractmethod
    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        """What is drawn, as the first part of the sentence."""

    def grid(self, place: Place) -> Grid | None:
        """Slots in a grid below the sentence."""
        return None

    def settings(self, place: Place) -> tuple[Slot, ...]:
        """Slots beside the answer."""
        return ()

    def put(self, field: str, value: Any, place: Place) -> ChanceModel | None:
        """What setting a field comes to where it is not that alone; None where it is."""
        return None

    def filled(self, place: Place) -> ChanceModel:
        """With columns chosen where it names none that the table has."""
        return self

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        """What is known of it; every slot holds what it may. Raises CannotAnswer."""
        raise NotImplementedError(self.kind)  # of models that procedures stand behind

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


@cache
def models() -> Mapping[str, type[ChanceModel]]:
    """The models by kind, in their order."""
    found = listed_in("theoros.verbs.simulate.models", "MODELS")
    return {one.kind: one for one in found}


family(ChanceModel, models)  # type: ignore[type-abstract]


def turned_into(model: ChanceModel, kind: str, place: Place) -> ChanceModel:
    """Another model, with the fields of the same name taken along where they fit."""
    cls: Any = models()[kind]
    have, want = field_types(type(model)), field_types(cls)
    kept = {name: getattr(model, name) for name, hint in want.items() if have.get(name) == hint}
    made: ChanceModel = cls(**kept)
    return made.filled(place)


def chance_slot(place: Place, value: float | None, label: str, name: str = "p") -> Slot:
    """A chance that must be typed."""
    slot = number_slot(name, label, value, CHANCE, exact(value) if value is not None else "…")
    missing = "" if value is not None else f"Type the {label}, from 0 to 1."
    return place.slot(replace(slot, missing=missing))


def size_slot(place: Place, value: int | None, label: str, *, low: int = 1, name: str = "n") -> Slot:
    """A number of cases that must be typed."""
    holds = TypeNumber(low, MOST_CASES, whole=True)
    slot = number_slot(name, label, value, holds, whole(value) if value is not None else "…")
    missing = "" if value is not None else f"Type the {label}."
    return place.slot(replace(slot, missing=missing))


def word_slot(place: Place, name: str, label: str, value: str, empty: str, help_: str) -> Slot:
    holds = TypeText(help_, longest=60)
    return place.slot(text_slot(name, label, value, holds, empty=empty))


def many(noun: str) -> str:
    """Several of what is counted; of a text that cannot be made a plural, itself."""
    return plural(noun) if noun.strip() else "cases"
