"""Poisson: how many events fall into a stretch of time or space."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.poisson import Poisson
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.laws.law import Approximation, Law, asked, parameter


@dataclass(frozen=True)
class PoissonCount(Law):
    kind: ClassVar[str] = "poisson"
    label: ClassVar[str] = "Poisson"
    help: ClassVar[str] = "Events in a stretch of time or space, λ of them on average."
    counting: ClassVar[bool] = True
    order: ClassVar[int] = 2
    usual: ClassVar[tuple[float, ...]] = (3.0,)
    least: ClassVar[float] = 0.0
    rate: float | None = parameter("λ", "the mean number of events", TypeNumber(0, 1e12))
    mean_formula: ClassVar[str] = "μ = λ"
    law: ClassVar[str] = "P(X = k) = (λ^{k} e^{−λ}) / k!"

    @classmethod
    def start(cls, mean: float, sd: float) -> tuple[float, ...]:
        return (mean,)

    def made(self) -> Poisson:
        return Poisson(*self.given)

    def assumptions(self) -> tuple[Assumption, ...]:
        return (
            asked("single", "events occur one at a time"),
            asked("independent", "the events are independent of each other"),
            asked("steady", f"they occur at a constant rate, {exact(self.rate or 0.0)} on average"),
        )

    @property
    def sd_formula(self) -> str:
        return f"σ = √λ = √{exact(self.rate or 0.0)}"

    def law_at(self, k: float) -> str:
        rate, at = exact(self.rate or 0.0), exact(k)
        return f"(({rate})^{{{at}}} e^{{−{rate}}}) / ({at}!)"

    def near(self) -> tuple[Approximation, ...]:
        one = self.made()
        if one.sd == 0:
            return ()
        curve, rule, enough = Normal(one.mean, one.sd), "λ of at least 10", one.mean >= 10
        return (
            Approximation("normal curve", curve, rule, enough),
            Approximation("normal curve, continuity correction", curve, rule, enough, 0.5),
        )


LAWS = (PoissonCount,)
