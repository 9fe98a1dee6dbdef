"""Each way of having data: its slots, what it reads from rows and from typed figures, its JSON."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.stats.contingency import crosstab

from tests.conftest import make_table
from theoros.answer.cannot import CannotAnswer
from theoros.table.reshape import spread_out
from theoros.verbs.core.json_values import StatementError, fitted, structured, to_plain_values
from theoros.verbs.core.place import Place
from theoros.verbs.core.slots import Slot
from theoros.verbs.data.counts import LevelCounts, TwoCategories, TypedCount, TypedCounts, TypedTable
from theoros.verbs.data.data import Data, data_kinds, with_data_of
from theoros.verbs.data.one_sample import Levels, OneColumn
from theoros.verbs.data.two_numbers import TwoNumbers, TypedCorrelation
from theoros.verbs.data.typed import SeveralTyped, TypedGroup, TypedSample

TEA = ["green", "black", "green", "white", "black", "green", None, "white"]
SHED = ["north", "north", "south", "south", "north", "south", "north", None]
CUPS = make_table(
    "cups",
    "cup",
    tea=TEA,
    shed=SHED,
    heat=[1.0, 2.0, 4.0, 8.0, 6.0, 3.0, 5.0, None],
    cool=[2.0, 1.0, 3.0, 5.0, 6.0, None, 9.0, 4.0],
    n=[3, 1, 2, 4, 1, 2, 1, 1],
).with_(aside=frozenset({1}))
COUNTED = CUPS.with_(counts="n")
PLACE = Place({"cups": CUPS}, "cups", "data.")

GROUPS = tuple(TypedGroup(name, 5 + at, 2.0 * at, 1.5) for at, name in enumerate("abc"))
FILLED: dict[str, Data] = {
    "one column": OneColumn("heat"),
    "levels": Levels("heat", "tea"),
    "counts of levels": LevelCounts("tea"),
    "two categories": TwoCategories("tea", "shed"),
    "two numbers": TwoNumbers("heat", "cool"),
    "typed sample": TypedSample(measure="loss", unit="%", groups=GROUPS[:1]),
    "several typed samples": SeveralTyped(measure="loss", unit="%", groups=GROUPS),
    "typed counts": TypedCounts("tea", (TypedCount("green", 3), TypedCount("black", 4))),
    "typed two-way counts": TypedTable("tea", "shed", ("g", "b"), ("n", "s"), ((3, 1), (2, 5))),
    "typed correlation": TypedCorrelation("heat", "cool", 24, 0.61),
}


@pytest.fixture(params=FILLED, ids=lambda name: name.replace(" ", "-"))
def data(request) -> Data:
    return FILLED[request.param]


class TestEveryKind:
    def test_goes_through_json_and_back(self, data: Data) -> None:
        plain = to_plain_values(data)
        assert plain["kind"] == data.kind
        assert structured(Data, plain, "the data") == data

    def test_has_slots_under_its_path_that_hold_what_they_may(self, data: Data) -> None:
        slots = data.slots(PLACE)
        assert slots
        assert [slot.name for slot in slots if not slot.name.startswith("data.")] == []
        assert [(slot.name, slot.problem) for slot in slots if slot.problem] == []
        assert len({slot.name for slot in slots}) == len(slots)

    def test_reads_and_titles_itself(self, data: Data) -> None:
        assert data.title
        data.read(PLACE.tables, "cups")

    def test_refuses_a_field_it_does_not_have(self, data: Data) -> None:
        with pytest.raises(StatementError, match="smell"):
            structured(Data, {**to_plain_values(data), "smell": 1}, "the data")

    def test_an_empty_one_says_what_is_missing(self, data: Data) -> None:
        empty = type(data)()
        if isinstance(empty, TypedSample | SeveralTyped):
            empty = dataclasses.replace(empty, groups=(TypedGroup(), TypedGroup()))
        assert any(slot.problem for slot in empty.slots(PLACE))

    def test_becomes_one_of_another_kind_and_still_has_slots(self, data: Data) -> None:
        for kind in data_kinds():
            turned = with_data_of(data, kind, PLACE)
            assert turned.kind == kind
            assert all(isinstance(slot, Slot) for slot in turned.slots(PLACE))


@pytest.mark.parametrize("kind", ["one column", "levels", "counts of levels", "two categories"])
def test_rows_that_count_more_than_once_are_as_many_rows(kind: str) -> None:
    data = FILLED[kind]
    spread = {"cups": spread_out(COUNTED, "n")}
    counted, spread_read = data.read({"cups": COUNTED}, "cups"), data.read(spread, "cups")
    if hasattr(counted, "samples"):
        for one, two in zip(counted.samples, spread_read.samples, strict=True):
            assert np.sort(one.values).tolist() == np.sort(two.values).tolist()
    else:
        assert counted.counts.tolist() == spread_read.counts.tolist()


def test_one_column_leaves_out_what_is_missing_or_set_aside() -> None:
    read = OneColumn("heat").read(PLACE.tables, "cups")
    assert read.sample.values.tolist() == [1, 4, 8, 6, 3, 5]
    assert 1 not in read.sample.rows


def test_counts_of_two_categories_against_scipy() -> None:
    read = TwoCategories("tea", "shed").read(PLACE.tables, "cups")
    used = [(t, s) for at, (t, s) in enumerate(zip(TEA, SHED, strict=True)) if t and s and at != 1]
    (teas, sheds), counts = crosstab(*zip(*used, strict=True))
    known = {(tea, shed): counts[i, j] for i, tea in enumerate(teas) for j, shed in enumerate(sheds)}
    found = {(tea, shed): read.counts[i, j] for i, tea in enumerate(read.rows) for j, shed in enumerate(read.columns)}
    assert found == known
    assert read.total == len(used)


def test_two_numbers_are_those_rows_that_have_both() -> None:
    read = TwoNumbers("heat", "cool").read(PLACE.tables, "cups")
    assert read.rows.tolist() == [0, 2, 3, 4, 6]
    assert read.names == ("cool", "heat")
    assert read.left_out


class TestTypedGrids:
    def test_cells_are_named_by_their_paths(self) -> None:
        grid = FILLED["typed two-way counts"].grid(PLACE)
        assert grid is not None
        assert [slot.name for slot in grid.slots] == [
            "data.rows.0",
            "data.counts.0.0",
            "data.counts.0.1",
            "data.rows.1",
            "data.counts.1.0",
            "data.counts.1.1",
        ]
        assert grid.slots[2].label == "count of g and s"

    def test_a_count_is_a_whole_number_of_0_or_more(self) -> None:
        (slot, *_) = [s for s in FILLED["typed counts"].slots(PLACE) if s.name.endswith("count")]
        for bad in (-1, 2.5, "three", True):
            assert slot.holds.problem(bad)
        assert not slot.holds.problem(0)
        with pytest.raises(StatementError):
            fitted(TypedCount, "count", "three", "the level")

    def test_equal_names_are_refused(self) -> None:
        twice = TypedCounts("tea", (TypedCount("green", 3), TypedCount("green", 4)))
        with pytest.raises(CannotAnswer, match="same name"):
            twice.read({}, "")
        with pytest.raises(CannotAnswer, match="same name"):
            SeveralTyped(measure="loss", groups=(GROUPS[0], GROUPS[0])).read({}, "")

    def test_lines_of_different_lengths_are_refused(self) -> None:
        crooked = TypedTable("a", "b", ("x", "y"), ("z", "w"), ((1, 2), (3,)))
        with pytest.raises(CannotAnswer, match="different lengths"):
            crooked.read({}, "")

    @given(st.lists(st.lists(st.integers(0, 10**6), min_size=3, max_size=3), min_size=2, max_size=6))
    def test_any_table_of_counts_is_read_as_it_was_typed(self, lines: list[list[int]]) -> None:
        rows = tuple(f"row {at}" for at in range(len(lines)))
        counts = tuple(map(tuple, lines))
        typed = TypedTable("a", "b", rows, ("x", "y", "z"), counts)
        back = structured(Data, to_plain_values(typed), "the data")
        assert back.read({}, "").counts.tolist() == lines
