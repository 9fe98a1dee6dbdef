"""The turn from a lying frame to an upright one: what lay along its scale goes up.

What rose from the foot of a lying strip goes to the right, away from the foot, which now stands
at the left.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from theoros.answer.drawing import Anchor, Block, FilledOutline, Handle, Item, Marks, Stroke, Words
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True)
class Turn:
    """Where a lying frame goes: the start of its scale to `bottom`, its foot to `left`."""

    left: float
    foot: float
    """The pixel of the foot while it lies."""
    bottom: float

    def up(self, along: float) -> float:
        """The pixel from the top of what lay at a pixel along the scale."""
        return self.bottom - along

    def across(self, down: float) -> float:
        """The pixel from the left of what lay at a pixel from the top."""
        return self.left + self.foot - down

    def items(self, drawn: Iterable[Item], top: float = 0.0) -> Iterator[Item]:
        """What was drawn, turned; `top` is where its strip began while it lay."""
        for item in drawn:
            if isinstance(item, Stroke | FilledOutline):
                yield replace(item, points=self._points(item.points))
            elif isinstance(item, Block):
                x, y = self.across(item.y + item.height), self.up(item.x + item.width)
                yield replace(item, x=x, y=y, width=item.height, height=item.width)
            elif isinstance(item, Marks):
                yield replace(item, x=self.left + self.foot - item.y, y=self.bottom - item.x)
            else:
                yield self._words(item, top)

    def handle(self, handle: Handle) -> Handle:
        """A knob of the lying scale, turned."""
        return replace(
            handle,
            x=self.across(handle.y),
            y=self.up(handle.x),
            left=self.up(handle.left),
            right=self.up(handle.right),
            upright=True,
        )

    def _points(self, points: Floats) -> Floats:
        return np.column_stack([self.left + self.foot - points[:, 1], self.bottom - points[:, 0]])

    def _words(self, words: Words, top: float) -> Words:
        """Words stay level: at the far side of the strip they end, elsewhere they begin there."""
        far = words.y - top <= words.size * 1.6
        drop = {"start": 0.0, "middle": 0.35, "end": 0.8}[words.anchor]
        x = self.across(top) - 2 if far else self.across(words.y)
        anchor: Anchor = "end" if far else "start"
        return replace(words, x=x, y=self.up(words.x) + drop * words.size, anchor=anchor)
