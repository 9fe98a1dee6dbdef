"""What pictures of answers are drawn as: handles that their statement knows, everything at a place that there is."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import fields, is_dataclass

import numpy as np
import pytest

from tests.conftest import make_table
from tests.verbs.test_statements import EXAMPLES, TABLES, names, with_few
from theoros.answer.drawing import Block, Drawing, Words
from theoros.answer.layout import lay_out
from theoros.answer.parts import Answer
from theoros.answer.picture import Picture
from theoros.verbs.core.answering import answer
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import statement_from_json
from theoros.verbs.core.statement import Statement

SIZES = [(860.0, 420.0), (300.0, 190.0), (120.0, 90.0)]
LETTERS = (12.0, 17.5)


def pictures(found: Answer) -> Iterator[Picture]:
    sections = (*found.above, *found.sections)
    yield from (one for one in (found.picture, *(section.picture for section in sections)) if one is not None)


def numbers_in(value: object) -> Iterator[float]:
    """Every number of a drawing, however deep it stands."""
    if isinstance(value, float):
        yield value
    elif isinstance(value, np.ndarray) and value.dtype.kind == "f":
        yield from value.ravel().tolist()
    elif isinstance(value, tuple | list):
        for one in value:
            yield from numbers_in(one)
    elif is_dataclass(value) and not isinstance(value, type):
        for field in fields(value):
            yield from numbers_in(getattr(value, field.name))


def drawings(found: Answer) -> Iterator[Drawing]:
    for picture in pictures(found):
        for size in SIZES:
            for letters in LETTERS:
                yield lay_out(picture, *size, letters)


@pytest.mark.parametrize("statement", EXAMPLES, ids=names)
def test_handles_are_of_slots_that_there_are_and_everything_at_a_place_that_there_is(statement: Statement) -> None:
    """The end of an axis was dragged in a picture whose statement has no slot for it; words stood at NaN."""
    statement = with_few(statement)
    tried = set()
    for drawing in drawings(answer(statement, TABLES)):
        for handle in drawing.handles:
            assert np.isfinite((handle.x, handle.y)).all()
            for name in {handle.slot, handle.pair or handle.slot} - tried:
                tried.add(name)
                try:
                    statement.with_slot(name, (handle.low + handle.high) / 2, TABLES)
                except StatementError as refused:  # a value may not do there, but there is such a slot
                    assert "no slot called" not in str(refused)
        placed = [item for item in drawing.items if isinstance(item, Words | Block)]
        assert np.isfinite(list(numbers_in(placed))).all()


def test_an_axis_of_thousands_of_levels_is_laid_out_at_once() -> None:
    """Thousands of names held the window for more than a minute; a generous bound on freezing."""
    n = 2000
    table = make_table("draws", "draw", level=[f"sample {k}" for k in range(n)], x=np.arange(n) % 97)
    data = {"kind": "counts of levels", "what": "level"}
    statement = statement_from_json({"verb": "test", "table": "draws", "data": data, "replicates": 100})
    found = answer(statement, {"draws": table})
    assert found.problem is None
    for picture in pictures(found):
        began = time.process_time()
        drawing = lay_out(picture, 700, 340)
        assert time.process_time() - began < 2
        assert sum(isinstance(item, Words) for item in drawing.items) < 500
