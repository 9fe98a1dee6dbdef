"""Data drawn again: the values of a resample, or another sample from a population like this one."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.numeric.resampling.bootstrap import drawn_places, places_of
from theoros.numeric.resampling.replicates import block_size, generator
from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.data.observed_counts import Observation
from theoros.verbs.data.sample import Sample, typed_sample
from theoros.verbs.data.samples import Measured, OneSample, Paired, TwoSamples
from theoros.verbs.data.shares import Shares

if TYPE_CHECKING:
    from theoros.verbs.procedures.bootstrap_intervals import Drawn


def resample_of(data: Observation, drawn: Drawn, number: int, seed: int) -> Observation:
    """The data of resample `number`, from 1, as the pile has it."""
    block = block_size(drawn.size)
    if isinstance(data, Shares):
        rng = generator(seed, (number - 1) // block)
        return data.with_counts([rng.binomial(one.n, one.value, size=block)[(number - 1) % block] for one in data.of])
    sizes = [drawn.samples[0].size] if drawn.together else [one.size for one in drawn.samples]
    return _at(data, places_of(number, seed, block, sizes))


def another_sample(data: Observation, rng: np.random.Generator) -> Observation:
    """A sample of the same size from a population like this one.

    That is the sample itself, drawn from with replacement; of typed figures a normal population
    with that mean and standard deviation.
    """
    if isinstance(data, Shares):
        return data.with_counts([rng.binomial(one.n, one.value) for one in data.of])
    if isinstance(data, Measured) and data.typed:
        return data.drawn_again([_normal(one, rng) for one in data.samples])
    sizes = [one.n for one in data.samples] if isinstance(data, Measured) else [data.size]
    return _at(data, [one[0] for one in drawn_places(rng, sizes, 1)])


def can_draw(data: Observation) -> bool:
    """Whether there is a population to draw from: not where only n and r are known."""
    return isinstance(data, Shares | NumberPairs | OneSample | Paired | TwoSamples)


def _at(data: Observation, places: list[Ints]) -> Observation:
    """The data of the cases at these places, as often as they come."""
    if isinstance(data, NumberPairs):
        return data.at(*places)
    assert isinstance(data, Measured)
    return data.drawn_again([one.at(own) for one, own in zip(data.samples, places, strict=True)])


def _normal(one: Sample, rng: np.random.Generator) -> Sample:
    s = one.summary
    drawn = rng.normal(s.mean, s.sd, s.n)
    return typed_sample(one.label, one.phrase, s.n, float(drawn.mean()), float(drawn.std(ddof=1)))
