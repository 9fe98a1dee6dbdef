"""Draws one after another from a mixture, with or without replacement."""

from __future__ import annotations

import re
from dataclasses import dataclass
from fractions import Fraction
from itertools import product
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.parts import Assumption
from theoros.lazy_imports import np
from theoros.verbs.core.fields import choice_field, number_field, text_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, Tables, TypeNumber, TypeText
from theoros.verbs.laws.law import asked
from theoros.verbs.probability.outcomes.asking import ORDINALS
from theoros.verbs.probability.outcomes.eventful import DRAWN, Drawn, Eventful
from theoros.verbs.probability.outcomes.space import Space, SpaceStage

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion

MOST_KINDS, MOST_DRAWS, MOST_ENDS = 6, 4, 40
_BACK = (
    Option(False, "without replacement", help="Without replacement."),
    Option(True, "with replacement", help="With replacement."),
)
CONTENTS = TypeText("How many of each kind: “8 red, 12 green”.", longest=200)
_PIECE = re.compile(r"(\d+)\s*(?:×\s*)?([^\d,;:=]+)|([^\d,;:=]+?)\s*[:=]?\s*(\d+)")


def mixture(text: str) -> tuple[tuple[str, int], ...]:
    """What there is, from "8 red, 12 green"; empty where it cannot be read."""
    made = []
    for piece in re.split(r"\s*[,;]\s*(?:and\s+)?|\s+and\s+", text.strip()):
        found = _PIECE.fullmatch(piece.strip())
        if found is None:
            return ()
        name, count = (found[2], found[1]) if found[1] else (found[3], found[4])
        made.append((name.strip(), int(count)))
    return tuple(made)


@dataclass(frozen=True)
class DrawsFromMixture(Eventful):
    kind: ClassVar[str] = "draws"
    label: ClassVar[str] = "drawn one after another"
    help: ClassVar[str] = "Two or more draws from a mixture, with or without replacement."
    order: ClassVar[int] = 63
    usually: ClassVar[Drawn] = "tree"
    case: ClassVar[str] = "set of draws"
    contents: str = text_field("what there is", CONTENTS, empty="…")
    draws: int = number_field(2, "how many are drawn", TypeNumber(2, MOST_DRAWS, whole=True), "How many are drawn.")
    back: bool = choice_field(False, "replacement", _BACK)
    drawn: Drawn | None = DRAWN

    @property
    def _problem(self) -> str:
        found = mixture(self.contents)
        if not found:
            return "Type the contents, such as “8 red, 12 green”."
        names = [name.lower() for name, _ in found]
        if len(set(names)) < len(names):
            return "Two kinds have the same name."
        if len(found) < 2:
            return "Name two kinds at least, such as “8 red, 12 green”."
        if len(found) > MOST_KINDS or len(found) ** self.draws > MOST_ENDS:
            return f"That makes more than the {MOST_ENDS} ends that a tree can have."
        total = sum(count for _, count in found)
        if total < (1 if self.back else self.draws):
            return f"There are {total}, fewer than the {self.draws} that are drawn."
        return ""

    def said(self, kind: Slot, each: Slot, place: Place) -> Phrase:
        contents = self.field_slot("contents", place, missing=self._problem)
        draws, back = self.field_slot("draws", place), self.field_slot("back", place)
        return ("From ", contents, ", ", draws, " are ", kind, ", ", back, ".")

    def assumptions(self) -> tuple[Assumption, ...]:
        return (asked("alike", "at every draw, each one that is left has the same chance"),)

    def title(self, s: ChanceQuestion) -> str:
        names = [name for name, _ in mixture(self.contents)]
        return f"Draws of {' and '.join(names)}" if names else "Draws from a mixture"

    def stages(self, place: Place) -> tuple[SpaceStage, ...]:
        if self._problem:
            return ()
        names = tuple(name for name, _ in mixture(self.contents))
        return tuple(SpaceStage(ORDINALS[at], names) for at in range(self.draws))

    def branch(self, space: Space, path: tuple[int, ...]) -> tuple[str, str]:
        first = int(np.flatnonzero(space.along(path))[0])
        return space.terms[first].split(" × ")[len(path) - 1], ""

    def space(self, tables: Tables, table: str) -> Space:
        counts = [count for _, count in mixture(self.contents)]
        codes, chances, terms = [], [], []
        for path in product(range(len(counts)), repeat=self.draws):
            left, chance, said = list(counts), Fraction(1), []
            for code in path:
                total = sum(left)
                said.append(f"{max(left[code], 0)}/{total}")
                chance *= Fraction(max(left[code], 0), total)
                if not self.back:
                    left[code] -= 1
            codes.append(path)
            chances.append(float(chance))
            terms.append(" × ".join(said))
        stages = self.stages(Place(tables, table))
        return Space(stages, np.array(codes), np.array(chances), tuple(terms))


SITUATIONS = (DrawsFromMixture,)
