"""Levels put together until enough cases are expected of each."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

from theoros.answer.wording import listed
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.verbs.data.observed_counts import CountsOfLevels, TwoWayCounts

ENOUGH = 5.0
"""As many are to be expected of each level, or cell."""
T = TypeVar("T", CountsOfLevels, TwoWayCounts)
Parts = list[list[int]]
"""The old levels that each new one is made of."""


def merged(data: T) -> T:
    """Ordered levels are put together with a neighbour, others the two of which least is expected.

    Two levels at least are left, of each category.
    """
    return _of_one(data) if isinstance(data, CountsOfLevels) else _of_two(data)


def _of_one(data: CountsOfLevels) -> CountsOfLevels:
    expected = data.total * np.array(data.claimed)
    parts: Parts = [[at] for at in range(len(data.levels))]
    while len(parts) > 2:
        weights = np.array([expected[part].sum() for part in parts])
        if weights.min() >= ENOUGH:
            break
        parts = _joined(parts, weights, ordered=data.ordered)
    if len(parts) == len(data.levels):
        return data
    return replace(
        data,
        levels=_names(data.levels, parts),
        counts=np.array([int(data.counts[part].sum()) for part in parts], dtype=np.int64),
        claimed=tuple(float(sum(data.claimed[at] for at in part)) for part in parts),
    )


def _of_two(data: TwoWayCounts) -> TwoWayCounts:
    counts = data.counts
    rows: Parts = [[at] for at in range(counts.shape[0])]
    columns: Parts = [[at] for at in range(counts.shape[1])]
    while True:
        held = _summed(counts, rows, columns)
        down, across = held.sum(axis=1), held.sum(axis=0)
        if not held.sum() or np.outer(down, across).min() / held.sum() >= ENOUGH:
            break
        by_row = len(rows) > 2 and (len(columns) <= 2 or down.min() <= across.min())
        if by_row:
            rows = _joined(rows, down, ordered=data.ordered[0])
        elif len(columns) > 2:
            columns = _joined(columns, across, ordered=data.ordered[1])
        else:
            break
    return replace(
        data, rows=_names(data.rows, rows), columns=_names(data.columns, columns), counts=_summed(counts, rows, columns)
    )


def _summed(counts: Ints, rows: Parts, columns: Parts) -> Ints:
    down = np.array([counts[part].sum(axis=0) for part in rows])
    return np.stack([down[:, part].sum(axis=1) for part in columns], axis=1)


def _joined(parts: Parts, weights: np.ndarray, *, ordered: bool) -> Parts:
    """With the lightest put together with its lighter neighbour, or the lightest other one."""
    least = int(weights.argmin())
    near = [least - 1, least + 1] if ordered else range(len(parts))
    other = min((at for at in near if 0 <= at < len(parts) and at != least), key=lambda at: weights[at])
    first, second = sorted((least, other))
    made = [part for at, part in enumerate(parts) if at != second]
    made[first] = [*parts[first], *parts[second]]
    return made


def _names(names: tuple[str, ...], parts: Parts) -> tuple[str, ...]:
    return tuple(_name([names[at] for at in part]) for part in parts)


def _name(parts: list[str]) -> str:
    """ "fair or coarse"; classes that follow each other are one wider class."""
    ends = [part.partition(" to under ") for part in parts]
    if all(joint for _, joint, _ in ends):
        return f"{ends[0][0]} to under {ends[-1][2]}"
    return listed(parts, "or")
