"""Replicates that are drawn once and kept: to have more of them only adds to those there are."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.resampling.replicates import generator

MakeRows = Callable[["np.random.Generator", int], Floats]
"""Given a generator and a size, that many replicates in rows, a column for each statistic."""
MOST_KEPT = 8
MOST_VALUES = 24_000_000
"""As many numbers are kept in all, besides those that are asked for now."""


class Growing:
    """The replicates of one model from one seed, as far as they were drawn.

    Blocks have `size` replicates, each from a generator of its own, as in `replicates`.
    """

    def __init__(self, make: MakeRows, seed: int, size: int) -> None:
        self.make, self.seed, self.size = make, seed, size
        self.count = 0
        self._held: Floats | None = None

    def grow(self, wanted: int) -> Iterator[int]:
        """Draws until there are as many as are wanted; tells after each block how many there are.

        What is drawn more than that is kept for later.
        """
        while self.count < wanted:
            made = self.make(generator(self.seed, self.count // self.size), self.size)
            if self._held is None or self._held.shape[0] < self.count + self.size:
                room = max(2 * self.count, min(wanted, 200_000)) + self.size
                larger = np.empty((room, made.shape[1]))
                if self._held is not None:
                    larger[: self.count] = self._held[: self.count]
                self._held = larger
            self._held[self.count : self.count + self.size] = made
            self.count += self.size
            yield min(self.count, wanted)

    def first(self, count: int) -> Floats:
        """The first replicates, shape (count, statistics); as many must have been drawn."""
        assert self._held is not None
        assert count <= self.count
        return self._held[:count]

    @property
    def values(self) -> int:
        return 0 if self._held is None else int(self._held.size)


_KEPT: OrderedDict[Hashable, Growing] = OrderedDict()


def growing(key: Hashable, make: MakeRows, seed: int, size: int) -> Growing:
    """The replicates known by a key, or new ones. `key` tells the model with all that it uses."""
    found = _KEPT.pop((key, seed, size), None) or Growing(make, seed, size)
    _KEPT[key, seed, size] = found
    others = list(_KEPT)[:-1]
    while others and (len(others) >= MOST_KEPT or sum(_KEPT[one].values for one in others) > MOST_VALUES):
        del _KEPT[others.pop(0)]
    return found
