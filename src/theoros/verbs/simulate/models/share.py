"""A share: every case is a success with the same chance."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.wording import sentence_case
from theoros.numeric.chance.draws import Trials
from theoros.verbs.core.slots import Phrase, Slot
from theoros.verbs.data.data import Place
from theoros.verbs.simulate.models.model import ChanceModel, chance_slot, many, size_slot, word_slot
from theoros.verbs.simulate.sampling.facts import Facts
from theoros.verbs.simulate.statistics.choices import Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure

SUCCEEDS, TRIAL = "succeeds", "trial"


@dataclass(frozen=True)
class ShareModel(ChanceModel):
    kind: ClassVar[str] = "share"
    label: ClassVar[str] = "a share"
    help: ClassVar[str] = "Each case is a success with the same chance."
    order: ClassVar[int] = 10
    takes: ClassVar[tuple[Takes, ...]] = ("names",)
    statistic: ClassVar[str] = "number"
    case: str = ""
    success: str = ""
    p: float | None = None
    n: int | None = None

    def words(self, place: Place) -> tuple[Slot, Slot]:
        case = word_slot(place, "case", "one case", self.case, TRIAL, "What one case is, such as “jar”.")
        success = word_slot(
            place,
            "success",
            "what a success does",
            self.success,
            SUCCEEDS,
            "What a success does, as a verb: “leaks”, “is red”, “prefers Jade”.",
        )
        return case, success

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        case, success = self.words(place)
        p = chance_slot(place, self.p, "chance of a success p")
        n = size_slot(place, self.n, f"sample size n, how many {many(self.case or TRIAL)}")
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
            return "A share by chance"
        return sentence_case(f"{self.case.strip() or TRIAL} {self.success.strip()} by chance")


MODELS = (ShareModel,)
