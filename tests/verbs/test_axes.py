"""Plots with other axes: logarithmic, cut, side by side, with a reading line."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.answer.drawing import Marks, Words
from theoros.answer.layout import lay_out
from theoros.study.file import demo_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.core.slots import TypeNumber
from theoros.verbs.plot.pictures.reading_line import height_at
from theoros.verbs.plot.statement import PlotStatement

DEMO = demo_study().by_name
LEAVES = make_table(
    "leaves",
    "leaf",
    length=[1.0, 2, 4, 8, 16, 3],
    area=[3.0, 12, 48, 192, 768, None],
    tree=["a", "a", "b", "b", "b", "a"],
    side=["sun", "shade"] * 3,
    change=[-1.0, 0, 1, 2, 3, 4],
)
TABLES = {"leaves": LEAVES}


def plot(**slots: object):
    return answer(make("plot", table="leaves", **slots), TABLES)


def said(found, width: float = 700, height: float = 400) -> list[str]:
    drawing = lay_out(found.picture, width, height)
    return [item.text for item in drawing.items if isinstance(item, Words)]


def test_a_power_law_is_straight_on_logarithmic_scales() -> None:
    """area = 3 × length², so the logarithms lie on a line and r of them is 1."""
    found = plot(what="area", against="length", shape="scatter", what_log=True, against_log=True)
    assert found.problem is None
    drawing = lay_out(found.picture, 700, 400)
    (marks,) = drawing.marks()
    slopes = np.diff(marks.y) / np.diff(marks.x)
    assert np.ptp(slopes) < 1e-9
    text = " ".join(found.reading.paragraphs)
    assert "on these scales" in text
    assert "r of log length and log area = 1.00" in text.replace("\u00a0", " ")


@pytest.mark.parametrize("shape", ["strewn dots", "box plot", "cumulative steps"])
def test_a_logarithmic_scale_has_no_place_for_nothing(shape) -> None:
    found = plot(what="change", shape=shape, what_log=True)
    assert found.problem.slot == "what_log"
    assert "in change there are 2 of 0 or less" in found.problem.sentence
    fine = plot(what="area", shape=shape, what_log=True)
    assert fine.problem is None
    assert fine.picture.frames[0].x.log
    cut = plot(what="area", shape=shape, what_log=True, low=-1.0)
    assert cut.problem.slot == "low"
    assert "above 0" in cut.problem.sentence


def test_shapes_with_bins_keep_the_even_scale() -> None:
    found = plot(what="change", shape="histogram", what_log=True)
    assert found.problem is None
    assert not found.picture.frames[0].x.log


def test_extremes_on_a_logarithmic_axis() -> None:
    table = make_table("t", x=[1e-300, 1.0, 1e300])
    made = make("plot", table="t", what="x", shape="strewn dots", what_log=True)
    drawing = lay_out(answer(made, {"t": table}).picture, 600, 300)
    (marks,) = drawing.marks()
    assert marks.x[1] - marks.x[0] == pytest.approx(marks.x[2] - marks.x[1])
    labels = [i.text for i in drawing.items if isinstance(i, Words) and "e" in i.text]
    assert len(labels) >= 3


def test_points_beyond_the_axes_are_left_out_and_said() -> None:
    found = plot(what="area", against="length", shape="scatter", low=3.0, top=500.0)
    assert found.picture.notes == ("3 points lie outside the axis.",)
    (marks,) = lay_out(found.picture, 700, 400).marks()
    assert marks.rows.tolist() == [2, 3]
    one = plot(what="area", against="length", shape="scatter", top=500.0)
    assert one.picture.notes == ("1 point lies outside the axis.",)


def test_groups_side_by_side_share_one_upright_scale() -> None:
    level = plot(what="length", by="tree")
    turned = plot(what="length", by="tree", side_by_side=True, cut=4.0, bins=5.0)
    assert level.used == turned.used
    drawing = lay_out(turned.picture, 700, 400)
    height = {}
    for marks in drawing.marks():
        height |= dict(zip(marks.rows.tolist(), marks.y.tolist(), strict=True))
    # bins of 5 from 0: 1, 2, 3, 4 below 8, and that below 16
    assert height[0] == height[1] == height[2] > height[3] > height[4]
    cut = next(h for h in drawing.handles if h.slot == "cut")
    assert cut.upright
    assert cut.value_at(cut.place) == pytest.approx(4.0)
    words = said(turned)
    assert {"a", "b", "n = 3", "3 (100\u00a0%)", "0 (0\u00a0%)"} <= set(words)


def test_side_by_side_holds_for_shapes_that_can_and_is_offered_with_groups() -> None:
    alone = PlotStatement(table="leaves", what="length")
    assert alone.slot("side_by_side", TABLES) is None
    grouped = PlotStatement(table="leaves", what="length", by="tree")
    assert grouped.slot("side_by_side", TABLES) is not None
    histogram = plot(what="length", by="tree", shape="histogram", side_by_side=True)
    assert not histogram.picture.frames[0].transposed


def test_a_scatter_by_two_categories_has_rows_and_columns_of_panels() -> None:
    found = plot(what="area", against="length", shape="scatter", by="tree", and_by="side")
    assert [frame.title for frame in found.picture.frames] == ["shade", "sun"]
    assert [panel.label for panel in found.picture.frames[0].panels] == ["a", "b"]
    counts = [panel.sublabel for frame in found.picture.frames for panel in frame.panels]
    assert sum(int(count.removeprefix("n = ")) for count in counts) == found.used == 5


@given(st.lists(st.tuples(st.integers(0, 50), st.floats(-9, 9)), min_size=1, max_size=20))
def test_a_reading_meets_every_point_and_lies_between_its_neighbours(points) -> None:
    points.sort()
    x = np.array([float(a) for a, _ in points])
    y = np.array([b for _, b in points])
    for at in set(x):
        assert height_at(x, y, at) == pytest.approx(float(y[x == at].mean()))
    assert height_at(x, y, x[0] - 1) is None
    assert height_at(x, y, x[-1] + 0.5) is None


def test_a_reading_line_says_the_value_of_every_curve() -> None:
    found = plot(what="area", against="length", shape="line", read=3.0)
    # halfway between (2, 12) and (4, 48)
    assert "At 3 (read off between the points on either side), area is 30." in found.reading.paragraphs
    assert "30" in said(found)
    beyond = plot(what="area", against="length", shape="line", read=99.0)
    assert "the line ends before it" in beyond.reading.paragraphs[0]
    met = plot(what="area", against="length", shape="line", read=4.0, colour="tree")
    assert met.reading.paragraphs[0] == "At 4, area is 48 for b."


def test_a_reading_line_says_the_share_at_or_below() -> None:
    found = plot(what="length", by="tree", shape="cumulative steps", read=3.0)
    assert {"100\u00a0% at or below", "0\u00a0% at or below"} <= set(said(found))
    assert "All of the leaves whose tree is “a” have 3 or less." in found.reading.paragraphs


def test_a_reading_line_over_dates_is_a_date() -> None:
    days = [date(2026, 1, 1) + timedelta(days=10 * k) for k in range(4)]
    frame = pl.DataFrame({"day": days, "rain": [0.0, 10.0, 20.0, 10.0]})
    table = Table("sky", (Column("day", Kind.DATE), Column("rain", Kind.NUMBER, "mm")), frame)
    at = float((date(2026, 1, 6) - date(1970, 1, 1)).days)
    made = make("plot", table="sky", what="rain", against="day", shape="line", read=at)
    slot = made.slot("read", {"sky": table})
    assert slot.shown == "2026-01-06"
    found = answer(made, {"sky": table})
    text = found.reading.paragraphs[0].replace("\u00a0", " ")
    assert text == "On 2026-01-06 (read off between the points on either side), rain is 5 mm."


@given(st.dates(date(1600, 1, 1), date(2900, 1, 1)))
def test_a_date_in_a_slot_is_typed_and_read_back(day) -> None:
    holds = TypeNumber(days=True, auto=True)
    value, problem = holds.read(day.isoformat())
    assert problem == ""
    assert holds.typed(value) == day.isoformat()
    assert holds.read("soon")[1].endswith("Type a date, such as 2026-03-01.")
    assert holds.read("") == (None, "")


def test_ends_of_axes_do_not_outlive_their_axes() -> None:
    made = PlotStatement(table="leaves", what="length", low=2.0, high=9.0)
    scatter = made.with_slot("shape", "scatter", TABLES).statement
    assert (scatter.low, scatter.high) == (None, None)
    kept = made.with_slot("shape", "box plot", TABLES).statement
    assert (kept.low, kept.high) == (2.0, 9.0)


def test_marks_keep_their_rows_when_turned() -> None:
    made = make("plot", table="bushes", what="pluck mass", by="cultivar", side_by_side=True)
    drawing = lay_out(answer(made, DEMO).picture, 700, 420)
    rows = np.concatenate([m.rows for m in drawing.items if isinstance(m, Marks) and m.rows is not None])
    assert rows.size == np.unique(rows).size == 179
