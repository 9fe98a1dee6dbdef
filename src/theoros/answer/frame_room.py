"""How much room each part of a frame takes, before anything is drawn."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from theoros.answer.axis import Axis
from theoros.answer.drawing import Handle, Item, KeySpot, OpenSpot, WordSpot, ZoneSpot
from theoros.answer.layers.layer import AxisScale, Dots, fit_dots, scale_of
from theoros.answer.metrics import text_width
from theoros.answer.picture import Frame, Lane, Panel
from theoros.answer.ticking import marks_on
from theoros.answer.turn import Turn
from theoros.lazy_imports import np

AIR = 5.0
"""Above and below what stands in a panel."""
END_ROOM = 8.0
"""Beside an axis, so that a knob at its end is whole."""
SECOND = 1.5
"""Room below an axis for a second scale, in heights of the text."""
ZONE = 2.4
"""The least depth of a strip that a column can be dropped on, in heights of the text."""
BESIDE = 4.0
"""Room beside stacks of an upright frame for what is written at them, in heights of the text."""


@dataclass
class PictureSheet:
    """What has been placed of a picture so far."""

    width: float
    height: float
    text: float
    notes: list[str]
    items: list[Item] = field(default_factory=list)
    handles: list[Handle] = field(default_factory=list)
    keys: list[KeySpot] = field(default_factory=list)
    words: list[WordSpot] = field(default_factory=list)
    opens: list[OpenSpot] = field(default_factory=list)
    zones: list[ZoneSpot] = field(default_factory=list)


class FrameRoom:
    """Where margins, panels, lanes and dots of a frame lie."""

    def __init__(
        self,
        frame: Frame,
        left: float,
        top: float,
        width: float,
        height: float,
        sheet: PictureSheet,
        roles: tuple[str, ...],
    ) -> None:
        self.frame, self.sheet, self.roles = frame, sheet, roles
        self.left, self.top, self.width, self.height = left, top, width, height
        self.text = sheet.text
        self.ticks = 0.0  # room that the labels of vertical scales take, beside those of groups
        self.turn: Turn | None = None
        self.head = self.foot = 0.0
        """Where the first panel begins and the last ends, across."""
        self.said: list[tuple[float, float, int]] = []
        """Where labels of rules stand: from, to, and in which row."""

    def _lying_room(self, top: float) -> AxisScale:
        """Where the scale lies from left to right, with room for all that stands around it."""
        frame, text = self.frame, self.text
        if frame.rules:
            top += text * 2.0  # room for the knobs and what is written beside them
        self.head = top
        self.foot = self.top + self.height - text * 1.9 - (text * 1.5 if frame.x.label else 0)
        self.foot -= text * SECOND if frame.x.second else 0
        left = self.left + max(self._margin(), END_ROOM)
        left, right = self._room_for_ends(left, self.left + self.width - END_ROOM)
        return scale_of(frame.x, left, max(right, left + 20))

    def _transposed_room(self, top: float) -> AxisScale:
        """The same for a scale that stands upright, in the pixels it has while it lies."""
        frame, text = self.frame, self.text
        top += text * (2.2 if frame.x.label else 0.6)
        named = any(panel.label or panel.sublabel for panel in frame.panels)
        bottom = self.top + self.height - text * (3.1 if named else 0.8)
        marks = marks_on(frame.x, self._about(bottom - top, 3.2))
        left = self.left + max((text_width(label, text) for _, label in marks), default=0.0) + 14
        right = self.left + self.width - END_ROOM
        if frame.rules:
            right -= max(text_width(rule.label, text) for rule in frame.rules) + 22
        self.head, self.foot = 0.0, max(right - left, 20.0)
        self.turn = Turn(left, self.foot, bottom)
        return scale_of(frame.x, 0.0, max(bottom - top, 20.0))

    def _margin(self) -> float:
        """Room at the left for group labels and for the labels of a vertical scale."""
        labels = [t for panel in self.frame.panels for t in (panel.label, panel.sublabel) if t]
        wide = 0.0
        if labels:
            most = max(self.width * 0.25, min(100.0, self.width * 0.45))
            wide = min(max(text_width(t, self.text) for t in labels) + 14, most)
        self.ticks = 0.0
        if self.frame.show_y:
            for panel, high in zip(self.frame.panels, self._heights(), strict=True):
                for lane, y0, y1 in self._lanes(panel, 0.0, high):
                    if lane.y and not lane.y.bare:
                        marks = self._upright_marks(lane.y, y1 - y0)
                        widest = max((text_width(m, self.text) for _, m in marks), default=0)
                        self.ticks = max(self.ticks, min(widest, self.width * 0.3) + 12)
                    elif lane.y:
                        self.ticks = max(self.ticks, 12)
        return wide + self.ticks

    def _upright_marks(self, axis: Axis, high: float) -> list[tuple[float, str]]:
        """The ticks of a scale that goes up so many pixels."""
        return marks_on(axis, self._about(high, 3.5))

    def _room_for_ends(self, left: float, right: float) -> tuple[float, float]:
        """The ends of the scale, drawn in where a tick's label would be cut."""
        axis = self.frame.x
        if axis.bare or axis.names or right <= left:
            return left, right
        x = scale_of(axis, left, right)
        marks = marks_on(axis, self._about(right - left, 5.5))
        for value, label in marks[:1]:
            left += max(0.0, self.left + text_width(label, self.text) / 2 - x(value))
        for value, label in marks[-1:]:
            end = x(value) + text_width(label, self.text) / 2
            right -= max(0.0, end - self.left - self.width)
        return left, right

    def _about(self, length: float, each: float) -> int:
        """How many ticks there is room for, at so many heights of the text each."""
        return max(2, int(length / (self.text * each)))

    def _heights(self) -> list[float]:
        """How deep each panel is, across."""
        shares = [panel.share for panel in self.frame.panels]
        whole = sum(shares) or 1.0
        return [(self.foot - self.head) * share / whole for share in shares]

    def _starts(self, heights: list[float]) -> list[float]:
        """Where each panel begins, across; turned, the first stands at the left, by the foot."""
        ends = [float(end) for end in np.cumsum(heights)]
        if self.turn:
            return [self.foot - end for end in ends]
        return [self.head + end - high for end, high in zip(ends, heights, strict=True)]

    def _lanes(self, panel: Panel, at: float, high: float) -> list[tuple[Lane, float, float]]:
        shares = sum(lane.share for lane in panel.lanes)
        # air between panels; what begins at 0 stands on the axis line itself
        scale = panel.lanes[-1].y if panel.lanes else None
        grounded = scale is not None and scale.low == 0 and abs(at + high - self.foot) < 0.5
        room = high - (AIR if grounded else 2 * AIR)
        spans, at = [], at + AIR
        for lane in panel.lanes:
            tall = room * lane.share / shares
            spans.append((lane, at, at + tall))
            at += tall
        return spans

    def _dots(self, x: AxisScale, heights: list[float]) -> Dots:
        """One size for the dots of all panels: the largest that lets the tallest stack fit."""
        tallest, width, room, counted = 0, 0.0, math.inf, 0
        label_room = self.text * (BESIDE if self.turn else 1.4)
        for panel, high in zip(self.frame.panels, heights, strict=True):
            for lane, y0, y1 in self._lanes(panel, 0, high):
                above = any(layer.speaks_above for layer in lane.layers)
                for piles in (layer.piles for layer in lane.layers):
                    if piles is None:
                        continue
                    if piles.counted:
                        counted = max(counted, piles.tallest)
                        continue
                    tallest = max(tallest, piles.tallest)
                    width = piles.width * x.pixels_per_unit
                    labels = label_room if piles.labelled else 0.0
                    room = min(room, y1 - y0 - labels - (self.text * 1.4 if above else 0.0))
        if counted:  # columns count on one scale, and so would dots beside them
            return Dots(0.0, 1, max(tallest, counted))
        return fit_dots(tallest, width, room)

    def _zones(self) -> None:
        """Where a column can be dropped: the strip of the axis, and that of what panels are called."""
        least, bottom = self.text * ZONE, self.top + self.height
        if self.turn:
            beside, foot = max(self.turn.left - self.left, least), min(self.turn.bottom, bottom - least)
            strips = (("axis", self.left, self.top, beside, foot - self.top + self.text * 0.6),
                      ("panels", self.left, foot, self.width, bottom - foot))  # fmt: skip
        else:
            beside, foot = max(self._margin(), least), min(self.foot, bottom - least)
            strips = (("axis", self.left, foot, self.width, bottom - foot),
                      ("panels", self.left, self.head, beside, foot - self.head))  # fmt: skip
        self.sheet.zones += [ZoneSpot(zone, *box) for zone, *box in strips]  # type: ignore[arg-type]
