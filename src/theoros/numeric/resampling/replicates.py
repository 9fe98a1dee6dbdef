"""Replicates in blocks, so that the first k of N are the same whatever N is.

Block i draws from a generator of its own, spawned from the seed with key i. Asking for
more only adds blocks; it never changes the earlier ones.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

MakeBlock = Callable[["np.random.Generator", int], Floats]
"""Given a generator and a size, that many replicates of a statistic."""


def generator(seed: int, block: int) -> np.random.Generator:
    """The generator of one block."""
    return np.random.default_rng(np.random.SeedSequence(seed, spawn_key=(block,)))


def block_size(values_in_one: int) -> int:
    """How many replicates a block holds: a few milliseconds' work, fixed by the data alone."""
    return int(max(1, min(500, 400_000 // max(1, values_in_one))))


def replicates(make: MakeBlock, seed: int, size: int, wanted: int) -> Iterator[Floats]:
    """Blocks of `size` replicates until `wanted` have been given; the last is cut to fit.

    `seed` and `size` are whole, 0 and 1 or more; nothing is given where `wanted` is 0 or less.
    """
    done, block = 0, 0
    while done < wanted:
        made = make(generator(seed, block), size)[: wanted - done]
        done += made.size
        block += 1
        yield made
