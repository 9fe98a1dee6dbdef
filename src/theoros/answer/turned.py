"""A frame with its scale upright: the panels stand side by side, each as if lying on its side.

Every layer is placed as it would be over a level scale, and what it drew is then turned: what
lay along the scale goes up, what rose from a lane goes to the right.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from theoros.answer.drawing import Anchor, Block, Handle, Item, Marks, Region, Stroke, Words
from theoros.answer.layers import Scale, Strip, line, place, scale_of
from theoros.answer.metrics import text_width
from theoros.answer.ticking import fit, marks_on
from theoros.heavy import np
from theoros.numeric.arrays import Floats

if TYPE_CHECKING:
    from theoros.answer.layout import FrameLayout

LABEL_ROOM = 4.0
"""Room beside stacks for what is written at them, in heights of the text."""


@dataclass(frozen=True)
class Turn:
    """Where a lying strip goes: its start to `bottom`, its foot to `left`."""

    left: float
    deep: float
    """From the top to the foot of the lying strip."""
    bottom: float

    def items(self, drawn: Iterable[Item]) -> Iterator[Item]:
        for item in drawn:
            if isinstance(item, Stroke | Region):
                yield replace(item, points=self._points(item.points))
            elif isinstance(item, Block):
                x, y = self.left + self.deep - item.y - item.height, self.bottom - item.x
                yield replace(
                    item, x=x, y=y - item.width, width=item.height, height=item.width
                )  # fmt: skip
            elif isinstance(item, Marks):
                yield replace(item, x=self.left + self.deep - item.y, y=self.bottom - item.x)
            else:
                yield self._words(item)

    def _points(self, points: Floats) -> Floats:
        return np.column_stack([self.left + self.deep - points[:, 1], self.bottom - points[:, 0]])

    def _words(self, words: Words) -> Words:
        """Words stay level: at the far side of the strip they end, elsewhere they begin there."""
        far = words.y <= words.size * 1.6
        drop = {"start": 0.0, "middle": 0.35, "end": 0.8}[words.anchor]
        x = self.left + self.deep - (2 if far else words.y)
        anchor: Anchor = "end" if far else "start"
        return replace(words, x=x, y=self.bottom - words.x + drop * words.size, anchor=anchor)


def place_turned(layout: FrameLayout, top: float, bottom: float, *, roles: tuple[str, ...]) -> None:
    """Places the panels of a frame side by side between two pixels, over an upright scale."""
    frame, text = layout.frame, layout.text
    top += text * 1.6 if frame.x.label else 0.0
    upright = scale_of(frame.x, bottom, top)
    about = max(2, int((bottom - top) / (text * 3.2)))
    marks = marks_on(frame.x, about)
    left = layout.left + max((text_width(label, text) for _, label in marks), default=0.0) + 14
    right = layout.left + layout.width - 8
    if frame.rules:
        right -= max(text_width(rule.label, text) for rule in frame.rules) + 22
    for value, label in marks:
        at = upright(value)
        layout.items.append(line(left, at, right, at, "rule"))
        layout.items.append(Words(left - 8, at + text * 0.35, label, text, "mute", "end"))
    if frame.x.label:
        label = fit(frame.x.label, layout.width, text)
        layout.items.append(Words(layout.left, top - text * 0.9, label, text, "mute"))
    layout.items.append(line(left, top, left, bottom, "mute"))
    wide = (right - left) / max(1, len(frame.panels))
    lying = scale_of(frame.x, 0.0, bottom - top)
    dots = layout.dots(lying, [wide] * len(frame.panels), label_room=LABEL_ROOM)
    for at, panel in enumerate(frame.panels):
        begin = left + at * wide
        for lane, y0, y1 in layout.lane_spans(panel, 0.0, wide):
            drawn: list[Item] = []
            strip = Strip(
                lying, scale_of(lane.y, y1, y0) if lane.y else None, y0, y1, text, dots, roles,
                drawn, layout.notes,
            )  # fmt: skip
            for layer in lane.layers:
                place(layer, strip)
            within = layout.within(drawn, lane, strip)
            layout.items += Turn(begin, wide, bottom).items(within)
        _named(layout, begin + wide / 2, wide, bottom, panel.label, panel.sublabel)
    _handles(layout, upright, left, right)


def _named(
    layout: FrameLayout, middle: float, wide: float, bottom: float, label: str, sub: str
) -> None:  # fmt: skip
    text = layout.text
    for said, role, down in ((label, "ink", 1.4), (sub, "mute", 2.7)):
        if said:
            words = fit(said, wide - 6, text)
            layout.items.append(Words(middle, bottom + text * down, words, text, role, "middle"))


def _handles(layout: FrameLayout, upright: Scale, left: float, right: float) -> None:
    from theoros.answer.layout import RAISED, end_handle

    frame, text = layout.frame, layout.text
    span = upright.low, upright.high, upright.start, upright.end
    for square in frame.squares:
        at = upright(square.at)
        x = left + text * RAISED if square.raised else left
        layout.items.append(line(left, at, x if square.raised else right, at, "range", dashed=True))
        layout.handles.append(
            Handle(square.slot, x, at, "square", "range", *span, square.origin, square.step,
                   upright=True)
        )  # fmt: skip
    for slot, end in zip(frame.ends, (upright.start, upright.end), strict=True):
        if slot:
            layout.handles.append(end_handle(slot, upright, left, end, upright=True))
    for rule in frame.rules:
        at = min(max(upright(rule.x), upright.end), upright.start)
        layout.items.append(line(left, at, right + 6, at, rule.role, 1.8, rule.dashed))
        spot = np.array([right + 6]), np.array([at])
        layout.items.append(Marks(*spot, None, "circle", rule.role, 12.0))
        layout.items.append(Words(right + 16, at + text * 0.35, rule.label, text))
        if rule.slot:
            layout.handles.append(
                Handle(rule.slot, right + 6, at, "round", rule.role, *span, upright=True,
                       log=upright.log)
            )  # fmt: skip
