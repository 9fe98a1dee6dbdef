"""Geometric: how long it takes to the first success, counting trials or failures."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.geometric import Geometric
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.laws.law import Law, asked, parameter

SOME_CHANCE = TypeNumber(0, 1, low_open=True, help="A chance above 0, such as 0.3, 30 % or 1/6.")


@dataclass(frozen=True)
class _Waiting(Law):
    counting: ClassVar[bool] = True
    failures: ClassVar[bool] = False
    p: float | None = parameter("p", "the chance of a success in one trial", SOME_CHANCE)

    def made(self) -> Geometric:
        (p,) = self.given
        return Geometric(p, self.failures)

    def assumptions(self) -> tuple[Assumption, ...]:
        counted = "failures before the first success" if self.failures else "trials up to and with"
        ending = "" if self.failures else " the first success"
        return (
            Assumption("holds", f"X counts the {counted}{ending}"),
            asked("independent", "the trials are independent of each other"),
            asked("same", f"the same chance, {exact(self.p or 0.0)}, in every trial"),
        )

    @property
    def mean_formula(self) -> str:
        p = exact(self.p or 1.0)
        return f"μ = (1 − p) / p = (1 − {p}) / {p}" if self.failures else f"μ = 1/p = 1 / ({p})"

    @property
    def sd_formula(self) -> str:
        p = exact(self.p or 1.0)
        return f"σ = √(1 − p) / p = √(1 − {p}) / ({p})"

    @property
    def law(self) -> str:
        return "P(X = k) = (1 − p)^{k} p" if self.failures else "P(X = k) = (1 − p)^{k − 1} p"

    def law_at(self, k: float) -> str:
        p = exact(self.p or 1.0)
        power = exact(k) if self.failures else f"{exact(k)} − 1"
        return f"(1 − {p})^{{{power}}} × {p}"


@dataclass(frozen=True)
class TrialsToFirst(_Waiting):
    kind: ClassVar[str] = "geometric"
    label: ClassVar[str] = "geometric, counting trials,"
    help: ClassVar[str] = "Trials up to and with the first success: 1, 2, 3, …"
    order: ClassVar[int] = 3
    usual: ClassVar[tuple[float, ...]] = (0.5,)


@dataclass(frozen=True)
class FailuresBeforeFirst(_Waiting):
    kind: ClassVar[str] = "geometric failures"
    label: ClassVar[str] = "geometric, counting failures,"
    help: ClassVar[str] = "Failures before the first success: 0, 1, 2, …"
    order: ClassVar[int] = 4
    usual: ClassVar[tuple[float, ...]] = (0.5,)
    failures: ClassVar[bool] = True


LAWS = (TrialsToFirst, FailuresBeforeFirst)
