"""What describes a set of numbers: centre, spread, quartiles, fences."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.quartiles import quartiles

FENCE_FACTOR = 1.5


@dataclass(frozen=True, slots=True)
class Summary:
    """Summary figures of n finite values; those that n is too small for are NaN."""

    n: int
    mean: float
    sd: float
    """Sample standard deviation, divisor n - 1; NaN below two values."""
    minimum: float
    q1: float
    median: float
    q3: float
    maximum: float

    @property
    def iqr(self) -> float:
        """Interquartile range, Q3 − Q1, by the rule of the quartiles."""
        return self.q3 - self.q1

    @property
    def lower_fence(self) -> float:
        """Q1 - 1.5 IQR: values below it are possible outliers."""
        return self.q1 - FENCE_FACTOR * self.iqr

    @property
    def upper_fence(self) -> float:
        """Q3 + 1.5 IQR: values above it are possible outliers."""
        return self.q3 + FENCE_FACTOR * self.iqr

    def outside(self, values: Floats) -> Bools:
        """Which of `values` lie beyond a fence; NaN never does.

        A value that decimals put on a fence is not beyond it, wherever binary rounding puts it.
        """
        slack = 1e-12 * max(abs(self.minimum), abs(self.maximum))
        low, high = self.lower_fence - slack, self.upper_fence + slack
        with np.errstate(invalid="ignore"):
            return np.asarray((values < low) | (values > high))

    def whiskers(self, values: Floats) -> tuple[float, float]:
        """The least and the greatest of `values` that lie within the fences."""
        inside = values[np.isfinite(values) & ~self.outside(values)]
        if inside.size == 0:
            return self.q1, self.q3
        return float(inside.min()), float(inside.max())


def summarize(values: Floats, rule: str = "halves") -> Summary:
    """Summary of the finite values, quartiles by the named rule (one of `quartiles.RULES`).

    None of them gives n = 0 and NaN for the rest; below two values the sd is NaN. Raises KeyError
    for a rule that there is none of. The mean and standard deviation are
    worked out in two passes with shifted data, which keeps the certified digits of NIST's
    NumAcc sets.
    """
    values = values[np.isfinite(values)]
    n = int(values.size)
    if n == 0:
        return Summary(0, *([math.nan] * 7))
    centre, spread = mean_and_sd(values)
    q1, median, q3 = quartiles(values, rule)
    return Summary(n, centre, spread, float(values.min()), q1, median, q3, float(values.max()))


def mean_and_sd(values: Floats) -> tuple[float, float]:
    """Mean and sample standard deviation (divisor n - 1) of n >= 1 finite values.

    Two passes over values shifted by the first and scaled by the largest shift, so that
    neither a large offset nor a large exponent costs digits.
    """
    shift = float(values[0])
    with np.errstate(over="ignore"):
        moved = values - shift
    scale = float(np.abs(moved).max())
    if not math.isfinite(scale):  # values of both signs near the largest float
        mean, sd = mean_and_sd(values / 4)
        return mean * 4, sd * 4
    if scale == 0:
        return shift, (0.0 if values.size > 1 else math.nan)
    moved = moved / scale
    offset = float(moved.mean())
    residual = moved - offset
    # the second term takes back what rounding of the mean left over (Chan, Golub, LeVeque 1983)
    square = float(np.dot(residual, residual)) - float(residual.sum()) ** 2 / values.size
    sd = math.sqrt(max(square, 0.0) / (values.size - 1)) * scale if values.size > 1 else math.nan
    return shift + offset * scale, sd
