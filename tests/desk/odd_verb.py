"""A verb for tests alone, with all that no verb has yet: controls, sections and replicates."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import ClassVar

import numpy as np

from theoros.answer.axis import Axis
from theoros.answer.drawing import Marks
from theoros.answer.layers.layer import Layer, Strip
from theoros.answer.layers.lines import Band, Level
from theoros.answer.layers.spots import Interval
from theoros.answer.parts import Answer, Control, Draft, FigureRow, Heading, Reading, ResultTable, Section, cell
from theoros.answer.picture import Frame, Lane, Panel, Picture
from theoros.verbs.core.registry import Verb
from theoros.verbs.core.slots import Phrase, SlotGrid, Tables, TypeNumber, number_slot
from theoros.verbs.core.statement import Statement
from theoros.verbs.data.typed import SeveralTyped, TypedGroup

SHEDS = tuple(TypedGroup(name, 10, 7.0 + at, 1.0) for at, name in enumerate(("north", "south")))
TYPED = SeveralTyped(measure="moisture loss", unit="%", groups=SHEDS)


@dataclass(frozen=True)
class Draws(Layer):
    """A mark for each draw, which stands for the draw and not for a row."""

    numbers: np.ndarray

    def place(self, strip: Strip) -> None:
        xs = strip.x.map(self.numbers.astype(float))
        ys = np.full(xs.size, strip.middle)
        marks = Marks(xs, ys, self.numbers, "circle", "data", 8.0, stands_for="replicate")
        strip.items.append(marks)


@dataclass(frozen=True)
class Draw(Statement):
    """Draw so many cups from sheds whose figures are typed."""

    verb: ClassVar[str] = "draw"
    answered_by: ClassVar[str] = __name__
    cups: int = 3
    by: int = 1
    shown: int = 0
    data: SeveralTyped = TYPED

    @property
    def needs_table(self) -> bool:
        return False

    def _number(self, name: str, value: int):
        return number_slot(name, name, value, TypeNumber(0, 1000, whole=True), str(value))

    def phrase(self, tables: Tables) -> Phrase:
        return ("Draw ", self._number("cups", self.cups), " cups.")

    def settings(self, tables: Tables):
        return (self._number("by", self.by), self._number("shown", self.shown))

    def grid(self, tables: Tables) -> SlotGrid | None:
        return self.data.grid(self.place_of("data", tables))

    def title(self, tables: Tables) -> str:
        return "Draws"


def drafts(statement: Draw, tables: Tables) -> Iterator[Draft]:
    numbers = np.arange(1, statement.cups + 1)
    axis = Axis(0.0, statement.cups + 1.0, "draw")
    high = Panel((Lane((Draws(numbers),)),), "draws", share=2.0)
    scale = Axis(0.0, 10.0)
    curve = np.array([0.0, statement.cups + 1.0])
    layers = (Band(curve, curve * 0 + 3, curve * 0 + 5), Level(7.0, "level"), Interval(1.0, 2.0, 3.0, level=4.0))
    low = Panel((Lane(layers, y=scale),), "means")
    picture = Picture((Frame(axis, (high, low)),), alt="Draws in a row.", opens="shown")
    total = ResultTable("draws", (Heading("n", "n"),), (FigureRow((cell(statement.cups),)),))
    section = Section(
        "Every draw",
        picture,
        (
            Control("One more", ("cups", statement.cups + 1), main=True),
            Control("Draw up to", ("cups", statement.by), asks="by"),
            Control("Start over", ("cups", 0)),
        ),
        f"draw {statement.shown} is shown" if statement.shown else "",
        (total,),
    )
    yield Draft(None, 0.5, "Drawing")
    yield Draft(Answer(statement.text(tables), sections=(section,), reading=Reading("Drawn.")))


def _suggest(tables: Tables, table: str, columns) -> Statement:
    return replace(Draw(), table=table)


VERB = Verb(Draw, "Draw", "Draw cups.", _suggest, (Draw(),))
