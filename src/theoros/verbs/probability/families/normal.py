"""Normal, and the standard normal."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.numeric.distributions.normal import Normal
from theoros.verbs.probability.data import Demand
from theoros.verbs.probability.values.variable import ANY, Parameter, Variable, above_zero


@dataclass(frozen=True)
class NormalMeasure(Variable):
    kind: ClassVar[str] = "normal"
    label: ClassVar[str] = "normal"
    help: ClassVar[str] = "A measure that lies around its mean in a bell curve."
    order: ClassVar[int] = 20
    parameters: ClassVar[tuple[Parameter, ...]] = (
        Parameter("mu", "μ", "the mean", ANY),
        Parameter("sigma", "σ", "the standard deviation", above_zero()),
    )
    mu: float | None = None
    sigma: float | None = None

    def made(self) -> Normal:
        assert self.mu is not None
        assert self.sigma is not None
        return Normal(float(self.mu), float(self.sigma))

    def demands(self) -> tuple[Demand, ...]:
        return (Demand("bell", "values lie symmetrically around the mean, most of them near it"),)

    @property
    def law(self) -> str:
        return "z = (x − μ) / σ"


@dataclass(frozen=True)
class StandardNormal(Variable):
    kind: ClassVar[str] = "standard normal"
    label: ClassVar[str] = "standard normal"
    help: ClassVar[str] = "z-scores: mean 0, standard deviation 1."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 21

    def made(self) -> Normal:
        return Normal()


SITUATIONS = (NormalMeasure, StandardNormal)
