"""A picture as a value: frames, panels, lanes and the layers of marks in them.

A picture stands in data units; `theoros.answer.layout` places it at a size in pixels. A
frame is one x axis with panels above each other; a panel is a group of cases; a lane is a
strip of a panel with a vertical scale of its own (dots above, box below). Colours are
named by role, never by value, so that one picture serves light, dark and print.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from theoros.heavy import np
from theoros.numeric.arrays import Bools, Floats, Ints

SHAPES = ("circle", "square", "triangle", "diamond", "cross", "down", "star", "bar")
"""Marks for categories, in order; after the last they begin again with the next colour."""


@dataclass(frozen=True)
class Axis:
    """A straight scale from low to high (low < high, finite) with its label."""

    low: float
    high: float
    label: str = ""
    whole: bool = False
    """Whether only whole numbers may be ticked."""


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


@dataclass(frozen=True)
class Box:
    """Quartiles, whiskers to the farthest values within the fences, and the mean."""

    low: float
    q1: float
    median: float
    q3: float
    high: float
    mean: float | None = None


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


Layer = Stacks | Columns | Points | Box | Bars | Line | Under | Shades


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


@dataclass(frozen=True)
class Frame:
    x: Axis
    panels: tuple[Panel, ...]
    title: str = ""
    rules: tuple[Rule, ...] = ()
    share: float = 1.0
    show_y: bool = False
    """Whether lanes with a scale get ticks and a label at the left."""
    square: SquareHandle | None = None


@dataclass(frozen=True)
class Key:
    """One entry of the legend; its position is the code of its marks."""

    label: str


@dataclass(frozen=True)
class Picture:
    """Frames side by side, with their legend and a text that tells what is to be seen."""

    frames: tuple[Frame, ...]
    keys: tuple[Key, ...] = ()
    alt: str = ""
    notes: tuple[str, ...] = field(default=())
    """What the picture had to leave out or draw in another way, in words."""


def shape_of(code: int) -> str:
    return SHAPES[code % len(SHAPES)]


def role_of(code: int) -> str:
    return f"category-{code % 8}"


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
