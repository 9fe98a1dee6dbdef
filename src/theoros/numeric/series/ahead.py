"""What comes next in a series, by simple ways and by smoothing, and how well it came true."""

from __future__ import annotations

import math
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.distributions.normal import Normal
from theoros.numeric.distributions.student import StudentT
from theoros.numeric.regression.least_squares import fit
from theoros.numeric.series.smoothing import Form, TooShort, smooth


@dataclass(frozen=True)
class Ahead:
    """What is expected of the next values, and how far off it may be."""

    expected: Floats
    deviation: Floats
    """Standard deviation of each value about what is expected of it."""
    df: float
    """Of Student's t, by which the band is taken; infinite for the normal curve."""
    errors: Floats
    """Each value of the series less what the same way would have expected; NaN where it cannot."""

    def band(self, share: float) -> tuple[Floats, Floats]:
        """The ends between which so many of such values are to be expected."""
        curve = StudentT(self.df) if math.isfinite(self.df) else Normal()
        reach = curve.critical(1 - share, "different") * self.deviation
        return np.asarray(self.expected - reach), np.asarray(self.expected + reach)


def naive(values: Floats, steps: int, cycle: int = 1) -> Ahead:
    """As the last value, or as the same season of the last cycle.

    The band grows with the root of how often the way is gone (R. Hyndman & G. Athanasopoulos,
    Forecasting, table 5.2). Raises TooShort.
    """
    if values.size < cycle + 2:
        raise TooShort
    errors = np.concatenate([np.full(cycle, np.nan), values[cycle:] - values[:-cycle]])
    sigma = math.sqrt(float(np.nanmean(errors**2)))
    place = np.arange(steps)
    return Ahead(
        values[values.size - cycle + place % cycle], sigma * np.sqrt(place // cycle + 1.0),
        math.inf, errors,
    )  # fmt: skip


def line(values: Floats, steps: int, cycle: int = 1) -> Ahead:
    """A straight trend with an effect for each season, by least squares; the line goes on.

    The band is that of a single case of the model. Raises TooShort.
    """
    n = values.size
    if n < cycle + 3:
        raise TooShort
    at = np.arange(n + steps, dtype=np.float64)
    seasons = [(at % cycle == season).astype(np.float64) for season in range(1, cycle)]
    design = np.column_stack([np.ones(n + steps), at, *seasons])
    found = fit(design[:n], values)
    rows = design[n:]
    spread = found.sigma * np.sqrt(1 + found.spread(rows) ** 2)
    errors = values - design[:n] @ found.coefficients
    return Ahead(rows @ found.coefficients, spread, float(found.df), np.asarray(errors))


def smoothing(values: Floats, steps: int, form: Form) -> Ahead:
    """By exponential smoothing of a form. Raises TooShort."""
    found = smooth(values, form)
    return Ahead(found.forecast(steps), found.deviation(steps), math.inf, found.errors)


@dataclass(frozen=True)
class Came:
    """How what was expected compares with what came."""

    off: Floats
    """What came less what was expected."""
    inside: int
    """How many fell within their band."""
    absolute: float
    """The mean of how far off it was, either way."""
    per_cent: float
    """The same in per cent of what came; NaN where a value that came is 0."""


def compared(ahead: Ahead, came: Floats, share: float) -> Came:
    """What was expected of values that were held back, beside them."""
    expected = ahead.expected[: came.size]
    low, high = ahead.band(share)
    off = came - expected
    inside = int(((low[: came.size] <= came) & (came <= high[: came.size])).sum())
    relative = math.nan
    if (came != 0).all():
        relative = 100 * float(np.mean(np.abs(off / came)))
    return Came(np.asarray(off), inside, float(np.mean(np.abs(off))), relative)
