"""Bins, counts in bins, and round numbers to cut or tick at."""

from __future__ import annotations

import math

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

FEW_WHOLE = 20
"""Whole numbers that reach over no more than this have a bin each."""
MOST_BINS = 2000


def round_step(rough: float) -> float:
    """The 1, 2 or 5 times a power of ten nearest above `rough` / 1.4 (rough > 0)."""
    power = 10.0 ** math.floor(math.log10(rough))
    for factor in (1.0, 2.0, 5.0):
        if rough <= factor * power * 1.4:
            return factor * power
    return 10 * power


def ticks(low: float, high: float, about: int) -> Floats:
    """Round numbers within [low, high], about so many, ascending."""
    if not high > low or not math.isfinite(high - low):  # also beyond the largest number
        return np.array([low])
    step = round_step((high - low) / max(1, about))
    first, last = math.ceil(low / step - 1e-9), math.floor(high / step + 1e-9)
    whole = np.arange(first, last + 1, dtype=np.float64)
    # dividing by a whole number keeps 0.3 from becoming 0.30000000000000004
    return whole / round(1 / step) if 1e-15 < step < 1 else whole * step


def log_ticks(low: float, high: float, about: int) -> Floats:
    """Round numbers within [low, high] (0 < low) for a logarithmic scale, about so many.

    Powers of ten, every second or third of them over many decades; with 2 and 5 times each over
    few; round steps within less than one decade.
    """
    decades = math.log10(high) - math.log10(low)
    if decades < 1:
        return ticks(low, high, about)
    every = max(1, math.ceil(decades / max(1, about)))
    factors = (1.0, 2.0, 5.0) if decades * 3 <= about else (1.0,)
    first, last = math.floor(math.log10(low)), math.ceil(math.log10(high))
    powers = [power for power in range(first, last + 1) if power % every == 0]
    made = np.array([float(f"{factor:g}e{power}") for power in powers for factor in factors])
    return made[(made >= low * (1 - 1e-9)) & (made <= high * (1 + 1e-9))]


def bin_start(values: Floats, width: float) -> float:
    """Where the first bin begins: the multiple of the width at or below the least value.

    Values that are all equal get a bin with them in its middle, and whole numbers in bins of one
    stand in the middle of theirs.
    """
    if not values.size:
        return 0.0
    low = float(values.min())
    if width == 1 and are_whole(values):
        return low - 0.5
    if low == float(values.max()):
        return low - width / 2
    return float(np.floor(low / width + 1e-9) * width)


def are_whole(values: Floats) -> bool:
    """Whether all values are whole numbers."""
    return bool(np.all(values == np.floor(values)))


def default_width(values: Floats) -> float:
    """A round bin width for finite values: Freedman and Diaconis (1981), 5 to 60 bins.

    Whole numbers have bins of a whole width, of one where they reach over few.
    """
    n = values.size
    if n == 0:
        return 1.0
    low, high = float(values.min()), float(values.max())
    spread = high - low
    if spread <= 0 or not math.isfinite(spread):
        return max(abs(high), 1.0) * 0.1 if math.isfinite(high) else 1.0
    q1, q3 = np.quantile(values, [0.25, 0.75])
    rough = 2 * float(q3 - q1) / n ** (1 / 3)
    rough = min(max(rough, spread / 60), spread / 5)
    if not are_whole(values):
        return round_step(rough)
    return 1.0 if spread <= FEW_WHOLE else max(1.0, float(round(round_step(rough))))


def bin_indices(values: Floats, width: float, start: float) -> Ints:
    """The bin of each finite value: k where start + k width <= value < start + (k + 1) width.

    A value that rounding puts a hair below an edge counts as on it. Past 2^62 bins from the start
    all values share the last bin.
    """
    with np.errstate(over="ignore"):
        places = np.floor((values / 2 - start / 2) / (width / 2) + 1e-9)
    return np.clip(places, -(2.0**62), 2.0**62).astype(np.int64)


def counts_in(values: Floats, low: float, high: float, bins: int) -> Ints:
    """Counts of finite values in equal bins over [low, high]; the last bin keeps its end."""
    counts, _ = np.histogram(values, bins=bins, range=(low, high))
    return np.asarray(counts, dtype=np.int64)


def order_within(groups: Ints) -> Ints:
    """For each entry its place (from 0) among the entries of the same group, in order."""
    if groups.size == 0:
        return np.zeros(0, dtype=np.int64)
    order = np.argsort(groups, kind="stable")
    sorted_groups = groups[order]
    starts = np.flatnonzero(np.r_[True, sorted_groups[1:] != sorted_groups[:-1]])
    lengths = np.diff(np.r_[starts, groups.size])
    place = np.empty(groups.size, dtype=np.int64)
    place[order] = np.arange(groups.size) - np.repeat(starts, lengths)
    return place
