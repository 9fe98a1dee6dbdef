"""A tree of branches: names at the forks, chances on the branches, a bar at each end."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from theoros.answer.drawing import Block, Words, WordSpot
from theoros.answer.layers.layer import Layer, Strip, line
from theoros.answer.metrics import text_width
from theoros.answer.wording import shortened

LONGEST_NAME = 22
END_BAR = 60.0
"""The longest bar at an end, in pixels at most."""


@dataclass(frozen=True)
class Branch:
    """One branch with all that follows it."""

    name: str
    chance: str
    on: bool
    """Whether it leads to an end that counts."""
    faint: bool = False
    """Whether it is shut out by a condition."""
    slot: str = ""
    """The slot that typing over the chance sets; empty where it cannot be."""
    branches: tuple[Branch, ...] = ()
    product: str = ""
    """At an end: how its chance comes about."""
    share: float = 0.0
    """At an end: its chance, as the length of its bar."""

    @property
    def ends(self) -> int:
        return sum(one.ends for one in self.branches) if self.branches else 1

    def walk(self, depth: int = 0) -> Iterator[tuple[int, Branch]]:
        yield depth, self
        for one in self.branches:
            yield from one.walk(depth + 1)


@dataclass(frozen=True)
class Tree(Layer):
    """It takes the whole of its strip, whatever the scales."""

    branches: tuple[Branch, ...]

    def place(self, strip: Strip) -> None:
        text = strip.text
        everyone = [pair for one in self.branches for pair in one.walk()]
        depth = 1 + max(level for level, _ in everyone)
        widths = [
            max(text_width(shortened(b.name, LONGEST_NAME), text) for d, b in everyone if d == k) for k in range(depth)
        ]
        products = max(text_width(b.product, text) for _, b in everyone)
        room = strip.x.end - strip.x.start
        bar = min(END_BAR, room * 0.1)
        spare = room - sum(widths) - products - bar - 24 - 12 * depth
        reach = max(spare / depth, text * 3)
        high = (strip.bottom - strip.top) / max(sum(one.ends for one in self.branches), 1)
        size = min(text, high * 0.8)
        before = len(strip.spots)
        most = max((b.share for _, b in everyone if b.share > 0), default=1.0)
        _Drawing(strip, high, size, widths, reach, products, bar / most).fork(
            self.branches, strip.x.start + 4, strip.top
        )
        # typing goes from stage to stage, whatever was drawn on top of what
        order = [b.slot for level in range(depth) for d, b in everyone if d == level]
        strip.spots[before:] = sorted(strip.spots[before:], key=lambda s: order.index(s.slot))


@dataclass(frozen=True)
class _Drawing:
    """How a tree is drawn on its strip, from fork to fork; all in points."""

    strip: Strip
    high: float
    """For each end, from top to bottom."""
    size: float
    """Of the text."""
    widths: list[float]
    """Of the names of each stage."""
    reach: float
    """Of a branch, from its fork to its name."""
    products: float
    """The width of the products behind the ends."""
    per: float
    """The length of a bar for a share of 1."""

    def fork(self, branches: tuple[Branch, ...], x: float, top: float, depth: int = 0) -> None:
        strip, size, high = self.strip, self.size, self.high
        ends = sum(one.ends for one in branches)
        start = top + high * ends / 2
        for one in sorted(branches, key=lambda one: one.on):  # those that count lie on top
            above = sum(b.ends for b in branches[: branches.index(one)])
            own = top + high * above
            y = own + high * one.ends / 2
            right = x + self.reach
            role = "seen" if one.on else "rule" if one.faint else "mute"
            strip.items.append(line(x, start, right, y, role, 2.6 if one.on else 1.3, one.faint))
            beside = high * min(b.ends for b in branches)
            along = min(0.84, max(0.52, size * 1.15 / beside))  # where labels have room
            if one.slot or beside * along > size * 0.95:
                tall = min(size * 1.4, beside * along)
                self._chance(one, x + self.reach * along, start + (y - start) * along, tall)
            name = shortened(one.name, LONGEST_NAME)
            ink = "mute" if one.faint else "ink"
            strip.items.append(Words(right + 5, y + size * 0.35, name, size, ink, bold=one.on))
            after = right + 10 + self.widths[depth]
            if one.branches:
                left = right + 9 + text_width(name, size, bold=one.on)
                if after - left > 4:
                    strip.items.append(line(left, y, after, y, role, 1.0, dashed=True))
                self.fork(one.branches, after, own, depth + 1)
            else:
                self._end(one, after + 6, y)

    def _chance(self, one: Branch, x: float, y: float, tall: float) -> None:
        strip, size = self.strip, self.size
        wide = text_width(one.chance, size)
        strip.items.append(Block(x - wide / 2 - 3, y - tall / 2, wide + 6, tall, "page"))
        ink = "mute" if one.faint else "ink"
        strip.items.append(Words(x, y + size * 0.35, one.chance, size, ink, "middle"))
        if one.slot:
            strip.spots.append(
                WordSpot(one.chance, x - wide / 2 - 6, y - size, wide + 12, size * 2, slot=one.slot, figure=True)
            )

    def _end(self, one: Branch, x: float, y: float) -> None:
        strip, size = self.strip, self.size
        ink = "mute" if one.faint else "ink"
        strip.items.append(Words(x, y + size * 0.35, one.product, size, ink, bold=one.on))
        long = one.share * self.per
        if long > 0.4:  # and so not where the chance is not known yet
            role = "tail" if one.on else "chance"
            opacity = 0.35 if one.faint else 1.0
            strip.items.append(
                Block(x + self.products + 12, y - size * 0.45, long, size * 0.9, role, opacity=opacity, hatched=one.on)
            )
