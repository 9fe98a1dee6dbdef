"""Normal, and the standard normal."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.laws.law import ANY, Law, above_zero, asked, parameter


@dataclass(frozen=True)
class NormalMeasure(Law):
    kind: ClassVar[str] = "normal"
    label: ClassVar[str] = "normal"
    help: ClassVar[str] = "A measure that lies around its mean in a bell curve."
    order: ClassVar[int] = 20
    usual: ClassVar[tuple[float, ...]] = (0.0, 1.0)
    mu: float | None = parameter("μ", "the mean", ANY)
    sigma: float | None = parameter("σ", "the standard deviation", above_zero())
    law: ClassVar[str] = "z = (x − μ) / σ"

    @classmethod
    def start(cls, mean: float, sd: float) -> tuple[float, ...]:
        return mean, sd

    def made(self) -> Normal:
        return Normal(*self.given)

    def assumptions(self) -> tuple[Assumption, ...]:
        return (asked("bell", "the distribution is symmetric, with most values near the mean"),)


@dataclass(frozen=True)
class StandardNormal(Law):
    kind: ClassVar[str] = "standard normal"
    label: ClassVar[str] = "standard normal"
    help: ClassVar[str] = "z-scores: mean 0, standard deviation 1."
    curve: ClassVar[bool] = True
    order: ClassVar[int] = 21

    def made(self) -> Normal:
        return Normal()


LAWS = (NormalMeasure, StandardNormal)
