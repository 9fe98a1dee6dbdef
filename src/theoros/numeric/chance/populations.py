"""Cases drawn from a population: values that are there, or a shape with a mean and an SD."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.chance.samples import Model, Samples
from theoros.numeric.distributions.distribution import Distribution
from theoros.numeric.resampling.shuffles import dealt_places


@dataclass(frozen=True, eq=False)
class Population(Model):
    """n of the values that are there (numbers, or places of names), of shape (k,), k at least 1."""

    values: Floats | Ints
    n: int
    replace: bool = True

    @property
    def size(self) -> int:
        return self.n if self.replace else int(self.values.size)

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        if self.replace:
            places = rng.integers(0, self.values.size, size=(size, self.n))
        else:
            places = dealt_places(rng, self.values.size, size, self.n)
        return Samples((self.values.take(places, mode="clip"),))


TWO_PEAKS_APART = 0.9
"""How far each of two peaks lies from their middle, in standard deviations of the whole."""


def _two_peaks(rng: np.random.Generator, shape: tuple[int, int]) -> Floats:
    side = rng.integers(0, 2, shape) * 2.0 - 1
    own = math.sqrt(1 - TWO_PEAKS_APART**2)
    return np.asarray(side * TWO_PEAKS_APART + rng.standard_normal(shape) * own)


def two_peaks_height(z: Floats) -> Floats:
    own = math.sqrt(1 - TWO_PEAKS_APART**2)
    return np.asarray(
        sum(np.exp(-0.5 * ((z - side * TWO_PEAKS_APART) / own) ** 2) for side in (-1, 1))
        / (2 * own * math.sqrt(2 * math.pi))
    )


@dataclass(frozen=True)
class StandardShape:
    """A distribution with mean 0 and standard deviation 1."""

    name: str
    draw: Callable[[np.random.Generator, tuple[int, int]], Floats]
    height: Callable[[Floats], Floats]
    """Its density."""
    reach: tuple[float, float]
    """Between which ends nearly all of it lies."""


_ROOT3 = math.sqrt(3)
SHAPES: dict[str, StandardShape] = {
    one.name: one
    for one in (
        StandardShape("normal", lambda rng, shape: rng.standard_normal(shape),
              lambda z: np.exp(-0.5 * z * z) / math.sqrt(2 * math.pi), (-3.6, 3.6)),
        StandardShape("uniform", lambda rng, shape: (2 * rng.random(shape) - 1) * _ROOT3,
              lambda z: np.where(np.abs(z) <= _ROOT3, 1 / (2 * _ROOT3), 0.0), (-1.9, 1.9)),
        # an exponential distribution, moved to mean 0
        StandardShape("skewed right", lambda rng, shape: rng.standard_exponential(shape) - 1,
              lambda z: np.where(z >= -1, np.exp(-np.maximum(z, -1) - 1), 0.0), (-1.2, 5.0)),
        StandardShape("skewed left", lambda rng, shape: 1 - rng.standard_exponential(shape),
              lambda z: np.where(z <= 1, np.exp(np.minimum(z, 1) - 1), 0.0), (-5.0, 1.2)),
        StandardShape("two-peaked", _two_peaks, two_peaks_height, (-2.6, 2.6)),
    )
}  # fmt: skip


@dataclass(frozen=True)
class ShapedPopulation(Model):
    """n values of a shape with a mean and a standard deviation above 0."""

    shape: str
    mean: float
    sd: float
    n: int

    @property
    def size(self) -> int:
        return self.n

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        values = SHAPES[self.shape].draw(rng, (size, self.n))
        if self.sd != 1:
            values *= self.sd
        if self.mean:
            values += self.mean
        return Samples((values,))


@dataclass(frozen=True)
class LawPopulation(Model):
    """n independent values of a distribution."""

    law: Distribution
    n: int

    @property
    def size(self) -> int:
        return self.n

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        return Samples((self.law.draws(rng, size * self.n).reshape(size, self.n),))
