"""A situation with events among outcomes, whatever the outcomes come from."""

from __future__ import annotations

from abc import abstractmethod
from typing import TYPE_CHECKING, Any, ClassVar, Literal

from theoros.answer.cannot import CannotAnswer, Problem
from theoros.verbs.core.fields import bare_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables, choice_slot
from theoros.verbs.laws.law import Situation
from theoros.verbs.probability.data import About
from theoros.verbs.probability.outcomes.asking import read_event
from theoros.verbs.probability.outcomes.space import Space, SpaceStage
from theoros.verbs.probability.words import short_chance

if TYPE_CHECKING:
    from theoros.answer.formulas.formula import Formula
    from theoros.verbs.probability.data import ChanceQuestion

Drawn = Literal["areas", "tree"]
_DRAWN = (
    Option("areas", "areas", help="A square whose areas are the chances."),
    Option("tree", "tree", help="Branches with the chance of each, multiplied along the way."),
)
DRAWN: Any = bare_field(None, "How it is drawn; null for the usual way.")
MOST_ON_TREE = 40
"""A tree with more ends cannot be read."""


class Eventful(Situation, About):
    """Its stages and chances are those of a `Space`."""

    group: ClassVar[str] = "events"
    case: ClassVar[str] = "case"
    """What one repetition is as long as that is not typed."""
    usually: ClassVar[Drawn] = "areas"
    answered_by: ClassVar[str] = "theoros.verbs.probability.outcomes.answering"
    drawn: Drawn | None

    @abstractmethod
    def stages(self, place: Place) -> tuple[SpaceStage, ...]:
        """The stages, as far as they are known; empty where they are not."""

    @abstractmethod
    def space(self, tables: Tables, table: str) -> Space:
        """The outcomes. Raises CannotAnswer."""

    def each(self, s: ChanceQuestion, tables: Tables) -> str:
        """What one repetition is called."""
        return s.each.strip() or self.case

    @abstractmethod
    def said(self, kind: Slot, each: Slot, place: Place) -> Phrase:
        """The sentence; `each` is the slot of what one repetition is."""

    def sentence(self, s: ChanceQuestion, kind: Slot, place: Place) -> Phrase:
        each = s.field_slot("each", s.here(place.tables), empty=self.each(s, place.tables))
        return self.said(kind, each, place)

    def own_settings(self, place: Place) -> tuple[Slot, ...]:
        return ()

    def settings(self, s: ChanceQuestion, place: Place) -> tuple[Slot, ...]:
        made = list(self.own_settings(place))
        stages = self.stages(place)
        if len(stages) == 2:
            shown = self.drawn or self.usually
            made.append(place.slot(choice_slot("drawn", "drawn as", shown, _DRAWN)))
        return tuple(made)

    def first_steps(self) -> tuple[str | Formula, ...]:
        """How what is not given itself follows from what is, as lines of the working."""
        return ()

    def branch(self, space: Space, path: tuple[int, ...]) -> tuple[str, str]:
        """What is written on a branch of the tree, and the slot that typing over it sets.

        `path` are the labels on the way to it and its own; the slot is empty where it is none.
        """
        way, own = space.along(path[:-1]), space.along(path)
        if space.counts is not None:
            return f"{space.count(own)}/{space.count(way)}", ""
        whole = space.chance(way)
        return (short_chance(space.chance(own) / whole) if whole > 0 else "–"), ""

    def wanting(self, place: Place) -> Problem | None:
        """What is not typed yet, where the outcomes can be drawn before it is."""
        return None

    def cautions(self, tables: Tables, table: str) -> tuple[str, ...]:
        return ()

    def check_part(self, text: str, place: Place) -> None:
        stages = self.stages(place)
        if stages:
            read_event(text, stages)

    def drawing(self, space: Space) -> Drawn:
        """How it is drawn."""
        if len(space.stages) != 2:
            return "tree"
        return self.drawn or self.usually


def not_too_many(count: int, slot: str = "") -> None:
    """Raises CannotAnswer where there are more outcomes than can be shown."""
    if count > 900:
        raise CannotAnswer(
            f"There are {count} combinations, more than can be shown. Merge levels, or choose other columns.", slot
        )
