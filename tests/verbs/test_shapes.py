"""Shapes of plots: geometry against hand-worked cases, and a picture or a sentence for anything."""

from __future__ import annotations

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import layers, make_table
from theoros.answer.drawing import Words
from theoros.answer.layers.blocks import Blocks
from theoros.answer.layers.lines import Line
from theoros.answer.layers.points import Points
from theoros.answer.layers.sectors import Sectors
from theoros.answer.layers.stacks import Stacks
from theoros.answer.layout import lay_out
from theoros.answer.picture import Lane
from theoros.answer.svg import to_svg
from theoros.answer.ticking import day_marks
from theoros.numeric.procedures.means import mean_interval
from theoros.study.file import demo_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make
from theoros.verbs.plot.pictures.comparison import rule_of_thumb
from theoros.verbs.plot.shapes.shape import shapes, shapes_for

DEMO = demo_study().by_name
CUPS = make_table(
    "cups",
    "cup",
    heat=[1.0, 2, 2, 3, 4, 10, None],
    tea=["a", "a", "a", "b", "b", "b", "b"],
    pot=["x", "y", "x", "x", "y", "y", None],
)
TABLES = {"cups": CUPS}


def plot(table: Table = CUPS, **slots: object):
    """The answer to a plot; it must have a picture."""
    found = answer(make("plot", table=table.name, **slots), {table.name: table})
    assert found.problem is None, found.problem
    assert found.picture is not None
    return found


def test_a_histogram_by_hand() -> None:
    """Bins of 2 from 0: [0, 2) holds 1; [2, 4) holds 2, 2, 3; [4, 6) holds 4; [10, 12) holds 10."""
    for scale, heights in (
        ("count", [1, 3, 1, 0, 0, 1]),
        ("percent", [100 / 6, 50, 100 / 6, 0, 0, 100 / 6]),
        ("density", [1 / 12, 3 / 12, 1 / 12, 0, 0, 1 / 12]),
    ):
        (bars,) = layers(plot(what="heat", shape="histogram", bins=2.0, scale=scale), Blocks)
        assert bars.high.tolist() == pytest.approx(heights)
        assert bars.left.tolist() == [0, 2, 4, 6, 8, 10]
        assert bars.low.tolist() == [0] * 6  # bars begin at zero


def test_colours_stand_on_each_other() -> None:
    one, two = layers(plot(what="heat", shape="histogram", bins=2.0, colour="tea"), Blocks)
    assert one.high.tolist() == two.low.tolist() == [1, 2, 0, 0, 0, 0]
    assert two.high.tolist() == [1, 3, 1, 0, 0, 1]


def test_dots_at_exact_values_are_piled_where_they_are_equal() -> None:
    (dots,) = layers(plot(what="heat", shape="dots at exact values"), Stacks)
    assert sorted(zip(dots.centres.tolist(), dots.order.tolist(), strict=True)) == [
        (1, 0),
        (2, 0),
        (2, 1),
        (3, 0),
        (4, 0),
        (10, 0),
    ]


@pytest.mark.parametrize("shape", ["strewn dots", "gathered dots", "stacked dots", "dots at exact values"])
def test_every_row_keeps_its_mark(shape: str) -> None:
    found = plot(what="heat", by="tea", shape=shape, bins=2.0 if "at" not in shape else None)
    marks = [*layers(found, Points), *layers(found, Stacks)]
    rows = np.concatenate([layer.rows for layer in marks])
    assert sorted(rows.tolist()) == [0, 1, 2, 3, 4, 5]
    if shape == "strewn dots":
        assert all(np.isin(layer.x, [1, 2, 3, 4, 10]).all() for layer in marks)
    if shape == "gathered dots":  # within its own bin
        for layer in marks:
            values = np.array([1.0, 2, 2, 3, 4, 10])[layer.rows]
            assert (np.abs(layer.x - values) < 0.5).all()  # a bin for each whole number


def test_split_lines_count_each_side_in_every_panel() -> None:
    """a: 1 2 2; b: 3 4 10. At 2 one of a lies below; at 2 and 4, two of a and one of b between."""
    found = plot(what="heat", by="tea", cut=2.0)
    words = [i.text for i in lay_out(found.picture, 700, 400).items if isinstance(i, Words)]
    assert {"1 (33\u00a0%)", "2 (67\u00a0%)", "0 (0\u00a0%)", "3 (100\u00a0%)"} <= set(words)
    assert found.reading.paragraphs[0] == "Of the cups whose tea is “a”, 67\u00a0% have 2 or more."
    both = plot(what="heat", by="tea", cut=4.0, cut2=2.0)
    assert "at least 2 and less than 4" in both.reading.paragraphs[0]
    (handle, other) = (rule.slot for rule in both.picture.frames[0].rules)
    assert {handle, other} == {"cut", "cut2"}


def test_steps_and_quantiles_by_hand() -> None:
    (line,) = layers(plot(what="heat", shape="cumulative steps", marks=[]), Line)
    pairs = set(zip(line.x.tolist(), np.round(line.y, 4).tolist(), strict=True))
    assert {(2.0, 50.0), (10.0, 100.0), (1.0, 16.6667)} <= pairs
    (points,) = layers(plot(what="heat", shape="normal quantiles"), Points)
    assert points.x.tolist() == [1, 2, 2, 3, 4, 10]
    assert points.y.tolist() == pytest.approx((-points.y[::-1]).tolist())


def test_intervals_of_means_against_scipy() -> None:
    from scipy import stats

    from theoros.verbs.data.groups import split

    group = split(CUPS, "heat", None).groups[0]
    known = stats.t.interval(0.95, 5, group.values.mean(), stats.sem(group.values))
    low, mean, high = mean_interval(group.values, 0.95)
    assert (low, high) == pytest.approx(known)
    assert mean == pytest.approx(group.values.mean())


COUNTS = {("x", "a"): 2, ("x", "b"): 1, ("y", "a"): 1, ("y", "b"): 2}


def test_bars_of_one_and_two_categories_by_hand() -> None:
    (bars,) = layers(plot(what="tea", shape="bars"), Blocks)
    assert bars.high.tolist() == [3, 4]
    (bars,) = layers(plot(what="tea", shape="bars", order="by count", scale="percent"), Blocks)
    assert bars.high.tolist() == pytest.approx([400 / 7, 300 / 7])
    (bars,) = layers(plot(what="tea", by="pot", shape="bars side by side"), Blocks)
    assert bars.high.tolist() == [2, 1, 1, 2]
    low, high = layers(plot(what="tea", by="pot", shape="stacked bars"), Blocks)
    assert (low.high.tolist(), high.high.tolist()) == ([2, 1], [3, 3])
    low, high = layers(plot(what="tea", by="pot", shape="bars stacked to 100 %"), Blocks)
    assert low.high.tolist() == pytest.approx([200 / 3, 100 / 3])
    assert high.high.tolist() == pytest.approx([100, 100])


def test_the_areas_of_a_mosaic_are_the_shares() -> None:
    table = make_table(g=list("aaab") + ["b"] * 4, h=list("xyxxxyyy"))
    found = plot(table, what="h", by="g", shape="mosaic")
    areas = {}
    for k, layer in enumerate(layers(found, Blocks)):
        size = (layer.right - layer.left) * (layer.high - layer.low)
        areas.update({(g, "xy"[k]): float(s) for g, s in zip("ab", size, strict=True)})
    counts = {("a", "x"): 2, ("a", "y"): 1, ("b", "x"): 2, ("b", "y"): 3}
    assert areas == pytest.approx({key: 10_000 * n / 8 for key, n in counts.items()})


def test_rings_hold_shares_and_units_hold_rows() -> None:
    rings = layers(plot(what="tea", by="pot", shape="ring"), Sectors)
    assert np.array([ring.shares for ring in rings]) == pytest.approx(np.array([[2 / 3, 1 / 3], [1 / 3, 2 / 3]]))
    (marks,) = layers(plot(what="tea", shape="unit chart"), Points)
    assert sorted(marks.rows.tolist()) == list(range(7))


def test_levels_stand_in_the_order_asked_for() -> None:
    table = make_table(g=["b", "c", "c", "a", "c", "b"])
    for order, names in (("levels", "abc"), ("by count", "cba"), ("as they come", "bca")):
        axis = plot(table, what="g", shape="bars", order=order).picture.frames[0].x
        assert "".join(name for _, name in axis.names) == names


def test_a_line_goes_in_the_order_of_time() -> None:
    days = pl.Series("day", [20_000, 19_990, 20_010], dtype=pl.Int32).cast(pl.Date)
    table = Table("t", (Column("day", Kind.DATE), Column("x")), pl.DataFrame([days, pl.Series("x", [2.0, 1, 3])]))
    found = plot(table, what="x", against="day", shape="line")
    (line,) = layers(found, Line)
    assert line.y.tolist() == [1, 2, 3]
    assert "on 2024-10-14" in found.reading.headline
    rows = plot(table, what="x", shape="line")
    assert "in row 3" in rows.reading.headline
    assert day_marks(19_990.0, 20_010.0, 3)[0][1].startswith("2024-")
    assert day_marks(10_000, 14_000, 6)[0][1] in ("1998", "1999")


def test_two_groups_are_compared_by_eye() -> None:
    """Medians 2 and 4, Q1 of a is 1, Q3 of b is 10: a gap of 2 in a spread of 9."""
    found = plot(what="heat", by="tea", gap=True, first_part="upper half", second_part="lower half")
    assert len(found.picture.frames[0].panels) == 3
    text = " ".join(found.reading.paragraphs)
    assert "The gap of the medians, 2, is 0.22 of the overall visible spread, 9." in text
    assert "as small as 3" in text


@pytest.mark.parametrize(
    ("share", "n", "words"),
    [
        (0.4, 30, "more than 1/3 suggests"),
        (0.3, 30, "a gap of more than 1/3"),
        (0.25, 100, "more than 1/5 suggests"),
        (0.15, 100, "a gap of more than 1/5"),
        (0.15, 1000, "more than 1/10 suggests"),
        (0.05, 1000, "may be chance"),
        (0.9, 5, "the picture alone cannot"),
    ],
)
def test_the_rule_of_thumb(share: float, n: int, words: str) -> None:
    """Thresholds of Wild and others (2011)."""
    assert words in rule_of_thumb(share, n)


def test_the_ends_of_an_axis_can_be_given_and_what_lies_beyond_is_said() -> None:
    found = plot(what="heat", shape="strewn dots", low=0.0, high=5.0)
    assert (found.picture.frames[0].x.low, found.picture.frames[0].x.high) == (0, 5)
    assert "1 case lies outside the axis." in found.picture.notes
    wrong = answer(make("plot", table="cups", what="heat", low=5.0, high=1.0), TABLES)
    assert "before it begins" in wrong.problem.sentence


def test_a_shape_that_does_not_suit_is_mended_and_said() -> None:
    statement = make("plot", table="cups", what="heat", shape="histogram", scale="density")
    mended = statement.with_slot("what", "tea", TABLES)
    assert (mended.statement.shape, mended.statement.scale) == ("bars", "count")
    assert any("bars" in note for note in mended.notes)
    back = mended.statement.with_slot("what", "heat", TABLES)
    assert back.statement.shape == "stacked dots"


def test_marks_were_one_word_once() -> None:
    assert make("plot", table="t", marks="boxes and means").marks == ("boxes", "mean")
    assert make("plot", table="t", marks="nothing").marks == ()


AWKWARD = {
    "one": [3.0],
    "two": [1.0, 2.0],
    "equal": [5.0] * 9,
    "tiny": [1e-300, 2e-300, 5e-300],
    "huge": [1e299, -1e299, 2e299],
    "wide": [1e-300, 1.0, 1e299],
    "negative": [-5.0, -3, -2, -2],
    "gaps": [None, 1.0, None, 2.0, 3.0],
    "many": list(np.linspace(0, 1, 7000)),
}


@pytest.mark.parametrize("name", AWKWARD)
@pytest.mark.parametrize("shape", [s.name for s in shapes_for("number")])
def test_awkward_numbers_give_a_picture_or_a_sentence(name: str, shape: str) -> None:
    values = AWKWARD[name]
    table = make_table(x=values, g=["p" if k % 2 else "q" for k in range(len(values))])
    for by in (None, "g"):
        found = answer(make("plot", table="t", what="x", by=by, shape=shape), {"t": table})
        if found.problem:
            assert found.problem.sentence.endswith(".")
            continue
        for size in ((740, 430), (220, 140)):
            drawing = lay_out(found.picture, *size)
            assert drawing.items
            assert "nan" not in to_svg(drawing, found.picture.alt)


@pytest.mark.parametrize("shape", [*shapes_for("category"), *shapes_for("two categories")], ids=lambda s: s.name)
def test_awkward_categories_give_a_picture_or_a_sentence(shape) -> None:
    names = ["x" * 300, "شاي أخضر", "", " ", "<b>&", "a" * 40]
    cases = {"one": ["a"], "odd": names, "many": [f"level {k}" for k in range(500)], "none": [None, None, "a"]}
    for values in cases.values():
        table = make_table(g=values, h=[str(k % 3) for k in range(len(values))])
        by = "h" if "two categories" in shape.subjects else None
        found = answer(make("plot", table="t", what="g", by=by, shape=shape.name), {"t": table})
        if found.problem:
            assert found.problem.sentence.endswith(".")
        else:
            drawing = lay_out(found.picture, 500, 300)
            assert "nan" not in to_svg(drawing, found.picture.alt)


@given(
    st.lists(st.floats(-1e6, 1e6) | st.none(), min_size=1, max_size=25).filter(lambda v: any(x is not None for x in v)),
    st.sampled_from([s.name for s in shapes_for("number")]),
)
def test_any_numbers_can_be_drawn(values: list, shape: str) -> None:
    found = answer(make("plot", table="t", what="x", shape=shape), {"t": make_table(x=values)})
    if any(0 < abs(x) < 1e-300 for x in values if x is not None):
        assert "closer to 0 than 10⁻³⁰⁰" in found.problem.sentence
        return
    assert found.problem is None
    assert "nan" not in to_svg(lay_out(found.picture, 600, 300), found.picture.alt)


def test_every_shape_has_help_and_draws_the_demo() -> None:
    for name, shape in shapes().items():
        assert shape.help.endswith(".")
        slots = {
            "number": {"what": "leaf mass", "by": "cultivar"},
            "category": {"what": "grade"},
            "two categories": {"what": "grade", "by": "netting"},
            "two numbers": {"what": "leaf mass", "against": "leaf length"},
            "over time": {"what": "leaf mass"},
        }[shape.subjects[0]]
        found = answer(make("plot", table="bushes", shape=name, **slots), DEMO)
        assert found.problem is None, name
        assert found.picture.alt.endswith(".")
        assert all(isinstance(lane, Lane) for f in found.picture.frames for p in f.panels for lane in p.lanes)


def test_several_numbers_stand_in_panels_or_colours_of_their_own() -> None:
    table = make_table(x=[1.0, 2, 3], y=[2.0, None, 4], z=[5.0, 6, 7])
    found = plot(table, what="x", also=["y", "z"], shape="histogram")
    assert [panel.label for panel in found.picture.frames[0].panels] == ["x", "y", "z"]
    assert "1 row left out: y is missing" in found.left_out
    line = plot(table, what="x", also=["y"], against="z", shape="line")
    assert [key.label for key in line.picture.keys] == ["x", "y"]
    assert [layer.y.tolist() for layer in layers(line, Line)] == [[1, 2, 3], [2, 4]]
    assert line.caption == "Plot x beside y against z, as a line."
    cloud = plot(table, what="x", also=["y"], against="z", shape="scatter")
    (points,) = layers(cloud, Points)
    assert points.codes.tolist() == [0, 0, 0, 1, 1]


def test_groups_and_several_numbers_stand_in_for_each_other() -> None:
    statement = make("plot", table="bushes", what="leaf mass", by="netting", colour="grade")
    beside = statement.with_slot("also", ("pluck mass",), DEMO).statement
    assert (beside.by, beside.colour, beside.also) == (None, None, ("pluck mass",))
    back = beside.with_slot("by", "netting", DEMO).statement
    assert (back.by, back.also) == ("netting", ())


def test_hidden_colours_leave_the_picture_and_are_said() -> None:
    found = plot(what="heat", shape="strewn dots", colour="tea", hidden=["a"])
    (points,) = layers(found, Points)
    assert points.rows.tolist() == [3, 4, 5]
    assert [key.hidden for key in found.picture.keys] == [True, False]
    assert "3 cases hidden by colour" in found.left_out
    spots = lay_out(found.picture, 600, 300).keys
    assert [spot.label for spot in spots] == ["a", "b"]
    assert plot(what="heat", colour="tea", hidden=["a", "b"]).used == 6  # never all of them


def test_a_box_is_drawn_one_way_or_the_other() -> None:
    statement = make("plot", table="cups", what="heat", marks=["boxes", "mean"])
    plain = statement.with_slot("marks", ("boxes", "plain boxes", "mean"), TABLES).statement
    assert plain.marks == ("plain boxes", "mean")
    back = plain.with_slot("marks", ("plain boxes", "mean", "boxes"), TABLES).statement
    assert back.marks == ("mean", "boxes")
