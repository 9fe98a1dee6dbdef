"""Cases drawn from outcomes: successes and failures, a bag of labelled things, stages."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.chance.samples import Model, Samples, coded
from theoros.numeric.resampling.shuffles import dealt_places

MOST_IN_BAG = 100_000
"""A bag that is not refilled holds no more things than these."""


@dataclass(frozen=True)
class Trials(Model):
    """n cases, each a success (place 0) with chance p, else a failure (place 1)."""

    p: float
    n: int

    @property
    def size(self) -> int:
        return self.n

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        return Samples((rng.random((size, self.n)) >= self.p,))


@dataclass(frozen=True)
class Bag(Model):
    """n draws from outcomes with weights (0 or more, not all 0).

    Without replacement the weights are how many things of each kind there are.
    """

    weights: tuple[float, ...]
    n: int
    replace: bool = True

    @property
    def size(self) -> int:
        return self.n if self.replace else int(sum(self.weights))

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        if self.replace:
            total = sum(self.weights)
            return Samples((coded(rng, [w / total for w in self.weights], (size, self.n)),))
        things = np.repeat(np.arange(len(self.weights)), np.array(self.weights, dtype=np.int64))
        return Samples((things[dealt_places(rng, things.size, size, self.n)],))


@dataclass(frozen=True, eq=False)
class DrawStage:
    """One of several draws for a case."""

    after: int
    """The place of the stage on whose outcome it depends; -1 for none."""
    shares: Floats
    """For each outcome of that stage (one row where there is none) the shares of its own outcomes.

    Rows sum to 1; one of noughts means that the stage does not come about.
    """


@dataclass(frozen=True, eq=False)
class Stages(Model):
    """n cases, each drawn in stages; an array of places for every stage."""

    stages: Sequence[DrawStage]
    n: int

    @property
    def size(self) -> int:
        return self.n * len(self.stages)

    def draw(self, rng: np.random.Generator, size: int) -> Samples:
        made: list[Ints] = []
        for stage in self.stages:
            fall = rng.random((size, self.n))
            before = made[stage.after] if stage.after >= 0 else np.zeros(fall.shape, dtype=np.int16)
            steps = np.cumsum(stage.shares, axis=1)
            place: Ints = np.zeros(fall.shape, dtype=np.int16)
            for at in range(stage.shares.shape[1] - 1):
                place += fall >= steps[:, at][before]
            none = (before < 0) | (stage.shares.sum(axis=1) == 0)[before]
            place[none] = -1
            made.append(place)
        return Samples(tuple(made))


def joint(stages: Sequence[DrawStage]) -> list[tuple[tuple[int, ...], float]]:
    """Every way through the stages that can come about, with its chance."""
    ways: list[tuple[tuple[int, ...], float]] = [((), 1.0)]
    for stage in stages:
        longer = []
        for way, chance in ways:
            before = way[stage.after] if stage.after >= 0 else 0
            shares = stage.shares[before] if before >= 0 else np.zeros(1)
            if shares.sum() == 0:
                longer.append(((*way, -1), chance))
                continue
            longer += [((*way, at), chance * float(s)) for at, s in enumerate(shares) if s > 0]
        ways = longer
    return ways
