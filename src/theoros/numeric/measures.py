"""Measures of centre, spread and shape beyond the five numbers; each takes finite values."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.summaries import mean_and_sd

MOST_MODES = 3


def variance(sd: float) -> float:
    """The square of a standard deviation; NaN where it is beyond what a float can hold."""
    square = sd * sd
    return square if math.isfinite(square) and (square > 0 or sd == 0) else math.nan


def skewness(values: Floats) -> float:
    """G1 = g1 sqrt(n (n - 1)) / (n - 2), as Joanes and Gill (1998); NaN below 3 or no spread."""
    n = values.size
    if n < 3:
        return math.nan
    z = _standard(values)
    if z is None:
        return math.nan
    return float((z**3).mean()) * math.sqrt(n * (n - 1)) / (n - 2)


def kurtosis(values: Floats) -> float:
    """Excess kurtosis G2 = (n - 1) ((n + 1) g2 + 6) / ((n - 2) (n - 3)); NaN below 4 values."""
    n = values.size
    if n < 4:
        return math.nan
    z = _standard(values)
    if z is None:
        return math.nan
    g2 = float((z**4).mean()) - 3
    return (n - 1) * ((n + 1) * g2 + 6) / ((n - 2) * (n - 3))


def _standard(values: Floats) -> Floats | None:
    """Deviations over the population standard deviation; None where there is no spread."""
    mean, sd = mean_and_sd(values)
    if not sd > 0:
        return None
    return np.asarray((values - mean) / (sd * math.sqrt((values.size - 1) / values.size)))


def standard_error(values: Floats) -> float:
    """Of the mean: sd / sqrt(n); NaN below 2 values."""
    if values.size < 2:
        return math.nan
    return mean_and_sd(values)[1] / math.sqrt(values.size)


def variation(values: Floats) -> float:
    """Coefficient of variation in percent, 100 sd / mean; NaN unless all values are above 0."""
    if values.size < 2 or float(values.min()) <= 0:
        return math.nan
    mean, sd = mean_and_sd(values)
    return 100 * sd / mean


def modes(values: Floats) -> tuple[float, ...]:
    """The most frequent values, ascending; none where all stand once or more than three tie.

    `values` are finite; none give none.
    """
    found, counts = np.unique(values, return_counts=True)
    most = int(counts.max(initial=0))
    best = found[counts == most]
    if most < 2 or best.size > MOST_MODES:
        return ()
    return tuple(best.tolist())


def mode(values: Floats) -> float:
    """The most frequent value; NaN where several are or every value stands once."""
    found = modes(values)
    return found[0] if len(found) == 1 else math.nan


def trimmed_mean(values: Floats, share: float = 0.1) -> float:
    """The mean without the lowest and the highest `share` of the values.

    The number cut off each end is share × n rounded down (0 <= share < 1/2); NaN for no values.
    """
    cut = int(share * values.size + 1e-9)
    kept = np.sort(values)[cut : values.size - cut]
    return mean_and_sd(kept)[0] if kept.size else math.nan


def geometric_mean(values: Floats) -> float:
    """exp of the mean logarithm; NaN unless all values are above 0."""
    if values.size == 0 or float(values.min()) <= 0:
        return math.nan
    return math.exp(float(np.log(values).mean()))


def total(values: Floats) -> float:
    """The sum, rounded once (Shewchuk 1997) where the values are few enough to take the time."""
    if values.size <= 100_000:
        try:
            return math.fsum(values.tolist())
        except OverflowError:
            return math.nan
    return float(values.sum())


def percentile(values: Floats, share: float, rule: str) -> float:
    """A percentile by the quartile rule where it has one for all shares, else interpolated (7)."""
    methods = {
        "type 1": "inverted_cdf",
        "type 2": "averaged_inverted_cdf",
        "type 3": "closest_observation",
        "type 4": "interpolated_inverted_cdf",
        "type 5": "hazen",
        "type 6": "weibull",
        "type 8": "median_unbiased",
        "type 9": "normal_unbiased",
    }
    method = methods.get(rule, "linear")
    return float(np.quantile(values, share / 100, method=method))  # type: ignore[call-overload]
