"""Leaving out of a drawing what lies beyond the ends of axes that were set narrower."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from theoros.answer.drawing import Block, FilledOutline, Item, Marks, Stroke, Words
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats


@dataclass(frozen=True)
class ClippingWindow:
    """The rectangle in pixels within which things are drawn."""

    left: float
    top: float
    right: float
    bottom: float

    def clipped(self, items: Iterable[Item]) -> Iterator[Item]:
        """The items, or what is left of them, in order."""
        for item in items:
            if isinstance(item, Marks):
                yield from self._marks(item)
            elif isinstance(item, Block):
                yield from self._block(item)
            elif isinstance(item, Stroke):
                for piece in self._pieces(item.points):
                    yield replace(item, points=piece)
            elif isinstance(item, FilledOutline):
                outline = self._outline(item.points)
                if len(outline) > 2:
                    yield replace(item, points=outline)
            elif isinstance(item, Words) and self._holds(item.x, item.y):
                yield item

    def _holds(self, x: float, y: float) -> bool:
        return self.left <= x <= self.right and self.top <= y <= self.bottom

    def _marks(self, marks: Marks) -> Iterator[Marks]:
        x, y = marks.x, marks.y
        here = (x >= self.left) & (x <= self.right) & (y >= self.top) & (y <= self.bottom)
        if here.all():
            yield marks
        elif here.any():
            rows = marks.rows[here] if marks.rows is not None else None
            yield replace(marks, x=x[here], y=y[here], rows=rows)

    def _block(self, block: Block) -> Iterator[Block]:
        left, right = max(block.x, self.left), min(block.x + block.width, self.right)
        top, bottom = max(block.y, self.top), min(block.y + block.height, self.bottom)
        if right > left and bottom > top:
            yield replace(block, x=left, y=top, width=right - left, height=bottom - top)

    def _pieces(self, points: Floats) -> Iterator[Floats]:
        """The parts of a line through points that lie inside (Liang and Barsky 1984)."""
        piece: list[tuple[float, float]] = []
        for start, end in zip(points[:-1].tolist(), points[1:].tolist(), strict=True):
            share = self._inside(start, end)
            if share is None:
                if len(piece) > 1:
                    yield np.array(piece)
                piece = []
                continue
            first, last = share
            dx, dy = end[0] - start[0], end[1] - start[1]
            if not piece or first > 0:
                if len(piece) > 1:
                    yield np.array(piece)
                piece = [(start[0] + first * dx, start[1] + first * dy)]
            piece.append((start[0] + last * dx, start[1] + last * dy))
        if len(piece) > 1:
            yield np.array(piece)

    def _inside(self, start: list[float], end: list[float]) -> tuple[float, float] | None:
        """The shares of the way from start to end between which it lies inside."""
        first, last = 0.0, 1.0
        bounds = ((self.left, self.right), (self.top, self.bottom))
        for at, (low, high) in enumerate(bounds):
            step = end[at] - start[at]
            for edge, sign in ((low, -1.0), (high, 1.0)):
                reach, gap = sign * step, sign * (edge - start[at])
                if reach == 0:
                    if gap < 0:
                        return None
                elif reach < 0:
                    first = max(first, gap / reach)
                else:
                    last = min(last, gap / reach)
        return (first, last) if first <= last else None

    def _outline(self, points: Floats) -> Floats:
        """The part of a filled outline that lies inside (Sutherland and Hodgman 1974)."""
        corners = [tuple(point) for point in points.tolist()]
        for at, edge, sign in ((0, self.left, 1.0), (0, self.right, -1.0), (1, self.top, 1.0), (1, self.bottom, -1.0)):
            kept: list[tuple[float, ...]] = []
            for before, here in zip(corners[-1:] + corners[:-1], corners, strict=True):
                a, b = sign * (before[at] - edge), sign * (here[at] - edge)
                if (a < 0) != (b < 0):
                    share = a / (a - b)
                    kept.append(tuple(p + share * (q - p) for p, q in zip(before, here, strict=True)))
                if b >= 0:
                    kept.append(here)
            corners = kept
        return np.array(corners)
