"""A tree of two or three stages, with the chance of each branch given what came before it."""

from __future__ import annotations

import math
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import product
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import Problem
from theoros.answer.wording import exact, listed
from theoros.lazy_imports import np
from theoros.verbs.core.fields import bare_field, text_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot, SlotGrid, Tables, TypeNumber, TypeText, number_slot
from theoros.verbs.laws.law import Situation
from theoros.verbs.probability.outcomes.eventful import DRAWN, Drawn, Eventful
from theoros.verbs.probability.outcomes.space import Space, SpaceStage

if TYPE_CHECKING:
    from theoros.verbs.probability.data import ChanceQuestion

Path = tuple[int, ...]
MOST_LABELS = 6
MOST_BRANCHES = 40
GIVES = TypeText("Its outcomes, separated by commas: “sick, healthy”.", longest=200)
STAGES = ("first", "second", "third")


def labels_of(text: str) -> tuple[str, ...]:
    """What a stage can give, from "sick, healthy" or "sick or healthy"."""
    parts = re.split(r"\s*[,;/]\s*(?:or\s+)?|\s+or\s+", text.strip())
    return tuple(part.strip() for part in parts if part.strip())


@dataclass(frozen=True)
class TreeOfStages(Eventful):
    """`chances` are those of every branch but the last of each fork, in the order of the tree:
    the first stage, then the forks behind each of its branches, then those behind these.
    """

    kind: ClassVar[str] = "tree"
    label: ClassVar[str] = "a tree of stages"
    help: ClassVar[str] = "Probabilities of a first stage, and then of the stages that follow it: Bayes’ rule."
    order: ClassVar[int] = 62
    usually: ClassVar[Drawn] = "tree"
    first: str = text_field("outcomes of the first stage", GIVES, empty="…")
    second: str = text_field("outcomes of the second stage", GIVES, empty="…")
    third: str = text_field("outcomes of the third stage", GIVES, empty="…")
    chances: tuple[float | None, ...] = bare_field((), "The chances of the branches, in the order of the tree.")
    drawn: Drawn | None = DRAWN

    @property
    def _labels(self) -> list[tuple[str, ...]]:
        found = [labels_of(one) for one in (self.first, self.second, self.third)]
        return found if self.third.strip() else found[:2]

    def _problem(self, at: int) -> str:
        """Why what a stage can give does not do; empty if it does."""
        labels, name = labels_of((self.first, self.second, self.third)[at]), STAGES[at]
        if len(labels) < 2:
            return f"Type the outcomes of the {name} stage, such as “sick, healthy”."
        if len({one.lower() for one in labels}) < len(labels):
            return f"Two outcomes of the {name} stage have the same name. Give each one its own."
        if len(labels) > MOST_LABELS:
            return f"A stage can have at most {MOST_LABELS} outcomes."
        if at == len(self._labels) - 1 and np.prod([len(x) for x in self._labels]) > MOST_BRANCHES:
            return f"A tree can have {MOST_BRANCHES} ends at most."
        return ""

    @property
    def _whole(self) -> bool:
        return not any(self._problem(at) for at in range(len(self._labels)))

    def _forks(self) -> Iterator[Path]:
        """The ways to each fork, in the order of `chances`."""
        labels = self._labels
        for stage in range(len(labels)):
            yield from product(*(range(len(own)) for own in labels[:stage]))

    def _typed_branches(self) -> list[Path]:
        """The branches whose chances are typed: all but the last of each fork."""
        labels = self._labels
        return [(*fork, code) for fork in self._forks() for code in range(len(labels[len(fork)]) - 1)]

    @property
    def _by_branch(self) -> dict[Path, float | None]:
        branches = self._typed_branches() if self._whole else []
        held = [*self.chances, *([None] * len(branches))]
        return dict(zip(branches, held, strict=False))

    def _chance(self, path: Path, known: dict[Path, float | None]) -> float | None:
        """The chance of a branch; that of the last of a fork is what the others leave."""
        if path in known:
            return known[path]
        others = [known[(*path[:-1], code)] for code in range(path[-1])]
        if any(one is None for one in others):
            return None
        rest = 1 - sum(float(one) for one in others if one is not None)
        return float(f"{max(0.0, rest):.12g}")

    def _said_path(self, path: Path) -> str:
        """A branch in words: "positive, if sick"."""
        labels = self._labels
        names = [labels[at][code] for at, code in enumerate(path)]
        return names[-1] + (f", if {' and '.join(names[:-1])}" if len(names) > 1 else "")

    def said(self, kind: Slot, each: Slot, place: Place) -> Phrase:
        made: list[str | Slot] = ["One ", each, " goes through ", kind, ": first "]
        for at, name in enumerate(("first", "second", "third")[: len(self._labels)]):
            if at:
                made.append(", then ")
            made.append(self._stage_slot(at, name, place))
        return (*made, ".")

    def _stage_slot(self, at: int, name: str, place: Place) -> Slot:
        labels = labels_of(getattr(self, name))
        shown = listed(list(labels), "or") if labels else ""
        return self.field_slot(name, place, shown=shown, missing=self._problem(at))

    def own_settings(self, place: Place) -> tuple[Slot, ...]:
        holds = TypeText("Its outcomes, separated by commas; empty for none.", longest=200)
        third = self.field_slot("third", place, label="third stage", holds=holds, empty="none")
        return () if self.third.strip() else (third,)

    def grid(self, place: Place) -> SlotGrid | None:
        """A line for each branch of the first stage with what may follow; below it the third."""
        if not self._whole:
            return None
        labels = self._labels
        second = labels[1]
        lines: list[tuple[str | Slot, ...]] = []
        for code, name in enumerate(labels[0]):
            ahead = [self._cell((code, after)) for after in range(len(second))]
            lines.append((name, self._cell((code,)), *ahead))
        if len(labels) == 3:
            for way in product(range(len(labels[0])), range(len(second))):
                for code in range(len(labels[2]) - 1):
                    path = (*way, code)
                    blank = [""] * (len(second) - 1)
                    lines.append((self._said_path(path), self._cell(path), "", *blank))
        heads = ("first", "chance", *(f"then {name}" for name in second))
        return SlotGrid("chances of the branches", heads, tuple(lines))

    def _cell(self, path: Path) -> str | Slot:
        """The slot of a branch, or what the others of its fork leave for it."""
        known = self._by_branch
        if path in known:
            return self._chance_slot(path, known)
        chance = self._chance(path, known)
        return exact(chance) if chance is not None else "the rest"

    def _chance_slot(self, path: Path, known: dict[Path, float | None]) -> Slot:
        fork, said, value = path[:-1], self._said_path(path), known[path]
        name = f"situation.chances.{list(known).index(path)}"
        others = [v for p, v in known.items() if p[:-1] == fork and p != path and v is not None]
        high = float(f"{max(0.0, 1 - sum(map(float, others))):.12g}")
        why = "The probabilities of the branches of a fork sum to 1." if others else ""
        shown = exact(value) if value is not None else "…"
        holds = TypeNumber(0, high, auto=True, help=why)
        return number_slot(name, f"chance of {said}", value, holds, shown)

    def branch(self, space: Space, path: Path) -> tuple[str, str]:
        cell = self._cell(path)
        return (cell, "") if isinstance(cell, str) else (cell.shown, cell.name)

    def wanting(self, place: Place) -> Problem | None:
        known = self._by_branch
        for path, chance in known.items():
            if chance is None:
                said = self._said_path(path)
                slot = self._chance_slot(path, known).name
                return Problem(f"Type the chance of {said}, in the grid or on its branch.", slot)
        return None

    def put(self, field: str, value: object, place: Place) -> tuple[Situation, list[str]] | None:
        """Chances keep with their branches when a stage is typed anew."""
        head, _, rest = field.partition(".")
        if head == "chances" and rest.isdigit():
            branches = self._typed_branches() if self._whole else []
            if int(rest) >= len(branches):
                raise StatementError(f"There is no branch with the number {rest}.")
            slot = self._chance_slot(branches[int(rest)], self._by_branch)
            problem = slot.holds.problem(value)
            if problem:
                raise StatementError(problem)
            held = list(self._by_branch.values())
            assert value is None or isinstance(value, int | float)
            held[int(rest)] = value
            return replace(self, chances=tuple(held)), []
        if head in STAGES and isinstance(value, str):
            before = {self._named(path): v for path, v in self._by_branch.items()}
            places = dict(self._by_branch)
            made = replace(self, **{head: value})  # type: ignore[arg-type]
            if not made._whole:
                return made, []
            renamed = [len(own) for own in made._labels] == [len(own) for own in self._labels]
            kept = places if renamed else {}
            chances = tuple(before.get(made._named(path), kept.get(path)) for path in made._typed_branches())
            return replace(made, chances=made._fitting(chances)), []
        return None

    def _named(self, path: Path) -> tuple[str, ...]:
        labels = self._labels
        return tuple(labels[at][code] for at, code in enumerate(path))

    def _fitting(self, chances: tuple[float | None, ...]) -> tuple[float | None, ...]:
        """Chances without those that would sum to more than 1 within their fork."""
        made: list[float | None] = []
        sums: dict[Path, float] = {}
        for path, chance in zip(self._typed_branches(), chances, strict=True):
            whole = sums.get(path[:-1], 0.0) + float(chance or 0)
            fits = chance is not None and whole <= 1 + 1e-12
            made.append(chance if fits else None)
            sums[path[:-1]] = whole if fits else sums.get(path[:-1], 0.0)
        return tuple(made)

    def title(self, s: ChanceQuestion) -> str:
        labels = self._labels
        if not self._whole:
            return "A tree of stages"
        return f"{labels[0][0]} and {labels[1][0]}".capitalize()

    def stages(self, place: Place) -> tuple[SpaceStage, ...]:
        if not self._whole:
            return ()
        return tuple(SpaceStage("", own) for own in self._labels)

    def space(self, tables: Tables, table: str) -> Space:
        labels, known = self._labels, self._by_branch
        codes, chances, terms = [], [], []
        for path in product(*(range(len(own)) for own in labels)):
            found = [self._chance(path[: at + 1], known) for at in range(len(path))]
            along = [math.nan if p is None else float(p) for p in found]
            codes.append(path)
            chances.append(math.prod(along))
            terms.append(" × ".join("…" if p is None else exact(p) for p in found))
        stages = self.stages(Place(tables, table))
        return Space(stages, np.array(codes), np.array(chances), tuple(terms))


SITUATIONS = (TreeOfStages,)
