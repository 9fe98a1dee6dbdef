"""t procedures for two means, separate or matched."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.heavy import np
from theoros.numeric.arrays import Claim, Floats
from theoros.numeric.summaries import mean_and_sd
from theoros.numeric.tails import student_t


class TooFewValues(ValueError):
    """A procedure was given fewer values than it is defined for."""


class NoSpread(ValueError):
    """All values are equal, so that a standard error of zero would be divided by."""


@dataclass(frozen=True, slots=True)
class TTest:
    """A t statistic with what it was made of."""

    t: float
    df: float
    p: float
    difference: float
    """Mean of the first minus mean of the second, in data units; the null value not taken off."""
    standard_error: float
    pooled_sd: float | None = None


def welch_t(x: Floats, y: Floats, null: float, claim: Claim) -> TTest:
    """Two-sample t without equal spreads; df by Welch (1947) and Satterthwaite (1946).

    `x` and `y` are finite values, at least two each. Raises TooFewValues and NoSpread.
    """
    scale = _scale(x, y)
    (mx, sx), (my, sy) = _two(x / scale, y / scale)
    a, b = sx**2 / x.size, sy**2 / y.size
    error = math.sqrt(a + b)
    if error <= _rounding(mx, my):
        raise NoSpread
    df = (a + b) ** 2 / (a**2 / (x.size - 1) + b**2 / (y.size - 1))
    return _result(mx - my, null, error, df, claim, scale)


def pooled_t(x: Floats, y: Floats, null: float, claim: Claim) -> TTest:
    """Student's two-sample t, which takes the two population spreads as equal.

    `x` and `y` are finite values, at least two each. Raises TooFewValues and NoSpread.
    """
    scale = _scale(x, y)
    (mx, sx), (my, sy) = _two(x / scale, y / scale)
    df = x.size + y.size - 2
    pooled = math.sqrt(((x.size - 1) * sx**2 + (y.size - 1) * sy**2) / df)
    error = pooled * math.sqrt(1 / x.size + 1 / y.size)
    if error <= _rounding(mx, my):
        raise NoSpread
    return _result(mx - my, null, error, df, claim, scale, pooled)


def paired_t(differences: Floats, null: float, claim: Claim) -> TTest:
    """One-sample t on the differences of matched pairs (finite, at least two).

    Raises TooFewValues and NoSpread.
    """
    if differences.size < 2:
        raise TooFewValues
    scale = _scale(differences, differences)
    mean, sd = mean_and_sd(differences / scale)
    error = sd / math.sqrt(differences.size)
    if error <= _rounding(mean, null / scale):
        raise NoSpread
    return _result(mean, null, error, differences.size - 1, claim, scale)


def _two(x: Floats, y: Floats) -> tuple[tuple[float, float], tuple[float, float]]:
    if min(x.size, y.size) < 2:
        raise TooFewValues
    return mean_and_sd(x), mean_and_sd(y)


def _scale(x: Floats, y: Floats) -> float:
    """What the values are divided by, so that no square over- or underflows; a power of two."""
    largest = max(float(np.abs(x).max(initial=0.0)), float(np.abs(y).max(initial=0.0)))
    return 2.0 ** math.frexp(largest)[1] if 1e-300 < largest < 1e300 else largest or 1.0


def _rounding(a: float, b: float) -> float:
    """A standard error this small is what rounding leaves of equal values."""
    return 4e-16 * max(abs(a), abs(b))


def _result(
    difference: float,
    null: float,
    error: float,
    df: float,
    claim: Claim,
    scale: float,
    pooled: float | None = None,
) -> TTest:
    t = (difference - null / scale) / error
    sd = None if pooled is None else pooled * scale
    p = student_t(df).tail(t, claim)
    return TTest(t, df, p, difference * scale, error * scale, sd)
