"""A share: every case is a success with the same chance."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.wording import sentence_case
from theoros.numeric.chance.draws import Trials
from theoros.verbs.core.fields import word_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot
from theoros.verbs.simulate.models.model import DrawnModel, chance, chance_slot, many, size
from theoros.verbs.simulate.sampling.facts import Facts, Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure

SUCCEEDS, TRIAL = "succeeds", "trial"
SUCCESS = "What a success does, as a verb: “leaks”, “is red”, “prefers Jade”."


@dataclass(frozen=True)
class ShareModel(DrawnModel):
    kind: ClassVar[str] = "share"
    label: ClassVar[str] = "a share"
    help: ClassVar[str] = "Each case is a success with the same chance."
    at_level: ClassVar[bool] = True
    order: ClassVar[int] = 10
    takes: ClassVar[tuple[Takes, ...]] = ("names",)
    statistic: ClassVar[str] = "number"
    case: str = word_field("one case", "What one case is, such as “jar”.", empty=TRIAL)
    success: str = word_field("what a success does", SUCCESS, empty=SUCCEEDS)
    p: float | None = chance("chance of a success p")
    n: int | None = size()

    def words(self, place: Place) -> tuple[Slot, Slot]:
        return self.field_slot("case", place), self.field_slot("success", place)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        case, success = self.words(place)
        p = chance_slot(self, place)
        n = self.field_slot("n", place, label=f"sample size n, how many {many(self.case or TRIAL)}")
        return (
            "If each ",
            case,
            " ",
            success,
            " with chance ",
            p,
            ", draw ",
            n,
            f" {many(self.case.strip() or TRIAL)}",
        )

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        assert self.p is not None
        assert self.n is not None
        p, n = float(self.p), int(self.n)
        success = self.success.strip() or SUCCEEDS
        return Facts(
            Trials(p, n),
            ("share", p, n),
            frozenset({"names"}),
            n,
            case=self.case.strip() or TRIAL,
            success=success,
            names=((success, f"not: {success}"),),
            chances=(((0,), p), ((1,), 1 - p)),
            moments=(p, math.sqrt(p * (1 - p))),
        )

    def title(self) -> str:
        if not self.success.strip():
            return "A proportion by chance"
        return sentence_case(f"{self.case.strip() or TRIAL} {self.success.strip()} by chance")


MODELS = (ShareModel,)
