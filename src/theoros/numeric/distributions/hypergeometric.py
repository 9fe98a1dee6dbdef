"""The hypergeometric distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import ClassVar

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.counting import Counting
from theoros.numeric.distributions.saddlepoint import binomial_mass


@dataclass(frozen=True)
class Hypergeometric(Counting):
    """Successes among `drawn` without replacement from `population` with `successes` in it.

    P(X = k) = C(K, k) C(N - K, n - k) / C(N, n)
    """

    population: int
    successes: int
    drawn: int
    summed: ClassVar[bool] = True

    def __post_init__(self) -> None:
        if self.population < 0 or not 0 <= self.successes <= self.population:
            raise ValueError("there cannot be more successes than the population has")
        if not 0 <= self.drawn <= self.population:
            raise ValueError("no more can be drawn than the population has")

    @property
    def support(self) -> tuple[float, float]:
        low = max(0, self.drawn - (self.population - self.successes))
        return float(low), float(min(self.drawn, self.successes))

    @property
    def mean(self) -> float:
        return self.drawn * self.successes / self.population if self.population else 0.0

    @property
    def sd(self) -> float:
        size = self.population
        if size <= 1:
            return 0.0
        share = self.successes / size
        return math.sqrt(self.drawn * share * (1 - share) * (size - self.drawn) / (size - 1))

    @property
    def mode(self) -> float:
        """The likeliest value, ⌊(n + 1)(K + 1) / (N + 2)⌋ within the support."""
        top = (self.drawn + 1) * (self.successes + 1) // (self.population + 2)
        low, high = self.support
        return float(min(max(top, low), high))

    def height(self, at: Floats | float) -> Floats:
        """From three binomial masses of the same chance n / N (as Loader 2000 suggests)."""
        k = np.asarray(at, dtype=np.float64)
        low, high = self.support
        inside = (k >= low) & (k <= high) & (k == np.floor(k))
        if low == high:
            return np.where(inside, 1.0, 0.0)
        safe = np.where(inside, k, low)
        p = self.drawn / self.population
        others = self.population - self.successes
        below = float(binomial_mass(float(self.drawn), float(self.population), p))
        made = binomial_mass(safe, float(self.successes), p) * (
            binomial_mass(self.drawn - safe, float(others), p) / below
        )
        return np.where(inside, made, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        first = self.support[0]
        return self._each(at, lambda k: self.between(first, k))

    def sf(self, at: Floats | float) -> Floats:
        last = self.support[1]
        return self._each(at, lambda k: self.between(math.floor(k) + 1, last))

    @staticmethod
    def _each(at: Floats | float, work) -> Floats:  # type: ignore[no-untyped-def]
        values = np.asarray(at, dtype=np.float64)
        return np.array([work(float(k)) for k in values.ravel()]).reshape(values.shape)

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        good, bad = self.successes, self.population - self.successes
        return rng.hypergeometric(good, bad, self.drawn, size).astype(np.float64)
