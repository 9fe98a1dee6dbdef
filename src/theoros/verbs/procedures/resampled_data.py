"""Data drawn again: the values of a resample, or another sample from a population like this one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints
from theoros.numeric.resampling.bootstrap import drawn_places, places_of
from theoros.numeric.resampling.replicates import block_size, generator
from theoros.verbs.data.groups import Group, Split
from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.data.samples import OneSample, Paired, Sample, SeveralSamples, TwoSamples, typed_sample
from theoros.verbs.data.shares import Share, Shares

if TYPE_CHECKING:
    from theoros.verbs.procedures.bootstrap_intervals import Drawn


def resample_of(data: Any, drawn: Drawn, number: int, seed: int) -> Any:
    """The data of resample `number`, from 1, as the pile has it."""
    block = block_size(drawn.size)
    if isinstance(data, Shares):
        rng = generator(seed, (number - 1) // block)
        return with_counts(
            data, [int(rng.binomial(one.n, one.value, size=block)[(number - 1) % block]) for one in data.of]
        )
    sizes = [drawn.samples[0].size] if drawn.together else [one.size for one in drawn.samples]
    return with_places(data, places_of(number, seed, block, sizes))


def another_sample(data: Any, rng: np.random.Generator) -> Any:
    """A sample of the same size from a population like this one.

    That is the sample itself, drawn from with replacement; of typed figures a normal population
    with that mean and standard deviation.
    """
    if isinstance(data, Shares):
        return with_counts(data, [int(rng.binomial(one.n, one.value)) for one in data.of])
    if isinstance(data, NumberPairs):
        return with_places(data, [one[0] for one in drawn_places(rng, [data.n], 1)])
    samples = data.samples
    if data.typed:
        return _with_samples(data, [_normal(one, rng) for one in samples])
    return with_places(data, [one[0] for one in drawn_places(rng, [s.n for s in samples], 1)])


def can_draw(data: Any) -> bool:
    """Whether there is a population to draw from: not where only n and r are known."""
    return isinstance(data, Shares | NumberPairs | OneSample | Paired | TwoSamples)


def with_places(data: Any, places: list[Ints]) -> Any:
    """The data of the cases at these places, as often as they come."""
    if isinstance(data, NumberPairs):
        (at,) = places
        return replace(data, x=data.x[at], y=data.y[at], rows=data.rows[at])
    made = [
        Sample(one.label, one.phrase, one.values[at], one.rows[at], one.many)
        for one, at in zip(data.samples, places, strict=True)
    ]
    return _with_samples(data, made)


def _normal(one: Sample, rng: np.random.Generator) -> Sample:
    s = one.summary
    drawn = rng.normal(s.mean, s.sd, s.n)
    return typed_sample(one.label, one.phrase, s.n, float(drawn.mean()), float(drawn.std(ddof=1)))


def with_values(data: Any, values: Sequence[Floats]) -> Any:
    """The data with other values in their samples, as many as there were."""
    made = [
        Sample(one.label, one.phrase, new, one.rows, one.many) for one, new in zip(data.samples, values, strict=True)
    ]
    return _with_samples(data, made)


def _with_samples(data: Any, made: list[Sample]) -> Any:
    groups = tuple(Group(one.label if len(made) > 1 else "", one.phrase, one.values, one.rows, 0) for one in made)
    cases = None if data.typed else Split(groups, ())
    if isinstance(data, TwoSamples):
        return replace(data, first=made[0], second=made[1], cases=cases)
    if isinstance(data, Paired):
        return replace(data, differences=made[0], cases=cases)
    if isinstance(data, SeveralSamples):
        return replace(data, groups=tuple(made), cases=cases)
    return replace(data, sample=made[0], cases=cases)


def with_counts(data: Shares, counts: list[int]) -> Shares:
    of = [Share(s.label, s.phrase, x, s.n) for s, x in zip(data.of, counts, strict=True)]
    return replace(data, of=tuple(of))
