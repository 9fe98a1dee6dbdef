"""Whether values are normal, and whether they come in random order."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.procedures.means import NoSpread, TooFewValues

FARTHEST = 13.0
"""The largest A* of the published formula: its parabola turns back beyond."""


@dataclass(frozen=True, slots=True)
class AndersonDarling:
    """A², with its correction for n, and the p-value for a normal shape."""

    a_squared: float
    adjusted: float
    p: float


def anderson_darling(values: Floats) -> AndersonDarling:
    """Anderson and Darling's test (1954) of a normal shape with mean and spread estimated.

    A² = −n − Σ (2i − 1)/n (ln Φ(z_i) + ln(1 − Φ(z_{n+1−i}))); A* = A² (1 + 0.75/n + 2.25/n²), and
    p from A* by D'Agostino and Stephens (1986), table 4.9, which ends at A* = 13: beyond it p, below
    1e-30, is told as 0. Raises TooFewValues below 8 values, NoSpread where all are equal.
    """
    from scipy.special import log_ndtr

    n = int(values.size)
    if n < 8:
        raise TooFewValues
    sd = float(values.std(ddof=1))
    if sd == 0:
        raise NoSpread
    z = np.sort((values - values.mean()) / sd)
    places = 2 * np.arange(1, n + 1) - 1
    a = -n - float((places * (log_ndtr(z) + log_ndtr(-z[::-1]))).sum()) / n
    star = a * (1 + 0.75 / n + 2.25 / n**2)
    if star > FARTHEST:
        p = 0.0
    elif star >= 0.6:
        p = math.exp(1.2937 - 5.709 * star + 0.0186 * star**2)
    elif star >= 0.34:
        p = math.exp(0.9177 - 4.279 * star - 1.38 * star**2)
    elif star >= 0.2:
        p = 1 - math.exp(-8.318 + 42.796 * star - 59.938 * star**2)
    else:
        p = 1 - math.exp(-13.436 + 101.14 * star - 223.73 * star**2)
    return AndersonDarling(a, star, min(1.0, max(0.0, p)))


@dataclass(frozen=True, slots=True)
class Runs:
    """How many runs above and below the median there are, and what chance expects."""

    runs: int
    above: int
    below: int
    mean: float
    sd: float
    median: float

    @property
    def z(self) -> float:
        """The runs less their mean, over their standard deviation, by chance."""
        return (self.runs - self.mean) / self.sd


def runs_test(values: Floats) -> Runs:
    """The runs test (Wald and Wolfowitz 1940) of values in the order in which they came.

    Values equal to the median are left out. With a above and b below, the number of runs has the
    mean 1 + 2ab/(a + b) and the variance 2ab(2ab − a − b)/((a + b)²(a + b − 1)). Raises NoSpread
    where all lie on one side, TooFewValues below two on either.
    """
    middle = float(np.median(values))
    signs = np.sign(values - middle)
    signs = signs[signs != 0]
    a, b = int((signs > 0).sum()), int((signs < 0).sum())
    if a == 0 or b == 0:
        raise NoSpread
    n = a + b
    if n < 4:
        raise TooFewValues
    runs = 1 + int((signs[1:] != signs[:-1]).sum())
    mean = 1 + 2 * a * b / n
    variance = 2 * a * b * (2 * a * b - n) / (n**2 * (n - 1))
    return Runs(runs, a, b, mean, math.sqrt(variance), middle)
