"""A bar for each row, and means with their intervals."""

from __future__ import annotations

from theoros.answer.axis import Axis
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.spots import Interval
from theoros.answer.picture import Frame, Lane
from theoros.lazy_imports import np
from theoros.numeric.procedures.means import mean_interval
from theoros.verbs.data.groups import Group
from theoros.verbs.plot.data.numbers import Plotted
from theoros.verbs.plot.shapes.shape import NUMBER, Shape

CONFIDENCE = 0.95


def row_bars(p: Plotted) -> tuple[Frame, ...]:
    """A bar from 0 for each row, in the order of the table or by length."""
    low, high = float(p.values.min()), float(p.values.max())
    axis = p.axis(min(0.0, low * 1.04), max(0.0, high * 1.04) or 1.0)

    def lanes(group: Group) -> list[Lane]:
        order = np.arange(group.values.size)
        if p.statement.order == "by count":
            order = np.argsort(-group.values, kind="stable")
        values, n = group.values[order], group.values.size
        at = np.arange(n)[::-1].astype(np.float64)
        up = Axis(-0.5, n - 0.5, bare=True)
        left, right = np.minimum(values, 0.0), np.maximum(values, 0.0)
        codes = p.colours(group.rows[order])
        return [Lane((Blocks(left, right, at - 0.42, at + 0.42, codes),), y=up)]

    return p.frames(lanes, axis)


def means(p: Plotted) -> tuple[Frame, ...]:
    """The mean of each group with its 95 % interval."""
    found = {id(g): mean_interval(g.values, CONFIDENCE) for g in p.groups if g.values.size}
    low = min(ends[0] for ends in found.values())
    high = max(ends[2] for ends in found.values())
    room = (high - low) * 0.08 or abs(high) * 0.05 or 1.0

    def lanes(group: Group) -> list[Lane]:
        first, mean, last = found[id(group)]
        return [Lane((Interval(first, mean, last, "circle"),))]

    return p.frames(lanes, p.axis(low - room, high + room), boxes=False)


SHAPES = (
    Shape("row bars", "A bar for each row, in the order of the table or by length.", (NUMBER,),
          row_bars, frozenset({"marks", "rows", "cut", "colour"}), 11),
    Shape("means with intervals", "The mean of each group with its 95 % confidence interval.",
          (NUMBER,), means, frozenset({"ends", "turn"}), 12),
)  # fmt: skip
