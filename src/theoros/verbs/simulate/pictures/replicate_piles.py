"""The pile of statistics: a dot for each where there is room, bars where they are many."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from theoros.answer.axis import Axis, Reads, span
from theoros.answer.chance_pictures import bars_of, lattice_step
from theoros.answer.layers.bars import Bars
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.picture import Frame, Lane, Panel, Rule
from theoros.answer.wording import whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.bins import bin_indices, order_within, round_step
from theoros.numeric.distributions.distribution import Region
from theoros.numeric.distributions.lattice import Pile
from theoros.numeric.distributions.normal import Normal

MOST_DOTS = 1000
"""Up to so many replicates have a dot each."""
MOST_LABELLED = 16
DOT_BINS = 60
REACH = 4.0
CURVE = 161


@dataclass(frozen=True)
class Marked:
    """A value on the axis of the pile, with what is written at it."""

    at: float
    label: str
    slot: str = ""
    side: int = 0
    """Of a count: on which side of its bar the line stands, -1 below, 1 above."""


@dataclass(frozen=True, eq=False)
class Heap:
    """All that is needed to draw a pile."""

    values: Floats
    """Finite; shape (k,)."""
    numbers: Floats
    """The number of each replicate, from 1."""
    pile: Pile
    region: Region | None
    whole: bool
    axis: str
    opened: int = 0
    bell: Normal | None = None
    room: tuple[float, float] | None = None
    """What the axis holds at least, so that it stays as the pile grows."""
    marks: tuple[Marked, ...] = ()
    title: str = ""
    slots: bool = True

    @property
    def step(self) -> float:
        """The distance of possible values, 0 where they lie close."""
        return 1.0 if self.whole else lattice_step(np.unique(self.values))

    def inside(self, values: Floats) -> Bools:
        if self.region is None:
            return np.zeros(values.shape, dtype=np.bool_)
        return self.region.holds(values)


def pile_frame(heap: Heap) -> Frame:
    """The pile, with what is counted of it and the values it is set against."""
    low, high = _ends(heap)
    if heap.values.size <= MOST_DOTS:
        lane = _dots(heap, low, high)
    else:
        lane, low, high = _columns(heap, low, high)
    rules = tuple(_rule(heap, mark, low, high) for mark in heap.marks)
    axis = Axis(low, high, heap.axis, whole=heap.whole)
    return Frame(axis, (Panel((lane,)),), heap.title, rules)


def _ends(heap: Heap) -> tuple[float, float]:
    """The values, what they are set against, and the room that is kept for more of them."""
    at = [float(heap.values.min()), float(heap.values.max())]
    reach = at[1] - at[0]
    if heap.room is not None:
        at += heap.room
        reach = max(reach, heap.room[1] - heap.room[0])
    for mark in heap.marks:  # no picture is stretched to what is far off
        if at[0] - reach - 1 <= mark.at <= at[1] + reach + 1:
            at.append(mark.at)
    half = heap.step / 2
    low, high = span(np.array([min(at) - half, max(at) + half]), 0.02)
    return low, high


def _dots(heap: Heap, low: float, high: float) -> Lane:
    from theoros.answer.layers.stacks import Stacks

    width = round_step((high - low) / DOT_BINS)
    step = heap.step
    if step:
        width = step * max(1, round(width / step))
    start = (math.floor(low / step) - 0.5) * step if step else math.floor(low / width) * width
    order = np.argsort(heap.numbers, kind="stable")
    values = heap.values[order]
    bins = bin_indices(values, width, start)
    numbers = heap.numbers[order].astype(np.int64)
    none = np.zeros(values.size, dtype=np.int64)
    dots = Stacks(
        np.asarray(start + (bins + 0.5) * width, dtype=np.float64),
        order_within(bins),
        width,
        numbers,
        none,
        none > 0,
        stands_for="replicate",
        tail=heap.inside(values),
        opened=heap.opened,
    )
    return Lane((dots,))


def _columns(heap: Heap, low: float, high: float) -> tuple[Lane, float, float]:
    """Bars whose edges lie where what is counted ends."""
    values, step = np.sort(heap.values), heap.step
    n = values.size
    shown, counts = np.unique(values, return_counts=True) if step else (values, None)
    chances = counts / n if counts is not None else np.full(n, 1 / n)
    observed = heap.marks[0].at if heap.marks else float(values[0])
    bars = bars_of(shown, chances, heap.inside(shown), observed, step)
    edges = np.append(bars.left, bars.right[-1])
    places = np.clip(np.searchsorted(edges, heap.values, side="right") - 1, 0, bars.left.size - 1)
    first = np.zeros(bars.left.size, dtype=np.int64)
    first[places[::-1]] = heap.numbers[::-1].astype(np.int64)  # the first of each bar stays
    here = np.flatnonzero(heap.numbers == heap.opened)
    framed = int(places[here[0]]) if here.size else -1
    many = np.bincount(places, minlength=bars.left.size)
    labels: tuple[str, ...] = ()
    if many.size <= MOST_LABELLED:
        labels = tuple(whole(int(k)) for k in many)
    bars = replace(bars, labels=labels, opens=tuple(first.tolist()), framed=framed)
    layers: list[Layer] = [bars]
    top = float(bars.heights.max()) * (1.14 if labels else 1.06)
    if heap.bell is not None and heap.bell.sigma > 0:
        grid = np.linspace(low, high, CURVE)
        heights = heap.bell.height(grid)
        layers.append(Line(grid, heights, "data", 1.6))
        top = max(top, float(heights.max()) * 1.06)
    low, high = min(low, float(edges[0])), max(high, float(edges[-1]))
    return Lane(tuple(layers), y=Axis(0.0, top)), low, high


def bar_of(heap: Heap) -> tuple[int, ...]:
    """The replicates in the same bar, or pile of dots, as the one that is opened."""
    here = np.flatnonzero(heap.numbers == heap.opened)
    if not here.size:
        return ()
    value = float(heap.values[here[0]])
    step = heap.step
    if step:
        near = np.abs(heap.values - value) < step / 2
    else:
        low, high = _ends(heap)
        width = round_step((high - low) / DOT_BINS)
        near = np.floor(heap.values / width) == math.floor(value / width)
    return tuple(np.sort(heap.numbers[near]).astype(int).tolist())


def _rule(heap: Heap, mark: Marked, low: float, high: float) -> Rule:
    """A line at a value; beside the bar of a count, so that the bar is in or out as a whole."""
    off = 0.5 * heap.step * mark.side if heap.whole else 0.0
    at = min(max(mark.at + off, low), high)
    label = mark.label
    if at != mark.at + off:
        label = f"{label} →" if mark.at > at else f"← {label}"
    if not mark.slot or not heap.slots:
        dashed = not mark.label.startswith("seen")
        return Rule(at, label, "seen" if mark.side or not dashed else "range", knob=False, dashed=dashed)
    if heap.whole:
        reads = Reads((low, high), (low - off, high - off))
        return Rule(at, label, "seen", slot=mark.slot, step=1.0, reads=reads)
    return Rule(at, label, "seen", slot=mark.slot, step=round_step((high - low) / 200))


def panels_frame(piles: Sequence[tuple[str, str, Heap]], axis: str) -> Frame:
    """Several piles above each other on one scale."""
    ends = np.array([end for _, _, heap in piles for end in _ends(heap)])
    low, high = float(ends.min()), float(ends.max())
    panels = []
    for name, told, heap in piles:
        lane, *_ = _columns(heap, *_ends(heap))
        layers = tuple(
            replace(one, labels=(), opens=(), framed=-1) if isinstance(one, Bars) else one for one in lane.layers
        )
        panels.append(Panel((Lane(layers, y=lane.y),), name, told))
    return Frame(Axis(low, high, axis), tuple(panels))


def scatter_frame(x: Floats, y: Floats, labels: tuple[str, str], opened: int) -> Frame:
    """Two statistics of the same samples against each other."""
    layer: Layer
    if x.size <= MOST_DOTS:
        numbers = np.arange(1, x.size + 1)
        layer = Points(x, y, numbers, np.zeros(x.size, dtype=np.int64), stands_for="replicate")
    else:
        layer = Shades.of(x, y, 48, 32)
    lane = Lane((layer,), y=Axis(*span(y, 0.05), labels[1]))
    return Frame(Axis(*span(x, 0.05), labels[0]), (Panel((lane,)),), show_y=True)
