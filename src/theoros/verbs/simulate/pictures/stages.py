"""The stages of a model as a tree, with the chance of every way through it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from theoros.answer.axis import Axis
from theoros.answer.layers.lines import Line
from theoros.answer.layers.trees import Branch, Tree
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import number
from theoros.lazy_imports import np

if TYPE_CHECKING:
    from theoros.verbs.simulate.sampling.stage_plan import StagePlan

MOST_ENDS = 16
"""A tree with more ends is not drawn: there is no room for it."""


def tree_frame(plan: StagePlan) -> Frame:
    """Of many ends only the first stages are drawn."""
    depth = len(plan.stages)
    while depth > 1 and _ends(plan, depth) > MOST_ENDS:
        depth -= 1
    branches = _branches(plan, 0, (), 1.0, depth)
    title = "One case" if depth == len(plan.stages) else f"One case, the first {depth} stages"
    layer = Tree(branches) if len(branches) <= MOST_ENDS else Line(np.zeros(0), np.zeros(0), "mute")
    bare = Axis(0.0, 1.0, bare=True)
    return Frame(bare, (Panel((Lane((layer,), y=bare),)),), title)


def _ends(plan: StagePlan, depth: int) -> int:
    return sum(one.ends for one in _branches(plan, 0, (), 1.0, depth))


def _branches(plan: StagePlan, at: int, path: tuple[int, ...], chance: float, depth: int) -> tuple[Branch, ...]:
    if at >= depth:
        return ()
    stage = plan.stages[at]
    before = path[stage.after] if stage.after >= 0 else 0
    if before < 0 or stage.shares[before].sum() == 0:
        return _branches(plan, at + 1, (*path, -1), chance, depth)
    made = []
    for place, name in enumerate(plan.outcomes[at]):
        share = float(stage.shares[before, place])
        if share > 0:
            rest = _branches(plan, at + 1, (*path, place), chance * share, depth)
            made.append(
                Branch(
                    name,
                    number(share, 3),
                    False,
                    branches=rest,
                    product="" if rest else number(chance * share, 3),
                    share=0.0 if rest else chance * share,
                )
            )
    return tuple(made)
