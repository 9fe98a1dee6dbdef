"""Places a picture at a size in pixels: margins, ticks, stacks of dots, boxes, labels."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import theoros.answer.area_layers  # noqa: F401 - its layers register themselves
from theoros.answer.clipping import Window
from theoros.answer.drawing import Anchor, Drawing, Handle, Item, KeySpot, Marks, Words
from theoros.answer.layers import Dots, Scale, Strip, fit_dots, line, place, scale_of
from theoros.answer.metrics import text_width
from theoros.answer.picture import (
    Axis,
    Columns,
    Frame,
    Lane,
    Panel,
    Picture,
    Said,
    Stacks,
    shape_of,
)
from theoros.answer.ticking import fit, marks_on
from theoros.answer.turned import place_turned
from theoros.answer.wording import shortened
from theoros.heavy import np
from theoros.numeric.bins import round_step

TEXT = 12.0
GAP = 34.0
"""Between frames side by side."""
LEAST_FRAME = 17.0
"""A frame narrower than this many heights of the text has no room for its marks."""
RAISED = 1.4
"""How far off the axis a raised knob stands, in heights of the text."""
END_ROOM = 8.0
"""Beside an axis, so that a knob at its end is whole."""


def lay_out(picture: Picture, width: float, height: float, text: float = TEXT) -> Drawing:
    """The drawing of a picture at `width` x `height` pixels with text of so many pixels."""
    items: list[Item] = []
    handles: list[Handle] = []
    notes: list[str] = list(picture.notes)
    spots: list[KeySpot] = []
    top = 0.0
    if picture.title:
        title = fit(picture.title, width, text * 1.25)
        items.append(Words(0.0, text * 1.4, title, text * 1.25, "ink", bold=True))
        top = text * 2.1
    if picture.keys:
        top = _legend(picture, items, width, text, top, spots)
    shares = sum(frame.share for frame in picture.frames) or 1.0
    below = is_broken(picture, width, text)
    room = (height - top if below else width) - GAP * (len(picture.frames) - 1)
    left = 0.0
    for frame in picture.frames:
        own = room * frame.share / shares
        box = (0.0, top, width, own) if below else (left, top, own, height - top)
        FrameLayout(frame, *box, text, items, handles, notes).place(roles=picture.roles)
        if below:
            top += own + GAP
        else:
            left += own + GAP
    said = tuple(dict.fromkeys(notes))
    return Drawing(width, height, tuple(items), tuple(handles), said, tuple(spots))


def is_broken(picture: Picture, width: float, text: float = TEXT) -> bool:
    """Whether the frames of a picture stand below each other at this width."""
    count = len(picture.frames)
    if count < 2 or not picture.breaks:
        return False
    return (width - GAP * (count - 1)) / count < LEAST_FRAME * text


def _legend(
    picture: Picture,
    items: list[Item],
    width: float,
    text: float,
    top: float,
    spots: list[KeySpot],
) -> float:
    x, y = 4.0, top + text
    for code, key in enumerate(picture.keys):
        label = shortened(key.label, 28)
        wide = text_width(label, text) + text + 22
        if x + wide > width and x > 4:
            x, y = 4.0, y + text * 1.6
        spot = np.array([x + 4]), np.array([y - text * 0.35])
        role = "mute" if key.hidden else picture.roles[code]
        items.append(Marks(*spot, None, shape_of(code), role, text * 0.7, key.hidden))
        items.append(Words(x + text, y, label, text, role))
        spots.append(KeySpot(key.label, x - 4, y - text * 1.1, wide - 14, text * 1.5))
        x += wide
    return y + text


@dataclass
class FrameLayout:
    """The working state while one frame is placed."""

    frame: Frame
    left: float
    top: float
    width: float
    height: float
    text: float
    items: list[Item]
    handles: list[Handle]
    notes: list[str]
    ticks: float = 0.0
    """Room that the labels of a vertical scale take, beside those of the groups."""

    def place(self, *, roles: tuple[str, ...]) -> None:
        frame, text = self.frame, self.text
        top = self.top
        if frame.title:
            title = fit(frame.title, self.width, text)
            self.items.append(Words(self.left, top + text, title, text, "mute"))
            top += text * 1.9
        elif frame.show_y:
            top += text * 1.4  # room for what the vertical scale is called
        if frame.turned:
            named = any(panel.label or panel.sublabel for panel in frame.panels)
            foot = text * (3.1 if named else 0.8)
            bottom = self.top + self.height - foot
            place_turned(self, top + text * 0.6, bottom, roles=roles)
            return
        if frame.rules:
            top += text * 2.0  # room for the knobs and what is written beside them
        foot = text * 1.9 + (text * 1.5 if frame.x.label else 0)
        bottom = self.top + self.height - foot
        heights = self._panel_heights(top, bottom)
        inner_left = self.left + max(self._margin(heights), END_ROOM)
        inner_right = self.left + self.width - END_ROOM
        inner_left, inner_right = self._room_for_ends(inner_left, inner_right)
        x = scale_of(frame.x, inner_left, max(inner_right, inner_left + 20))
        self._x_axis(x, top, bottom)
        dots = self.dots(x, heights)
        y = top
        for panel, high in zip(frame.panels, heights, strict=True):
            self._panel(panel, x, y, high, dots, roles)
            y += high
        self._rules(x, top, bottom)

    def _margin(self, heights: list[float]) -> float:
        """Room at the left for group labels or for the labels of a vertical scale."""
        labels = [t for panel in self.frame.panels for t in (panel.label, panel.sublabel) if t]
        wide = 0.0
        if labels:
            most = max(self.width * 0.25, min(100.0, self.width * 0.45))
            wide = min(max(text_width(t, self.text) for t in labels) + 14, most)
        self.ticks = 0.0
        if self.frame.show_y:
            for panel, high in zip(self.frame.panels, heights, strict=True):
                for lane, y0, y1 in self.lane_spans(panel, 0.0, high):
                    if lane.y:
                        marks = () if lane.y.bare else self._upright_marks(lane.y, y1 - y0)
                        widest = max((text_width(m, self.text) for _, m in marks), default=0)
                        self.ticks = max(self.ticks, widest + 12)
        return wide + self.ticks

    def _room_for_ends(self, left: float, right: float) -> tuple[float, float]:
        """The ends of the scale across, drawn in where a tick's label would be cut."""
        axis = self.frame.x
        if axis.bare or axis.names or right <= left:
            return left, right
        x = scale_of(axis, left, right)
        marks = marks_on(axis, self._about(x))
        for value, label in marks[:1]:
            left += max(0.0, self.left + text_width(label, self.text) / 2 - x(value))
        for value, label in marks[-1:]:
            end = x(value) + text_width(label, self.text) / 2
            right -= max(0.0, end - self.left - self.width)
        return left, right

    def _about(self, x: Scale) -> int:
        """How many ticks there is room for."""
        return max(2, int((x.end - x.start) / (self.text * 5.5)))

    def _panel_heights(self, top: float, bottom: float) -> list[float]:
        panels = self.frame.panels
        return [(bottom - top) / max(1, len(panels))] * len(panels)

    def lane_spans(self, panel: Panel, y: float, high: float) -> list[tuple[Lane, float, float]]:
        shares = sum(lane.share for lane in panel.lanes)
        room = high - 10  # air between panels
        spans, at = [], y + 5
        for lane in panel.lanes:
            tall = room * lane.share / shares
            spans.append((lane, at, at + tall))
            at += tall
        return spans

    def dots(self, x: Scale, heights: list[float], label_room: float = 1.4) -> Dots:
        """One size for the dots of all panels: the largest that lets the tallest stack fit."""
        tallest, width, room = 0, 0.0, math.inf
        for panel, high in zip(self.frame.panels, heights, strict=True):
            for lane, y0, y1 in self.lane_spans(panel, 0, high):
                for layer in lane.layers:
                    if isinstance(layer, Stacks) and layer.order.size:
                        tallest = max(tallest, int(layer.order.max()) + 1)
                        width = layer.width * x.pixels_per_unit
                        labels = self.text * label_room if layer.labels else 0.0
                        if any(isinstance(other, Said) for other in lane.layers):
                            labels += self.text * 1.4
                        room = min(room, y1 - y0 - labels)
        highest = max(
            (
                float(layer.counts.sum(axis=0).max(initial=0))
                for panel in self.frame.panels
                for lane in panel.lanes
                for layer in lane.layers
                if isinstance(layer, Columns)
            ),
            default=0.0,
        )
        if highest:  # columns count on one scale, and so would dots beside them
            return Dots(0.0, 1, max(tallest, int(highest)))
        return fit_dots(tallest, width, room)

    def _x_axis(self, x: Scale, top: float, bottom: float) -> None:
        axis, text = self.frame.x, self.text
        if axis.bare:
            self._axis_label(x, bottom)
            return
        if axis.names:
            self._names(axis, x, bottom)
        else:
            for value, label in marks_on(axis, self._about(x)):
                at = x(value)
                self.items.append(line(at, top, at, bottom, "rule"))
                self.items.append(Words(at, bottom + text * 1.5, label, text, "mute", "middle"))
        self.items.append(line(x.start, bottom, x.end, bottom, "mute"))
        self._axis_label(x, bottom)
        for square in self.frame.squares:
            at, ends = x(square.at), (x.low, x.high, x.start, x.end)
            y = bottom - text * RAISED if square.raised else bottom
            above = bottom if square.raised else top
            self.items.append(line(at, min(y, above), at, bottom, "range", dashed=True))
            self.handles.append(
                Handle(square.slot, at, y, "square", "range", *ends, square.origin, square.step)
            )
        self._end_handles(x, bottom)

    def _axis_label(self, x: Scale, bottom: float) -> None:
        if self.frame.x.label:
            label = fit(self.frame.x.label, self.width - 16, self.text)
            self.items.append(
                Words(x.end, bottom + self.text * 3.0, label, self.text, "mute", "end")
            )

    def _names(self, axis: Axis, x: Scale, bottom: float) -> None:
        """Names of levels in place of ticks, each cut to its room; every second if too many."""
        spots = [x(value) for value, _ in axis.names]
        edges = [2 * x.start - spots[0], *spots, 2 * x.end - spots[-1]]
        rooms = [
            min(b - a, c - b) - 4 for a, b, c in zip(edges, edges[1:], edges[2:], strict=False)
        ]
        every = max(1, math.ceil(self.text * 2.2 / max(sorted(rooms)[len(rooms) // 2], 1.0)))
        for at, (value, name) in enumerate(axis.names):
            if at % every == 0:
                label = fit(name, max(rooms[at] * every, self.text * 2), self.text)
                self.items.append(
                    Words(x(value), bottom + self.text * 1.5, label, self.text, "ink", "middle")
                )
        if every > 1:
            self.notes.append("Not every level has room for its name.")

    def _end_handles(self, x: Scale, bottom: float) -> None:
        for slot, at in zip(self.frame.ends, (x.start, x.end), strict=True):
            if slot:
                self.handles.append(end_handle(slot, x, at, bottom))

    def _panel(
        self,
        panel: Panel,
        x: Scale,
        y: float,
        high: float,
        dots: Dots,
        roles: tuple[str, ...],
    ) -> None:
        text = self.text
        room = x.start - self.left - 12 - self.ticks
        if panel.label:
            middle = y + high * 0.55
            label = fit(panel.label, room, text)
            at = x.start - 12 - self.ticks
            self.items.append(Words(at, middle, label, text, "ink", "end"))
            if panel.sublabel:
                sub = fit(panel.sublabel, room, text)
                self.items.append(Words(at, middle + text * 1.35, sub, text, "mute", "end"))
        for lane, y0, y1 in self.lane_spans(panel, y, high):
            scale = scale_of(lane.y, y1, y0) if lane.y else None
            if scale and lane.y and self.frame.show_y:
                self._y_axis(lane.y, scale, x, named=panel is self.frame.panels[0])
            drawn: list[Item] = []
            strip = Strip(x, scale, y0, y1, text, dots, roles, drawn, self.notes)
            for layer in lane.layers:
                place(layer, strip)
            self.items += self.within(drawn, lane, strip)

    def within(self, drawn: list[Item], lane: Lane, strip: Strip) -> Iterable[Item]:
        """What lies within axes that were set narrower than what they show."""
        upright = lane.y is not None and lane.y.cut
        if not (upright or self.frame.x.cut):
            return drawn
        air = 4.0 if self.frame.x.cut else math.inf  # a mark on an end stays
        room = 4.0 if upright else math.inf
        window = Window(
            strip.x.start - air, strip.top - room, strip.x.end + air, strip.bottom + room
        )
        return window.clipped(drawn)

    def _y_axis(self, axis: Axis, y: Scale, x: Scale, *, named: bool) -> None:
        if axis.bare:
            return
        for value, label in self._upright_marks(axis, abs(y.end - y.start)):
            at = y(float(value))
            self.items.append(line(x.start, at, x.end, at, "rule"))
            self.items.append(
                Words(x.start - 8, at + self.text * 0.35, label, self.text, "mute", "end")
            )
        if named:
            for slot, at in zip(self.frame.rise, (y.start, y.end), strict=True):
                if slot:
                    # a little inside, clear of the knob at the end of the other axis
                    self.handles.append(end_handle(slot, y, x.start + 16, at, upright=True))
        if axis.label and named:
            label = fit(axis.label, self.width, self.text)
            self.items.append(Words(x.start, y.end - self.text * 0.8, label, self.text, "mute"))

    def _upright_marks(self, axis: Axis, high: float) -> list[tuple[float, str]]:
        """The ticks of a scale that goes up so many pixels."""
        return marks_on(axis, max(2, int(high / (self.text * 3.5))))

    def _rules(self, x: Scale, top: float, bottom: float) -> None:
        for rule in self.frame.rules:
            at = min(max(x(rule.x), x.start), x.end)
            knob = top - self.text * 0.9
            self.items.append(
                line(at, knob if rule.knob else top, at, bottom, rule.role, 1.8, rule.dashed)
            )
            if rule.knob:
                spot = np.array([at]), np.array([knob])
                self.items.append(Marks(*spot, None, "circle", rule.role, 12.0))
            if rule.slot:
                ends = x.low, x.high, x.start, x.end
                self.handles.append(
                    Handle(rule.slot, at, knob, "round", rule.role, *ends, log=x.log)
                )
            wide = text_width(rule.label, self.text)
            right = at + 10 + wide <= self.left + self.width
            anchor: Anchor = "start" if right else "end"
            y = knob + self.text * 0.35
            self.items.append(
                Words(at + (10 if right else -10), y, rule.label, self.text, "ink", anchor)
            )


def end_handle(slot: str, scale: Scale, x: float, y: float, *, upright: bool = False) -> Handle:
    """The knob at an end of a scale, which can be dragged half its length beyond that end."""
    room = (scale.end - scale.start) / 2
    span = (*scale.beyond(0.5), scale.start - room, scale.end + room)
    step = 0.0 if scale.log else round_step((scale.high - scale.low) / 100)
    return Handle(
        slot, x, y, "square", "mute", *span, 0.0, step, upright=upright, log=scale.log
    )  # fmt: skip
