"""Hypergeometric: successes in a draw without replacement."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.hypergeometric import Hypergeometric
from theoros.verbs.laws.law import Approximation, Law, asked, parameter, whole


@dataclass(frozen=True)
class HypergeometricCount(Law):
    kind: ClassVar[str] = "hypergeometric"
    label: ClassVar[str] = "hypergeometric"
    help: ClassVar[str] = "Successes among n drawn without replacement from N, K of them successes."
    counting: ClassVar[bool] = True
    order: ClassVar[int] = 7
    usual: ClassVar[tuple[float, ...]] = (50, 20, 10)
    population: int | None = parameter("N", "the size of the population", whole(1, 1e9))
    successes: int | None = parameter("K", "the successes in the population", whole(0, 1e9))
    drawn: int | None = parameter("n", "the number drawn", whole(0, 1e9))
    law: ClassVar[str] = "P(X = k) = (C(K, k) C(N − K, n − k)) / (C(N, n))"

    def made(self) -> Hypergeometric:
        return Hypergeometric(*self.given)

    def clash(self) -> tuple[str, str] | None:
        size = self.population or 0
        if (self.successes or 0) > size:
            return "successes", (
                f"There cannot be {exact(self.successes or 0)} successes among {exact(size)}: K is at most N."
            )
        if (self.drawn or 0) > size:
            return "drawn", (f"At most {exact(size)} can be drawn from {exact(size)} without replacement.")
        return None

    def assumptions(self) -> tuple[Assumption, ...]:
        return (
            Assumption("holds", f"a fixed number drawn, {exact(self.drawn or 0)}, from {exact(self.population or 0)}"),
            asked("without", "the draws are without replacement"),
            asked("random", "each one that is left is equally likely to be drawn"),
        )

    @property
    def mean_formula(self) -> str:
        size, good, n = self._said()
        return f"μ = (n K) / N = ({n} × {good}) / ({size})"

    @property
    def sd_formula(self) -> str:
        size, good, n = self._said()
        letters = "√(n × K/N × (1 − K/N) × (N − n) / (N − 1))"
        share = f"({good})/({size})"
        return f"σ = {letters} = √({n} × {share} × (1 − {share}) × ({size} − {n}) / ({size} − 1))"

    def law_at(self, k: float) -> str:
        size, good, n = self._said()
        others = exact((self.population or 0) - (self.successes or 0))
        at, rest = exact(k), exact((self.drawn or 0) - k)
        return f"(C({good}, {at}) × C({others}, {rest})) / (C({size}, {n}))"

    def _said(self) -> tuple[str, str, str]:
        return exact(self.population or 0), exact(self.successes or 0), exact(self.drawn or 0)

    def near(self) -> tuple[Approximation, ...]:
        one = self.made()
        share = one.successes / one.population
        return (
            Approximation(
                "binomial with p = K/N",
                Binomial(one.drawn, share),
                "n of at most 5 % of N",
                one.drawn <= 0.05 * one.population,
            ),
        )


LAWS = (HypergeometricCount,)
