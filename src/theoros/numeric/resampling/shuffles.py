"""Statistics of data whose group labels, or signs, are dealt out again by chance."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Centre, Floats, Ints, ties_within
from theoros.numeric.resampling.replicates import MakeBlock

WAYS_AT_ONCE = 20_000
SHORT = 512
"""Up to so many places are dealt by short keys."""


@dataclass(frozen=True)
class Shuffle:
    """A statistic, what was seen of it, and what chance makes of it."""

    observed: float
    ways: int
    """How many arrangements there are, each as likely as any other under H0."""
    make: MakeBlock
    """Replicates from arrangements drawn by chance."""
    every: Callable[[], Iterator[Floats]]
    """The statistic of all arrangements, in blocks."""
    resolution: float
    """Statistics this close are equal but for rounding."""
    studentized: bool = False
    """Whether it is a difference over its standard error, rather than the difference itself."""


def dealt_places(rng: np.random.Generator, n: int, size: int, first: int | None = None) -> Ints:
    """The places 0 to n - 1 (n at least 1) in an order drawn by chance, `size` times, row by row.

    With `first`, only so many of each row are given. Shape (size, first). The places are sorted by
    random keys with the place in their last bits, which is faster than swaps. Of few places the
    keys have 32 bits, and rows in which two of them are equal are drawn anew, so that all orders
    are equally likely. Longer keys have 64 bits; two are equal, and one order then likelier than
    another, with a probability below n² / 2^(64 - b) where 2^b is the power of two next to n: less
    than 10⁻⁹ for 1000 values.
    """
    return _by_short_keys(rng, n, size)[:, :first] if n <= SHORT else (_by_long_keys(rng, n, size)[:, :first])


def _by_long_keys(rng: np.random.Generator, n: int, size: int) -> Ints:
    last = np.uint64((1 << (n - 1).bit_length()) - 1)
    keys: Any = rng.bit_generator.random_raw((size, n))
    keys &= ~last
    keys |= np.arange(n, dtype=np.uint64)
    keys.sort(axis=1)
    keys &= last
    return np.asarray(keys.view(np.int64))


def _by_short_keys(rng: np.random.Generator, n: int, size: int) -> Ints:
    bits = (n - 1).bit_length()
    last = np.uint32((1 << bits) - 1)
    raw: Any = rng.bit_generator.random_raw((size, (n + 1) // 2))
    keys = raw.view(np.uint32)[:, :n]
    keys &= ~last
    keys |= np.arange(n, dtype=np.uint32)
    keys.sort(axis=1)
    places = np.asarray(keys & last, dtype=np.int64)
    keys >>= np.uint32(bits)
    equal = (keys[:, 1:] == keys[:, :-1]).any(axis=1)
    if equal.any():
        places[equal] = _by_long_keys(rng, n, int(equal.sum()))
    return places


def dealt(rng: np.random.Generator, values: Floats, size: int, first: int | None = None) -> Floats:
    """`values` (one or more) in orders drawn by chance, as `dealt_places` has them."""
    places = dealt_places(rng, values.size, size, first)
    return np.asarray(values.take(places, mode="clip"), dtype=np.float64)


def tossed(rng: np.random.Generator, n: int, size: int) -> Floats:
    """n signs by a fair coin, `size` times; shape (size, n), of -1 and 1."""
    return np.asarray(rng.integers(0, 2, size=(size, n), dtype=np.int8) * 2.0 - 1)


def difference(x: Floats, y: Floats, centre: Centre) -> float:
    """Centre of x minus centre of y (finite, at least one value each)."""
    middle = np.mean if centre == "mean" else np.median
    return float(middle(x) - middle(y))


def shuffled_labels(x: Floats, y: Floats, centre: Centre) -> Shuffle:
    """Differences of the centres when the pooled values are dealt to groups of the same sizes.

    Each replicate permutes all values and compares the first n_x with the rest (Fisher 1935, "The
    Design of Experiments"). `x` and `y` are finite, at least one value each.

    For means the difference is divided by its standard error √(s₁²/n₁ + s₂²/n₂), where both groups
    have two values or more: so the error rate is right in large samples also where the spreads
    differ (Janssen 1997; Chung and Romano 2013), which it is not for the bare difference.
    """
    pooled = np.concatenate([x, y])
    n1, n = int(x.size), int(pooled.size)
    n2 = n - n1
    centred = pooled - pooled.mean()
    centred -= centred.mean()
    scale = float(np.abs(centred).max()) or 1.0
    studentized = centre == "mean" and min(n1, n2) > 1
    squares = float((centred / scale) @ (centred / scale))

    def of_means(chosen: Floats) -> Floats:
        # the centred values sum to zero, so that the second sum is minus the first
        first = chosen[:, :n1] / scale
        total = first.sum(axis=1)
        gap = total * (1 / n1 + 1 / n2)
        if not studentized:
            return np.asarray(gap * scale, dtype=np.float64)
        own = np.einsum("ij,ij->i", first, first)
        spread = np.maximum(own - total**2 / n1, 0) / ((n1 - 1) * n1)
        spread += np.maximum(squares - own - total**2 / n2, 0) / ((n2 - 1) * n2)
        # groups that do not spread at all are farther apart than any others
        error = np.maximum(np.sqrt(spread), np.abs(gap) / (2 * n) + 1e-12)
        return np.asarray(gap / error, dtype=np.float64)

    def of_medians(chosen: Floats) -> Floats:
        gap = np.median(chosen[:, :n1], axis=1) - np.median(chosen[:, n1:], axis=1)
        return np.asarray(gap, dtype=np.float64)

    statistic = of_means if centre == "mean" else of_medians

    def make(rng: np.random.Generator, size: int) -> Floats:
        return statistic(dealt(rng, centred, size, n1 if centre == "mean" else None))

    def every() -> Iterator[Floats]:
        for chosen in _choices(n, n1):
            rest = np.ones((chosen.shape[0], n), dtype=np.bool_)
            np.put_along_axis(rest, chosen, False, axis=1)
            others = np.nonzero(rest)[1].reshape(-1, n2)
            yield statistic(centred[np.concatenate([chosen, others], axis=1)])

    rounding = ties_within(pooled)
    if studentized:
        rounding *= n / (float(centred.std()) or 1.0)
    observed = float(statistic(centred[None, :])[0])
    return Shuffle(observed, math.comb(n, n1), make, every, rounding, studentized)


def shuffled_signs(differences: Floats, centre: Centre) -> Shuffle:
    """Centres of matched differences when each keeps its size and gets its sign by a fair coin.

    The randomization test of Fisher (1935) for matched pairs. `differences` are finite, at least
    one.
    """
    n = int(differences.size)

    def statistic(signed: Floats) -> Floats:
        centres = signed.mean(axis=1) if centre == "mean" else np.median(signed, axis=1)
        return np.asarray(centres, dtype=np.float64)

    def make(rng: np.random.Generator, size: int) -> Floats:
        return statistic(tossed(rng, n, size) * differences)

    def every() -> Iterator[Floats]:
        for begin in range(0, 2**n, WAYS_AT_ONCE):
            numbers = np.arange(begin, min(begin + WAYS_AT_ONCE, 2**n))
            signs = 1 - 2 * ((numbers[:, None] >> np.arange(n)) & 1)
            yield statistic(signs * differences)

    observed = float(statistic(differences[None, :])[0])
    return Shuffle(observed, 2**n, make, every, ties_within(differences))


def _choices(n: int, k: int) -> Iterator[Ints]:
    """All choices of k of n places, in blocks of shape (choices, k)."""
    chosen = itertools.combinations(range(n), k)
    while block := list(itertools.islice(chosen, WAYS_AT_ONCE)):
        yield np.array(block, dtype=np.int64).reshape(-1, k)
