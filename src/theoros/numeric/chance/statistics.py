"""Statistics of every sample of a block; NaN where one has none."""

from __future__ import annotations

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints
from theoros.numeric.chance.waiting import run_lengths
from theoros.numeric.resampling.bootstrap import row_means, row_variances


def count_of(codes: Ints, wanted: int) -> Floats:
    """How many cases of each row are of a kind."""
    if codes.dtype == np.bool_:
        ones = np.count_nonzero(codes, axis=1)
        return np.asarray(ones if wanted else codes.shape[1] - ones, dtype=np.float64)
    return np.asarray(np.count_nonzero(codes == wanted, axis=1), dtype=np.float64)


def longest_run(hits: Bools) -> Floats:
    """The most hits in a row."""
    return np.asarray(run_lengths(hits).max(axis=1), dtype=np.float64)


def means(values: Floats) -> Floats:
    """The mean of each sample: of values (samples, n), shape (samples,)."""
    return row_means(values)


def totals(values: Floats) -> Floats:
    """The sum of each sample: of values (samples, n), shape (samples,)."""
    return np.asarray(values.sum(axis=1))


def standard_deviations(values: Floats) -> Floats:
    """Divisor n - 1; NaN for samples of one case."""
    if values.shape[1] < 2:
        return np.full(values.shape[0], np.nan)
    return np.sqrt(row_variances(values))


def quantiles(values: Floats, share: float) -> Floats:
    """By linear interpolation between order statistics (type 7 of Hyndman and Fan 1996)."""
    return np.asarray(np.quantile(values, share, axis=1))


def ranges(values: Floats) -> Floats:
    """Greatest minus least value of each sample: of values (samples, n), shape (samples,)."""
    return np.asarray(values.max(axis=1) - values.min(axis=1))


def returns(walk: Floats) -> Floats:
    """How often a walk comes back to where it began."""
    return np.asarray(np.count_nonzero(walk == 0, axis=1), dtype=np.float64)


def time_above(walk: Floats) -> Floats:
    """The share of steps after which a walk stands above where it began."""
    return np.asarray(np.count_nonzero(walk > 0, axis=1) / walk.shape[1])
