"""A picture as a value: frames, panels, lanes and the layers of marks in them.

A picture stands in data units; `theoros.answer.layout` places it at a size in pixels. A
frame is one x axis with panels above each other; a panel is a group of cases; a lane is a
strip of a panel with a vertical scale of its own (dots above, box below); the layers of marks
are the values of `theoros.answer.layers`. Colours are named by role, never by value, so that
one picture serves light, dark and print.

What of a picture can be dragged, clicked or typed over is part of it, each naming the slot of
the statement that it sets; whoever shows a picture need know nothing of its statement.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from theoros.answer.axis import Axis, Reads, role_of
from theoros.answer.layers.layer import Layer


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
    step: float = 0.0
    """What dragging goes by; 0 for a round step that suits the scale."""
    reads: Reads | None = None
    """How a place becomes the value of the slot, where that is not the value at the place."""


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
    share: float = 1.0
    """How high it is beside the others of its frame."""


@dataclass(frozen=True)
class SquareHandle:
    """A square knob on the axis that sets a slot to its distance from `origin`."""

    slot: str
    at: float
    origin: float
    step: float
    raised: bool = False
    """Whether it stands a little off the axis, clear of other knobs, without a line across."""
    reads: Reads | None = None
    """As of a rule, of the distance from `origin`."""


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
    transposed: bool = False
    """Whether the scale stands upright, and the panels side by side along it."""


@dataclass(frozen=True)
class Key:
    """One entry of the legend; its position is the code of its marks."""

    label: str
    hidden: bool = False
    """Whether its marks are left out for now."""
    toggles: tuple[str, Any] | None = None
    """The slot and value that leave its marks out, or bring them back; None for neither."""
    tint: int | None = None
    """Which of the colours of categories it has; None for that of its position."""
    tints: Tints | None = None
    """How it is given another colour; None where it cannot be."""


@dataclass(frozen=True)
class Tints:
    """The slot that colours are picked by, and the value for each; the first takes its own back."""

    slot: str
    own: Any
    picks: tuple[tuple[str, Any], ...]
    """Name of the colour, and the value of the slot that picks it."""


@dataclass(frozen=True)
class Picture:
    """Frames side by side, with their legend and a text that tells what is to be seen."""

    frames: tuple[Frame, ...]
    keys: tuple[Key, ...] = ()
    alt: str = ""
    notes: tuple[str, ...] = field(default=())
    """What the picture had to leave out or draw in another way, in words."""
    title: str = ""
    title_slot: str = ""
    """The slot that typing over the title sets."""
    breaks: bool = False
    """Whether the frames may stand below each other where there is no room beside."""
    slim: bool = False
    """Whether a strip of paper is enough for it, as for one bar over an axis."""
    opens: str = ""
    """The slot that a click on a mark of a replicate sets to its number; empty for none."""

    @property
    def scales(self) -> int:
        """Panels with a scale of their own that stand below each other, at most twelve."""
        held = [len(frame.panels) for frame in self.frames if frame.show_y]
        return min(12, max(held, default=0))

    @property
    def roles(self) -> tuple[str, ...]:
        """The colour of each key, by role."""
        return tuple(role_of(code if key.tint is None else key.tint) for code, key in enumerate(self.keys))
