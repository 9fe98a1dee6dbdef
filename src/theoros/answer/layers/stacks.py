"""Dots gathered in bins and piled up, and columns where they are too many to have a dot each."""

from __future__ import annotations

from dataclasses import dataclass

from theoros.answer.drawing import Block, Marks, Words
from theoros.answer.layers.layer import SMALLEST_DOT, Layer, Piles, Strip
from theoros.lazy_imports import np
from theoros.numeric.arrays import Bools, Floats, Ints


@dataclass(frozen=True, eq=False)
class Stacks(Layer):
    """Dots, one for each row or replicate, gathered in bins and piled up in each."""

    centres: Floats
    order: Ints
    """The place of each dot in its bin, from 0; the layout decides how many stand abreast."""
    width: float
    rows: Ints
    """What each dot stands for, by number."""
    codes: Ints
    """Which key each dot belongs to, from 0; all 0 where nothing is coloured."""
    ringed: Bools
    labels: tuple[tuple[float, str], ...] = ()
    """Text above bins, by centre."""
    stands_for: str = "row"
    """ "row" of the table, "replicate" of a simulation, or "case" that chance drew."""
    tail: Bools | None = None
    """Which belong to the part that counts; None where nothing is parted, as of rows."""
    opened: int = 0
    """The number of the one that is looked at; 0 for none."""

    @property
    def piles(self) -> Piles | None:
        if not self.order.size:
            return None
        return Piles(int(self.order.max()) + 1, self.width, bool(self.labels))

    def place(self, strip: Strip) -> None:
        tops: dict[float, float] = {}
        size, abreast = strip.dots.size, strip.dots.abreast
        if size < SMALLEST_DOT:
            self.counted(coloured=strip.coloured).draw(strip, tops)
        else:
            across = np.minimum(abreast, self._size_of_bin())
            column = np.asarray(self.order % abreast - (across - 1) / 2, dtype=np.float64)
            xs = strip.x.map(self.centres) + column * size
            ys = np.asarray(strip.bottom - size * (self.order // abreast + 0.5), dtype=np.float64)
            if self.tail is not None:
                self._parted(strip, xs, ys, size * 0.92)
            else:
                strip.mark(xs, ys, self.rows, self.codes, self.ringed, size * 0.92, self.stands_for)
            for place in np.flatnonzero(self.rows == self.opened) if self.opened else ():
                here = slice(place, place + 1)
                ring = max(size * 1.7, 11.0)
                strip.items.append(Marks(xs[here], ys[here], None, "circle", "range", ring, True))
            for centre in {centre for centre, _ in self.labels}:
                here = self.centres == centre
                tops[centre] = float(ys[here].min() - size / 2) if here.any() else strip.bottom
        for centre, label in self.labels:
            at = tops.get(centre, strip.bottom) - strip.text * 0.35
            strip.items.append(Words(strip.x(centre), at, label, strip.text, "mute", "middle"))

    def _parted(self, strip: Strip, xs: Floats, ys: Floats, size: float) -> None:
        """What chance gave, and of that what counts, in another shape and colour."""
        assert self.tail is not None
        for part, shape, role in ((~self.tail, "circle", "chance"), (self.tail, "square", "tail")):
            if part.any():
                strip.items.append(
                    Marks(xs[part], ys[part], self.rows[part], shape, role, size, stands_for=self.stands_for)
                )

    def counted(self, *, coloured: bool) -> CountedColumns:
        """The same cases counted in their bins."""
        centres, inverse = np.unique(self.centres, return_inverse=True)
        codes = self.codes if coloured else np.zeros_like(self.codes)
        counts = np.zeros((int(codes.max(initial=0)) + 1, centres.size))
        np.add.at(counts, (codes, inverse), 1)
        return CountedColumns(centres, counts, self.width)

    def _size_of_bin(self) -> Floats:
        """For each dot how many share its bin."""
        _, inverse, counts = np.unique(self.centres, return_inverse=True, return_counts=True)
        return np.asarray(counts[inverse], dtype=np.float64)


@dataclass(frozen=True, eq=False)
class CountedColumns(Layer):
    """Counts in bins, for more cases than could each have a dot; colours stand on each other."""

    centres: Floats
    counts: Floats
    """Shape (keys, bins)."""
    width: float

    @property
    def piles(self) -> Piles | None:
        return Piles(int(self.counts.sum(axis=0).max(initial=0)), counted=True)

    def place(self, strip: Strip) -> None:
        self.draw(strip, None)

    def draw(self, strip: Strip, tops: dict[float, float] | None) -> None:
        """On one scale in a frame; where `tops` is given, there is room for labels, and it learns
        where they go."""
        strip.notes.append("There is no room for a dot for each case: the columns show how many.")
        labels = strip.text * 1.4 if tops is not None else 0.0
        unit = (strip.bottom - strip.top - labels) / max(1, strip.dots.tallest)
        wide = self.width * strip.x.pixels_per_unit * 0.94
        for at, centre in enumerate(self.centres.tolist()):
            base = strip.bottom
            for code, count in enumerate(self.counts[:, at].tolist()):
                tall = count * unit
                role = strip.role(code)
                if tall:
                    left = strip.x(centre) - wide / 2
                    strip.items.append(Block(left, base - tall, wide, tall, role))
                base -= tall
            if tops is not None:
                tops[centre] = base
