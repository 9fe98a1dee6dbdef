"""The binomial distribution."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.distribution import EVERYTHING, Discrete, Region

SAME_MASS = 1e-7
"""Masses closer than this share count as equal, as in exact tests elsewhere."""


@dataclass(frozen=True)
class Binomial(Discrete):
    """Successes in n independent trials (whole, 0 or more) of chance p each (0 to 1)."""

    n: int
    p: float

    def __post_init__(self) -> None:
        if self.n < 0 or self.n != int(self.n):
            raise ValueError("n must be a whole number, 0 or more")
        if not 0 <= self.p <= 1:
            raise ValueError("p must lie between 0 and 1")

    @property
    def support(self) -> tuple[float, float]:
        return (0.0 if self.p < 1 else float(self.n)), (float(self.n) if self.p > 0 else 0.0)

    @property
    def mean(self) -> float:
        return self.n * self.p

    @property
    def sd(self) -> float:
        return math.sqrt(self.n * self.p * (1 - self.p))

    def height(self, at: Floats | float) -> Floats:
        """The mass, by Loader's saddle-point form ("Fast and accurate computation of binomial
        probabilities", 2000), which keeps its digits for any n."""
        k = np.asarray(at, dtype=np.float64)
        n, p = float(self.n), self.p
        inside = (k >= 0) & (k <= n) & (k == np.floor(k))
        if p in (0.0, 1.0) or n == 0:
            return np.where(inside & (k == (n if p == 1 else 0.0)), 1.0, 0.0)
        x = np.where(inside & (k > 0) & (k < n), k, 0.5)
        y = np.where(inside & (k > 0) & (k < n), n - k, n - 0.5)
        with np.errstate(divide="ignore", invalid="ignore"):
            log = (
                _stirling_error(n) - _stirling_error(x) - _stirling_error(y)
                - _deviance(x, n * p) - _deviance(y, n * (1 - p))
            )  # fmt: skip
            middle = np.exp(log) * np.sqrt(n / (2 * math.pi * x * y))
        made = np.where(k == 0, math.exp(n * math.log1p(-p)), middle)
        made = np.where(k == n, math.exp(n * math.log(p)), made)
        return np.where(inside, made, 0.0)

    def cdf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc

        k = np.floor(np.asarray(at, dtype=np.float64))
        inside = (k >= 0) & (k < self.n)
        safe = np.where(inside, k, 0.0)
        found = betainc(np.maximum(self.n - safe, 0.5), safe + 1, 1 - self.p)
        return np.where(inside, found, np.where(k < 0, 0.0, 1.0))

    def sf(self, at: Floats | float) -> Floats:
        from scipy.special import betainc

        k = np.floor(np.asarray(at, dtype=np.float64))
        inside = (k >= 0) & (k < self.n)
        safe = np.where(inside, k, 0.0)
        found = betainc(safe + 1, np.maximum(self.n - safe, 0.5), self.p)
        return np.where(inside, found, np.where(k < 0, 1.0, 0.0))

    def quantile(self, p: Floats | float) -> Floats:
        wanted = np.atleast_1d(np.asarray(p, dtype=np.float64))
        low, high = np.zeros(wanted.shape), np.full(wanted.shape, float(self.n))
        while np.any(low < high):  # bisection over whole numbers
            middle = np.floor((low + high) / 2)
            enough = self.cdf(middle) >= wanted * (1 - 1e-14)
            low, high = np.where(enough, low, middle + 1), np.where(enough, middle, high)
        return low.reshape(np.shape(p))

    def draws(self, rng: np.random.Generator, size: int) -> Floats:
        return rng.binomial(self.n, self.p, size).astype(np.float64)

    def masses(self, low: float, high: float) -> tuple[Floats, Floats]:
        first = max(0.0, math.ceil(max(low, 0.0)))
        last = min(float(self.n), math.floor(min(high, float(self.n))))
        k = np.arange(first, last + 1) if last >= first else np.zeros(0)
        return k, self.height(k)

    def probability(self, region: Region) -> float:
        total = 0.0
        for low, high in region.parts:
            if low == -math.inf:
                total += 1.0 if high == math.inf else float(self.cdf(high))
            elif high == math.inf:
                total += float(self.sf(math.ceil(low) - 1))
            else:
                total += float(self.cdf(high) - self.cdf(math.ceil(low) - 1))
        return min(1.0, max(0.0, total))

    def region(self, alternative: Alternative, seen: float) -> Region:
        """As for every distribution; two-sided, all values that are at most as likely.

        That is the rule of the exact binomial test (Hollander, Wolfe and Chicken, section 2.1).
        """
        if alternative != "different":
            return super().region(alternative, seen)
        mode = math.floor((self.n + 1) * self.p)
        limit = float(self.height(seen)) * (1 + SAME_MASS)
        if limit >= float(self.height(mode)):
            return Region((EVERYTHING,))
        below = self._last(0, mode, limit) if seen > mode else seen
        above = self._first(mode, self.n, limit) if seen < mode else seen
        parts = []
        if below >= 0:
            parts.append((-math.inf, float(below)))
        if above <= self.n:
            parts.append((float(above), math.inf))
        return Region(tuple(parts))

    def _last(self, low: int, high: int, limit: float) -> int:
        """The greatest k below the mode with a mass up to the limit; -1 for none."""
        if float(self.height(low)) > limit:
            return -1
        while low < high - 1:  # masses rise up to the mode
            middle = (low + high) // 2
            low, high = (middle, high) if self._is_up_to(middle, limit) else (low, middle)
        return low

    def _first(self, low: int, high: int, limit: float) -> int:
        """The least k above the mode with a mass up to the limit; n + 1 for none."""
        if float(self.height(high)) > limit:
            return self.n + 1
        while low < high - 1:  # and fall from there
            middle = (low + high) // 2
            low, high = (low, middle) if self._is_up_to(middle, limit) else (middle, high)
        return high

    def _is_up_to(self, k: int, limit: float) -> bool:
        return float(self.height(k)) <= limit


def _stirling_error(n: Floats | float) -> Floats:
    """log n! - log of Stirling's approximation to it, for n > 0 (Loader 2000, eq. 5)."""
    from scipy.special import gammaln

    n = np.asarray(n, dtype=np.float64)
    large = np.maximum(n, 16.0)
    square = large * large
    series = 1 / 1680 - 1 / (1188 * square)
    for term in (1 / 1260, 1 / 360, 1 / 12):
        series = term - series / square
    series = series / large
    small = np.minimum(n, 16.0)
    direct = (
        gammaln(small + 1) - (small + 0.5) * np.log(small) + small - 0.5 * math.log(2 * math.pi)
    )
    return np.where(n >= 16, series, direct)


def _deviance(x: Floats, np_: float) -> Floats:
    """x log(x / np) + np - x without the loss of digits where x is close to np (Loader 2000)."""
    x = np.asarray(x, dtype=np.float64)
    v = (x - np_) / (x + np_)
    near = np.abs(v) < 0.1
    safe = np.where(near, v, 0.0)
    total, term, square = (x - np_) * safe, 2 * x * safe, safe * safe
    for at in range(1, 20):
        term = term * square
        total = total + term / (2 * at + 1)
    far = np.where(near, 1.0, x)
    return np.asarray(np.where(near, total, far * np.log(np.where(near, 1.0, x / np_)) + np_ - far))
