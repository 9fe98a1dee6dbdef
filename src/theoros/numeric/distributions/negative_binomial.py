"""The negative binomial distribution, counting trials or failures."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.counting import Counting, whole_in
from theoros.numeric.distributions.saddlepoint import deviance, stirling_error


@dataclass(frozen=True)
class NegativeBinomial(Counting):
    """Trials of chance p (0 < p <= 1) up to success number r (1 or more); with `failures`, the
    failures before it.

    P(X = k) = C(k - 1, r - 1) p^r (1 - p)^(k - r) for k = r, r + 1, … trials.
    """

    r: int
    p: float
    failures: bool = False

    def __post_init__(self) -> None:
        if self.r < 1 or self.r != int(self.r):
            raise ValueError("the number of successes must be whole, 1 or more")
        if not 0 < self.p <= 1:
            raise ValueError("p must lie above 0 and be at most 1")

    @property
    def _first(self) -> float:
        return 0.0 if self.failures else float(self.r)

    @property
    def support(self) -> tuple[float, float]:
        return self._first, math.inf if self.p < 1 else self._first

    @property
    def mean(self) -> float:
        return self.r * (1 - self.p) / self.p + self._first

    @property
    def sd(self) -> float:
        return math.sqrt(self.r * (1 - self.p)) / self.p

    @property
    def mode(self) -> float:
        """The likeliest value: ⌊(r − 1)(1 − p) / p⌋ failures, from the first value on."""
        return math.floor(max(0.0, (self.r - 1) * (1 - self.p) / self.p)) + self._first

    def height(self, at: Floats | float) -> Floats:
        """r / (r + failures) of the binomial mass of r in r + failures trials."""
        k = np.asarray(at, dtype=np.float64)
        failures = k - self._first
        inside = (failures >= 0) & (failures == np.floor(failures)) & np.isfinite(failures)
        safe = np.where(inside, failures, 0.0).ravel()
        r = float(self.r)
        made = np.where(safe == 0, 1.0, 0.0) if self.p == 1 else r / (r + safe) * _mass_of_each(r, r + safe, self.p)
        return np.where(inside, made.reshape(k.shape), 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        """The regularized incomplete beta function I_p(r, failures + 1)."""
        from scipy.special import betainc

        k, inside, safe = whole_in(np.asarray(at) - self._first, 0, math.inf)
        return np.where(inside, betainc(self.r, safe + 1, self.p), np.where(k < 0, 0.0, 1.0))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import betaincc

        k, inside, safe = whole_in(np.asarray(at) - self._first, 0, math.inf)
        return np.where(inside, betaincc(self.r, safe + 1, self.p), np.where(k < 0, 1.0, 0.0))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return np.asarray(rng.negative_binomial(self.r, self.p, size) + self._first, dtype=float)


def _mass_of_each(r: float, n: Floats, p: float) -> Floats:
    """The binomial mass of r for each of several n (r <= n)."""
    y = n - r
    some = y > 0
    m, rest = np.where(some, n, r + 1), np.where(some, y, 1.0)
    log = (
        stirling_error(m) - stirling_error(r) - stirling_error(rest) - deviance(r, m * p) - deviance(rest, m * (1 - p))
    )
    made = np.exp(log) * np.sqrt(m / (2 * math.pi * r * rest))
    return np.where(some, made, math.exp(r * math.log(p)))
