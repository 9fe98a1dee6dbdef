"""What a shape is: how it is called, what it can show, and how it becomes frames."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import TYPE_CHECKING, Literal

from theoros.plugins import listed_in

if TYPE_CHECKING:
    from theoros.answer.picture import Frame

Subject = Literal["number", "category", "two categories", "two numbers", "over time"]
"""What a plot shows: its kinds of columns decide."""

NUMBER: Subject = "number"
CATEGORY: Subject = "category"
TWO_CATEGORIES: Subject = "two categories"
TWO_NUMBERS: Subject = "two numbers"
OVER_TIME: Subject = "over time"


@dataclass(frozen=True)
class Shape:
    """A way to show rows. A new one is a module in `shapes` that lists it in `SHAPES`."""

    name: str
    help: str
    subjects: tuple[Subject, ...]
    draw: Callable[..., tuple[Frame, ...]]
    """Of a Plotted, PlottedCounts or Pairs, by its subjects."""
    uses: frozenset[str] = frozenset()
    """Slots it knows: bins, scale, marks, cut, order, rows."""
    order: int = 0
    keyed: bool = False
    """Whether it colours by the levels of what is plotted, or of its groups, by itself."""
    other_names: tuple[str, ...] = ()
    """What courses and other books call it, to be found by."""

    @property
    def article(self) -> str:
        """What stands before its name in a sentence: "a " for one thing, nothing for many."""
        many = ("dots", "bars", "steps", "quantiles", "means", "values")
        return "" if any(word in many for word in self.name.split()) else "a "


@cache
def shapes() -> Mapping[str, Shape]:
    """The shapes by name, in their order."""
    return {shape.name: shape for shape in listed_in("theoros.verbs.plot.shapes", "SHAPES")}


def shapes_for(subject: Subject) -> list[Shape]:
    """The shapes that can show it, the usual one first."""
    return [shape for shape in shapes().values() if subject in shape.subjects]
