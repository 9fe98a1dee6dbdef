"""Figures of what was observed, as data that stand typed in a sentence or its grid."""

from __future__ import annotations

import math

from theoros.answer.wording import shortened
from theoros.verbs.data.counts import MOST_LINES, TypedCount, TypedCounts, TypedTable
from theoros.verbs.data.data import Data
from theoros.verbs.data.number_pairs import NumberPairs
from theoros.verbs.data.observed_counts import CountsOfLevels, Observation, TwoWayCounts
from theoros.verbs.data.sample import Sample
from theoros.verbs.data.samples import Measured, OneSample, Paired, SeveralSamples, TwoSamples
from theoros.verbs.data.shares import Shares, TypedShare, TypedShares, TypedSuccesses
from theoros.verbs.data.two_numbers import TypedCorrelation
from theoros.verbs.data.typed import SeveralTyped, TypedDifferences, TypedGroup, TypedSample, TypedSamples

DIGITS = 5
"""Significant figures with which a mean, a standard deviation or r is carried over."""
LONGEST = 80


def short(value: float) -> float:
    """With as many digits as are carried over."""
    return float(f"{value:.{DIGITS}g}")


def typed_from(data: Observation) -> Data | None:
    """The typed data of the same family with the figures of what was observed.

    None where there are none such: figures that are typed already, or do not tell enough.
    """
    if data.typed:
        return None
    if isinstance(data, Shares):
        return _shares(data)
    if isinstance(data, CountsOfLevels):
        pairs = zip(data.levels, data.counts.tolist(), strict=True)
        return TypedCounts(_name(data.name), tuple(TypedCount(_name(k), int(n)) for k, n in pairs))
    if isinstance(data, TwoWayCounts):
        if max(data.counts.shape) > MOST_LINES:
            return None
        lines = tuple(tuple(int(n) for n in line) for line in data.counts.tolist())
        heads = tuple(map(_name, data.rows)), tuple(map(_name, data.columns))
        return TypedTable(_name(data.names[0]), _name(data.names[1]), *heads, lines)
    if isinstance(data, NumberPairs):
        if data.n < 2 or math.isnan(data.r):  # one case, or a number that does not vary
            return None
        along, up = data.names_
        return TypedCorrelation(_name(up), _name(along), data.n, short(data.r))
    return _measured(data) if isinstance(data, Measured) else None


def _measured(data: Measured) -> Data | None:
    about = {"measure": _name(data.measure), "unit": data.unit}
    sides: list[Sample]
    kind: type[TypedSample] | type[TypedSamples] | type[SeveralTyped]
    if isinstance(data, OneSample):
        sides, kind = [data.sample], TypedSample
    elif isinstance(data, TwoSamples):
        sides, kind = [data.first, data.second], TypedSamples
    elif isinstance(data, Paired):
        group = _group(data.differences, "differences")
        if group is None:
            return None
        names = {"one": _name(data.first.said), "two": _name(data.second.said)}
        return TypedDifferences(groups=(group,), **about, **names)
    elif type(data) is SeveralSamples:
        sides, kind = list(data.groups), SeveralTyped
    else:
        return None
    groups = [_group(side, side.phrase) for side in sides]
    if any(group is None for group in groups):
        return None
    return kind(groups=tuple(groups), **about)  # type: ignore[arg-type]


def _shares(data: Shares) -> Data:
    groups = tuple(TypedSuccesses(_name(one.phrase), one.x, one.n) for one in data.of)
    success = _name(data.success)
    return TypedShare(success, groups=groups) if len(groups) == 1 else TypedShares(success, groups)


def _group(sample: Sample, name: str) -> TypedGroup | None:
    s = sample.summary
    if s.n < 2:
        return None
    return TypedGroup(_name(name), s.n, short(s.mean), short(s.sd))


def _name(text: str) -> str:
    return shortened(text, LONGEST)
