"""Pictures become drawings: geometry against hand-worked cases and laws."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from itertools import combinations, pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from theoros.answer.axis import SHAPES, Axis, span
from theoros.answer.drawing import Block, Handle, Marks, Stroke, Words
from theoros.answer.layers.bars import Bars
from theoros.answer.layers.boxes import Box
from theoros.answer.layers.layer import LARGEST_DOT, SMALLEST_DOT, AxisScale, fit_dots
from theoros.answer.layers.lines import Line, Under
from theoros.answer.layers.points import Points, Shades
from theoros.answer.layers.stacks import Stacks
from theoros.answer.layout import lay_out
from theoros.answer.metrics import text_width
from theoros.answer.palette import DARK, LIGHT, contrast
from theoros.answer.picture import Frame, Key, Lane, Panel, Picture, Rule, SquareHandle
from theoros.answer.static import lay_out_static
from theoros.answer.svg import outline, to_svg
from theoros.answer.ticking import tick_labels


def dots(values: list[float], width: float = 1.0, label: str = "") -> Panel:
    data = np.array(values)
    bins = np.floor(data / width).astype(int)
    order = np.array([int(np.sum(bins[:k] == bins[k])) for k in range(bins.size)])
    layer = Stacks(
        (bins + 0.5) * width, order, width, np.arange(data.size), np.zeros(data.size, int), np.zeros(data.size, bool)
    )
    return Panel((Lane((layer,)),), label)


def picture(*panels: Panel, **more) -> Picture:
    return Picture((Frame(Axis(0, 10, "x (g)"), panels, **more),), alt="dots")


def test_dots_stand_in_their_bins_and_do_not_overlap() -> None:
    drawing = lay_out(picture(dots([1.2, 1.4, 1.9, 5.5, 5.6, 9.1])), 600, 240)
    (marks,) = drawing.marks()
    assert sorted(marks.rows.tolist()) == [0, 1, 2, 3, 4, 5]
    for i, j in combinations(range(6), 2):
        gap = np.hypot(marks.x[i] - marks.x[j], marks.y[i] - marks.y[j])
        assert gap >= marks.size - 1e-6
    axis = next(s for s in drawing.items if isinstance(s, Stroke) and s.role == "mute")
    left, right = axis.points[0, 0], axis.points[1, 0]
    scale = AxisScale(0, 10, left, right)
    for x, row in zip(marks.x, marks.rows, strict=True):
        centre = [1.5, 1.5, 1.5, 5.5, 5.5, 9.5][row]
        assert abs(x - scale(centre)) <= scale.pixels_per_unit / 2


@given(st.integers(1, 500), st.floats(1, 80), st.floats(10, 400))
def test_dots_are_as_large_as_fits(tallest: int, width: float, room: float) -> None:
    fitted = fit_dots(tallest, width, room)
    assert fitted.size <= LARGEST_DOT
    assert fitted.size * fitted.abreast <= width + 1e-9
    assert fitted.size * np.ceil(tallest / fitted.abreast) <= room + 1e-6


def test_too_many_dots_become_columns_of_true_height_and_say_so() -> None:
    drawing = lay_out(picture(dots([1.5] * 3000 + [7.5] * 1000)), 400, 200)
    assert not drawing.marks()
    columns = [b for b in drawing.items if isinstance(b, Block) and b.fill == "data"]
    assert columns[0].height / columns[1].height == pytest.approx(3)
    assert columns[0].y + columns[0].height == pytest.approx(columns[1].y + columns[1].height)
    assert "no room for a dot" in drawing.notes[0]


def test_panels_share_one_dot_size() -> None:
    drawing = lay_out(picture(dots([1, 1, 1, 1, 1], label="a"), dots([2.0], label="b")), 500, 300)
    assert len({marks.size for marks in drawing.marks()}) == 1
    assert [w.text for w in drawing.items if isinstance(w, Words) and w.anchor == "end"][:2]


def test_boxes_lie_at_their_quartiles() -> None:
    box = Box(1, 2, 5, 8, 9, mean=5.5)
    drawing = lay_out(picture(Panel((Lane((box,)),))), 500, 200)
    axis = next(s for s in drawing.items if isinstance(s, Stroke) and s.role == "mute")
    scale = AxisScale(0, 10, axis.points[0, 0], axis.points[1, 0])
    (block,) = [b for b in drawing.items if isinstance(b, Block)]
    assert block.x == pytest.approx(scale(2))
    assert block.x + block.width == pytest.approx(scale(8))
    (triangle,) = [m for m in drawing.items if isinstance(m, Marks)]
    assert triangle.x[0] == pytest.approx(scale(5.5))


def test_bars_begin_at_zero_and_keep_proportions() -> None:
    bars = Bars(np.array([0.0, 1]), np.array([1.0, 2]), np.array([2.0, 4]), np.array([False, True]))
    lane = Lane((bars,), y=Axis(0, 5))
    drawing = lay_out(picture(Panel((lane,))), 400, 200)
    one, two = (b for b in drawing.items if isinstance(b, Block))
    assert two.height == pytest.approx(2 * one.height)
    assert (one.fill, two.fill, two.hatched) == ("chance", "tail", True)


def test_rows_can_be_found_and_swept() -> None:
    x, y = np.array([1.0, 5, 9]), np.array([1.0, 5, 9])
    layer = Points(x, y, np.array([7, 8, 9]), np.zeros(3, int))
    drawing = lay_out(picture(Panel((Lane((layer,), y=Axis(0, 10, "y")),)), show_y=True), 500, 400)
    (marks,) = drawing.marks()
    assert drawing.nearest(marks.x[1] + 2, marks.y[1] - 2, 8) == 8
    assert drawing.nearest(marks.x[1] + 40, marks.y[1], 8) is None
    assert drawing.rows_in(0, 0, 500, 400).tolist() == [7, 8, 9]
    assert drawing.rows_in(marks.x[0] - 1, 0, marks.x[0] + 1, 400).tolist() == [7]
    assert marks.y[0] > marks.y[2]  # upwards is more


def test_a_handle_gives_back_the_value_it_stands_at() -> None:
    square = SquareHandle("bins", at=4.0, origin=1.0, step=0.5)
    drawing = lay_out(picture(dots([1.0]), squares=(square,), rules=(Rule(6, "cut", slot="cut"),)), 500, 200)
    bins, cut = drawing.handles
    assert bins.value_at(bins.x) == 3.0
    assert cut.value_at(cut.x) == pytest.approx(6)
    assert bins.value_at(-1e6) == -1.0  # held within the axis


@given(st.floats(-1e3, 1e3), st.floats(0.1, 1e3), st.floats(0, 1))
def test_handles_are_inverse_to_the_axis(low: float, width: float, share: float) -> None:
    handle = Handle("s", 0, 0, "round", "seen", low, low + width, 100, 500)
    value = low + share * width
    scale = AxisScale(low, low + width, 100, 500)
    assert handle.value_at(scale(value)) == pytest.approx(value, abs=1e-6 * width)


def test_the_picture_as_svg_is_well_formed_and_tells_itself() -> None:
    grid = np.linspace(0, 10, 20)
    layers = (
        Under(grid, np.sin(grid) ** 2),
        Line(grid, np.sin(grid) ** 2, dashed=True),
        Shades(np.array([0.0, 5, 10]), np.array([0.0, 0.5, 1]), np.array([[1.0, 0], [2, 3]])),
    )
    made = Picture(
        (
            Frame(
                Axis(0, 10, "a < b & c"),
                (Panel((Lane(layers, y=Axis(0, 1, "y")),)),),
                title="t",
                show_y=True,
                rules=(Rule(9.9, "a label that is long", knob=True),),
            ),
        ),
        keys=tuple(Key(f"level {k} <i>") for k in range(9)),
        alt='said & "quoted"',
    )
    root = ET.fromstring(to_svg(lay_out(made, 640, 360), made.alt))
    assert root.find("{http://www.w3.org/2000/svg}title").text == 'said & "quoted"'
    texts = [node.text for node in root.iter("{http://www.w3.org/2000/svg}text")]
    assert "a < b & c" in texts
    assert "level 0 <i>" in texts
    rule = next(n for n in root.iter("{http://www.w3.org/2000/svg}text") if "long" in (n.text or ""))
    assert rule.get("text-anchor") == "end"  # near the right edge it turns round


@pytest.mark.parametrize("shape", SHAPES)
def test_shapes_have_alike_areas(shape: str) -> None:
    corners = outline(shape, 10)
    if not corners:
        return
    x, y = np.array(corners).T
    area = abs(np.sum(x * np.roll(y, 1) - y * np.roll(x, 1))) / 2
    assert 0.4 < area / (np.pi * 25) < 1.25


@pytest.mark.parametrize("palette", [LIGHT, DARK], ids=["light", "dark"])
def test_contrast_of_every_text_role(palette: dict[str, str]) -> None:
    grounds = [palette[name] for name in ("paper", "page", "wash")]
    texts = ["ink", "mute", "data", "good", "bad", "warn", *(f"category-{k}" for k in range(8))]
    for name in texts:
        for ground in grounds:
            assert contrast(palette[name], ground) >= 4.5, (name, ground)
    assert contrast("#FFFFFF", "#000000") == pytest.approx(21)


def test_categories_stay_apart_for_every_kind_of_eye() -> None:
    """Distances in Oklab (Ottosson 2020); colour-vision deficiencies by Machado, Oliveira and
    Fernandes (2009), severity 1: red-, green- and blue-blind.

    Eight colours cannot be told apart by eyes with two kinds of cones: the first three are, and
    every category has a shape of its own besides (tests/answer/test_layers.py).
    """
    eyes = {
        "red": [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]],
        "green": [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.01182, 0.04294, 0.968881]],
        "blue": [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.3039]],
    }
    to_cones = [
        [0.4122214708, 0.5363325363, 0.0514459929],
        [0.2119034982, 0.6806995451, 0.1073969566],
        [0.0883024619, 0.2817188376, 0.6299787005],
    ]
    to_lab = [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]

    def linear(colour: str) -> np.ndarray:
        c = np.array([int(colour[k : k + 2], 16) for k in (1, 3, 5)]) / 255
        return np.where(c <= 0.04045, c / 12.92, ((c + 0.055) / 1.055) ** 2.4)

    def nearest(colours: list[np.ndarray]) -> float:
        seen = [np.array(to_lab) @ np.cbrt(np.array(to_cones) @ np.clip(c, 0, 1)) for c in colours]
        return min(float(np.linalg.norm(a - b)) for a, b in combinations(seen, 2))

    for palette in (LIGHT, DARK):
        every = [linear(palette[f"category-{k}"]) for k in range(8)]
        assert nearest(every) > 0.07  # seven times what is just noticeable side by side
        for matrix in eyes.values():
            assert nearest([np.array(matrix) @ c for c in every[:3]]) > 0.08


def test_tick_labels() -> None:
    assert tick_labels(np.array([0.0, 0.5, 1])) == ["0.0", "0.5", "1.0"]
    assert tick_labels(np.array([-10.0, 0, 10])) == ["−10", "0", "10"]
    assert tick_labels(np.array([1e8, 2e8])) == ["1e08", "2e08"]
    assert tick_labels(np.array([])) == []


@given(st.lists(st.floats(allow_nan=False, allow_infinity=False), max_size=20))
def test_an_axis_always_has_width(values: list[float]) -> None:
    low, high = span(np.array(values))
    assert low < high
    for value in values:
        assert low <= value <= high


@given(st.floats(60, 2000), st.floats(60, 900), st.floats(9, 24))
def test_any_size_can_be_laid_out(width: float, height: float, text: float) -> None:
    drawing = lay_out(picture(dots([1, 2, 3.0], label="a group with a long name")), width, height, text)
    for item in drawing.items:
        if isinstance(item, Marks):
            assert np.isfinite(item.x).all()
            assert np.isfinite(item.y).all()


def test_text_is_measured() -> None:
    assert text_width("iii", 12) < text_width("mmm", 12)
    assert text_width("ab", 24) == pytest.approx(2 * text_width("ab", 12))
    assert SMALLEST_DOT < LARGEST_DOT


@pytest.mark.parametrize(("wide", "below"), [(760, False), (443, False), (441, True), (300, True)])
def test_frames_stand_below_each_other_where_it_is_narrow(wide: float, below: bool) -> None:
    """Two frames and the gap of 34 need 2 x 17 x 12 + 34 = 442 pixels beside each other."""
    frames = (*picture(dots([1.5] * 3)).frames, *picture(dots([2.5] * 4)).frames)
    first, second = lay_out(Picture(frames, breaks=True), wide, 500).marks()
    assert (second.x.max() > first.x.max() + wide / 3) == (not below)
    assert (second.y.min() > first.y.max() + 34) == below
    assert second.x.max() < wide
    assert second.y.max() < 500
    first, second = lay_out(Picture(frames), wide, 500).marks()  # such as panels in columns
    assert first.y.max() == second.y.max()


def test_a_picture_for_a_document_has_nothing_to_drag_and_its_caption_below() -> None:
    square = SquareHandle("bins", 2.0, 0.0, 0.1)
    made = picture(dots([1.5] * 3000), squares=(square,), rules=(Rule(6, "6 g", slot="cut"),))
    drawing = lay_out_static(made, 400, 200, "Plot x (g), as stacked dots, " + "word " * 60 + "end.")
    assert drawing.handles == ()
    dashed = [item for item in drawing.items if isinstance(item, Stroke) and item.dashed]
    assert dashed == []  # the line of the bins goes with its knob
    below = [item for item in drawing.items if isinstance(item, Words) and item.y > 200]
    assert below[0].text.startswith("Plot x (g), as stacked dots, word")
    assert all(text_width(item.text, item.size) <= 384 for item in below)
    assert below[-1].y < drawing.height
    # what the picture had to do in another way is said there, too
    assert "the columns show how many." in " ".join(item.text for item in below)
    assert lay_out_static(picture(dots([1.5])), 400, 200).height == 200


def test_names_of_levels_take_the_room_of_those_that_are_left_out() -> None:
    """Where every second name is written, each may be as long as two rooms."""
    names = tuple((float(at), f"level {at:02}") for at in range(30))
    drawn = lay_out(Picture((Frame(Axis(-0.6, 29.6, names=names), (Panel((Lane(()),)),)),)), 700, 300)
    written = [item for item in drawn.items if isinstance(item, Words) and item.text.startswith("lev")]
    assert 5 < len(written) < 30  # not every one
    assert "Not every level has room for its name." in drawn.notes
    gaps = np.diff([item.x for item in written])
    for item, gap in zip(written, gaps, strict=False):
        width = text_width("level 00", item.size)
        if width <= gap - 8:
            assert "…" not in item.text, (item.text, width, gap)
        assert text_width(item.text, item.size) <= gap


def test_names_of_an_upright_picture_stand_at_every_second_place_too() -> None:
    names = tuple((float(at), f"level {at:02}") for at in range(40))
    frame = Frame(Axis(-0.6, 39.6, names=names), (Panel((Lane(()),)),), transposed=True)
    drawn = lay_out(Picture((frame,)), 500, 260)
    written = [item.text for item in drawn.items if isinstance(item, Words) and item.text.startswith("level")]
    assert written[0] == "level 00"
    steps = {int(b.split()[1]) - int(a.split()[1]) for a, b in pairwise(written)}
    assert len(steps) == 1
    assert steps != {1}


def middle_of(words: Words) -> tuple[float, float]:
    shift = {"start": 0.5, "middle": 0.0, "end": -0.5}[words.anchor]
    return words.x + shift * text_width(words.text, words.size), words.y - words.size * 0.3


@pytest.mark.parametrize("upright", [False, True])
def test_a_column_is_dropped_on_what_it_is_drawn_as(upright: bool) -> None:
    """The name of the axis, its ticks and the names of panels lie in their own zones, however it stands."""
    panels = [dots([1.2, 1.4, 5.5], label="slow"), dots([2.5, 7.1], label="quick")]
    keys = (Key("fine"), Key("coarse"))
    drawing = lay_out(
        Picture((Frame(Axis(0, 10, "x (g)"), tuple(panels), transposed=upright),), alt="dots", keys=keys), 600, 300
    )
    said = {item.text: middle_of(item) for item in drawing.items if isinstance(item, Words)}
    zones = {text: drawing.zone_at(*at) for text, at in said.items()}
    assert {zones[text] for text in ("slow", "quick")} == {"panels"}
    assert {zones[text] for text in ("x (g)", "0", "10")} == {"axis"}
    assert {zones[text] for text in ("fine", "coarse")} == {"key"}
    (marks, *_) = drawing.marks()
    assert drawing.zone_at(float(marks.x[0]), float(marks.y[0])) == "middle"


@given(st.integers(80, 900), st.integers(60, 600), st.booleans())
def test_every_zone_can_be_hit_in_a_picture_of_any_size(width: int, height: int, upright: bool) -> None:
    drawing = lay_out(picture(dots([1.0, 2.0]), transposed=upright), width, height)
    assert {spot.zone for spot in drawing.zones} == {"axis", "panels", "key"}
    for spot in drawing.zones:
        assert min(spot.width, spot.height) > 15 or (spot.zone == "panels" and not upright)
        inside = spot.left + spot.width / 2, spot.top + spot.height / 2
        assert 0 <= inside[0] <= width
        assert spot.top + spot.height <= height + 1e-6
