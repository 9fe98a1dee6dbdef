"""Draws until something was seen, and walks."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar, Literal

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Ints
from theoros.numeric.chance.samples import Model, Samples, coded

Until = Literal["successes", "run", "all kinds"]
FIRST_DRAWS = 32


@dataclass(frozen=True)
class Waiting(Model):
    """Draws from outcomes with weights until something was seen, `most` draws at the most.

    That is the first outcome (a success) `k` times, or `k` times running, or each outcome once.
    """

    weights: tuple[float, ...]
    until: Until
    k: int
    most: int

    size: ClassVar[int] = 800

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        total = sum(self.weights)
        shares = [weight / total for weight in self.weights]
        wide = min(FIRST_DRAWS, self.most)
        seen = coded(rng, shares, (size, wide))
        ends = self._ends(seen)
        while (ends < 0).any() and wide < self.most:
            more = min(wide, self.most - wide)
            waits = ends < 0
            added = np.full((size, more), -1, dtype=seen.dtype)
            added[waits] = coded(rng, shares, (int(waits.sum()), more))
            seen = np.concatenate([seen, added], axis=1)
            wide += more
            ends[waits] = self._ends(seen[waits])
        return Samples((seen,), np.where(ends < 0, wide, ends), ends >= 0)

    def _ends(self, seen: Ints) -> Ints:
        """After how many draws it was seen; -1 where it was not."""
        if self.until == "all kinds":
            firsts = [_first(seen == kind) for kind in range(len(self.weights))]
            there = np.min([first >= 0 for first in firsts], axis=0)
            return np.where(there, np.max(firsts, axis=0) + 1, -1)
        hits = seen == 0
        if self.until == "successes":
            at = _first(np.cumsum(hits, axis=1, dtype=np.int32) >= self.k)
        else:
            at = _first(run_lengths(hits) >= self.k)
        return np.where(at >= 0, at + 1, -1)


def _first(hits: Bools) -> Ints:
    """The first place of a hit in every row; -1 for none."""
    return np.where(hits.any(axis=1), hits.argmax(axis=1), -1)


def run_lengths(hits: Bools) -> Ints:
    """For each place how many hits in a row end there."""
    places = np.arange(1, hits.shape[1] + 1)
    last_miss = np.maximum.accumulate(np.where(hits, 0, places), axis=1)
    return np.asarray(np.where(hits, places - last_miss, 0))


@dataclass(frozen=True)
class Walk(Model):
    """n steps, each one up with chance p, else one down; where the walk is after each."""

    p: float
    n: int

    @property
    def size(self) -> int:
        return self.n

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        steps = np.where(rng.random((size, self.n)) < self.p, 1.0, -1.0)
        return Samples((np.cumsum(steps, axis=1),))
