"""Pictures of where cases come from, and of one sample."""

from __future__ import annotations

import math

from theoros.answer.axis import Axis, span
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.spots import Spots
from theoros.answer.layers.stacks import Stacks
from theoros.answer.layers.tiles import Tiles
from theoros.answer.picture import Frame, Lane, Panel, Rule
from theoros.answer.wording import whole
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats
from theoros.numeric.bins import bin_start, default_width
from theoros.numeric.chance.populations import StandardShape
from theoros.numeric.distributions.distribution import Distribution
from theoros.verbs.data.pictures import MOST_DOTS, counted_columns, fine_width, stacks

MOST_TILES = 400
CURVE = 161
BARE = Axis(0.0, 1.0, bare=True)


OUTER = (0.001, 0.999)
"""Between these shares of its values a law is drawn."""
MOST_BARS = 120


def density_frame(shape: StandardShape, mean: float, sd: float, label: str) -> Frame:
    """A population as a curve."""
    z = np.linspace(*shape.reach, CURVE)
    heights, at = shape.height(z) / sd, mean + sd * z
    top = Axis(0.0, float(heights.max()) * 1.08)
    layers: tuple[Layer, ...] = (
        Under(at, heights, "chance", hatched=False, opacity=0.25),
        Line(at, heights, "chance", 2.0),
    )
    rule = Rule(mean, "μ", "mute", knob=False, dashed=True)
    axis = Axis(float(at[0]), float(at[-1]), label)
    return Frame(axis, (Panel((Lane(layers, y=top),)),), "The population", (rule,))


def law_frame(law: Distribution, label: str) -> Frame:
    """A population with a law: its density, or a bar for each value."""
    low, high = (float(law.quantile(p)) for p in OUTER)
    mean = law.mean if low <= law.mean <= high else law.centre
    rule = Rule(float(mean), "μ", "mute", knob=False, dashed=True)
    layers: tuple[Layer, ...]
    if law.discrete:
        step = max(1, math.ceil((high - low) / MOST_BARS))
        at = np.arange(low, high + 1, step)
        heights = np.asarray(law.height(at))
        none = np.zeros(at.size, dtype=np.int64)
        layers = (Blocks(at - 0.4 * step, at + 0.4 * step, np.zeros(at.size), heights, none, role="chance"),)
        low, high = float(at[0]) - step, float(at[-1]) + step
    else:
        at = np.linspace(low, high, CURVE)
        heights = np.asarray(law.height(at))
        heights = np.where(np.isfinite(heights), heights, 0.0)
        layers = (Under(at, heights, "chance", hatched=False, opacity=0.25), Line(at, heights, "chance", 2.0))
    top = Axis(0.0, float(heights.max()) * 1.08)
    return Frame(Axis(low, high, label), (Panel((Lane(layers, y=top),)),), "The population", (rule,))


def values_frame(values: Floats, label: str, title: str) -> Frame:
    """A population of values as a histogram."""
    width = default_width(values)
    columns = counted_columns(values, np.zeros(values.size, dtype=np.int64), width, bin_start(values, width))
    counts = columns.counts.sum(axis=0)
    half = columns.width / 2
    bars = Blocks(
        columns.centres - half,
        columns.centres + half,
        np.zeros(counts.size),
        counts,
        np.zeros(counts.size, dtype=np.int64),
        role="chance",
    )
    low, high = span(np.append(columns.centres - half, columns.centres + half), 0.02)
    top = Axis(0.0, float(counts.max()) * 1.08)
    rule = Rule(float(values.mean()), "μ", "mute", knob=False, dashed=True)
    return Frame(Axis(low, high, label), (Panel((Lane((bars,), y=top),)),), title, (rule,))


def tiles_frame(counted: Bools, names: tuple[str, ...], title: str) -> Frame:
    """Cases side by side; of many only their share, as one bar."""
    n, hits = int(counted.size), int(counted.sum())
    if n <= MOST_TILES:
        return Frame(BARE, (Panel((Lane((Tiles(counted, names),)),)),), title)
    ends = np.array([0.0, hits / n, 1.0])
    bar = Blocks(
        ends[:-1],
        ends[1:],
        np.full(2, 0.25),
        np.full(2, 0.75),
        np.arange(2),
        (whole(hits), whole(n - hits)),
        inside=True,
    )
    return Frame(Axis(0.0, 1.0, f"share of {whole(n)}"), (Panel((Lane((bar,), y=BARE),)),), title)


def numbers_frame(values: Floats, title: str, axis: Axis, mark: float | None) -> Frame:
    """The values of one sample as dots, with its statistic marked on the same scale."""
    width = fine_width(np.append(values, [axis.low, axis.high]))
    codes = np.zeros(values.size, dtype=np.int64)
    first = bin_start(values, width)
    layer: Layer
    if values.size > MOST_DOTS:
        layer = counted_columns(values, codes, width, first)
    else:
        made = stacks(values, np.arange(values.size), codes, codes > 0, width, first)
        layer = Stacks(made.centres, made.order, made.width, made.rows, made.codes, made.ringed, stands_for="case")
    low = min(axis.low, float(values.min()) - width)
    high = max(axis.high, float(values.max()) + width)
    lanes = [Lane((layer,))]
    if mark is not None and low <= mark <= high:
        lanes.append(Lane((Spots(((mark, "triangle", "range"),)),), share=0.22))
    return Frame(Axis(low, high, axis.label), (Panel(tuple(lanes)),), title)


def walk_frame(places: Floats, title: str) -> Frame:
    """The way of one walk."""
    steps = np.arange(places.size + 1, dtype=np.float64)
    path = Line(steps, np.append(0.0, places), "data", 1.6)
    level = Line(np.array([0.0, float(places.size)]), np.zeros(2), "mute", 1.0)
    low, high = span(np.append(places, 0.0), 0.08)
    lane = Lane((level, path), y=Axis(low, high, "place", whole=True))
    axis = Axis(0.0, float(max(places.size, 1)), "step", whole=True)
    return Frame(axis, (Panel((lane,)),), title, show_y=True)


def running_frame(running: Floats, true: float | None, label: str, title: str) -> Frame:
    """A statistic after one case, after two, and so on: it settles as cases come in."""
    n = running.size
    at = np.arange(1, n + 1, dtype=np.float64)
    if n > 2000:  # as many as can be seen
        keep = np.unique(np.geomspace(1, n, 2000).astype(np.int64)) - 1
        at, running = at[keep], running[keep]
    layers: list[Layer] = [Line(at, running, "data", 1.6)]
    observed = running if true is None else np.append(running, true)
    if true is not None:
        layers.insert(0, Line(np.array([1.0, float(n)]), np.full(2, true), "chance", 2.0))
    lane = Lane(tuple(layers), y=Axis(*span(observed, 0.06), label))
    axis = Axis(1.0, float(max(n, 2)), "cases drawn so far", whole=True)
    return Frame(axis, (Panel((lane,)),), title, show_y=True)
