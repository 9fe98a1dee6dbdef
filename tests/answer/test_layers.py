"""Bands, levels and intervals, panels of unequal height, and handles that set something else.

Where things stand is worked out by hand from the scales: 0 to 10 over the frame's width.
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.axis import SHAPES, Axis, Reads
from theoros.answer.drawing import Drawing, FilledOutline, Marks, Stroke, Words
from theoros.answer.layers.layer import Layer
from theoros.answer.layers.lines import Band, Level, Line
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.spots import Interval
from theoros.answer.layout import lay_out
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule

X, Y = Axis(0, 10, "x (g)"), Axis(0, 4, "y", names=((1.0, "north"), (3.0, "south")))
ACROSS = np.array([0.0, 5.0, 10.0])


def drawn(*layers: Layer, show_y: bool = False, transposed: bool = False, y: Axis = Y) -> Drawing:
    panel = Panel((Lane(layers, y=y),))
    frame = Frame(X, (panel,), show_y=show_y, transposed=transposed)
    return lay_out(Picture((frame,), alt="layers"), 700, 400)


def of(drawing: Drawing, kind: type, role: str) -> list:
    return [one for one in drawing.items if isinstance(one, kind) and one.role == role]


def region(drawing: Drawing) -> np.ndarray:
    (one,) = [item for item in drawing.items if isinstance(item, FilledOutline)]
    return one.points


def test_a_band_lies_between_the_two_curves_that_bound_it() -> None:
    low, high = np.array([1.0, 1.5, 1.0]), np.array([2.0, 3.5, 3.0])
    drawing = drawn(Band(ACROSS, low, high), Line(ACROSS, low, "seen"), Line(ACROSS, high, "data"))
    (below,), (above,) = of(drawing, Stroke, "seen"), of(drawing, Stroke, "data")
    points = region(drawing)
    assert points[:3] == pytest.approx(above.points)
    assert points[3:][::-1] == pytest.approx(below.points)
    assert (above.points[:, 1] < below.points[:, 1]).all()  # up is towards 0
    assert not [i for i in drawn(Band(ACROSS[:0], low[:0], high[:0])).items if isinstance(i, FilledOutline)]


def test_a_level_runs_across_at_its_height_with_its_word_at_the_end() -> None:
    drawing = drawn(Level(2.0, "mean of all", role="seen"), Line(ACROSS, np.full(3, 2.0), "data"))
    (level,), (same,) = of(drawing, Stroke, "seen"), of(drawing, Stroke, "data")
    assert level.dashed
    assert level.points[:, 1] == pytest.approx(np.full(2, same.points[0, 1]))
    assert level.points[:, 0] == pytest.approx(same.points[[0, 2], 0])
    (word,) = [i for i in drawing.items if isinstance(i, Words) and i.text == "mean of all"]
    assert word.anchor == "end"
    assert word.x == pytest.approx(level.points[1, 0])
    assert level.points[0, 1] - 20 < word.y < level.points[0, 1]


def test_an_interval_has_its_point_and_both_ends_where_the_axis_says() -> None:
    drawing = drawn(Interval(2.0, 4.0, 9.0, level=1.0, role="range"), Line(ACROSS, np.ones(3), "data"))
    (along,) = of(drawing, Stroke, "data")
    left, right = along.points[0, 0], along.points[-1, 0]
    bar, first, second = of(drawing, Stroke, "range")
    place = [left + share * (right - left) for share in (0.2, 0.4, 0.9)]
    assert bar.points[:, 0] == pytest.approx([place[0], place[2]])
    assert bar.points[:, 1] == pytest.approx([along.points[0, 1]] * 2)
    assert first.points[:, 0] == pytest.approx([place[0]] * 2)
    assert second.points[:, 0] == pytest.approx([place[2]] * 2)
    (spot,) = of(drawing, Marks, "range")
    assert spot.x == pytest.approx([place[1]])
    assert spot.rows is None  # it stands for no row


@pytest.mark.parametrize("share", [0.25, 1.0, 3.0])
def test_panels_are_as_high_as_their_shares(share: float) -> None:
    """Level lines at both ends of two panels' scales: their distances are as the shares."""
    tall = Panel((Lane((Level(0.0, role="seen"), Level(4.0, role="seen")), y=Y),), "all", share=share)
    one = Panel((Lane((Level(0.0, role="data"), Level(4.0, role="data")), y=Y),), "one")
    drawing = lay_out(Picture((Frame(X, (tall, one)),), alt="two"), 700, 500)

    def high(role: str) -> float:
        return float(np.ptp([stroke.points[0, 1] for stroke in of(drawing, Stroke, role)]))

    assert high("seen") / high("data") == pytest.approx(share, rel=0.12)


def test_names_stand_on_both_axes_at_their_values() -> None:
    named = Axis(0, 10, "shed", names=((2.0, "low shed"), (8.0, "high shed")))
    lane = Lane((Line(ACROSS, np.array([1.0, 1.0, 1.0]), "data"),), y=Y)
    frame = Frame(named, (Panel((lane,)),), show_y=True)
    drawing = lay_out(Picture((frame,), alt="names"), 700, 400)
    words = {item.text: item for item in drawing.items if isinstance(item, Words)}
    (along,) = of(drawing, Stroke, "data")
    left, right = along.points[0, 0], along.points[-1, 0]
    assert words["low shed"].x == pytest.approx(left + 0.2 * (right - left))
    assert words["high shed"].x == pytest.approx(left + 0.8 * (right - left))
    assert words["north"].y == pytest.approx(along.points[0, 1], abs=words["north"].size)
    assert words["south"].y < words["north"].y
    assert words["north"].x < left


@pytest.mark.parametrize(
    "layer",
    [Band(ACROSS, np.ones(3), np.full(3, 2.0)), Level(2.0, "mean", role="seen"), Interval(2.0, 4.0, 9.0, level=1.0)],
)
def test_layers_stand_upright_as_they_lie(layer: Layer) -> None:
    """A picture with its scale upright has the same parts, turned and no longer lying."""
    lying, upright = drawn(layer), drawn(layer, transposed=True)
    for kind in (FilledOutline, Marks):
        assert len([i for i in lying.items if isinstance(i, kind)]) == len(
            [i for i in upright.items if isinstance(i, kind)]
        )
    if isinstance(layer, Interval):
        (bar, *_), (turned, *_) = of(lying, Stroke, "range"), of(upright, Stroke, "range")
        assert np.ptp(bar.points[:, 1]) == pytest.approx(0)
        assert np.ptp(turned.points[:, 0]) == pytest.approx(0)
        assert turned.points[0, 1] > turned.points[1, 1]  # small values are below


def test_the_end_of_an_interval_can_set_the_confidence() -> None:
    reads = Reads((5.0, 7.0, 9.0), (0.0, 0.8, 0.99))
    rule = Rule(7.0, "80 %", slot="confidence", reads=reads, step=0.01)
    frame = Frame(X, (Panel((Lane((Level(1.0),), y=Y),)),), rules=(rule,))
    (handle,) = lay_out(Picture((frame,), alt="one"), 700, 400).handles
    assert handle.slot == "confidence"
    assert handle.value_at(handle.x) == pytest.approx(0.8)
    wide = (handle.right - handle.left) / 10
    assert handle.value_at(handle.x + wide / 2) == pytest.approx(0.85)  # 0.8475, to the step
    assert handle.value_at(handle.right) == pytest.approx(0.99)
    assert handle.value_at(handle.left) == 0


@given(st.floats(0, 1), st.sampled_from([0.01, 0.05, 0.5, 1.0]))
def test_a_handle_gives_whole_steps(share: float, step: float) -> None:
    frame = Frame(X, (Panel((Lane((Level(1.0),), y=Y),)),), rules=(Rule(5, "5", slot="cut", step=step),))
    (handle,) = lay_out(Picture((frame,), alt="one"), 700, 400).handles
    value = handle.value_at(handle.left + share * (handle.right - handle.left))
    assert value / step == pytest.approx(round(value / step), abs=1e-9)
    assert len(repr(value)) <= 6


def test_eight_categories_have_eight_shapes() -> None:
    """So that nobody needs to tell eight colours apart."""
    codes = np.arange(8)
    points = Points(codes + 0.5, np.full(8, 2.0), np.arange(8), codes)
    keys = tuple(Key(f"cultivar {code}") for code in codes)
    frame = Frame(X, (Panel((Lane((points,), y=Y),)),))
    drawing = lay_out(Picture((frame,), keys=keys, alt="eight"), 700, 400)
    made = drawing.marks()
    assert {m.shape for m in made} == set(SHAPES)
    assert len({m.role for m in made}) == 8


def test_points_are_counted_in_a_grid_as_numpy_counts_them() -> None:
    random = np.random.default_rng(2)
    x, y = random.normal(size=5000), random.uniform(-3, 9, 5000)
    made = Shades.of(x, y, 48, 31)
    counts, x_edges, y_edges = np.histogram2d(x, y, bins=(48, 31))
    assert np.abs(made.counts - counts).sum() <= 4  # a value at an edge may fall on either side
    assert made.counts.sum() == 5000
    assert np.allclose(made.x_edges, x_edges)
    assert np.allclose(made.y_edges, y_edges)
    level = Shades.of(np.ones(9), y[:9], 4, 3)
    assert level.counts.sum() == 9
