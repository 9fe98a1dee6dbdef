"""Categories: bars, a mark for each row, rings, and two categories at once."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from theoros.answer.axis import Axis
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.points import Points
from theoros.answer.layers.sectors import Sectors
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.wording import percent, shortened, whole
from theoros.lazy_imports import np
from theoros.verbs.data.count_pictures import bars, group_axis, level_axis, side_by_side
from theoros.verbs.plot.shapes.shape import CATEGORY, TWO_CATEGORIES, Shape

if TYPE_CHECKING:
    from theoros.verbs.data.counted import Counted

MOST_UNITS = 3000
"""More cases than this have no mark each."""


def units(p: Counted) -> tuple[Frame, ...]:
    """A mark for each row, piled above its level."""
    if p.total > MOST_UNITS:
        return bars(p)
    tallest = int(p.counts.max())
    abreast = max(1, min(12, math.ceil(math.sqrt(tallest / 4))))
    x, y, rows = [], [], []
    for level, own in enumerate(p.rows[0]):
        k = np.arange(own.size)
        x.append(level + (k % abreast - (abreast - 1) / 2) * 0.7 / abreast)
        y.append(k // abreast + 0.5)
        rows.append(own)
    up = Axis(0.0, math.ceil(tallest / abreast) + 0.5, bare=True)
    marks = np.concatenate(rows)
    layer = Points(
        np.concatenate(x).astype(np.float64),
        np.concatenate(y).astype(np.float64),
        marks,
        np.zeros_like(marks),
        10.0 if p.total <= 300 else 7.0 if p.total <= 900 else 4.5,
    )
    return (Frame(level_axis(p), (Panel((Lane((layer,), y=up),)),)),)


def _ring(p: Counted, group: int, hole: float) -> Lane:
    counts = p.counts[group]
    shares = counts / max(counts.sum(), 1)
    labels = tuple(
        f"{shortened(level, 18)} {percent(int(count), int(counts.sum()))}"
        for level, count in zip(p.levels, counts.tolist(), strict=True)
    )
    return Lane((Sectors(shares, np.arange(len(p.levels)), labels, hole),))


def ring(p: Counted) -> tuple[Frame, ...]:
    """Shares of the whole as a ring, or a ring for each level of the second category."""
    return _rings(p, 0.55)


def pie(p: Counted) -> tuple[Frame, ...]:
    """Shares of the whole as sectors."""
    return _rings(p, 0.0)


def _rings(p: Counted, hole: float) -> tuple[Frame, ...]:
    bare = Axis(0.0, 1.0, bare=True)
    return tuple(
        Frame(
            bare, (Panel((_ring(p, at, hole),)),), title=f"{name}, n = {whole(int(p.counts[at].sum()))}" if name else ""
        )
        for at, name in enumerate(p.groups)
    )


def stacked(p: Counted) -> tuple[Frame, ...]:
    """The levels of the first category on each other, a bar for each level of the second."""
    if p.percent:
        of = np.full(len(p.groups), max(p.total, 1))
        return _piled(p, 100 * p.counts / max(p.total, 1), "percent of all", of)
    return _piled(p, p.counts, "count")


def to_hundred(p: Counted) -> tuple[Frame, ...]:
    """The same, every bar stretched to 100 %."""
    sizes = np.maximum(p.counts.sum(axis=1), 1)
    return _piled(p, 100 * p.counts / sizes[:, None], "percent", sizes, top=100.0)


def _piled(
    p: Counted, heights: np.ndarray, label: str, of: np.ndarray | None = None, top: float | None = None
) -> tuple[Frame, ...]:
    """Bars on each other, labelled with counts or with percent `of` so many for each group."""
    groups, levels = heights.shape
    tall = float(heights.sum(axis=1).max()) or 1.0
    up = Axis(0.0, top * 1.04 if top else tall * 1.06, label, whole=label == "count")
    at = np.arange(groups, dtype=np.float64)
    layers, base = [], np.zeros(groups)
    for k in range(levels):
        counts = [int(count) for count in p.counts[:, k].tolist()]
        labels = tuple(whole(count) for count in counts)
        if of is not None:
            labels = tuple(percent(n, int(all_)) for n, all_ in zip(counts, of, strict=True))
        high = base + heights[:, k]
        codes = np.full(groups, k)
        layers.append(Blocks(at - 0.36, at + 0.36, base, high, codes, labels, inside=True))
        base = high
    return (Frame(group_axis(p), (Panel((Lane(tuple(layers), y=up),)),), show_y=True),)


def mosaic(p: Counted) -> tuple[Frame, ...]:
    """Bars to 100 % that are as wide as their group is large: areas are shares of all."""
    sizes = p.counts.sum(axis=1)
    edges = np.concatenate([[0.0], np.cumsum(sizes)]) / max(p.total, 1) * 100
    shares = 100 * p.counts / np.maximum(sizes[:, None], 1)
    layers, base = [], np.zeros(sizes.size)
    for k in range(shares.shape[1]):
        high = base + shares[:, k]
        labels = tuple(
            f"{whole(int(n))} · {percent(int(n), int(size))}" if n else ""
            for n, size in zip(p.counts[:, k].tolist(), sizes.tolist(), strict=True)
        )
        codes = np.full(sizes.size, k)
        layers.append(Blocks(edges[:-1], edges[1:], base, high, codes, labels, inside=True))
        base = high
    names = tuple((float(a + b) / 2, name) for a, b, name in zip(edges[:-1], edges[1:], p.groups, strict=True) if b > a)
    axis = Axis(0.0, 100.0, p.by or "", names=names)
    up = Axis(0.0, 100.0, "percent")
    return (Frame(axis, (Panel((Lane(tuple(layers), y=up),)),), show_y=True),)


_ONE = frozenset({"scale", "order"})
SHAPES = (
    Shape("bars", "A bar for each level, from 0.", (CATEGORY,), bars, _ONE, 20, other_names=("bar chart", "bar graph")),
    Shape("unit chart", "A mark for each row, piled above its level.", (CATEGORY,), units,
          frozenset({"order"}), 21),
    Shape("ring", "Shares of the whole; a ring for each level of a second category.",
          (CATEGORY, TWO_CATEGORIES), ring, frozenset({"order"}), 26, keyed=True),
    Shape("pie", "Shares of the whole as sectors.", (CATEGORY,), pie,
          frozenset({"order"}), 27, keyed=True, other_names=("pie chart",)),
    Shape("bars side by side", "For each level of the second, a bar for each of the first.",
          (TWO_CATEGORIES,), side_by_side, _ONE, 22, keyed=True, other_names=("bar chart", "clustered bars")),
    Shape("stacked bars", "The levels of the first stacked.", (TWO_CATEGORIES,), stacked,
          _ONE, 23, keyed=True),
    Shape("bars stacked to 100 %", "Every bar stretched to 100 %, to compare shares.",
          (TWO_CATEGORIES,), to_hundred, frozenset({"order"}), 24, keyed=True,
          other_names=("bar chart", "segmented bar graph")),
    Shape("mosaic", "Widths show how large the groups are, heights the shares within.",
          (TWO_CATEGORIES,), mosaic, frozenset({"order"}), 25, keyed=True),
)  # fmt: skip
