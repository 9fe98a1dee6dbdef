"""Places a picture at a size in pixels: margins, ticks, panels, knobs, labels.

A frame is worked out lying: its scale runs along, its panels lie across it, one behind the
other, and its foot is where the scale is ticked. An upright frame is that one turned (see
`turn`): along goes up, across goes to the left. There is no second code for it; only where
words stand differs, since words stay level.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from theoros.answer.axis import Axis, shape_of
from theoros.answer.clipping import ClippingWindow
from theoros.answer.drawing import Anchor, Drawing, Handle, Item, KeySpot, Marks, Words, WordSpot, ZoneSpot
from theoros.answer.frame_room import SECOND, ZONE, FrameRoom, PictureSheet
from theoros.answer.layers.layer import AxisScale, Dots, Strip, line, scale_of
from theoros.answer.metrics import text_width
from theoros.answer.picture import Lane, Panel, Picture, Rule, SquareHandle
from theoros.answer.ticking import fit, marks_on
from theoros.answer.wording import shortened
from theoros.lazy_imports import np
from theoros.numeric.bins import round_step

TEXT = 12.0
GAP = 34.0
"""Between frames side by side."""
LEAST_FRAME = 17.0
"""A frame narrower than this many heights of the text has no room for its marks."""
RAISED = 1.4
"""How far off the axis a raised knob stands, in heights of the text."""


def lay_out(picture: Picture, width: float, height: float, text: float = TEXT) -> Drawing:
    """The drawing of a picture at `width` x `height` pixels with text of so many pixels."""
    sheet = PictureSheet(width, height, text, list(picture.notes))
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


def _legend(picture: Picture, sheet: PictureSheet, top: float) -> float:
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


class FrameLayout(FrameRoom):
    """The working state while one frame is placed, lying; see above."""

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

    # placing

    def _draw(self, *items: Item) -> None:
        """Strokes and marks, worked out lying."""
        self.sheet.items += self.turn.items(items) if self.turn else items

    def _hang(self, handle: Handle) -> None:
        self.sheet.handles.append(self.turn.handle(handle) if self.turn else handle)

    def _axis(self, x: AxisScale) -> None:
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

    def _second(self, axis: Axis, x: AxisScale) -> None:
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

    def _axis_label(self, x: AxisScale) -> None:
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

    def _square(self, square: SquareHandle, x: AxisScale) -> None:
        at, ends = x(square.at), (x.low, x.high, x.start, x.end)
        y = self.foot - self.text * RAISED if square.raised else self.foot
        above = self.foot if square.raised else self.head
        self._draw(line(at, min(y, above), at, self.foot, "range", dashed=True))
        self._hang(Handle(square.slot, at, y, "square", "range", *ends, square.origin, square.step, reads=square.reads))

    def _names(self, axis: Axis, x: AxisScale) -> None:
        """Names of levels in place of ticks, each cut to its room; every second if too many."""
        text, names = self.text, axis.names
        most = max(2, int((x.end - x.start) / (text * 1.3)))
        if len(names) > most:  # more than have room in any case are not looked at one by one
            names = names[:: math.ceil(len(names) / most)]
            self.sheet.notes.append("Not every level has room for its name.")
        spots = [x(value) for value, _ in names]
        edges = [2 * x.start - spots[0], *spots, 2 * x.end - spots[-1]]
        rooms = [min(b - a, c - b) - 4 for a, b, c in zip(edges, edges[1:], edges[2:], strict=False)]
        usual = max(sorted(rooms)[len(rooms) // 2], 1.0)
        every = max(1, math.ceil(text * (1.3 if self.turn else 2.2) / usual))
        for at, (value, name) in enumerate(names):
            if at % every == 0 and self.turn:
                label = fit(name, self.turn.left - self.left - 8, text)
                tick_x, tick_y = self.turn.left - 8, self.turn.up(x(value)) + text * 0.35
                self.sheet.items.append(Words(tick_x, tick_y, label, text, "ink", "end"))
            elif at % every == 0:
                label = fit(name, max(rooms[at] * every, text * 2), text)
                below = self.foot + text * 1.5
                self.sheet.items.append(Words(x(value), below, label, text, "ink", "middle"))
        if every > 1 and len(names) == len(axis.names):
            self.sheet.notes.append("Not every level has room for its name.")

    def _end_handles(self, slots: tuple[str, str], scale: AxisScale, across: float) -> None:
        for at, slot, pair in ((scale.start, slots[0], slots[1]), (scale.end, slots[1], "")):
            if slot:
                self._hang(end_handle(slot, scale, at, across, pair=pair))

    def _panel(self, panel: Panel, x: AxisScale, at: float, high: float, dots: Dots) -> None:
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

    def _panel_label(self, panel: Panel, x: AxisScale, at: float, high: float) -> None:
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
        window = ClippingWindow(strip.x.start - air, strip.top - room, strip.x.end + air, strip.bottom + room)
        return window.clipped(drawn)

    def _y_axis(self, axis: Axis, y: AxisScale, x: AxisScale, *, named: bool) -> None:
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

    def _rules(self, x: AxisScale) -> None:
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


def _step(rule: Rule, axis: Axis, x: AxisScale) -> float:
    """What dragging a rule goes by: round, and no finer than a pixel."""
    if rule.step or rule.reads or x.log:
        return rule.step
    step = round_step((x.high - x.low) / max(x.end - x.start, 1.0))
    return max(step, 1.0) if axis.whole or axis.days else step


def end_handle(
    slot: str, scale: AxisScale, along: float, across: float, *, upright: bool = False, pair: str = ""
) -> Handle:
    """The knob at an end of a scale, which can be dragged half its length beyond that end."""
    room = (scale.end - scale.start) / 2
    span = (*scale.beyond(0.5), scale.start - room, scale.end + room)
    step = 0.0 if scale.log else round_step((scale.high - scale.low) / 100)
    x, y = (across, along) if upright else (along, across)
    return Handle(slot, x, y, "square", "mute", *span, 0.0, step, upright=upright, log=scale.log, pair=pair)
