"""Sentences about awkward data: few values, equal values, ties, names that are long or symbols."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import numpy as np
import polars as pl
import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.answer.drawing import Words
from theoros.answer.layout import lay_out
from theoros.answer.metrics import text_width
from theoros.numeric.lean_and_peaks import LEAST
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make

LONG = "a very long name of a level that goes on and on " * 6


def reading(verb: str, *, noun: str = "row", columns: dict[str, list], **slots):
    table = make_table("t", noun, **columns)
    found = answer(make(verb, table="t", **slots), {"t": table})
    assert found.problem is None
    return found


@pytest.mark.parametrize(
    ("values", "headline"),
    [
        ([5.0], "There is one value of x: 5."),
        ([5.0] * 4, "All 4 values of x are 5."),
        ([1.0, 2, 3, 4], "Half of the rows have an x of 2.5 or less."),
        ([1.0, 2, 3], "Half of the rows have an x of 2 or less."),
        # three of four are at 5 or below: "half" would be untrue
        ([5.0, 5, 5, 7], "The median x of the rows is 5."),
    ],
)
def test_one_number(values: list[float], headline: str) -> None:
    for shape in ("stacked dots", "box plot", "histogram"):
        found = reading("plot", columns={"x": values}, what="x", shape=shape)
        assert found.reading.headline == headline


def test_the_range_is_not_said_to_be_that_of_the_middle_half() -> None:
    found = reading("plot", columns={"x": [1.0, 2, 3, 4, 5, 6]}, what="x")
    assert found.reading.paragraphs[-1] == ("The middle half lies between 2 and 5, and all values between 1 and 6.")


def test_few_values_in_a_group_are_pointed_out() -> None:
    columns: dict[str, list] = {"x": [5.0, 7.5], "g": ["a", "b"]}
    found = reading("plot", columns=columns, what="x", by="g")
    assert found.reading.cautions == ("With fewer than 5 values in a group, medians and boxes say little.",)
    assert "1 value," in found.picture.alt
    assert "1 values" not in found.picture.alt


@pytest.mark.parametrize(
    ("levels", "headline"),
    [
        (["ash"] * 3, "All 3 bushes have the tree ash."),
        (["ash"], "The one bush has the tree ash."),
        (["ash", "elm", "elm"], "The most frequent tree is elm: 67\u00a0% of the 3 bushes."),
        (["ash", "elm"], "Every tree is equally frequent: 1 bush each."),
        (["ash", "ash", "elm", "elm", "oak"], "The most frequent levels of tree are ash and elm: 2 bushes each, of 5."),
    ],
)
def test_the_most_frequent_level(levels: list[str], headline: str) -> None:
    found = reading("plot", noun="bush", columns={"tree": levels}, what="tree", shape="bars")
    assert found.reading.headline == headline


def test_shares_are_said_of_the_groups_they_are_shares_of() -> None:
    columns: dict[str, list] = {
        "grade": ["fine", "fine", "fine", "coarse", "fair", "fair"],
        "netting": ["open", "open", "open", "netted", "netted", "netted"],
    }
    found = reading("plot", noun="bush", columns=columns, what="grade", by="netting", shape="mosaic")
    assert found.reading.headline == (
        "The share of fine differs most: 100\u00a0% of open bushes and 0\u00a0% of netted bushes."
    )


@pytest.mark.parametrize("verb", ["plot", "describe"])
@pytest.mark.parametrize("by", [None, "h"])
def test_long_names_are_cut_in_sentences_and_told_in_full_on_asking(verb: str, by: str | None) -> None:
    columns: dict[str, list] = {"g": [LONG + "one", LONG + "two"] * 6, "h": ["נמוך", "גבוה"] * 6}
    slots = {"shape": "bars side by side" if by else "bars"} if verb == "plot" else {}
    for what, each in (("g", by), ("h", "g")) if by else (("g", None),):
        found = reading(verb, columns=columns, what=what, by=each, **slots)
        texts = [found.reading.headline, *found.reading.paragraphs, found.picture.alt]
        for figures in found.figures:
            texts += [heading.label for heading in figures.headings]
            texts += [cell.text for row in figures.rows for cell in row.cells]
            if what == "g":
                assert any(cell.value == LONG + "one" for cell in figures.rows[0].cells)
        assert not [text for text in texts if LONG[:60] in text]


def test_the_shapes_of_groups_are_told_together() -> None:
    rng = np.random.default_rng(4)
    even = list(np.linspace(40, 60, 41))
    skewed = list(40 + np.sort(rng.exponential(6, 60)))
    columns: dict[str, list] = {
        "mass": even + skewed + even[: LEAST - 1],
        "plot": ["upper"] * 41 + ["lower"] * 60 + ["middle"] * (LEAST - 1),
    }
    found = reading("describe", noun="bush", columns=columns, what="mass", by="plot")
    said = [text for text in found.reading.paragraphs if text.startswith("The shape")]
    assert said == [
        "The shape of mass is skewed to the right (mean above median) for lower bushes; it is "
        "roughly symmetric with one peak for upper bushes."
    ]


def test_a_highest_value_that_comes_again_is_said_to_be_the_first() -> None:
    columns: dict[str, list] = {"v": [4.0, 1, 4, 2], "t": [9.0, 2, 3, 4]}
    found = reading("plot", columns=columns, what="v", against="t", shape="line")
    assert found.reading.headline == ("The highest value of v is 4, first at 3; the lowest is 1, at 2.")


def test_values_without_spread_have_no_curve() -> None:
    columns: dict[str, list] = {"x": [5.0, 5, 5, 1, 2, 9], "g": ["a", "a", "a", "b", "b", "b"]}
    found = reading("plot", columns=columns, what="x", by="g", shape="density")
    first, second = (panel.lanes[0] for panel in found.picture.frames[0].panels)
    assert [type(layer).__name__ for layer in first.layers] == ["WrittenWords"]
    assert first.layers[0].texts[0][1] == "3 equal values, so no curve"
    assert "Line" in [type(layer).__name__ for layer in second.layers]


@pytest.mark.parametrize("shape", ["line", "histogram", "strewn dots", "density", "scatter"])
@pytest.mark.parametrize("values", [[0.0, 3, 6], [1e5, 3e5, 12.5], [-0.123, 0.001, 0.5], [7.0] * 3])
def test_no_tick_label_is_cut(values: list[float], shape: str) -> None:
    slots = {"against": "t"} if shape in ("line", "scatter") else {}
    columns: dict[str, list] = {"v": values, "t": [1e6, 2e6, 3.5e6]}
    found = reading("plot", columns=columns, what="v", shape=shape, **slots)
    for wide, high in ((700, 500), (300, 900), (900, 160)):
        for item in lay_out(found.picture, wide, high).items:
            if isinstance(item, Words):
                size = text_width(item.text, item.size)
                left = item.x - size * {"start": 0, "middle": 0.5, "end": 1}[item.anchor]
                assert left >= -0.5, item
                assert left + size <= wide + 0.5, item


def test_whole_numbers_are_ticked_at_whole_numbers() -> None:
    columns: dict[str, list] = {"v": [0.0, 1, 2, 3], "t": [1.0, 2, 3, 4]}
    found = reading("plot", columns=columns, what="v", against="t", shape="line")
    words = [item.text for item in lay_out(found.picture, 900, 700).items if isinstance(item, Words)]
    assert {"0", "1", "2", "3"} <= set(words)
    assert not [word for word in words if "." in word]


SIZES: dict[str, list] = {
    "leaf": [10.0, 12, 14, 16, 18, None],
    "bud": [20.0, 25, 21, 27, None, 29],
    "day": [1.0, 2, 3, 4, 5, 6],
}


@pytest.mark.parametrize("shape", ["histogram", "box plot", "stacked dots", "stem and leaf"])
def test_several_numbers_are_spoken_of_one_by_one(shape: str) -> None:
    found = reading("plot", columns=SIZES, what="leaf", also=["bud"], shape=shape)
    assert found.used == 6  # rows, not values
    assert found.reading.headline == "The medians are 14 for leaf and 25 for bud."
    labels = [link.label for link in found.reading.next]
    assert labels[-2:] == ["Describe leaf and bud", "Test whether leaf and bud differ"]
    assert all(answered(link.statement) for link in found.reading.next[-2:])


def answered(statement) -> bool:
    return answer(statement, {"t": make_table("t", "row", **SIZES)}).problem is None


def test_shares_of_several_numbers() -> None:
    found = reading("plot", columns=SIZES, what="leaf", also=["bud"], shape="box plot", cut=20.0)
    assert found.reading.paragraphs[:2] == (
        "None of the values of leaf is 20 or more.",
        "All of the values of bud are 20 or more.",
    )


def test_units_that_differ_are_pointed_out() -> None:
    table = make_table("t", "row", **SIZES)
    table = replace(
        table, columns=(replace(table.columns[0], unit="mm"), replace(table.columns[1], unit="g"), table.columns[2])
    )
    found = answer(make("plot", table="t", what="leaf", also=["bud"], shape="box plot"), {"t": table})
    assert found.reading.headline == "The medians are 14\u00a0mm for leaf and 25\u00a0g for bud."
    assert found.reading.paragraphs[0].startswith("These numbers have different units (g and mm)")
    assert "median 14\u00a0mm" in found.picture.alt
    assert "median 25\u00a0g" in found.picture.alt


def test_each_of_several_responses_has_its_own_r() -> None:
    found = reading("plot", columns=SIZES, what="leaf", also=["bud"], against="day", shape="scatter")
    assert found.used == 6
    assert found.reading.headline == "Leaf tends to be higher where day is higher."
    points, line = found.reading.paragraphs
    assert points.endswith("10 points in all.")
    # the second by scipy.stats.pearsonr([1, 2, 3, 4, 6], [20, 25, 21, 27, 29])
    assert line.startswith("Along a straight line, r\u00a0=\u00a01.00 for leaf and 0.83 for bud.")


def test_each_of_several_lines_has_its_own_ends() -> None:
    found = reading("plot", columns=SIZES, what="leaf", also=["bud"], against="day", shape="line", read=2.0)
    assert found.reading.headline == "The highest value of leaf is 18, at 5; the lowest is 10, at 1."
    assert found.reading.paragraphs == (
        "At 2, leaf is 12 and bud is 25.",
        "The highest value of bud is 29, at 6; the lowest is 20, at 1.",
    )


def test_r_is_told_within_panels_and_colours() -> None:
    rng = np.random.default_rng(8)
    x = rng.normal(size=40)
    y = np.where(np.arange(40) < 20, x, -x) + rng.normal(size=40) * 0.3
    columns: dict[str, list] = {"x": list(x), "y": list(y), "g": ["up"] * 20 + ["down"] * 20}
    r = {part: stats.pearsonr(x[own], y[own]).statistic for part, own in (("up", slice(20)), ("down", slice(20, 40)))}
    said = f"r\u00a0=\u00a0−{-r['down']:.2f} for down and {r['up']:.2f} for up."
    for slots, where in (({"by": "g"}, "panels"), ({"colour": "g"}, "colours")):
        found = reading("plot", columns=columns, what="y", against="x", shape="scatter", **slots)
        assert found.reading.paragraphs[-1] == f"Within the {where}, {said}"


@pytest.mark.parametrize(
    ("count", "ending"),
    [
        (4, "All of the rows whose g is “d” have 2 or more."),
        (5, "The picture shows the other group too."),
        (7, "The picture shows the other 3 groups too."),
    ],
)
def test_of_many_groups_only_some_are_told_and_that_is_said(count: int, ending: str) -> None:
    columns: dict[str, list] = {"x": [3.0, 4.0] * count, "g": list("abcdefg"[:count]) * 2}
    found = reading("plot", columns=columns, what="x", by="g", shape="box plot", cut=2.0)
    told = [text for text in found.reading.paragraphs if text.startswith(("All of the", "The picture"))]
    assert told[-1] == ending
    assert len(told) == min(count, 5)


def test_months_are_named_where_every_date_is_the_first_of_one() -> None:
    def line(days: list[date], read: float | None = None):
        columns = (Column("day", Kind.DATE), Column("rain", Kind.NUMBER))
        frame = pl.DataFrame({"day": days, "rain": [4.0, 9, 2]})
        table = Table("t", columns, frame)
        made = make("plot", table="t", what="rain", against="day", shape="line", read=read)
        return answer(made, {"t": table}).reading

    months = [date(2026, 11, 1), date(2026, 12, 1), date(2027, 1, 1)]
    assert line(months).headline == (
        "The highest value of rain is 9, in December 2026; the lowest is 2, in January 2027."
    )
    at = float((months[1] - date(1970, 1, 1)).days)
    assert line(months, at).paragraphs[0] == "In December 2026, rain is 9."
    assert line(months, at + 3).paragraphs[0].startswith("On 2026-12-04 (read off")
    days = [date(2026, 11, 1), date(2026, 12, 1), date(2027, 1, 2)]
    assert line(days).headline == ("The highest value of rain is 9, on 2026-12-01; the lowest is 2, on 2027-01-02.")
