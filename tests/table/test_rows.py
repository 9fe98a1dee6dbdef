"""Rows moved, doubled, sorted and brought back; live columns and kept rows that follow."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.table import changes, levels, rows
from theoros.table.kinds import Kind
from theoros.table.recalculation import settled
from theoros.table.table import Column, Table, TableError

CUPS = make_table("cups", "cup", heat=[3.0, 1.0, None, 2.0], tea=["b", "a", "a", "b"])


def heats(table: Table) -> list:
    return table.frame["heat"].to_list()


def test_rows_are_moved_and_doubled() -> None:
    assert heats(rows.move_rows(CUPS, [0, 3], 2)) == [1, 3, 2, None]
    assert heats(rows.move_rows(CUPS, [3], 0)) == [2, 3, 1, None]
    assert heats(rows.move_rows(CUPS, [0], 4)) == [1, None, 2, 3]
    assert heats(rows.duplicate_rows(CUPS, [0, 1])) == [3, 1, 3, 1, None, 2]
    with pytest.raises(TableError, match="none beyond can be moved"):
        rows.move_rows(CUPS, [9], 0)


def test_sorting_is_stable_and_can_be_undone() -> None:
    made = rows.sort_rows(CUPS, [("tea", False), ("heat", True)])
    assert made.frame.rows() == [(1, "a"), (None, "a"), (3, "b"), (2, "b")]
    assert rows.original_order(made) == CUPS
    with pytest.raises(TableError, match="has not been sorted"):
        rows.original_order(CUPS)


@given(st.lists(st.tuples(st.integers(0, 3), st.booleans()), max_size=6), st.data())
def test_the_original_order_survives_what_is_done_in_between(sorts: list, data: st.DataObject) -> None:
    table = make_table(a=[2.0, 1, 3, 1, 2], b=["x", "y", "x", None, "y"])
    table = rows.set_aside(table, [1])
    made = table
    for at, down in sorts:
        made = rows.sort_rows(made, [("ab"[at % 2], down)])
    gone = data.draw(st.sets(st.integers(0, 4)))
    if sorts:
        left = [v for at, v in enumerate(made.frame["a"]) if at not in gone]
        made = rows.delete_rows(made, sorted(gone))
        back = rows.original_order(made)
        keep = sorted(range(back.rows), key=lambda at: back.frame["a"][at])
        assert sorted(left) == [back.frame["a"][at] for at in keep]
        kept = iter(table.frame.rows())
        assert all(row in kept for row in back.frame.rows())  # in the order they had


@given(st.integers(1, 8), st.data())
def test_moving_is_a_permutation(count: int, data: st.DataObject) -> None:
    chosen = data.draw(st.sets(st.integers(0, count - 1)))
    to = data.draw(st.integers(0, count))
    order = rows.moved(count, sorted(chosen), to).tolist()
    assert sorted(order) == list(range(count))
    if chosen:
        first = order.index(min(chosen))
        assert order[first : first + len(chosen)] == sorted(chosen)


def test_columns_are_moved_doubled_and_filled() -> None:
    made = changes.move_columns(CUPS, ["tea"], 0)
    assert [c.name for c in made.columns] == made.frame.columns == ["tea", "heat"]
    made = changes.duplicate_columns(CUPS, ["heat"])
    assert [c.name for c in made.columns] == ["heat", "heat copy", "tea"]
    filled = changes.fill_down(CUPS, 1, 3, ["heat", "tea"])
    assert filled.frame.rows() == [(3, "b"), (1, "a"), (1, "a"), (1, "a")]


def live(**formulas: str) -> Table:
    table = make_table("t", x=[1.0, 2.0, None], y=[10.0, 20.0, 30.0])
    for name, formula in formulas.items():
        table = changes.add_column(table, Column(name, formula=formula))
    return settled(table)


def test_live_columns_follow_each_other() -> None:
    table = live(double="x * 2", sum="double + y")
    assert table.frame["sum"].to_list() == [12, 24, None]
    changed = settled(changes.set_cells(table, 2, 0, [["5"]]), table)
    assert changed.frame["sum"].to_list() == [12, 24, 40]
    assert changed.frame["y"].to_list() == [10, 20, 30]


def test_what_does_not_use_a_change_is_not_worked_out_again() -> None:
    table = live(double="x * 2")
    changed = settled(changes.set_cells(table, 0, 1, [["7"]]), table)
    assert changed.columns == table.columns
    assert changed.frame["double"].to_list() == [2, 4, None]


def test_row_numbers_stay_in_order_when_rows_move() -> None:
    table = live(number="row()", before="lag(x)")
    moved = settled(rows.move_rows(table, [1], 0), table)
    assert moved.frame["number"].to_list() == [1, 2, 3]
    assert moved.frame["before"].to_list() == [None, 2, 1]


def test_circles_are_refused_with_their_names() -> None:
    with pytest.raises(TableError, match=r"circle: (a needs b needs a|b needs a needs b)"):
        live(a="b + 1", b="a + 1")
    with pytest.raises(TableError, match="a would need itself"):
        live(a="a + 1")


def test_a_live_column_takes_no_typing_and_keeps_its_kind() -> None:
    table = live(double="x * 2")
    with pytest.raises(TableError, match=r"calculated by the formula “x \* 2”"):
        changes.set_cells(table, 0, 2, [["5"]])
    new = replace(table.column("double"), kind=Kind.TEXT)
    with pytest.raises(TableError, match="decides its kind"):
        changes.change_column(table, "double", new)


def test_formulas_follow_a_new_name_and_freeze_without_their_column() -> None:
    table = live(double="x * 2")
    named = changes.change_column(table, "x", Column("long name"))
    assert named.column("double").formula == "long name * 2"
    assert changes.frozen_by(table, ["x"]) == ["double"]
    left = settled(changes.delete_columns(table, ["x"]), table)
    assert left.column("double").formula == ""
    assert left.frame["double"].to_list() == [2, 4, None]


def test_a_change_that_would_break_a_formula_is_refused() -> None:
    table = live(double="x * 2")
    text = changes.change_column(table, "x", Column("x", Kind.TEXT))
    with pytest.raises(TableError, match=r"double is calculated by “x \* 2”"):
        settled(text, table)


def test_truths_become_yes_and_no() -> None:
    table = live(big="x > 1")
    assert table.column("big").kind is Kind.CATEGORY
    assert table.frame["big"].to_list() == ["no", "yes", None]


def test_kept_rows_follow_the_values() -> None:
    table = settled(CUPS.with_(keep="heat > 1"))
    assert table.in_use.tolist() == [True, False, False, True]
    changed = settled(changes.set_cells(table, 1, 0, [["9"]]), table)
    assert changed.in_use.tolist() == [True, True, False, True]
    away = rows.set_aside(changed, [0])
    assert away.cases.tolist() == [1, 3]
    with pytest.raises(TableError, match="Keep all rows first"):
        changes.delete_columns(table, ["heat"])


def test_rows_count_as_often_as_a_column_says() -> None:
    table = settled(make_table(tea=["a", "b", "c", "d"], n=[2.0, 0.0, None, 3.0]).with_(counts="n"))
    assert table.cases.tolist() == [0, 0, 3, 3, 3]
    assert rows.set_aside(table, [0]).cases.tolist() == [3, 3, 3]
    with pytest.raises(TableError, match=r"Row 2, n: 2.5 is not a count"):
        settled(changes.set_cells(table, 1, 1, [["2.5"]]), table)
    with pytest.raises(TableError, match="has to stay a number column"):
        settled(changes.change_column(table, "n", Column("n", Kind.TEXT)), table)
    renamed = changes.change_column(table, "n", Column("how many"))
    assert renamed.counts == "how many"


def test_levels_get_other_names_and_merge() -> None:
    table = make_table(g=["a", "b", "c", None])
    made = levels.recode(table, "g", {"b": "a", "c": " C "})
    assert made.frame["g"].to_list() == ["a", "a", "C", None]
    ordered = levels.order_levels(table, "g", ["c", "a", "b"])
    assert ordered.levels("g") == ("c", "a", "b")
    swapped = levels.recode(ordered, "g", {"a": "b", "b": "a"})
    assert swapped.levels("g") == ("c", "b", "a")
    assert swapped.frame["g"].to_list() == ["b", "a", "c", None]
    with pytest.raises(TableError, match="no level “z”"):
        levels.recode(table, "g", {"z": "y"})
    with pytest.raises(TableError, match="Each has one place"):
        levels.order_levels(table, "g", ["a", "b"])


def test_kinds_that_may_be_wrong_are_pointed_out() -> None:
    codes = make_table(ward=[1.0, 2.0, 3.0] * 4, size=[float(k) for k in range(12)])
    assert "holds only the numbers 1, 2, 3" in levels.doubtful_kind(codes, "ward")
    assert levels.doubtful_kind(codes, "size") == ""
    said = changes.change_column(codes, "ward", replace(codes.column("ward"), checked=True))
    assert levels.doubtful_kind(said, "ward") == ""
    words = make_table(mass=[str(k / 4) for k in range(12)], tea=list("abcabcabcabc"))
    assert "Every value of mass is a number" in levels.doubtful_kind(words, "mass")
    assert levels.doubtful_kind(words, "tea") == ""


def test_taking_rows_keeps_those_that_are_set_aside() -> None:
    away = rows.set_aside(CUPS, [1])
    assert rows.take(away, np.array([1, 1, 0])).aside == {0, 1}
