"""A picture as a value: frames, panels, lanes and the layers of marks in them.

A picture stands in data units; `theoros.answer.layout` places it at a size in pixels. A
frame is one x axis with panels above each other; a panel is a group of cases; a lane is a
strip of a panel with a vertical scale of its own (dots above, box below). Colours are
named by role, never by value, so that one picture serves light, dark and print.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from theoros.heavy import np
from theoros.numeric.arrays import Bools, Floats, Ints

SHAPES = ("circle", "square", "triangle", "diamond", "cross", "down", "star", "bar")
"""Marks for categories, in order; after the last they begin again with the next colour."""


@dataclass(frozen=True)
class Axis:
    """A scale from low to high (low < high, finite) with its label."""

    low: float
    high: float
    label: str = ""
    whole: bool = False
    """Whether only whole numbers may be ticked."""
    names: tuple[tuple[float, str], ...] = ()
    """Words in place of ticks, each at its value; for levels."""
    bare: bool = False
    """Whether there is no scale at all, as under a ring."""
    days: bool = False
    """Whether its numbers are days since 1970-01-01."""
    log: bool = False
    """Whether equal ratios are equally long; then low > 0."""
    cut: bool = False
    """Whether its ends were set, so that what lies beyond them is not drawn."""


@dataclass(frozen=True, eq=False)
class Stacks:
    """Dots, one for each row, gathered in bins and piled up in each."""

    centres: Floats
    order: Ints
    """The place of each dot in its bin, from 0; the layout decides how many stand abreast."""
    width: float
    rows: Ints
    codes: Ints
    """Which key each dot belongs to, from 0; all 0 where nothing is coloured."""
    ringed: Bools
    labels: tuple[tuple[float, str], ...] = ()
    """Text above bins, by centre."""


@dataclass(frozen=True, eq=False)
class Columns:
    """Counts in bins, for more cases than could each have a dot; colours stand on each other."""

    centres: Floats
    counts: Floats
    """Shape (keys, bins)."""
    width: float


@dataclass(frozen=True, eq=False)
class Points:
    """One mark for each row at (x, y)."""

    x: Floats
    y: Floats
    rows: Ints
    codes: Ints
    size: float = 0.0
    """Of a mark in pixels; 0 for one that suits how many there are."""


@dataclass(frozen=True, eq=False)
class Blocks:
    """Rectangles in the units of both scales: histograms, bars, mosaics."""

    left: Floats
    right: Floats
    low: Floats
    high: Floats
    codes: Ints
    labels: tuple[str, ...] = ()
    """Text above each, or within it where `inside`; empty for none.

    Of text within, what stands before a " · " is shown where there is no room for all of it.
    """
    inside: bool = False
    role: str = "data"
    """Where nothing is coloured."""


@dataclass(frozen=True, eq=False)
class Sectors:
    """Shares of a whole as sectors, clockwise from the top; with a hole, a ring."""

    shares: Floats
    codes: Ints
    labels: tuple[str, ...]
    hole: float = 0.55
    """Radius of the hole over that of the whole; 0 for a pie."""


@dataclass(frozen=True, eq=False)
class Rings:
    """Outliers on the middle of a lane."""

    x: Floats
    rows: Ints
    codes: Ints


@dataclass(frozen=True)
class StemLines:
    """A stem and leaf display: stems and leaves, the lowest first."""

    lines: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Said:
    """Words in the upper part of a lane, at values of x."""

    texts: tuple[tuple[float, str, str], ...]
    """Value, text, and the anchor: start, middle or end."""


@dataclass(frozen=True)
class Spots:
    """Single marks on the middle of a lane, such as a mean."""

    spots: tuple[tuple[float, str, str], ...]
    """Value, shape and role."""


@dataclass(frozen=True, eq=False)
class Shaded:
    """A part of a box that the eye is to rest on, from one value to another."""

    low: float
    high: float
    role: str = "tail"


@dataclass(frozen=True)
class Span:
    """A bar from one value to another, with what it measures written beside it."""

    low: float
    high: float
    label: str
    role: str = "range"


@dataclass(frozen=True)
class Box:
    """Quartiles, whiskers to the farthest values within the fences, and the mean."""

    low: float
    q1: float
    median: float
    q3: float
    high: float
    mean: float | None = None
    hollow: bool = False
    """Whether what lies behind it shows through."""


@dataclass(frozen=True, eq=False)
class Bars:
    """Bars from 0 to `heights`; those `counted` are a tail or an event."""

    left: Floats
    right: Floats
    heights: Floats
    counted: Bools
    role: str = "chance"


@dataclass(frozen=True, eq=False)
class Line:
    """A curve through points."""

    x: Floats
    y: Floats
    role: str = "range"
    width: float = 1.5
    dashed: bool = False


@dataclass(frozen=True, eq=False)
class Under:
    """The area between a curve and 0."""

    x: Floats
    y: Floats
    role: str = "tail"
    hatched: bool = True


@dataclass(frozen=True)
class Rule:
    """A vertical line at x over the whole frame, with a label and a knob on top."""

    x: float
    label: str
    role: str = "seen"
    slot: str = ""
    """The slot that dragging the knob sets; empty where it cannot be dragged."""
    knob: bool = True
    dashed: bool = False


@dataclass(frozen=True, eq=False)
class Shades:
    """Counts of points in a grid, for more points than can be told apart."""

    x_edges: Floats
    y_edges: Floats
    counts: Floats
    """Shape (bins in x, bins in y)."""


Layer = (
    Stacks
    | Columns
    | Points
    | Blocks
    | Sectors
    | Rings
    | StemLines
    | Said
    | Spots
    | Shaded
    | Span
    | Box
    | Bars
    | Line
    | Under
    | Shades
)


@dataclass(frozen=True)
class Lane:
    """A strip of a panel. `y` is None where the vertical place has no scale (dots, a box)."""

    layers: tuple[Layer, ...]
    share: float = 1.0
    y: Axis | None = None


@dataclass(frozen=True)
class Panel:
    lanes: tuple[Lane, ...]
    label: str = ""
    sublabel: str = ""


@dataclass(frozen=True)
class SquareHandle:
    """A square knob on the axis that sets a slot to its distance from `origin`."""

    slot: str
    at: float
    origin: float
    step: float
    raised: bool = False
    """Whether it stands a little off the axis, clear of other knobs, without a line across."""


@dataclass(frozen=True)
class Frame:
    x: Axis
    panels: tuple[Panel, ...]
    title: str = ""
    rules: tuple[Rule, ...] = ()
    share: float = 1.0
    show_y: bool = False
    """Whether lanes with a scale get ticks and a label at the left."""
    squares: tuple[SquareHandle, ...] = ()
    ends: tuple[str, str] = ("", "")
    """The slots that the ends of the axis set when they are dragged; empty for none."""
    rise: tuple[str, str] = ("", "")
    """The same for the ends of the vertical scale."""
    turned: bool = False
    """Whether the scale stands upright, and the panels side by side along it."""


@dataclass(frozen=True)
class Key:
    """One entry of the legend; its position is the code of its marks."""

    label: str
    hidden: bool = False
    """Whether its marks are left out for now."""
    hides: bool = False
    """Whether its marks can be left out."""
    tint: int | None = None
    """Which of the colours of categories it has; None for that of its position."""


@dataclass(frozen=True)
class Picture:
    """Frames side by side, with their legend and a text that tells what is to be seen."""

    frames: tuple[Frame, ...]
    keys: tuple[Key, ...] = ()
    alt: str = ""
    notes: tuple[str, ...] = field(default=())
    """What the picture had to leave out or draw in another way, in words."""
    title: str = ""
    breaks: bool = False
    """Whether the frames may stand below each other where there is no room beside."""

    @property
    def roles(self) -> tuple[str, ...]:
        """The colour of each key, by role."""
        return tuple(
            role_of(code if key.tint is None else key.tint) for code, key in enumerate(self.keys)
        )


def shape_of(code: int) -> str:
    return SHAPES[code % len(SHAPES)]


def role_of(code: int) -> str:
    return f"category-{code % 8}"


def log_span(values: Floats, pad: float = 0.04) -> tuple[float, float]:
    """Ends of a logarithmic axis that holds values above 0 with a little room."""
    low, high = span(np.log(values), pad)
    return math.exp(max(low, -740.0)), math.exp(min(high, 709.0))  # what doubles can hold


def span(values: Floats, pad: float = 0.04) -> tuple[float, float]:
    """Ends of an axis that holds finite values with a little room; 0 to 1 for none."""
    if values.size == 0:
        return 0.0, 1.0
    low, high = float(values.min()), float(values.max())
    if low == high:
        half = abs(low) * 0.05 or 0.5
        return low - half, high + half
    room = (high / 2 - low / 2) * 2 * pad if np.isfinite(high - low) else 0.0
    return low - room, high + room
