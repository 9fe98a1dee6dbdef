"""Bars for counted levels, shared by the verbs that show them."""

from __future__ import annotations

from theoros.answer.axis import Axis
from theoros.answer.layers.blocks import Blocks
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import percent, whole
from theoros.lazy_imports import np
from theoros.verbs.data.counted import Counted


def bar_heights(p: Counted, group: int) -> tuple[np.ndarray, Axis]:
    """Heights of the bars of a group, and the scale for all."""
    if p.percent:
        shares = 100 * p.counts / np.maximum(p.counts.sum(axis=1, keepdims=True), 1)
        top = float(shares.max()) * 1.1 or 1.0
        return shares[group], Axis(0.0, top, "percent")
    return p.counts[group], Axis(0.0, float(p.counts.max()) * 1.1 or 1.0, "count", whole=True)


def label_of(p: Counted, group: int, level: int) -> str:
    count = int(p.counts[group, level])
    if p.percent:
        return percent(count, int(p.counts[group].sum())) if p.counts[group].sum() else ""
    return whole(count)


def _names(p: Counted) -> tuple[tuple[float, str], ...]:
    return tuple((float(at), level) for at, level in enumerate(p.levels))


def level_axis(p: Counted) -> Axis:
    ends = -0.6, len(p.levels) - 0.4
    return Axis(*ends, p.column.label, names=_names(p), column=p.column.name)


def bars(p: Counted) -> tuple[Frame, ...]:
    """A bar from 0 for each level."""
    heights, up = bar_heights(p, 0)
    at = np.arange(len(p.levels), dtype=np.float64)
    labels = tuple(label_of(p, 0, k) for k in range(len(p.levels)))
    zero, codes = np.zeros(at.size), np.zeros(at.size, dtype=np.int64)
    blocks = Blocks(at - 0.36, at + 0.36, zero, heights, codes, labels)
    return (Frame(level_axis(p), (Panel((Lane((blocks,), y=up),)),), show_y=True),)


def side_by_side(p: Counted) -> tuple[Frame, ...]:
    """For each level of the second category, a bar for each level of the first."""
    groups, levels = p.counts.shape
    wide = 0.8 / levels
    up = bar_heights(p, 0)[1]
    left, heights, codes, labels = [], [], [], []
    for g in range(groups):
        own = bar_heights(p, g)[0]
        for k in range(levels):
            left.append(g - 0.4 + k * wide)
            heights.append(own[k])
            codes.append(k)
            labels.append(label_of(p, g, k))
    x = np.array(left)
    shown = tuple(labels) if groups * levels <= 40 else ()
    blocks = Blocks(x, x + wide, np.zeros(x.size), np.array(heights), np.array(codes), shown)
    return (Frame(group_axis(p), (Panel((Lane((blocks,), y=up),)),), show_y=True),)


def group_axis(p: Counted) -> Axis:
    names = tuple((float(at), name) for at, name in enumerate(p.groups))
    return Axis(-0.6, len(p.groups) - 0.4, p.by or "", names=names)
