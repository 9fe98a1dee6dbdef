"""Binomial: successes among a fixed number of independent trials."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import exact
from theoros.numeric.distributions.binomial import Binomial
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.poisson import Poisson
from theoros.verbs.laws.law import CHANCE, Approximation, Law, asked, parameter, whole


@dataclass(frozen=True)
class BinomialCount(Law):
    kind: ClassVar[str] = "binomial"
    label: ClassVar[str] = "binomial"
    help: ClassVar[str] = "Successes among n independent trials with the same chance p."
    counting: ClassVar[bool] = True
    order: ClassVar[int] = 1
    usual: ClassVar[tuple[float, ...]] = (10, 0.5)
    fixed: ClassVar[int] = 1
    least: ClassVar[float] = 0.0
    n: int | None = parameter("n", "the number of trials", whole(0, 1e9))
    p: float | None = parameter("p", "the chance of a success in one trial", CHANCE)
    law: ClassVar[str] = "P(X = k) = C(n, k) p^{k} (1 − p)^{n − k}"

    @classmethod
    def start(cls, mean: float, sd: float) -> tuple[float, ...]:
        return (mean,)

    def made(self) -> Binomial:
        return Binomial(*self.given)

    def assumptions(self) -> tuple[Assumption, ...]:
        n, p = exact(self.n or 0), exact(self.p or 0.0)
        return (
            Assumption("holds", f"a fixed number of trials: {n}"),
            Assumption("holds", "two outcomes of each trial: a success or not"),
            asked("independent", "the trials are independent of each other"),
            asked("same", f"the same chance, {p}, in every trial"),
        )

    @property
    def mean_formula(self) -> str:
        return f"μ = n p = {exact(self.n or 0)} × {exact(self.p or 0.0)}"

    @property
    def sd_formula(self) -> str:
        n, p = exact(self.n or 0), exact(self.p or 0.0)
        return f"σ = √(n p (1 − p)) = √({n} × {p} × (1 − {p}))"

    def law_at(self, k: float) -> str:
        n, p, at = exact(self.n or 0), exact(self.p or 0.0), exact(k)
        rest = exact((self.n or 0) - k)
        return f"C({n}, {at}) × ({p})^{{{at}}} × (1 − {p})^{{{rest}}}"

    def near(self) -> tuple[Approximation, ...]:
        one = self.made()
        n, p = one.n, one.p
        made = []
        if one.sd > 0:
            curve, enough = Normal(one.mean, one.sd), n * p >= 10 and n * (1 - p) >= 10
            rule = "np and n(1 − p) of at least 10"
            made.append(Approximation("normal curve", curve, rule, enough))
            made.append(Approximation("normal curve, continuity correction", curve, rule, enough, 0.5))
        if 0 < p < 1 and math.isfinite(n * p):
            made.append(
                Approximation(
                    "Poisson with mean np",
                    Poisson(n * p),
                    "n of at least 20 and p of at most 0.05",
                    n >= 20 and p <= 0.05,
                )
            )
        return tuple(made)


LAWS = (BinomialCount,)
