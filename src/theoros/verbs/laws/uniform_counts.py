"""Whole numbers that are all as likely."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import bracketed, exact
from theoros.numeric.distributions.discrete_uniform import DiscreteUniform
from theoros.verbs.laws.law import Law, asked, parameter, whole


@dataclass(frozen=True)
class UniformCount(Law):
    kind: ClassVar[str] = "discrete uniform"
    label: ClassVar[str] = "uniform over whole numbers"
    help: ClassVar[str] = "Each whole number from a to b has the same chance, as on a die."
    counting: ClassVar[bool] = True
    order: ClassVar[int] = 8
    usual: ClassVar[tuple[float, ...]] = (1, 6)
    low: int | None = parameter("a", "the least value", whole(-1e9, 1e9))
    high: int | None = parameter("b", "the greatest value", whole(-1e9, 1e9))
    law: ClassVar[str] = "P(X = k) = 1/m {for each of the} m {values from} a {to} b"

    def made(self) -> DiscreteUniform:
        return DiscreteUniform(*self.given)

    def clash(self) -> tuple[str, str] | None:
        if (self.low or 0) > (self.high or 0):
            return "high", f"b must be at least a, which is {exact(self.low or 0)}."
        return None

    def assumptions(self) -> tuple[Assumption, ...]:
        return (asked("alike", "every value has the same chance"),)

    @property
    def mean_formula(self) -> str:
        low, high = exact(self.low or 0), bracketed(exact(self.high or 0))
        return f"μ = (a + b) / 2 = ({low} + {high}) / 2"

    @property
    def sd_formula(self) -> str:
        count = exact((self.high or 0) - (self.low or 0) + 1)
        return f"σ = √((m^{{2}} − 1) / 12) = √((({count})^{{2}} − 1) / 12)"

    def law_at(self, k: float) -> str:
        return f"1 / ({exact((self.high or 0) - (self.low or 0) + 1)})"


LAWS = (UniformCount,)
