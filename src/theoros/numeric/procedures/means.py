"""t procedures for two means, separate or matched."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Alternative, Floats
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.summaries import mean_and_sd

ROUNDING = 4e-16
"""A standard error so small beside the values is what rounding leaves of equal ones."""


class TooFewValues(ValueError):
    """A procedure was given fewer values than it is defined for."""


class NoSpread(ValueError):
    """All values are equal, so that a standard error of zero would be divided by."""


@dataclass(frozen=True, slots=True)
class TTest:
    """A t statistic with what it was made of; differences are in data units."""

    t: float
    """(difference - null value) / standard error."""
    df: float
    difference: float
    """Mean of the first minus mean of the second, or mean difference; the null value not taken
    off."""
    standard_error: float
    pooled_sd: float | None = None

    def p(self, alternative: Alternative) -> float:
        """The p-value: the chance of a t as far out, the way claimed."""
        return StudentT(self.df).tail(alternative, self.t)

    def interval(self, confidence: float) -> tuple[float, float]:
        """difference ± t* × standard error, with P(|t| <= t*) = confidence (between 0 and 1)."""
        reach = StudentT(self.df).critical(1 - confidence, "different") * self.standard_error
        return self.difference - reach, self.difference + reach


@dataclass(frozen=True, slots=True)
class Moments:
    """What a t procedure needs of a sample: its size, mean and standard deviation."""

    n: int
    mean: float
    sd: float
    """Divisor n - 1; in the unit of the mean."""


Sampled = Floats | Moments
"""A sample as its finite values, or as its summary figures."""


def welch_t(x: Sampled, y: Sampled, null: float = 0.0) -> TTest:
    """Two-sample t without equal spreads.

    t = (x̄ - ȳ - null) / √(a + b) with a = s²/n of the first and b of the second sample;
    df = (a + b)² / (a²/(n₁ - 1) + b²/(n₂ - 1)), after Welch (1947) and Satterthwaite (1946).
    Raises TooFewValues below two values in a sample, NoSpread where neither sample has any.
    """
    one, two, scale, size = _two(x, y)
    a, b = one.sd**2 / one.n, two.sd**2 / two.n
    error = math.sqrt(a + b)
    if error <= ROUNDING * size:
        raise NoSpread
    df = (a + b) ** 2 / (a**2 / (one.n - 1) + b**2 / (two.n - 1))
    return _result(one.mean - two.mean, null, error, df, scale)


def pooled_t(x: Sampled, y: Sampled, null: float = 0.0) -> TTest:
    """Student's two-sample t (1908), which takes the two population spreads as equal.

    s_p² = ((n₁ - 1) s₁² + (n₂ - 1) s₂²) / (n₁ + n₂ - 2), t = (x̄ - ȳ - null) / (s_p √(1/n₁ + 1/n₂)),
    df = n₁ + n₂ - 2. Raises TooFewValues below two values in a sample, NoSpread where neither
    has any.
    """
    one, two, scale, size = _two(x, y)
    df = one.n + two.n - 2
    pooled = math.sqrt(((one.n - 1) * one.sd**2 + (two.n - 1) * two.sd**2) / df)
    error = pooled * math.sqrt(1 / one.n + 1 / two.n)
    if error <= ROUNDING * size:
        raise NoSpread
    return _result(one.mean - two.mean, null, error, df, scale, pooled)


def one_t(sample: Sampled, null: float = 0.0) -> TTest:
    """One-sample t, as on the differences of matched pairs.

    t = (x̄ - null) / (s / √n), df = n - 1 (Student 1908). Raises TooFewValues for n < 2, NoSpread
    where all values are equal.
    """
    if sample_size(sample) < 2:
        raise TooFewValues
    scale = _scale(_largest(sample))
    own = _moments(sample, scale)
    error = own.sd / math.sqrt(own.n)
    if error <= ROUNDING * max(abs(own.mean), abs(null / scale)):
        raise NoSpread
    return _result(own.mean, null, error, own.n - 1, scale)


def mean_interval(values: Floats, confidence: float) -> tuple[float, float, float]:
    """The mean with its interval, mean ± t × s / √n, as (low, mean, high).

    Below two values there is only the mean.
    """
    mean, sd = mean_and_sd(values)
    if values.size < 2:
        return mean, mean, mean
    t = StudentT(values.size - 1).critical(1 - confidence, "different")
    reach = t * sd / math.sqrt(values.size)
    return mean - reach, mean, mean + reach


def _two(x: Sampled, y: Sampled) -> tuple[Moments, Moments, float, float]:
    """The moments of both samples in units of the scale, the scale, and how large values are in it.

    Values are moved by one of them first, so that their means can be subtracted without losing
    the digits that an offset takes.
    """
    if min(sample_size(x), sample_size(y)) < 2:
        raise TooFewValues
    largest = max(_largest(x), _largest(y))
    scale = _scale(largest)
    if isinstance(x, Moments) or isinstance(y, Moments):
        return _moments(x, scale), _moments(y, scale), scale, largest / scale
    shift = float(x[0])
    with np.errstate(over="ignore"):
        moved = x - shift, y - shift
    reach = max(_largest(one) for one in moved)
    if not math.isfinite(reach):  # values of both signs near the largest float
        moved, reach = (x, y), largest
    scale = _scale(reach)
    return _moments(moved[0], scale), _moments(moved[1], scale), scale, largest / scale


def sample_size(x: Sampled) -> int:
    """How many values there are."""
    return x.n if isinstance(x, Moments) else int(x.size)


def _largest(x: Sampled) -> float:
    if isinstance(x, Moments):
        return max(abs(x.mean), x.sd)
    return float(np.abs(x).max())


def _moments(x: Sampled, scale: float) -> Moments:
    if isinstance(x, Moments):
        return Moments(x.n, x.mean / scale, x.sd / scale)
    return Moments(int(x.size), *mean_and_sd(x / scale))


def _scale(largest: float) -> float:
    """What the values are divided by, so that no square over- or underflows; a power of two."""
    return 2.0 ** math.frexp(largest)[1] if 1e-300 < largest < 1e300 else largest or 1.0


def _result(
    difference: float, null: float, error: float, df: float, scale: float, pooled: float | None = None
) -> TTest:
    t = (difference - null / scale) / error
    sd = None if pooled is None else pooled * scale
    return TTest(t, df, difference * scale, error * scale, sd)
