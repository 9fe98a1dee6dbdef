"""Negative binomial: how long it takes to success number r, counting trials or failures."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.negative_binomial import NegativeBinomial
from theoros.verbs.laws.geometric import SOME_CHANCE
from theoros.verbs.laws.law import Law, asked, parameter, whole


@dataclass(frozen=True)
class _WaitingForR(Law):
    counting: ClassVar[bool] = True
    failures: ClassVar[bool] = False
    r: int | None = parameter("r", "the number of successes waited for", whole(1, 1e9))
    p: float | None = parameter("p", "the chance of a success in one trial", SOME_CHANCE)

    def made(self) -> NegativeBinomial:
        r, p = self.given
        return NegativeBinomial(r, p, self.failures)

    def assumptions(self) -> tuple[Assumption, ...]:
        r = exact(self.r or 1)
        counted = f"failures before success number {r}"
        if not self.failures:
            counted = f"trials up to and with success number {r}"
        return (
            Assumption("holds", f"X counts the {counted}"),
            asked("independent", "the trials are independent of each other"),
            asked("same", f"the same chance, {exact(self.p or 0.0)}, in every trial"),
        )

    @property
    def mean_formula(self) -> str:
        r, p = exact(self.r or 1), exact(self.p or 1.0)
        if self.failures:
            return f"μ = (r (1 − p)) / p = ({r} × (1 − {p})) / ({p})"
        return f"μ = r/p = ({r}) / ({p})"

    @property
    def sd_formula(self) -> str:
        r, p = exact(self.r or 1), exact(self.p or 1.0)
        return f"σ = √(r (1 − p)) / p = √({r} × (1 − {p})) / ({p})"

    @property
    def law(self) -> str:
        if self.failures:
            return "P(X = k) = C(k + r − 1, k) p^{r} (1 − p)^{k}"
        return "P(X = k) = C(k − 1, r − 1) p^{r} (1 − p)^{k − r}"

    def law_at(self, k: float) -> str:
        r, p, at = exact(self.r or 1), exact(self.p or 1.0), exact(k)
        if self.failures:
            return f"C({at} + {r} − 1, {at}) × ({p})^{{{r}}} × (1 − {p})^{{{at}}}"
        return f"C({at} − 1, {r} − 1) × ({p})^{{{r}}} × (1 − {p})^{{{at} − {r}}}"


@dataclass(frozen=True)
class TrialsToR(_WaitingForR):
    kind: ClassVar[str] = "negative binomial"
    label: ClassVar[str] = "negative binomial, counting trials,"
    help: ClassVar[str] = "Trials up to and with success number r."
    order: ClassVar[int] = 5
    usual: ClassVar[tuple[float, ...]] = (3, 0.5)


@dataclass(frozen=True)
class FailuresBeforeR(_WaitingForR):
    kind: ClassVar[str] = "negative binomial failures"
    label: ClassVar[str] = "negative binomial, counting failures,"
    help: ClassVar[str] = "Failures before success number r."
    order: ClassVar[int] = 6
    usual: ClassVar[tuple[float, ...]] = (3, 0.5)
    failures: ClassVar[bool] = True


LAWS = (TrialsToR, FailuresBeforeR)
