"""Samples in blocks, as a model of chance draws them."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Ints


@dataclass(frozen=True, eq=False)
class Samples:
    """A block of samples. For each thing that a case has, an array of shape (size, n).

    What is measured is a number; of what has names it is the place of the name, -1 for none.
    """

    values: tuple[Any, ...]
    lengths: Ints | None = None
    """How many cases each sample has, where that differs; the rest of its row is no case."""
    finished: Bools | None = None
    """Which samples came to their end, of those that wait for something; None for all."""

    def one(self, at: int) -> Samples:
        """A single sample of the block, without what is no case."""
        end = None if self.lengths is None else int(self.lengths[at])
        values = tuple(array[at : at + 1, :end] for array in self.values)
        ended = None if self.finished is None else self.finished[at : at + 1]
        return Samples(values, None if end is None else np.array([end]), ended)


class Model(ABC):
    """A model of chance."""

    @property
    @abstractmethod
    def size(self) -> int:
        """Values that are drawn for one sample, to tell how many samples make a block."""

    @abstractmethod
    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        """A block of samples; the same from the same state of the generator."""


def coded(rng: np.random.Generator, shares: Sequence[float], shape: tuple[int, int]) -> Ints:
    """Places of outcomes with these shares, which sum to 1, each drawn by itself."""
    if len(shares) == 2:
        return np.asarray(rng.random(shape) >= shares[0], dtype=np.int8)
    steps = np.cumsum(np.asarray(shares, dtype=np.float64))[:-1]
    if np.ptp(np.asarray(shares)) < 1e-15:  # as of a die
        return rng.integers(0, len(shares), shape, dtype=np.int16)
    return np.asarray(np.searchsorted(steps, rng.random(shape), side="right"), dtype=np.int16)
