"""Replicates in blocks, so that the first k of N are the same whatever N is.

Block i draws from a generator of its own, spawned from the seed with key i. Asking for
more only adds blocks; it never changes the earlier ones. Simulated tests, bootstrap intervals,
their coverage and simulations all draw here.
"""

from __future__ import annotations

import math
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats

MakeBlock = Callable[["np.random.Generator", int], Floats]
"""Given a generator and a size, that many replicates: shape (size,), or (size, statistics)."""
FIRST_LOOK = 1000
"""After so many replicates a first result is shown, before the rest are made."""
MOST_KEPT = 8
MOST_VALUES = 24_000_000
"""As many numbers are kept in all, besides those that are asked for now."""


def generator(seed: int, block: int) -> np.random.Generator:
    """The generator of one block."""
    return np.random.default_rng(np.random.SeedSequence(seed, spawn_key=(block,)))


def block_size(values_in_one: int) -> int:
    """How many replicates a block holds: a few milliseconds' work, fixed by the data alone."""
    return int(max(1, min(500, 400_000 // max(1, values_in_one))))


class Replicates:
    """The replicates of one statistic, or of several, from one seed, as far as they were drawn.

    Blocks have `size` replicates (1 or more), each from a generator of its own.
    """

    def __init__(self, make: MakeBlock, seed: int, size: int) -> None:
        self.make, self.seed, self.size = make, seed, size
        self.count = 0
        self._held: Floats | None = None

    def grow(self, wanted: int) -> Iterator[int]:
        """Draws until there are as many as are wanted; tells after each block how many there are.

        What is drawn more than that is kept for later.
        """
        while self.count < wanted:
            made = self.make(generator(self.seed, self.count // self.size), self.size)
            made = made.reshape(self.size, -1)
            if self._held is None or self._held.shape[0] < self.count + self.size:
                room = max(2 * self.count, min(wanted, 200_000)) + self.size
                larger = np.empty((room, made.shape[1]))
                if self._held is not None:
                    larger[: self.count] = self._held[: self.count]
                self._held = larger
            self._held[self.count : self.count + self.size] = made
            self.count += self.size
            yield min(self.count, wanted)

    def looks(self, wanted: int, more: float = math.inf, first: int = FIRST_LOOK) -> Iterator[tuple[int, bool]]:
        """As `grow`, and whether what there is by then is worth a look before the rest is drawn.

        That is so when `first` are there, and from then on each time that there are `more` times as many.
        """
        shown, there = 0, self.count
        for count in self.grow(wanted):
            look = count < wanted and count >= first and (not shown or count >= max(shown, there) * more)
            shown = count if look else shown
            yield count, look

    def first(self, count: int) -> Floats:
        """The first replicates, shape (count, statistics); as many must have been drawn."""
        assert self._held is not None
        assert count <= self.count
        return self._held[:count]

    def values(self, count: int) -> Floats:
        """The first statistic of the first replicates, shape (count,)."""
        return self.first(count)[:, 0]

    def drawn(self, count: int) -> Floats:
        """The same, drawn as far as they are not there yet."""
        for _ in self.grow(count):
            pass
        return self.values(count)

    @property
    def numbers(self) -> int:
        """How many numbers it holds."""
        return 0 if self._held is None else int(self._held.size)


_KEPT: OrderedDict[Hashable, Replicates] = OrderedDict()


def kept(key: Hashable, make: MakeBlock, seed: int, size: int) -> Replicates:
    """The replicates known by a key, or new ones. `key` tells what is drawn with all that it uses."""
    found = _KEPT.pop((key, seed, size), None) or Replicates(make, seed, size)
    _KEPT[key, seed, size] = found
    others = list(_KEPT)[:-1]
    while others and (len(others) >= MOST_KEPT or sum(_KEPT[one].numbers for one in others) > MOST_VALUES):
        del _KEPT[others.pop(0)]
    return found
