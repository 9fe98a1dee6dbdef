"""Long and wide, counts, joins, classes: against cases worked by hand, and there and back."""

from __future__ import annotations

import itertools

import numpy as np
import polars as pl
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.table.classes import class_names, class_of, equal_count, equal_width, given_cuts
from theoros.table.joining import join
from theoros.table.kinds import Kind
from theoros.table.reshape import count_up, indicators, make_long, make_wide, spread_out, standing, transpose
from theoros.table.rows import set_aside
from theoros.table.table import Column, Table, TableError

PLOTS = make_table("plots", "plot", plot=["a", "b", "c"], spring=[1.0, 2.0, None], autumn=[4.0, 5.0, 6.0])


def rows_of(table: Table) -> list[tuple]:
    return table.frame.rows()


def test_long_puts_columns_one_below_the_other() -> None:
    made = make_long(PLOTS, ["spring", "autumn"], "pluck", "season")
    assert rows_of(made) == [
        ("a", "spring", 1),
        ("b", "spring", 2),
        ("c", "spring", None),
        ("a", "autumn", 4),
        ("b", "autumn", 5),
        ("c", "autumn", 6),
    ]
    assert made.levels("season") == ("spring", "autumn")
    assert [c.name for c in made.columns] == ["plot", "season", "pluck"]


def test_long_keeps_a_common_unit_and_loses_others() -> None:
    def with_units(*units: str) -> Table:
        columns = tuple(Column(n, unit=u) for n, u in zip("xy", units, strict=True))
        return Table("t", columns, pl.DataFrame({"x": [1.0], "y": [2.0]}))

    assert make_long(with_units("g", "g"), ["x", "y"], "v", "f").column("v").unit == "g"
    assert make_long(with_units("g", "mm"), ["x", "y"], "v", "f").column("v").unit == ""


def test_mixed_kinds_become_a_category() -> None:
    made = make_long(make_table(x=[1.0, 2.5], y=["a", None]), ["x", "y"], "v", "f")
    assert made.frame["v"].to_list() == ["1", "2.5", "a", None]
    assert made.column("v").kind is Kind.CATEGORY


def test_one_column_cannot_be_made_long() -> None:
    with pytest.raises(TableError, match="two columns or more"):
        make_long(PLOTS, ["spring"], "v", "f")


def test_wide_with_groups_of_unequal_size() -> None:
    trays = make_table(way=["slow", "quick", "slow", None], loss=[1.0, 2.0, 3.0, 9.0])
    made, homeless = make_wide(trays, "loss", "way")
    assert made.frame.to_dict(as_series=False) == {"quick": [2, None], "slow": [1, 3]}
    assert homeless == 1


def test_wide_joins_rows_that_agree_in_all_else() -> None:
    long = make_table(plot=["b", "a", "b", "a"], season=["s", "s", "t", "t"], x=[1.0, 2.0, 3.0, 4.0])
    made, _ = make_wide(long, "x", "season")
    assert rows_of(made) == [("b", 1, 3), ("a", 2, 4)]
    with pytest.raises(TableError, match="Choose a category"):
        make_wide(long, "x", "x")


CELLS = st.one_of(st.none(), st.integers(-3, 3).map(float))


@given(
    st.lists(st.tuples(st.sampled_from(["p", "q", None]), CELLS, CELLS, CELLS), min_size=1, max_size=8),
    st.integers(0, 1),
)
def test_long_then_wide_gives_the_table_back(lines: list[tuple], at: int) -> None:
    """Ragged, with missing values, with rows that are alike in all but the values."""
    names = ["x 1", "x 2", "x*"]
    columns = [Column(n, Kind.NUMBER, "g") for n in names]
    group = Column("plot", Kind.CATEGORY)
    columns.insert(at * 3, group)
    series = {
        "plot": pl.Series("plot", [line[0] for line in lines], dtype=pl.String),
        **{n: pl.Series(n, [line[k] for line in lines], dtype=pl.Float64) for k, n in enumerate(names, 1)},
    }
    table = Table("t", tuple(columns), pl.DataFrame([series[c.name] for c in columns]))
    back, homeless = make_wide(make_long(table, names, "value", "from"), "value", "from")
    assert back == table
    assert homeless == 0


def test_counts_of_two_categories_with_margins_by_hand() -> None:
    table = make_table(g=["a", "b", "a", None, "a"], h=["x", "x", "y", "y", "x"])
    made, lost = count_up(table, ["g", "h"])
    assert rows_of(made) == [("a", "x", 2), ("a", "y", 1), ("b", "x", 1), ("b", "y", 0)]
    assert (made.counts, lost) == ("count", 1)
    again, _ = count_up(made, ["g"])
    assert rows_of(again) == [("a", 3), ("b", 1)]


@given(st.lists(st.tuples(st.sampled_from("ab"), st.sampled_from("xyz")), min_size=1, max_size=30))
def test_counting_up_undoes_spreading_out(cases: list[tuple[str, str]]) -> None:
    table = make_table(g=[a for a, _ in cases], h=[b for _, b in cases])
    counted, lost = count_up(table, ["g", "h"])
    assert lost == 0
    spread = spread_out(counted, "count")
    assert sorted(rows_of(spread)) == sorted(cases)
    assert count_up(spread, ["g", "h"])[0].frame.equals(counted.frame)


def test_counts_that_are_none_are_refused() -> None:
    for counts, words in (([1.5, 2.0], "1.5 is not a count"), ([-1.0, 2.0], "whole numbers from 0")):
        with pytest.raises(TableError, match=words):
            spread_out(make_table(g=["a", "b"], n=counts), "n")
    with pytest.raises(TableError, match="whole numbers from 0 to 20\u202f000\u202f000"):
        spread_out(make_table(g=["a"], n=[1e12]), "n")


def test_transpose_twice_gives_the_values_back() -> None:
    once = transpose(PLOTS, "plot")
    assert rows_of(once) == [("spring", 1, 2, None), ("autumn", 4, 5, 6)]
    twice = transpose(once, "column")
    assert rows_of(twice) == rows_of(PLOTS)


def test_indicators_are_named_after_levels() -> None:
    table = make_table(tea=["Jade", None, "Mist"], Jade=[1.0, 2.0, 3.0])
    made = indicators(table, "tea", ["Jade", "Mist"])
    assert [(c.name, v.to_list()) for c, v in made] == [("tea Jade", [1, None, 0]), ("Mist", [0, None, 1])]
    with pytest.raises(TableError, match="no level “Fog”"):
        indicators(table, "tea", ["Fog"])


def test_a_table_that_stands_on_its_own_has_only_rows_in_use() -> None:
    table = set_aside(PLOTS, [1])
    made = standing(table)
    assert rows_of(made) == [("a", 1, 4), ("c", None, 6)]
    assert not made.aside


GROVES = make_table("groves", plot=["a", "c", "d", "c", None], height=[1.0, 2.0, 3.0, 4.0, 5.0])


def test_joining_lists_what_has_no_partner() -> None:
    made = join(PLOTS, GROVES, "plot", "plot")
    assert rows_of(made.table) == [("a", 1, 4, 1), ("b", 2, 5, None), ("c", None, 6, 2), ("c", None, 6, 4)]
    assert made.left_alone == ("b",)
    assert made.right_alone == ("d",)
    assert made.repeated == ("c",)
    only = join(PLOTS, GROVES, "plot", "plot", keep_all=False)
    assert [row[0] for row in rows_of(only.table)] == ["a", "c", "c"]


def test_joining_refuses_keys_that_cannot_be_equal_and_floods() -> None:
    with pytest.raises(TableError, match="same kind first"):
        join(PLOTS, GROVES, "plot", "height")
    many = Table("m", (Column("k", Kind.CATEGORY),), pl.DataFrame({"k": ["a"] * 10_000}))
    with pytest.raises(TableError, match="keys repeat in both"):
        join(many, many, "k", "k")


@given(st.lists(st.integers(0, 4), max_size=12), st.lists(st.integers(0, 4), max_size=12))
def test_joining_pairs_every_equal_key(one: list[int], two: list[int]) -> None:
    left = make_table("l", k=[float(x) for x in one])
    right = make_table("r", k=[float(x) for x in two], v=[float(i) for i in range(len(two))])
    made = join(left, right, "k", "k", keep_all=False)
    expected = [(float(a), float(j)) for a, (j, b) in itertools.product(one, enumerate(two)) if a == b]
    assert sorted(rows_of(made.table)) == sorted(expected)


def test_classes_by_hand() -> None:
    values = np.array([0.0, 1, 2, 3, 4, 10, np.nan])
    cuts = equal_width(values[:-1], 2)
    assert cuts == [0, 5, 10]
    assert class_names(cuts, open_ends=False) == ("0 to under 5", "5 to 10")
    assert class_of(values, cuts, open_ends=False).tolist() == [0, 0, 0, 0, 0, 1, -1]
    cuts = equal_count(values[:-1], 3)
    assert class_of(values, cuts, open_ends=False).tolist() == [0, 0, 1, 1, 2, 2, -1]
    cuts = given_cuts("2 4,5")
    assert class_names(cuts, open_ends=True) == ("under 2", "2 to under 4.5", "4.5 or more")
    assert class_of(values, cuts, open_ends=True).tolist() == [0, 0, 1, 1, 1, 2, -1]


@pytest.mark.parametrize(
    ("text", "words"), [("", "Type the cuts"), ("3 2", "must rise"), ("1 x", "“x” is not a number"), ("1 1", "rise")]
)
def test_cuts_that_cannot_be(text: str, words: str) -> None:
    with pytest.raises(TableError, match=words):
        given_cuts(text)


def test_equal_values_have_no_classes() -> None:
    for find in (equal_width, equal_count):
        with pytest.raises(TableError, match="Every value is the same"):
            find(np.array([2.0, 2.0]), 3)


@given(st.lists(st.floats(-1e9, 1e9), min_size=2, max_size=40).filter(lambda v: len(set(v)) > 1), st.integers(2, 6))
def test_every_value_falls_into_one_class(values: list[float], count: int) -> None:
    data = np.array(values)
    for cuts in (equal_width(data, count), equal_count(data, count)):
        codes = class_of(data, cuts, open_ends=False)
        names = class_names(cuts, open_ends=False)
        assert len(names) == len(cuts) - 1 <= count
        assert ((codes >= 0) & (codes < len(names))).all()
        assert len(set(names)) == len(names)
