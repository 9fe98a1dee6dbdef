"""Places a picture at a size in pixels: margins, ticks, panels, knobs, labels.

A frame is worked out lying: its scale runs along, its panels lie across it, one behind the
other, and its foot is where the scale is ticked. An upright frame is that one turned (see
`turn`): along goes up, across goes to the left. There is no second code for it; only where
words stand differs, since words stay level.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from theoros.answer.axis import Axis, shape_of
from theoros.answer.clipping import Window
from theoros.answer.drawing import Anchor, Drawing, Handle, Item, KeySpot, Marks, OpenSpot, Words, WordSpot, ZoneSpot
from theoros.answer.layers.layer import Dots, Scale, Strip, fit_dots, line, scale_of
from theoros.answer.metrics import text_width
from theoros.answer.picture import Frame, Lane, Panel, Picture, Rule, SquareHandle
from theoros.answer.ticking import fit, marks_on
from theoros.answer.turn import Turn
from theoros.answer.wording import shortened
from theoros.lazy_imports import np
from theoros.numeric.bins import round_step

AIR = 5.0
"""Above and below what stands in a panel."""
TEXT = 12.0
GAP = 34.0
"""Between frames side by side."""
LEAST_FRAME = 17.0
"""A frame narrower than this many heights of the text has no room for its marks."""
RAISED = 1.4
"""How far off the axis a raised knob stands, in heights of the text."""
END_ROOM = 8.0
"""Beside an axis, so that a knob at its end is whole."""
SECOND = 1.5
"""Room below an axis for a second scale, in heights of the text."""
ZONE = 2.4
"""The least depth of a strip that a column can be dropped on, in heights of the text."""
BESIDE = 4.0
"""Room beside stacks of an upright frame for what is written at them, in heights of the text."""


def lay_out(picture: Picture, width: float, height: float, text: float = TEXT) -> Drawing:
    """The drawing of a picture at `width` x `height` pixels with text of so many pixels."""
    sheet = _Sheet(width, height, text, list(picture.notes))
    top = 0.0
    if picture.title:
        title = fit(picture.title, width, text * 1.25)
        sheet.items.append(Words(0.0, text * 1.4, title, text * 1.25, "ink", bold=True))
        if picture.title_slot:
            sheet.words.append(WordSpot(picture.title, 0.0, 0.0, width, text * 2.1, slot=picture.title_slot))
        top = text * 2.1
    begin = top
    if picture.keys:
        top = _legend(picture, sheet, top)
    sheet.zones.append(ZoneSpot("key", 0.0, begin, width, max(top - begin, text * ZONE, 0.1 * height)))
    shares = sum(frame.share for frame in picture.frames) or 1.0
    below = is_broken(picture, width, text)
    room = (height - top if below else width) - GAP * (len(picture.frames) - 1)
    left = 0.0
    for frame in picture.frames:
        own = room * frame.share / shares
        box = (0.0, top, width, own) if below else (left, top, own, height - top)
        FrameLayout(frame, *box, sheet, picture.roles).place()
        if below:
            top += own + GAP
        else:
            left += own + GAP
    return Drawing(
        width,
        height,
        tuple(sheet.items),
        tuple(sheet.handles),
        tuple(dict.fromkeys(sheet.notes)),
        tuple(sheet.keys),
        tuple(sheet.words),
        tuple(sheet.opens),
        tuple(sheet.zones),
    )


def is_broken(picture: Picture, width: float, text: float = TEXT) -> bool:
    """Whether the frames of a picture stand below each other at this width."""
    count = len(picture.frames)
    if count < 2 or not picture.breaks:
        return False
    return (width - GAP * (count - 1)) / count < LEAST_FRAME * text


@dataclass
class _Sheet:
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


def _legend(picture: Picture, sheet: _Sheet, top: float) -> float:
    text = sheet.text
    x, y = 4.0, top + text
    for code, key in enumerate(picture.keys):
        label = shortened(key.label, 28)
        wide = text_width(label, text) + text + 22
        if x + wide > sheet.width and x > 4:
            x, y = 4.0, y + text * 1.6
        spot = np.array([x + 4]), np.array([y - text * 0.35])
        role = "mute" if key.hidden else picture.roles[code]
        sheet.items.append(Marks(*spot, None, shape_of(code), role, text * 0.7, key.hidden))
        sheet.items.append(Words(x + text, y, label, text, role))
        sheet.keys.append(KeySpot(key.label, x - 4, y - text * 1.1, wide - 14, text * 1.5))
        x += wide
    return y + text


class FrameLayout:
    """The working state while one frame is placed, lying; see above."""

    def __init__(
        self, frame: Frame, left: float, top: float, width: float, height: float, sheet: _Sheet, roles: tuple[str, ...]
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

    def place(self) -> None:
        frame, text = self.frame, self.text
        top = self.top
        if frame.title:
            title = fit(frame.title, self.width, text)
            self.sheet.items.append(Words(self.left, top + text, title, text, "mute"))
            top += text * 1.9
        if frame.show_y and not frame.transposed and not (frame.title and frame.rules):
            top += text * 1.4  # room for what the vertical scale is called
        x = self._transposed_room(top) if frame.transposed else self._lying_room(top)
        heights = self._heights()
        self._zones()
        self._axis(x)
        dots = self._dots(x, heights)
        for panel, at, high in zip(frame.panels, self._starts(heights), heights, strict=True):
            self._panel(panel, x, at, high, dots)
        self._rules(x)

    # room

    def _lying_room(self, top: float) -> Scale:
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

    def _transposed_room(self, top: float) -> Scale:
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

    def _dots(self, x: Scale, heights: list[float]) -> Dots:
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

    # placing

    def _draw(self, *items: Item) -> None:
        """Strokes and marks, worked out lying."""
        self.sheet.items += self.turn.items(items) if self.turn else items

    def _hang(self, handle: Handle) -> None:
        self.sheet.handles.append(self.turn.handle(handle) if self.turn else handle)

    def _axis(self, x: Scale) -> None:
        axis, text = self.frame.x, self.text
        self._axis_label(x)
        if axis.bare:
            return
        if axis.names:
            self._names(axis, x)
        else:
            each = 3.2 if self.turn else 5.5
            for value, label in marks_on(axis, self._about(x.end - x.start, each)):
                at = x(value)
                self._draw(line(at, self.head, at, self.foot, "rule"))
                if self.turn:
                    tick_x, tick_y = self.turn.left - 8, self.turn.up(at) + text * 0.35
                    self.sheet.items.append(Words(tick_x, tick_y, label, text, "mute", "end"))
                else:
                    below = self.foot + text * 1.5
                    self.sheet.items.append(Words(at, below, label, text, "mute", "middle"))
        self._draw(line(x.start, self.foot, x.end, self.foot, "mute"))
        if not self.turn:
            self._second(axis, x)
        for square in self.frame.squares:
            self._square(square, x)
        self._end_handles(self.frame.ends, x, self.foot)

    def _second(self, axis: Axis, x: Scale) -> None:
        """The ticks of a second scale, below those of the first."""
        text, y = self.text, self.foot + self.text * (1.5 + SECOND)
        for value, label in axis.second:
            at = x(value)
            if at - x.start < text * 1.8 and axis.second_label:
                continue  # where the name of the scale stands
            top = self.foot + text * (SECOND + 0.3)
            self._draw(line(at, top, at, top + text * 0.3, "mute"))
            self.sheet.items.append(Words(at, y, label, text, "mute", "middle"))
        if axis.second and axis.second_label:
            self.sheet.items.append(Words(x.start, y, axis.second_label, text, "ink", "start"))

    def _axis_label(self, x: Scale) -> None:
        axis, text = self.frame.x, self.text
        if not axis.label:
            return
        if self.turn:
            label = fit(axis.label, self.width, text)
            at, y, anchor = self.left, self.turn.up(x.end) - text * 0.9, "start"
        else:
            label = fit(axis.label, self.width - 16, text)
            at, y, anchor = x.end, self.foot + text * 3.0, "end"
            y += text * SECOND if axis.second else 0
        self._words_on_axis(axis, at, y, label, anchor)  # type: ignore[arg-type]

    def _words_on_axis(self, axis: Axis, x: float, y: float, label: str, anchor: Anchor) -> None:
        """What an axis is called; to be typed over where that is the name of a column."""
        text = self.text
        self.sheet.items.append(Words(x, y, label, text, "mute", anchor))
        if axis.column:
            wide = text_width(label, text)
            left = x - wide if anchor == "end" else x
            self.sheet.words.append(
                WordSpot(axis.label, left - 4, y - text * 1.3, wide + 8, text * 1.9, column=axis.column)
            )

    def _square(self, square: SquareHandle, x: Scale) -> None:
        at, ends = x(square.at), (x.low, x.high, x.start, x.end)
        y = self.foot - self.text * RAISED if square.raised else self.foot
        above = self.foot if square.raised else self.head
        self._draw(line(at, min(y, above), at, self.foot, "range", dashed=True))
        self._hang(Handle(square.slot, at, y, "square", "range", *ends, square.origin, square.step, reads=square.reads))

    def _names(self, axis: Axis, x: Scale) -> None:
        """Names of levels in place of ticks, each cut to its room; every second if too many."""
        text = self.text
        spots = [x(value) for value, _ in axis.names]
        edges = [2 * x.start - spots[0], *spots, 2 * x.end - spots[-1]]
        rooms = [min(b - a, c - b) - 4 for a, b, c in zip(edges, edges[1:], edges[2:], strict=False)]
        usual = max(sorted(rooms)[len(rooms) // 2], 1.0)
        every = max(1, math.ceil(text * (1.3 if self.turn else 2.2) / usual))
        for at, (value, name) in enumerate(axis.names):
            if at % every == 0 and self.turn:
                label = fit(name, self.turn.left - self.left - 8, text)
                tick_x, tick_y = self.turn.left - 8, self.turn.up(x(value)) + text * 0.35
                self.sheet.items.append(Words(tick_x, tick_y, label, text, "ink", "end"))
            elif at % every == 0:
                label = fit(name, max(rooms[at] * every, text * 2), text)
                below = self.foot + text * 1.5
                self.sheet.items.append(Words(x(value), below, label, text, "ink", "middle"))
        if every > 1:
            self.sheet.notes.append("Not every level has room for its name.")

    def _end_handles(self, slots: tuple[str, str], scale: Scale, across: float) -> None:
        for at, slot, pair in ((scale.start, slots[0], slots[1]), (scale.end, slots[1], "")):
            if slot:
                self._hang(end_handle(slot, scale, at, across, pair=pair))

    def _panel(self, panel: Panel, x: Scale, at: float, high: float, dots: Dots) -> None:
        self._panel_label(panel, x, at, high)
        for lane, y0, y1 in self._lanes(panel, at, high):
            scale = scale_of(lane.y, y1, y0) if lane.y else None
            if scale and lane.y and self.frame.show_y and not self.turn:
                self._y_axis(lane.y, scale, x, named=panel is self.frame.panels[0])
            drawn: list[Item] = []
            strip = Strip(
                x,
                scale,
                y0,
                y1,
                self.text,
                dots,
                self.roles,
                drawn,
                self.sheet.notes,
                self.sheet.words,
                self.sheet.opens,
                self.sheet.handles,
            )
            for layer in lane.layers:
                layer.place(strip)
            within = self._within(drawn, lane, strip)
            self.sheet.items += self.turn.items(within, strip.top) if self.turn else within

    def _panel_label(self, panel: Panel, x: Scale, at: float, high: float) -> None:
        text = self.text
        if self.turn:
            middle, foot = self.turn.across(at + high / 2), self.turn.bottom
            for said, role, down in ((panel.label, "ink", 1.4), (panel.sublabel, "mute", 2.7)):
                if said:
                    words = fit(said, high - 6, text)
                    y = foot + text * down
                    self.sheet.items.append(Words(middle, y, words, text, role, "middle"))
            return
        room = x.start - self.left - 12 - self.ticks
        right, middle = x.start - 12 - self.ticks, at + high * 0.55
        for said, role, down in ((panel.label, "ink", 0.0), (panel.sublabel, "mute", 1.35)):
            if said and panel.label:
                y = middle + text * down
                self.sheet.items.append(Words(right, y, fit(said, room, text), text, role, "end"))

    def _within(self, drawn: list[Item], lane: Lane, strip: Strip) -> Iterable[Item]:
        """What lies within axes that were set narrower than what they show."""
        upright = lane.y is not None and lane.y.cut
        if not (upright or self.frame.x.cut):
            return drawn
        air = 4.0 if self.frame.x.cut else math.inf  # a mark on an end stays
        room = 4.0 if upright else math.inf
        window = Window(strip.x.start - air, strip.top - room, strip.x.end + air, strip.bottom + room)
        return window.clipped(drawn)

    def _y_axis(self, axis: Axis, y: Scale, x: Scale, *, named: bool) -> None:
        if axis.bare:
            return
        text, room = self.text, max(self.ticks - 10, text_width("…", self.text))
        for value, label in self._upright_marks(axis, abs(y.end - y.start)):
            at = y(float(value))
            if not axis.names:
                self._draw(line(x.start, at, x.end, at, "rule"))
            role = "ink" if axis.names else "mute"
            label = fit(label, room, text)
            self.sheet.items.append(Words(x.start - 8, at + text * 0.35, label, text, role, "end"))
        if named:
            low, high = self.frame.rise
            # a little inside, clear of the knob at the end of the other axis
            for slot, at, pair in ((low, y.start, high), (high, y.end, "")):
                if slot:
                    self._hang(end_handle(slot, y, at, x.start + 16, upright=True, pair=pair))
        if axis.label and named:
            label = fit(axis.label, self.width, text)
            self._words_on_axis(axis, x.start, y.end - text * 0.8, label, "start")

    def _upright_marks(self, axis: Axis, high: float) -> list[tuple[float, str]]:
        """The ticks of a scale that goes up so many pixels."""
        return marks_on(axis, self._about(high, 3.5))

    def _rules(self, x: Scale) -> None:
        for rule in self.frame.rules:
            at = min(max(x(rule.x), x.start), x.end)
            knob = self.head - (6.0 if self.turn else self.text * 0.9)
            top = knob if rule.knob or self.turn else self.head
            self._draw(line(at, top, at, self.foot, rule.role, 1.8, rule.dashed))
            if rule.knob:
                spot = np.array([at]), np.array([knob])
                self._draw(Marks(*spot, None, "circle", rule.role, 12.0))
            if rule.slot:
                ends = x.low, x.high, x.start, x.end
                self._hang(
                    Handle(
                        rule.slot,
                        at,
                        knob,
                        "round",
                        rule.role,
                        *ends,
                        step=_step(rule, self.frame.x, x),
                        log=x.log,
                        reads=rule.reads,
                    )
                )
            self._rule_label(rule, at, knob)

    def _rule_label(self, rule: Rule, at: float, knob: float) -> None:
        text = self.text
        if self.turn:
            x, y = self.turn.across(knob) + 10, self.turn.up(at) + text * 0.35
            self.sheet.items.append(Words(x, y, rule.label, text))
            return
        wide, row = text_width(rule.label, text), 0
        while True:  # beside the knob, on the side or in the row where no other label stands
            sides = (at + 10, at + 10 + wide, "start"), (at - 10 - wide, at - 10, "end")
            fits = [
                (left, right, anchor)
                for left, right, anchor in sides
                if not any(r == row and left < end and right > start for start, end, r in self.said)
                and self.left <= left
                and right <= self.left + self.width
            ]
            if fits or row == 2:
                break
            row += 1
        left, right, side = fits[0] if fits else sides[1]
        anchor: Anchor = "start" if side == "start" else "end"
        self.said.append((left, right, row))
        x, y = (left if side == "start" else right), knob + text * (0.35 + 1.35 * row)
        self.sheet.items.append(Words(x, y, rule.label, text, "ink", anchor))


def _step(rule: Rule, axis: Axis, x: Scale) -> float:
    """What dragging a rule goes by: round, and no finer than a pixel."""
    if rule.step or rule.reads or x.log:
        return rule.step
    step = round_step((x.high - x.low) / max(x.end - x.start, 1.0))
    return max(step, 1.0) if axis.whole or axis.days else step


def end_handle(
    slot: str, scale: Scale, along: float, across: float, *, upright: bool = False, pair: str = ""
) -> Handle:
    """The knob at an end of a scale, which can be dragged half its length beyond that end."""
    room = (scale.end - scale.start) / 2
    span = (*scale.beyond(0.5), scale.start - room, scale.end + room)
    step = 0.0 if scale.log else round_step((scale.high - scale.low) / 100)
    x, y = (across, along) if upright else (along, across)
    return Handle(slot, x, y, "square", "mute", *span, 0.0, step, upright=upright, log=scale.log, pair=pair)
