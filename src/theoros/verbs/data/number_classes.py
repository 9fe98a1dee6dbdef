"""How many values of a number fall in each of its classes, or are each of few whole numbers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import ClassVar

from theoros.answer import wording
from theoros.answer.cannot import CannotAnswer
from theoros.answer.wording import sentence_case
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats
from theoros.numeric.bins import are_whole, bin_start, default_width
from theoros.table.kinds import Kind
from theoros.verbs.core.fields import number_column, number_field
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Slot, Tables, TypeNumber
from theoros.verbs.data.columns import lost_words
from theoros.verbs.data.data import Data, Family
from theoros.verbs.data.groups import said_unused, why_none
from theoros.verbs.data.observed_counts import CountsOfLevels

MOST_CLASSES = 60
WIDTH = TypeNumber(0, low_open=True, auto=True, help="Empty for a round one that fits.")


@dataclass(frozen=True)
class NumberClasses(Data):
    """Values of a number counted in classes of one width; whole numbers one by one."""

    kind: ClassVar[str] = "classes of a number"
    label: ClassVar[str] = "a number in classes"
    help: ClassVar[str] = "Values are counted in classes of one width, few whole numbers each."
    family: ClassVar[Family] = "counts"
    order: ClassVar[int] = 32
    what: str | None = number_column("the number")
    width: float | None = number_field(None, "width of a class", WIDTH, empty="auto")

    def slots(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("what", place),)

    def settings(self, place: Place) -> tuple[Slot, ...]:
        return (self.field_slot("width", place),)

    def levels_of(self, place: Place) -> tuple[str, ...]:
        own = place.own
        if own is None or self.what not in {c.name for c in own.of_kind(Kind.NUMBER)}:
            return ()
        values = own.numbers(str(self.what))[own.cases]
        values = values[np.isfinite(values)]
        try:
            return self._counted(values)[0] if values.size else ()
        except CannotAnswer:
            return ()

    @property
    def title(self) -> str:
        return sentence_case(self.what) if self.what else ""

    def _counted(self, values: Floats) -> tuple[tuple[str, ...], np.ndarray]:
        """The classes by name and their counts; those in the middle may be empty."""
        width = float(self.width or default_width(values))
        start = bin_start(values, width)
        places = np.floor((values - start) / width + 1e-9)
        if places.max() >= MOST_CLASSES:
            raise CannotAnswer(f"That makes more than {MOST_CLASSES} classes: choose a greater width.", "data.width")
        counts = np.bincount(places.astype(np.int64))
        if width == 1 and are_whole(values):
            low = round(float(values.min()))
            return tuple(wording.number(low + k, 0) for k in range(counts.size)), counts
        edges = [start + k * width for k in range(counts.size + 1)]
        places_ = next((p for p in range(7) if all(abs(round(e, p) - e) < 1e-9 * width for e in edges)), 7)
        texts = [wording.number(edge, places_) for edge in edges]
        names = tuple(f"{texts[k]} to under {texts[k + 1]}" for k in range(counts.size))
        return names, counts

    def read(self, tables: Tables, table: str) -> CountsOfLevels:
        own, what = tables[table], str(self.what)
        values = own.numbers(what)[own.cases]
        there = np.isfinite(values)
        if not there.any():
            raise CannotAnswer(why_none(own, what), "data.what")
        levels, counts = self._counted(values[there])
        left_out = (*lost_words(own, int((~there).sum()), what), *said_unused(own))
        return CountsOfLevels(
            name=what, levels=levels, counts=counts, noun=own.noun, left_out=left_out, from_rows=True, ordered=True
        )


DATA = (NumberClasses,)
