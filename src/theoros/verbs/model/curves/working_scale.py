"""x on the scale that a curve is fitted on, so that neither years nor millions make it lose digits."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True)
class WorkingScale:
    """x on the scale that a curve is fitted on: u = (x − middle) / unit, so that nothing overflows."""

    middle: float
    unit: float

    def of(self, x: Floats) -> Floats:
        return (x - self.middle) / self.unit

    @property
    def centred(self) -> WorkingScale:
        """The same with x in its own unit."""
        return WorkingScale(self.middle, 1.0)


def shifted_scale(x: Floats) -> WorkingScale:
    """About a round value near the middle of x, in half its range."""
    reach = float(np.ptp(x)) / 2
    step = 10.0 ** math.floor(math.log10(reach))
    return WorkingScale(float(f"{round(float(x.min() + reach) / step) * step:.12g}"), reach)


def ratio_scale(x: Floats) -> WorkingScale:
    """In units of a round value near the geometric middle of x, all above 0."""
    low, high = float(x.min()), float(x.max())
    middle = math.exp((math.log(low) + math.log(high)) / 2)
    rounded = (float(f"{middle:.{digits}g}") for digits in range(2, 12))
    return WorkingScale(0.0, next((one for one in rounded if low <= one <= high), middle))


def expanded(degree: int, scale: WorkingScale) -> Floats:
    """From the coefficients of ((x − m) / s)^k to those of x^j, by the binomial theorem."""
    made = np.zeros((degree + 1, degree + 1))
    for k in range(degree + 1):
        for j in range(k + 1):
            made[j, k] = math.comb(k, j) * (-scale.middle) ** (k - j) / scale.unit**k
    return made
