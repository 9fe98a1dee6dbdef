"""The verb Plot: what is drawn, and what is said of it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import layers, make_table
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.stacks import CountedColumns, Stacks
from theoros.answer.layout import lay_out
from theoros.numeric.bins import bin_indices, bin_start
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.data.pictures import MOST_DOTS, counted_columns, stacks

VALUES = [3.0, 4.5, 5.0, 5.5, 6.0, 9.9, 12.0, None]
TABLES = {
    "cups": make_table(
        "cups",
        "cup",
        heat=VALUES,
        tea=["a", "b", "a", "b", "a", "b", "a", "b"],
        room=["x", "x", None, "y", "y", "y", "x", "x"],
        wait=[1.0, 2, 3, 4, None, 6, 7, 8],
    )
}


def plot(**slots):
    return answer(make("plot", **{"table": "cups", "what": "heat", **slots}), TABLES)


def test_every_row_has_its_dot_in_its_bin() -> None:
    found = plot(bins=2.0)
    (dots,) = layers(found, Stacks)
    assert sorted(dots.rows.tolist()) == [0, 1, 2, 3, 4, 5, 6]
    for row, centre in zip(dots.rows.tolist(), dots.centres.tolist(), strict=True):
        assert centre - 1 <= VALUES[row] < centre + 1
    assert found.used == 7
    assert found.left_out == ("1 row left out: heat is missing",)


def test_bins_begin_where_they_are_told() -> None:
    (dots,) = layers(plot(bins=2.0, start=1.0), Stacks)
    assert sorted(set(dots.centres.tolist())) == [4, 6, 10, 12]
    assert bin_start(np.array([5.0, 9]), 2.0) == 4
    # equal values stand in the middle of theirs
    assert bin_start(np.array([5.0, 5.0]), 2.0) == 4
    assert bin_start(np.array([7.0, 7.0, 7.0]), 1.0) == 6.5


@given(st.floats(-40, 40), st.floats(0.5, 6))
def test_the_handles_of_bins_hang_on_the_first_that_holds_something(start: float, width: float) -> None:
    wide, begin = plot(bins=width, start=start).picture.frames[0].squares
    assert (wide.slot, begin.slot) == ("bins", "start")
    assert begin.at <= min(v for v in VALUES if v is not None) + 1e-6 < begin.at + width + 2e-6
    assert (begin.at - start) / width == pytest.approx(round((begin.at - start) / width), abs=1e-6)
    assert wide.at - wide.origin == pytest.approx(width)  # what the handle says is the slot
    assert wide.origin == begin.at - begin.origin == begin.at


def test_groups_are_panels_with_their_sizes() -> None:
    panels = plot(by="tea").picture.frames[0].panels
    assert [(panel.label, panel.sublabel) for panel in panels] == [("a", "n = 4"), ("b", "n = 3")]
    assert [len(panel.lanes) for panel in panels] == [2, 2]
    bare = plot(by="tea", marks="nothing").picture.frames[0].panels
    assert [len(panel.lanes) for panel in bare] == [1, 1]


def test_colours_follow_levels_and_a_missing_colour_is_said() -> None:
    found = plot(colour="room")
    assert [key.label for key in found.picture.keys] == ["x", "y", "missing"]
    (dots,) = layers(found, Stacks)
    by_row = dict(zip(dots.rows.tolist(), dots.codes.tolist(), strict=True))
    assert (by_row[0], by_row[3], by_row[2]) == (0, 1, 2)
    assert "room is missing in 1 row" in found.left_out
    drawing = lay_out(found.picture, 600, 300)
    assert len({marks.shape for marks in drawing.marks()}) == 3  # shape, not colour alone


def test_outliers_are_ringed_and_named_as_no_error() -> None:
    table = make_table("t", v=[10.0, 11, 12, 11, 10, 12, 11, 40])
    found = answer(make("plot", table="t", what="v"), {"t": table})
    (dots,) = layers(found, Stacks)
    assert dots.rows[dots.ringed].tolist() == [7]
    assert "1 value lies outside the fences (drawn as rings)" in found.reading.cautions[0]
    assert "an outlier is not always an error" in found.reading.cautions[0]
    assert found.reading.next[0].rows == (7,)


def test_scatter_takes_rows_with_both_values() -> None:
    found = plot(shape="scatter", against="wait")
    (points,) = layers(found, Points)
    assert points.rows.tolist() == [0, 1, 2, 3, 5, 6]
    assert points.x.tolist() == [1, 2, 3, 4, 6, 7]
    assert points.y.tolist() == [3, 4.5, 5, 5.5, 9.9, 12]
    # by hand: Sxy = 39.45, Sxx = 26.8333, Syy = 61.175, r = 39.45 / 40.516 = 0.9737
    assert "r\u00a0=\u00a00.97" in found.reading.paragraphs[1]
    assert "does not show that one causes the other" in found.reading.paragraphs[1]


def test_many_points_become_shades_that_count_them_all() -> None:
    rng = np.random.default_rng(1)
    table = make_table("t", x=rng.normal(size=6000).tolist(), y=rng.normal(size=6000).tolist())
    found = answer(make("plot", table="t", what="y", against="x", shape="scatter"), {"t": table})
    (shades,) = layers(found, Shades)
    assert shades.counts.sum() == 6000
    assert "6000 points" in lay_out(found.picture, 600, 400).notes[0]


def test_many_cases_become_columns_that_count_them_all() -> None:
    rng = np.random.default_rng(2)
    n = MOST_DOTS + 1000
    table = make_table("t", v=rng.normal(size=n).tolist(), g=rng.choice(["a", "b"], n).tolist())
    found = answer(make("plot", table="t", what="v", by="g", colour="g"), {"t": table})
    made = layers(found, CountedColumns)
    assert sum(layer.counts.sum() for layer in made) == n
    drawing = lay_out(found.picture, 700, 400)
    assert "the columns show how many" in drawing.notes[0]


def test_columns_and_dots_count_alike() -> None:
    rng = np.random.default_rng(3)
    values, codes = np.round(rng.normal(size=300), 1), rng.integers(0, 3, 300)
    rows = np.arange(300)
    dots = stacks(values, rows, codes, np.zeros(300, bool), 0.5, -5.0)
    columns = counted_columns(values, codes, 0.5, -5.0)
    for at, centre in enumerate(columns.centres):
        for code in range(3):
            here = np.isclose(dots.centres, centre) & (dots.codes == code)
            assert columns.counts[code, at] == here.sum()
    assert bin_indices(values, 0.5, -5.0).min() * 0.5 - 4.75 == pytest.approx(columns.centres[0])


def test_the_reading_compares_two_medians() -> None:
    found = plot(by="tea")
    # a: 3, 5, 6, 12 has median 5.5; b: 4.5, 5.5, 9.9 has median 5.5
    assert found.reading.headline == "The groups have the same median heat, 5.5."
    other = answer(
        make("plot", table="t", what="v", by="g"),
        {"t": make_table("t", "cup", v=[1.0, 2, 2, 2, 3, 5, 6, 6, 6, 7], g=["ink"] * 5 + ["red"] * 5)},
    )
    assert other.reading.headline == ("Among red cups the median v is 6; among ink cups it is 2.")
    assert "differ by 4. Both boxes together span 5, so the difference is 80\u00a0%" in other.reading.paragraphs[0]


def test_too_many_groups_or_colours_say_so() -> None:
    many = {"t": make_table("t", v=[1.0] * 70, g=[f"g{k}" for k in range(70)])}
    found = answer(make("plot", table="t", what="v", by="g"), many)
    assert "g has 70 levels, more than the 60 groups" in found.problem.sentence
    found = answer(make("plot", table="t", what="v", colour="g"), many)
    assert "at most 8 colours can be distinguished" in found.problem.sentence
    assert found.problem.slot == "colour"
