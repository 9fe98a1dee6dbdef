"""Draws until something was seen, and random walks."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, ClassVar, Literal

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import shortened, whole
from theoros.numeric.chance.waiting import Waiting, Walk
from theoros.verbs.core.fields import choice_field, number_field, word_field
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Option, Phrase, Slot, SlotGrid, TypeNumber
from theoros.verbs.simulate.models.bag import listed_after, listed_grid, listed_outcomes, listed_slot
from theoros.verbs.simulate.models.model import ChanceModel, DrawnModel, chance, chance_slot, many, size
from theoros.verbs.simulate.models.share import SUCCEEDS, TRIAL
from theoros.verbs.simulate.sampling.facts import Facts, Takes
from theoros.verbs.simulate.sampling.outcome_list import outcomes_of

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure

Awaited = Literal["the first success", "several successes", "a run of successes", "all kinds"]
_UNTIL = (
    Option("the first success", "the first success"),
    Option("several successes", "so many successes"),
    Option("a run of successes", "so many successes in a row"),
    Option("all kinds", "each kind was seen"),
)
_MOST = TypeNumber(1, 100_000, whole=True, help="When the waiting has to stop.")


@dataclass(frozen=True)
class WaitModel(DrawnModel):
    kind: ClassVar[str] = "waiting"
    label: ClassVar[str] = "waiting for something"
    help: ClassVar[str] = "Draws until the first success, several of them, a run, or all kinds."
    order: ClassVar[int] = 60
    takes: ClassVar[tuple[Takes, ...]] = ("waits",)
    statistic: ClassVar[str] = "wait"
    case: str = word_field("one case", "What one draw is, such as “card” or “packet”.", empty=TRIAL)
    success: str = word_field(
        "what a success does", "What a success does, as a verb: “leaks”, “is red”.", empty=SUCCEEDS
    )
    p: float | None = chance("chance of a success p")
    until: Awaited = choice_field("the first success", "what is waited for", _UNTIL)
    k: int = number_field(2, "how many", TypeNumber(1, 1000, whole=True), "How many successes.")
    listed: str = listed_outcomes()
    most: int = number_field(10_000, "draws at the most", _MOST, "When the waiting has to stop.")

    @property
    def _kinds(self) -> bool:
        return self.until == "all kinds"

    @property
    def _one(self) -> str:
        return self.case.strip() or ("draw" if self._kinds else TRIAL)

    @property
    def ending(self) -> str:
        """What is waited for, behind "until"."""
        success = self.success.strip() or SUCCEEDS
        return {
            "the first success": f"one {success}",
            "several successes": f"success number {self.k}",
            "a run of successes": f"{self.k} successes in a row",
            "all kinds": "each kind was seen",
        }[self.until]

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        case = self.field_slot("case", place, empty="draw" if self._kinds else TRIAL)
        until = self.field_slot("until", place)
        if self._kinds:
            return ("If each ", case, " gives one of ", listed_slot(self, place), ", draw until ", until)
        count: Phrase = ()
        if self.until in ("several successes", "a run of successes"):
            count = (" (", self.field_slot("k", place), ")")
        success, p = self.field_slot("success", place), chance_slot(self, place)
        return ("If each ", case, " ", success, " with chance ", p, f", draw {many(self._one)} until ", until, *count)

    def grid(self, place: Place) -> SlotGrid | None:
        return listed_grid(place, self.listed) if self._kinds else None

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("most", place),)

    def put(self, field: str, value: object, place: Place) -> tuple[ChanceModel, list[str]] | None:
        text = listed_after(self.listed, field, value)
        return None if text is None else (replace(self, listed=text), [])

    @property
    def varies(self) -> tuple[str, ...]:
        return () if self._kinds else ("p",)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        case = self._one
        if self._kinds:
            try:
                found = outcomes_of(self.listed)
            except StatementError as problem:
                raise CannotAnswer(str(problem), "model.listed") from None
            never = next((one.name for one in found if one.weight == 0), None)
            if never is not None:
                raise CannotAnswer(
                    f"“{never}” has the weight 0 and never occurs, so waiting for all kinds would not end. Remove "
                    "it, or give it a weight.",
                    "model.listed",
                )
            weights = tuple(one.weight for one in found)
            names: tuple[str, ...] = tuple(one.name for one in found)
            model = Waiting(weights, "all kinds", 1, self.most)
            success = ""
        else:
            assert self.p is not None
            p = float(self.p)
            if p == 0:
                raise CannotAnswer(
                    "With a chance of 0 a success never occurs, so the waiting would not end. Type a chance above 0.",
                    "model.p",
                )
            k = 1 if self.until == "the first success" else self.k
            model = Waiting((p, 1 - p), "run" if self.until == "a run of successes" else "successes", k, self.most)
            success = self.success.strip() or SUCCEEDS
            names = (success, f"not: {success}")
        total = sum(model.weights)
        return Facts(
            model,
            ("waiting", model),
            frozenset({"waits"}),
            0,
            case=case,
            success=success,
            names=(names,),
            chances=tuple(((at,), w / total) for at, w in enumerate(model.weights)),
        )

    def title(self) -> str:
        if self._kinds:
            return f"Waiting for all of {shortened(self.listed, 24)}"
        return f"Waiting for {self.until}"


@dataclass(frozen=True)
class WalkModel(DrawnModel):
    kind: ClassVar[str] = "walk"
    label: ClassVar[str] = "a random walk"
    help: ClassVar[str] = "Random steps up or down, and where they lead."
    order: ClassVar[int] = 70
    takes: ClassVar[tuple[Takes, ...]] = ("walks",)
    statistic: ClassVar[str] = "end"
    p: float | None = chance("chance of a step up p", 0.5)
    n: int | None = size("number of steps n")

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        p, n = chance_slot(self, place), self.field_slot("n", place)
        return ("If each step goes up with chance ", p, ", and down otherwise, walk ", n, " steps")

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        assert self.p is not None
        assert self.n is not None
        model = Walk(float(self.p), int(self.n))
        return Facts(model, ("walk", model), frozenset({"walks"}), model.n, case="step")

    def title(self) -> str:
        return f"A walk of {whole(self.n)} steps" if self.n else "A random walk"


MODELS = (WaitModel, WalkModel)
