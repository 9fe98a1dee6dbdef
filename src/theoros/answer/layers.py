"""How each kind of layer is placed in its strip of a picture, in pixels.

A new kind of layer is a value (beside those in `picture`) and a function here, or in a
module of its own, that `places` it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from theoros.answer.drawing import Block, Item, Marks, Region, Stroke, Words
from theoros.answer.picture import (
    Axis,
    Bars,
    Box,
    Columns,
    Line,
    Points,
    Shades,
    Stacks,
    Under,
    role_of,
    shape_of,
)
from theoros.answer.wording import counted
from theoros.heavy import np
from theoros.numeric.arrays import Bools, Floats, Ints

LARGEST_DOT, SMALLEST_DOT = 11.0, 3.0


@dataclass(frozen=True)
class Scale:
    """From values to pixels along one direction."""

    low: float
    high: float
    start: float
    end: float
    log: bool = False
    """Whether equal ratios, not equal differences, are equally long (0 < low < high)."""

    def __call__(self, value: float) -> float:
        return float(self.map(np.array([value]))[0])

    def map(self, values: Floats) -> Floats:
        with np.errstate(over="ignore", invalid="ignore", divide="ignore"):
            if self.log:
                ratio = math.log(self.high) - math.log(self.low)
                share = (np.log(np.maximum(values, 0.0)) - math.log(self.low)) / ratio
            else:
                share = (values / 2 - self.low / 2) / (self.high / 2 - self.low / 2)
        return self.start + np.clip(share, -2.0, 3.0) * (self.end - self.start)

    def beyond(self, share: float) -> tuple[float, float]:
        """The ends of a scale that is longer on both sides by a share of its length."""
        if self.log:
            low, high = math.log(self.low), math.log(self.high)
            more = (high - low) * share
            return math.exp(max(low - more, -740.0)), math.exp(min(high + more, 709.0))
        more = (self.high - self.low) * share
        return self.low - more, self.high + more

    @property
    def pixels_per_unit(self) -> float:
        """Of a scale with equal steps."""
        return abs(self.end - self.start) / (self.high - self.low)


def scale_of(axis: Axis, start: float, end: float) -> Scale:
    """The scale of an axis between two pixels."""
    return Scale(axis.low, axis.high, start, end, axis.log)


@dataclass(frozen=True)
class Dots:
    """One size for all dots of a frame, how many stand abreast in a bin, the tallest bin."""

    size: float
    abreast: int
    tallest: int


def fit_dots(tallest: int, width: float, room: float) -> Dots:
    """The largest dots with which `tallest` of them fit in a bin `width` x `room` pixels."""
    best, abreast = 0.0, 1
    width = min(width, 1e4)  # bins far wider than the picture
    if not tallest:
        return Dots(LARGEST_DOT, 1, 0)
    for k in range(1, max(1, int(width / SMALLEST_DOT)) + 1):
        size = min(width * 0.94 / k, room / math.ceil(tallest / k), LARGEST_DOT)
        if size > best + 1e-9:
            best, abreast = size, k
    return Dots(best, abreast, tallest)


@dataclass(frozen=True)
class Strip:
    """Where a layer goes: its scales, its upper and lower pixel, and what is drawn so far."""

    x: Scale
    y: Scale | None
    top: float
    bottom: float
    text: float
    dots: Dots
    roles: tuple[str, ...]
    """The colours of the keys; empty where nothing is coloured."""
    items: list[Item]
    notes: list[str]

    @property
    def coloured(self) -> bool:
        return bool(self.roles)

    def role(self, code: int, plain: str = "data") -> str:
        """The colour of the marks of a key; `plain` where nothing is coloured."""
        if not self.roles:
            return plain
        return self.roles[code] if code < len(self.roles) else role_of(code)

    @property
    def upright(self) -> Scale:
        """The vertical scale of a lane that must have one."""
        if self.y is None:
            raise ValueError("this layer needs a lane with a vertical scale")
        return self.y


_PLACES: dict[type, Callable[[Any, Strip], None]] = {}


def places(kind: type) -> Callable[[Callable[[Any, Strip], None]], Callable[[Any, Strip], None]]:
    """Registers the function that places a kind of layer."""

    def register(function: Callable[[Any, Strip], None]) -> Callable[[Any, Strip], None]:
        _PLACES[kind] = function
        return function

    return register


def place(layer: object, strip: Strip) -> None:
    """Draws a layer into its strip."""
    _PLACES[type(layer)](layer, strip)


def line(
    x0: float, y0: float, x1: float, y1: float, role: str, width: float = 1.0, dashed: bool = False
) -> Stroke:
    """A straight stroke between two points."""
    return Stroke(np.array([[x0, y0], [x1, y1]]), role, width, dashed)


@places(Stacks)
def _stacks(layer: Stacks, strip: Strip) -> None:
    tops: dict[float, float] = {}
    size, abreast = strip.dots.size, strip.dots.abreast
    if size < SMALLEST_DOT:
        _draw_columns(as_columns(layer, strip.coloured), strip, tops)
    else:
        across = np.minimum(abreast, _size_of_bin(layer))
        column = np.asarray(layer.order % abreast - (across - 1) / 2, dtype=np.float64)
        xs = strip.x.map(layer.centres) + column * size
        ys = np.asarray(strip.bottom - size * (layer.order // abreast + 0.5), dtype=np.float64)
        _mark(strip, xs, ys, layer.rows, layer.codes, layer.ringed, size * 0.92)
        for centre in {centre for centre, _ in layer.labels}:
            here = layer.centres == centre
            tops[centre] = float(ys[here].min() - size / 2) if here.any() else strip.bottom
    for centre, label in layer.labels:
        at = tops.get(centre, strip.bottom) - strip.text * 0.35
        strip.items.append(Words(strip.x(centre), at, label, strip.text, "mute", "middle"))


@places(Columns)
def _columns(layer: Columns, strip: Strip) -> None:
    _draw_columns(layer, strip, None)


def _draw_columns(layer: Columns, strip: Strip, tops: dict[float, float] | None) -> None:
    """Columns in place of dots that would be too small to tell apart, on one scale in a frame."""
    strip.notes.append("There is no room for a dot for each case: the columns show how many.")
    labels = strip.text * 1.4 if tops is not None else 0.0
    unit = (strip.bottom - strip.top - labels) / max(1, strip.dots.tallest)
    wide = layer.width * strip.x.pixels_per_unit * 0.94
    for at, centre in enumerate(layer.centres.tolist()):
        base = strip.bottom
        for code, count in enumerate(layer.counts[:, at].tolist()):
            tall = count * unit
            role = strip.role(code)
            if tall:
                left = strip.x(centre) - wide / 2
                strip.items.append(Block(left, base - tall, wide, tall, role))
            base -= tall
        if tops is not None:
            tops[centre] = base


def as_columns(layer: Stacks, coloured: bool) -> Columns:
    """The same cases counted in their bins."""
    centres, inverse = np.unique(layer.centres, return_inverse=True)
    codes = layer.codes if coloured else np.zeros_like(layer.codes)
    counts = np.zeros((int(codes.max(initial=0)) + 1, centres.size))
    np.add.at(counts, (codes, inverse), 1)
    return Columns(centres, counts, layer.width)


def _size_of_bin(layer: Stacks) -> Floats:
    """For each dot how many share its bin."""
    _, inverse, counts = np.unique(layer.centres, return_inverse=True, return_counts=True)
    return np.asarray(counts[inverse], dtype=np.float64)


@places(Points)
def _points(layer: Points, strip: Strip) -> None:
    usual = 8.0 if layer.x.size <= 400 else 6.0 if layer.x.size <= 2000 else 4.0
    size = layer.size or usual
    xs, ys = strip.x.map(layer.x), strip.upright.map(layer.y)
    _mark(strip, xs, ys, layer.rows, layer.codes, np.zeros(xs.size, dtype=np.bool_), size)


def _mark(
    strip: Strip, xs: Floats, ys: Floats, rows: Ints, codes: Ints, ringed: Bools, size: float
) -> None:
    for code in np.unique(codes).tolist():
        shape, role = (shape_of(code) if strip.coloured else "circle"), strip.role(code)
        for hollow in (False, True):
            here = (codes == code) & (ringed == hollow)
            if here.any():
                colour = "seen" if hollow else role
                strip.items.append(
                    Marks(xs[here], ys[here], rows[here], shape, colour, size, hollow)
                )


@places(Box)
def _box(box: Box, strip: Strip) -> None:
    x, items = strip.x, strip.items
    tall = min(strip.bottom - strip.top - 4, 18.0)
    # the triangle of the mean hangs below the box and needs room there
    middle = (strip.top + strip.bottom) / 2 - (3 if box.mean is not None else 0)
    for a, b in ((box.low, box.q1), (box.q3, box.high)):
        items.append(line(x(a), middle, x(b), middle, "ink"))
    left, right = x(box.q1), x(box.q3)
    fill = "" if box.hollow else "page"
    items.append(Block(left, middle - tall / 2, max(right - left, 1.0), tall, fill, "ink"))
    at = x(box.median)
    items.append(line(at, middle - tall / 2, at, middle + tall / 2, "ink", width=2.6))
    if box.mean is not None:
        spot = np.array([x(box.mean)]), np.array([middle + tall / 2 + 5])
        items.append(Marks(*spot, None, "triangle", "range", 9.0))


@places(Bars)
def _bars(bars: Bars, strip: Strip) -> None:
    base = strip.upright(0.0)
    lefts, rights = strip.x.map(bars.left), strip.x.map(bars.right)
    tops = strip.upright.map(bars.heights)
    for left, right, top, hit in zip(lefts, rights, tops, bars.counted, strict=True):
        if base - top > 0:
            wide, tall = max(float(right - left) * 0.94, 1.0), base - float(top)
            role = "tail" if hit else bars.role
            strip.items.append(Block(float(left), float(top), wide, tall, role, hatched=bool(hit)))


@places(Line)
def _curve(curve: Line, strip: Strip) -> None:
    points = np.column_stack([strip.x.map(curve.x), strip.upright.map(curve.y)])
    strip.items.append(Stroke(points, curve.role, curve.width, curve.dashed))


@places(Under)
def _under(under: Under, strip: Strip) -> None:
    xs, y = strip.x.map(under.x), strip.upright
    if xs.size:
        ends = np.array([[xs[-1], y(0.0)], [xs[0], y(0.0)]])
        outline = np.vstack([np.column_stack([xs, y.map(under.y)]), ends])
        strip.items.append(Region(outline, under.role, 1.0, under.hatched))


@places(Shades)
def _shades(shades: Shades, strip: Strip) -> None:
    xs, ys = strip.x.map(shades.x_edges), strip.upright.map(shades.y_edges)
    most = float(shades.counts.max(initial=0.0)) or 1.0
    for i, j in np.argwhere(shades.counts > 0).tolist():
        wide, tall = float(xs[i + 1] - xs[i]), float(ys[j] - ys[j + 1])
        opacity = 0.12 + 0.88 * math.sqrt(float(shades.counts[i, j]) / most)
        corner = float(xs[i]), float(ys[j + 1])
        strip.items.append(Block(*corner, wide, tall, "data", opacity=opacity))
    total = counted(int(shades.counts.sum()), "point")
    strip.notes.append(f"Shaded by how many of the {total} lie in each cell.")
