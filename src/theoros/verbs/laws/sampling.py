"""Sampling distributions: of a mean, a total and a proportion of n, from population values."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

from theoros.answer.parts import Assumption
from theoros.answer.wording import bracketed, exact
from theoros.numeric.distributions.normal import Normal
from theoros.verbs.laws.law import ANY, CHANCE, Law, above_zero, asked, parameter, whole

ENOUGH = 30
"""As many values make a mean nearly normal, whatever the population, by the rule of textbooks."""


@dataclass(frozen=True)
class _OfSample(Law):
    mu: float | None = parameter("μ", "the mean of the population", ANY)
    sigma: float | None = parameter("σ", "the standard deviation of the population", above_zero())
    n: int | None = parameter("n", "the size of the sample", whole(1, 1e12))

    def _known(self) -> tuple[float, float, int]:
        assert self.mu is not None
        assert self.sigma is not None
        assert self.n is not None
        return float(self.mu), float(self.sigma), self.n

    def assumptions(self) -> tuple[Assumption, ...]:
        n = self.n or 0
        enough = (
            Assumption("holds", f"n = {exact(n)} is at least {ENOUGH}, so the shape of the population hardly matters")
            if n >= ENOUGH
            else asked("shape", f"the population is nearly normal, since n = {exact(n)} is below {ENOUGH}")
        )
        return (asked("random", "the values are drawn at random, independently of each other"), enough)

    def _said(self) -> tuple[str, str, str]:
        return exact(self.mu or 0.0), exact(self.sigma or 0.0), exact(self.n or 0)


@dataclass(frozen=True)
class MeanOfSample(_OfSample):
    kind: ClassVar[str] = "mean of n"
    label: ClassVar[str] = "the mean of a sample"
    help: ClassVar[str] = "The mean of n values from a population with mean μ and SD σ."
    order: ClassVar[int] = 40
    law: ClassVar[str] = "z = (x̄ − μ) / (σ / √n)"

    def made(self) -> Normal:
        mu, sigma, n = self._known()
        return Normal(mu, sigma / math.sqrt(n))

    @property
    def mean_formula(self) -> str:
        return f"μ_{{x̄}} = μ = {self._said()[0]}"

    @property
    def sd_formula(self) -> str:
        _, sigma, n = self._said()
        return f"σ_{{x̄}} = σ / √n = ({sigma}) / √{n}"


@dataclass(frozen=True)
class TotalOfSample(_OfSample):
    kind: ClassVar[str] = "total of n"
    label: ClassVar[str] = "the total of a sample"
    help: ClassVar[str] = "The sum of n values from a population with mean μ and SD σ."
    order: ClassVar[int] = 41
    law: ClassVar[str] = "z = (x − n μ) / (σ √n)"

    def made(self) -> Normal:
        mu, sigma, n = self._known()
        return Normal(n * mu, sigma * math.sqrt(n))

    @property
    def mean_formula(self) -> str:
        mu, _, n = self._said()
        return f"μ_{{total}} = n μ = {n} × {bracketed(mu)}"

    @property
    def sd_formula(self) -> str:
        _, sigma, n = self._said()
        return f"σ_{{total}} = √n × σ = √{n} × {sigma}"


@dataclass(frozen=True)
class ProportionOfSample(Law):
    kind: ClassVar[str] = "proportion of n"
    label: ClassVar[str] = "the proportion of a sample"
    help: ClassVar[str] = "The share of successes among n, where the population has the share p."
    order: ClassVar[int] = 42
    n: int | None = parameter("n", "the size of the sample", whole(1, 1e12))
    p: float | None = parameter("p", "the share in the population", CHANCE)
    law: ClassVar[str] = "z = (p̂ − p) / √((p (1 − p)) / n)"

    def clash(self) -> tuple[str, str] | None:
        if self.p in (0, 1):
            return "p", "With p = 0 or p = 1 every sample has that proportion. Type a p between 0 and 1."
        return None

    def made(self) -> Normal:
        assert self.n is not None
        assert self.p is not None
        p = float(self.p)
        return Normal(p, math.sqrt(p * (1 - p) / self.n))

    def assumptions(self) -> tuple[Assumption, ...]:
        n, p = self.n or 0, float(self.p or 0.0)
        least = min(n * p, n * (1 - p))
        said = exact(round(least, 4))
        return (
            asked("random", "the cases are drawn at random, independently of each other"),
            Assumption("holds" if least >= 10 else "fails", f"np and n(1 − p) are at least 10: the smaller is {said}"),
        )

    @property
    def mean_formula(self) -> str:
        return f"μ_{{p̂}} = p = {exact(self.p or 0.0)}"

    @property
    def sd_formula(self) -> str:
        n, p = exact(self.n or 0), exact(self.p or 0.0)
        return f"σ_{{p̂}} = √((p (1 − p)) / n) = √(({p} × (1 − {p})) / {n})"


@dataclass(frozen=True)
class DifferenceOfMeans(Law):
    kind: ClassVar[str] = "difference of means"
    label: ClassVar[str] = "the difference of two means"
    help: ClassVar[str] = "The first sample mean minus the second, from stated populations."
    order: ClassVar[int] = 43
    mu1: float | None = parameter("μ₁", "the mean of population 1", ANY)
    sigma1: float | None = parameter("σ₁", "the standard deviation of population 1", above_zero())
    n1: int | None = parameter("n₁", "the size of sample 1", whole(1, 1e12))
    mu2: float | None = parameter("μ₂", "the mean of population 2", ANY)
    sigma2: float | None = parameter("σ₂", "the standard deviation of population 2", above_zero())
    n2: int | None = parameter("n₂", "the size of sample 2", whole(1, 1e12))

    def made(self) -> Normal:
        assert self.mu1 is not None
        assert self.mu2 is not None
        assert self.sigma1 is not None
        assert self.sigma2 is not None
        assert self.n1 is not None
        assert self.n2 is not None
        spread = math.hypot(self.sigma1 / math.sqrt(self.n1), self.sigma2 / math.sqrt(self.n2))
        return Normal(float(self.mu1) - float(self.mu2), spread)

    def assumptions(self) -> tuple[Assumption, ...]:
        least = min(self.n1 or 0, self.n2 or 0)
        enough = Assumption("holds", f"both samples have at least {ENOUGH} values")
        if least < ENOUGH:
            enough = asked(
                "shape", f"both populations are nearly normal, since a sample has fewer than {ENOUGH} values"
            )
        return (asked("separate", "the two samples are drawn at random and separately"), enough)

    @property
    def mean_formula(self) -> str:
        one, two = exact(self.mu1 or 0.0), bracketed(exact(self.mu2 or 0.0))
        return f"μ = μ_{{1}} − μ_{{2}} = {one} − {two}"

    @property
    def sd_formula(self) -> str:
        a, b = exact(self.sigma1 or 0.0), exact(self.sigma2 or 0.0)
        n, m = exact(self.n1 or 0), exact(self.n2 or 0)
        return f"σ = √(σ_{{1}}^{{2}}/n_{{1}} + σ_{{2}}^{{2}}/n_{{2}}) = √(({a})^{{2}}/({n}) + ({b})^{{2}}/({m}))"


@dataclass(frozen=True)
class DifferenceOfProportions(Law):
    kind: ClassVar[str] = "difference of proportions"
    label: ClassVar[str] = "the difference of two proportions"
    help: ClassVar[str] = "The first sample share minus the second, from stated populations."
    order: ClassVar[int] = 44
    n1: int | None = parameter("n₁", "the size of sample 1", whole(1, 1e12))
    p1: float | None = parameter("p₁", "the share in population 1", CHANCE)
    n2: int | None = parameter("n₂", "the size of sample 2", whole(1, 1e12))
    p2: float | None = parameter("p₂", "the share in population 2", CHANCE)

    def clash(self) -> tuple[str, str] | None:
        if self.p1 in (0, 1) and self.p2 in (0, 1):
            return "p2", "One of the two shares must lie between 0 and 1 for samples to differ."
        return None

    def made(self) -> Normal:
        assert self.n1 is not None
        assert self.n2 is not None
        p, q = float(self.p1 or 0.0), float(self.p2 or 0.0)
        return Normal(p - q, math.sqrt(p * (1 - p) / self.n1 + q * (1 - q) / self.n2))

    def assumptions(self) -> tuple[Assumption, ...]:
        least = min(
            (n or 0) * share
            for n, p in ((self.n1, self.p1), (self.n2, self.p2))
            for share in (float(p or 0.0), 1 - float(p or 0.0))
        )
        return (
            asked("separate", "the two samples are drawn at random and separately"),
            Assumption(
                "holds" if least >= 10 else "fails",
                f"np and n(1 − p) of both are at least 10: the smallest is {exact(round(least, 4))}",
            ),
        )

    @property
    def mean_formula(self) -> str:
        return f"μ = p_{{1}} − p_{{2}} = {exact(self.p1 or 0.0)} − {exact(self.p2 or 0.0)}"

    @property
    def sd_formula(self) -> str:
        p, q = exact(self.p1 or 0.0), exact(self.p2 or 0.0)
        n, m = exact(self.n1 or 0), exact(self.n2 or 0)
        return (
            "σ = √((p_{1} (1 − p_{1}))/n_{1} + (p_{2} (1 − p_{2}))/n_{2}) = "
            f"√(({p} × (1 − {p}))/({n}) + ({q} × (1 − {q}))/({m}))"
        )


LAWS = (MeanOfSample, TotalOfSample, ProportionOfSample, DifferenceOfMeans, DifferenceOfProportions)
