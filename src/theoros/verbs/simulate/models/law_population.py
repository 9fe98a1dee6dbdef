"""A population with a law: values drawn from a distribution with typed parameters."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case
from theoros.numeric.chance.populations import LawPopulation
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.core.fields import nested_field, word_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Phrase, Slot
from theoros.verbs.laws.law import Law, another_law, law_to_draw_slot
from theoros.verbs.laws.poisson import PoissonCount
from theoros.verbs.simulate.models.model import DrawnModel, size
from theoros.verbs.simulate.sampling.facts import Facts, Takes

if TYPE_CHECKING:
    from theoros.verbs.procedures.statement import ByProcedure


def _usual() -> Law:
    return PoissonCount.of(*PoissonCount.usual)


@dataclass(frozen=True)
class LawModel(DrawnModel):
    kind: ClassVar[str] = "law"
    label: ClassVar[str] = "a population with a distribution"
    help: ClassVar[str] = "Poisson, binomial, gamma, uniform and others, with their parameters."
    order: ClassVar[int] = 55
    takes: ClassVar[tuple[Takes, ...]] = ("numbers",)
    statistic: ClassVar[str] = "mean"
    measure: str = word_field("what is counted or measured", "Such as “mites on a leaf”.", empty="values")
    unit: str = word_field("unit", "The unit of the measurement.", empty="none")
    law: Law = nested_field(_usual, "The distribution with its parameters.")
    n: int | None = size()
    varies: ClassVar[tuple[str, ...]] = ("n",)

    def sentence(self, s: ByProcedure, place: Place) -> Phrase:
        measure, n = self.field_slot("measure", place), self.field_slot("n", place)
        inner = Place(place.tables, place.table, f"{place.path}law.")
        population: Phrase = (
            "From a population of ",
            measure,
            " whose distribution is ",
            place.slot(law_to_draw_slot(self.law)),
        )
        return (*population, *self.law.phrase(inner), " draw ", n)

    def of_kind(self, field: str, kind: str, place: Place) -> Law:
        """Another law, with its usual parameters."""
        return another_law(self.law, kind)

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return () if self.law.counting else (self.field_slot("unit", place),)

    def facts(self, s: ByProcedure, place: Place) -> Facts:
        from theoros.verbs.simulate.pictures.samples import law_frame

        assert self.n is not None
        one = self.law.ready
        if one is None:
            raise CannotAnswer("These parameters do not make a distribution. Type others.", "model.law")
        measure, unit = self.measure.strip() or "value", self.unit.strip()
        label = f"{measure} ({unit})" if unit else measure
        mean, sd = float(one.mean), float(one.sd)
        return Facts(
            LawPopulation(one, self.n),
            ("law", self.law, self.n),
            frozenset({"numbers"}),
            self.n,
            case="case",
            measure=measure,
            unit=unit,
            decimals=0 if self.law.counting else 2,
            moments=(mean, sd) if math.isfinite(mean) and math.isfinite(sd) else None,
            normal=isinstance(one, Normal),
            population=lambda: law_frame(one, label),
        )

    def title(self) -> str:
        what = self.measure.strip()
        return sentence_case(f"{what} of samples") if what else f"Samples of a {self.law.name} population"


MODELS = (LawModel,)
