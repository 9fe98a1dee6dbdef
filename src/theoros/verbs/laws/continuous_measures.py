"""Uniform, exponential, gamma, beta, lognormal and Weibull: measures of other shapes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.beta import Beta
from theoros.numeric.distributions.exponential import Exponential
from theoros.numeric.distributions.gamma import Gamma
from theoros.numeric.distributions.lognormal import Lognormal
from theoros.numeric.distributions.uniform import Uniform
from theoros.numeric.distributions.weibull import Weibull
from theoros.verbs.laws.law import ANY, Law, above_zero, asked, parameter


@dataclass(frozen=True)
class UniformMeasure(Law):
    kind: ClassVar[str] = "uniform"
    label: ClassVar[str] = "uniform"
    help: ClassVar[str] = "Any value from a to b is equally likely."
    order: ClassVar[int] = 30
    usual: ClassVar[tuple[float, ...]] = (0.0, 1.0)
    low: float | None = parameter("a", "the least value", ANY)
    high: float | None = parameter("b", "the greatest value", ANY)
    law: ClassVar[str] = "P(c ≤ X ≤ d) = (d − c) / (b − a)"

    def made(self) -> Uniform:
        return Uniform(*self.given)

    def clash(self) -> tuple[str, str] | None:
        if (self.low or 0.0) >= (self.high or 0.0):
            return "high", f"b must lie above a, which is {exact(self.low or 0.0)}."
        return None

    def assumptions(self) -> tuple[Assumption, ...]:
        return (asked("alike", "intervals of the same length are equally likely"),)


@dataclass(frozen=True)
class ExponentialMeasure(Law):
    kind: ClassVar[str] = "exponential"
    label: ClassVar[str] = "exponential"
    help: ClassVar[str] = "The waiting time until the next event, if events occur at a constant rate."
    order: ClassVar[int] = 31
    usual: ClassVar[tuple[float, ...]] = (1.0,)
    least: ClassVar[float] = 0.0
    mean: float | None = parameter("μ", "the mean wait", above_zero("The mean; 1 over the rate."))
    law: ClassVar[str] = "P(X > x) = e^{−x/μ}"

    @classmethod
    def start(cls, mean: float, sd: float) -> tuple[float, ...]:
        return (mean,)

    def made(self) -> Exponential:
        return Exponential(*self.given)

    def assumptions(self) -> tuple[Assumption, ...]:
        return (
            asked("steady", "events occur at a constant rate"),
            asked("memory", "the time already waited does not change the waiting time that is left"),
        )


@dataclass(frozen=True)
class _Shaped(Law):
    shape: float | None = parameter("shape", "the shape", above_zero())
    scale: float | None = parameter("scale", "the scale", above_zero())


@dataclass(frozen=True)
class GammaMeasure(_Shaped):
    kind: ClassVar[str] = "gamma"
    label: ClassVar[str] = "gamma"
    help: ClassVar[str] = "The wait for several events, or a measure that is skewed to the right."
    order: ClassVar[int] = 32
    usual: ClassVar[tuple[float, ...]] = (2.0, 1.0)

    def made(self) -> Gamma:
        return Gamma(*self.given)


@dataclass(frozen=True)
class WeibullMeasure(_Shaped):
    kind: ClassVar[str] = "weibull"
    label: ClassVar[str] = "Weibull"
    help: ClassVar[str] = "Lifetimes that wear out, or that fail early."
    order: ClassVar[int] = 35
    usual: ClassVar[tuple[float, ...]] = (2.0, 1.0)
    law: ClassVar[str] = "{ln} P(X > x) = −(x / {scale})^{shape}"

    def made(self) -> Weibull:
        return Weibull(*self.given)


@dataclass(frozen=True)
class BetaMeasure(Law):
    kind: ClassVar[str] = "beta"
    label: ClassVar[str] = "beta"
    help: ClassVar[str] = "A share between 0 and 1."
    order: ClassVar[int] = 33
    usual: ClassVar[tuple[float, ...]] = (2.0, 2.0)
    a: float | None = parameter("a", "the first shape", above_zero())
    b: float | None = parameter("b", "the second shape", above_zero())

    def made(self) -> Beta:
        return Beta(*self.given)


@dataclass(frozen=True)
class LognormalMeasure(Law):
    kind: ClassVar[str] = "lognormal"
    label: ClassVar[str] = "lognormal"
    help: ClassVar[str] = "A measure whose logarithm is normal."
    order: ClassVar[int] = 34
    usual: ClassVar[tuple[float, ...]] = (0.0, 1.0)
    mu: float | None = parameter("μ", "the mean of the logarithm", ANY)
    sigma: float | None = parameter("σ", "the standard deviation of the logarithm", above_zero())
    law: ClassVar[str] = "z = ({ln} x − μ) / σ"

    def made(self) -> Lognormal:
        return Lognormal(*self.given)


LAWS = (UniformMeasure, ExponentialMeasure, GammaMeasure, BetaMeasure, LognormalMeasure, WeibullMeasure)
