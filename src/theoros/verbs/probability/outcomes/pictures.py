"""Pictures of events: a square whose areas are the chances, and a tree of branches."""

from __future__ import annotations

import math
from collections.abc import Callable

from theoros.answer.axis import Axis
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.trees import Branch, Tree
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.answer.wording import rounded
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools
from theoros.verbs.probability.outcomes.eventful import MOST_ON_TREE
from theoros.verbs.probability.outcomes.space import Space
from theoros.verbs.probability.words import chance_text

GAP = 0.012
"""Between the columns of the square, as a share of it."""


def areas_picture(space: Space, event: Bools, given: Bools | None, alt: str) -> Picture:
    """A column for each label of the first stage, cut by what the second gives there."""
    first, second = space.stages
    shares = np.array([space.chance(space.codes[:, 0] == at) for at in range(len(first.labels))])
    widths = shares * (1 - GAP * (len(shares) - 1))
    starts = np.concatenate([[0.0], np.cumsum(widths + GAP)[:-1]])
    left, right, low, high, labels, hatched, faint = [], [], [], [], [], [], []
    for at, share in enumerate(shares.tolist()):
        top = 1.0
        for code in range(len(second.labels)):
            here = np.flatnonzero((space.codes[:, 0] == at) & (space.codes[:, 1] == code))
            chance = float(space.chances[here].sum())
            tall = chance / share if share > 0 else 0.0
            left.append(starts[at])
            right.append(starts[at] + widths[at])
            low.append(max(0.0, top - tall))
            high.append(top)
            top -= tall
            labels.append(f"{second.labels[code]} · {rounded(chance, 3)}")
            hatched.append(bool(event[here].any()))
            faint.append(given is not None and not bool(given[here].any()))
    blocks = Blocks(
        np.array(left),
        np.array(right),
        np.array(low),
        np.array(high),
        np.zeros(len(left), dtype=np.int64),
        tuple(labels),
        inside=True,
        role="chance",
        hatched=tuple(hatched),
        faint=tuple(faint),
    )
    middles = (starts + widths / 2).tolist()
    names = tuple(
        (middle, f"{name} · {rounded(share, 3)}")
        for middle, name, share in zip(middles, first.labels, shares.tolist(), strict=True)
        if share > 0
    )
    axis = Axis(0.0, 1.0, first.name, names=names)
    panel = Panel((Lane((blocks,), y=Axis(0.0, 1.0, bare=True)),))
    return Picture((Frame(axis, (panel,)),), alt=alt)


def tree_picture(
    space: Space, event: Bools, given: Bools | None, alt: str, branch: Callable[[tuple[int, ...]], tuple[str, str]]
) -> Picture | None:
    """The tree of the stages; None where it would have too many ends to be read.

    `branch` gives what is written on a branch, and the slot that typing over it sets.
    """
    if len(space.chances) > MOST_ON_TREE:
        return None
    within = given if given is not None else np.ones(len(space.chances), dtype=np.bool_)

    def grown(way: tuple[int, ...]) -> tuple[Branch, ...]:
        made = []
        for code, label in enumerate(space.stages[len(way)].labels):
            path = (*way, code)
            own = space.along(path)
            text, slot = branch(path)
            on, faint = bool((event & own).any()), not (within & own).any()
            if len(path) < len(space.stages):
                made.append(Branch(label, text, on, faint, slot, grown(path)))
                continue
            at, chance = int(np.flatnonzero(own)[0]), space.chance(own)
            made.append(Branch(label, text, on, faint, slot, (), _product(space, at, chance), chance))
        return tuple(made)

    panel = Panel((Lane((Tree(grown(())),)),))
    return Picture((Frame(Axis(0.0, 1.0, bare=True), (panel,)),), alt=alt)


def _product(space: Space, at: int, chance: float) -> str:
    if math.isnan(chance):
        return ""
    if space.counts is not None:
        return f"{space.terms[at]} of {space.total} = {chance_text(chance)}"
    if " × " in space.terms[at]:
        return f"{space.terms[at]} = {chance_text(chance)}"
    return chance_text(chance)
