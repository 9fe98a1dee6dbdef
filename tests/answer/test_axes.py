"""Axes: logarithmic, cut, and upright; geometry against cases worked by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.axis import Axis
from theoros.answer.clipping import ClippingWindow
from theoros.answer.drawing import Block, FilledOutline, Handle, Marks, Stroke, Words
from theoros.answer.layers.layer import AxisScale
from theoros.answer.layout import end_handle
from theoros.answer.ticking import marks_on
from theoros.answer.turn import Turn
from theoros.numeric.bins import log_ticks

ABOVE = st.floats(1e-6, 1e6)


def test_a_logarithmic_scale_gives_equal_ratios_equal_lengths() -> None:
    scale = AxisScale(1.0, 1000.0, 0.0, 300.0, log=True)
    assert [scale(v) for v in (1.0, 10.0, 100.0, 1000.0)] == pytest.approx([0, 100, 200, 300])
    assert scale.beyond(1 / 3) == pytest.approx((0.1, 10_000.0))


@pytest.mark.parametrize(
    ("low", "high", "about", "wanted"),
    [
        (1.0, 1000.0, 4, [1, 10, 100, 1000]),
        (1.0, 1000.0, 12, [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000]),
        (1e-9, 1e9, 6, [1e-9, 1e-6, 1e-3, 1, 1e3, 1e6, 1e9]),
        (20.0, 60.0, 4, [20, 30, 40, 50, 60]),
    ],
)
def test_ticks_of_a_logarithmic_scale(low, high, about, wanted) -> None:
    found = log_ticks(low, high, about)
    assert set(found) <= set(wanted)
    assert len(found) >= min(4, len(wanted) - 3)
    if high / low > 10:
        assert found.tolist() == pytest.approx(wanted)


def test_each_tick_of_a_logarithmic_scale_has_the_decimals_it_needs() -> None:
    labels = [label for _, label in marks_on(Axis(0.1, 100.0, log=True), 4)]
    assert labels == ["0.1", "1", "10", "100"]


@given(ABOVE, st.floats(1.5, 1e4), st.floats(0, 1))
def test_a_handle_says_the_value_that_stands_at_its_pixel(low, ratio, share) -> None:
    """To the three figures to which a logarithmic handle is rounded."""
    scale = AxisScale(low, low * ratio, 400.0, 20.0, log=True)
    handle = Handle("top", 0, 0, "square", "mute", low, low * ratio, 400.0, 20.0, log=True)
    pixel = 400.0 - 380.0 * share
    value = handle.value_at(pixel)
    assert math.log(value) == pytest.approx(math.log(low) + share * math.log(ratio), abs=6e-3)
    assert scale(value) == pytest.approx(pixel, abs=380 * 6e-3 / math.log(ratio) + 1e-6)


def test_the_knob_at_an_end_stands_at_that_end() -> None:
    for log in (False, True):
        for scale in (AxisScale(2.0, 8.0, 300.0, 0.0, log), AxisScale(2.0, 8.0, 0.0, 300.0, log)):
            for value, at in ((scale.low, scale.start), (scale.high, scale.end)):
                handle = end_handle("top", scale, 9.0, at, upright=True)
                assert handle.value_at(at) == pytest.approx(value, rel=1e-2)


WINDOW = ClippingWindow(0.0, 0.0, 100.0, 50.0)
PLACE = st.tuples(st.floats(-300, 300), st.floats(-300, 300))


@given(st.lists(PLACE, min_size=2, max_size=12))
def test_what_is_left_of_a_line_lies_inside_and_on_it(points) -> None:
    stroke = Stroke(np.array(points), "data")
    for piece in WINDOW.clipped([stroke]):
        assert (piece.points[:, 0] >= -1e-6).all()
        assert (piece.points[:, 0] <= 100 + 1e-6).all()
        assert (piece.points[:, 1] >= -1e-6).all()
        assert (piece.points[:, 1] <= 50 + 1e-6).all()
        assert len(piece.points) >= 2


def test_lines_and_areas_are_cut_at_the_edge() -> None:
    (left,) = WINDOW.clipped([Stroke(np.array([[-50.0, 10.0], [50.0, 10.0]]), "data")])
    assert left.points.tolist() == [[0, 10], [50, 10]]
    out_and_in = np.array([[10.0, 10.0], [10.0, 90.0], [20.0, 90.0], [20.0, 10.0]])
    assert [p.points.tolist() for p in WINDOW.clipped([Stroke(out_and_in, "data")])] == [
        [[10, 10], [10, 50]],
        [[20, 50], [20, 10]],
    ]
    square = np.array([[-10.0, -10.0], [30.0, -10.0], [30.0, 30.0], [-10.0, 30.0]])
    (area,) = WINDOW.clipped([FilledOutline(square, "tail")])
    x, y = area.points[:, 0], area.points[:, 1]
    assert abs(np.dot(x, np.roll(y, 1)) - np.dot(y, np.roll(x, 1))) / 2 == pytest.approx(900)


def test_marks_blocks_and_words_outside_are_left_out() -> None:
    marks = Marks(np.array([5.0, 150.0]), np.array([5.0, 5.0]), np.array([3, 4]), "circle", "data", 8)
    (kept,) = WINDOW.clipped([marks])
    assert kept.rows.tolist() == [3]
    (block,) = WINDOW.clipped([Block(-10, 10, 30, 100, "data")])
    assert (block.x, block.y, block.width, block.height) == (0, 10, 20, 40)
    assert not list(WINDOW.clipped([Words(120, 10, "far"), Block(200, 0, 5, 5, "data")]))


def test_turning_puts_the_start_at_the_foot_and_the_base_at_the_left() -> None:
    turn = Turn(left=100.0, foot=40.0, bottom=300.0)
    marks = Marks(np.array([0.0, 50.0]), np.array([40.0, 30.0]), np.array([0, 1]), "circle", "data", 8)
    (turned,) = turn.items([marks])
    assert turned.x.tolist() == [100, 110]
    assert turned.y.tolist() == [300, 250]
    (block,) = turn.items([Block(10, 30, 20, 10, "data")])  # rises 10 from the base, 20 along
    assert (block.x, block.y, block.width, block.height) == (100, 270, 10, 20)
    (words,) = turn.items([Words(50, 30, "3", 12, anchor="middle")])
    assert (words.x, words.anchor) == (110, "start")
