"""Changes to tables: what they give, what they refuse, and that the old table is untouched."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import make_table
from theoros.study.entries import Study
from theoros.study.package import read_parts, write_parts
from theoros.table import changes, rows
from theoros.table.kinds import Kind
from theoros.table.plain_text import held_name
from theoros.table.profile import level_counts, profile
from theoros.table.table import Column, Table, TableError, free_name, natural_order


@pytest.fixture
def trays() -> Table:
    return make_table("trays", "tray", withering=["slow", "quick", None], loss=[35.5, None, 31.0])


def test_typing_in_a_cell_leaves_the_old_table(trays: Table) -> None:
    made = changes.set_cells(trays, 1, 1, [["32,4"]])
    assert made.frame["loss"].to_list() == [35.5, 32.4, 31]
    assert trays.frame["loss"].to_list() == [35.5, None, 31]
    assert made.frame["withering"].to_list() == trays.frame["withering"].to_list()


def test_typing_below_and_beside_makes_rows_and_columns(trays: Table) -> None:
    made = changes.set_cells(trays, 4, 2, [["7"]])
    assert (made.rows, len(made.columns)) == (5, 3)
    assert made.columns[2] == Column("column 3", Kind.NUMBER)
    assert made.frame["column 3"].to_list() == [None] * 4 + [7]
    words = changes.set_cells(changes.empty_table("new"), 0, 0, [["slow"], ["quick"]])
    assert words.columns[0].kind is Kind.CATEGORY
    assert words.rows == 2


def test_text_in_a_number_column_is_refused_whole(trays: Table) -> None:
    with pytest.raises(TableError, match=r"Row 2, loss: “wet” is not a number") as caught:
        changes.set_cells(trays, 0, 1, [["1"], ["wet"]])
    assert "change the column’s kind" in str(caught.value)


def test_a_ragged_block_fills_with_missing(trays: Table) -> None:
    made = changes.set_cells(trays, 0, 0, [["a", "1"], ["b"]])
    assert made.frame["loss"].to_list() == [1, None, 31]


def test_pasting_columns_by_name(trays: Table) -> None:
    block = [["loss", "mass (g)", "ok"], ["1", "2,5", "yes"], ["3", "n/a", "no"]]
    made = changes.paste_columns(trays, block)
    assert made.frame["loss"].to_list() == [1, 3, 31]
    assert made.columns[2] == Column("mass", Kind.NUMBER, "g")
    assert made.frame["mass"].to_list() == [2.5, None, None]
    assert made.columns[3].kind is Kind.CATEGORY


def test_brackets_in_the_name_of_a_pasted_category_stay(trays: Table) -> None:
    made = changes.paste_columns(trays, [["tea (first flush)"], ["Amber"], ["Jade"]])
    assert made.columns[2] == Column("tea (first flush)", Kind.CATEGORY)


def test_levels_are_counted_among_the_rows_in_use() -> None:
    table = rows.set_aside(make_table(g=["b", "a", "b", None, "c"]), [4])
    assert level_counts(table, "g") == {"a": 1, "b": 2, "c": 0}


def test_rows_in_and_out(trays: Table) -> None:
    assert rows.insert_rows(trays, 1, 2).frame["loss"].to_list() == [35.5, None, None, None, 31]
    assert rows.delete_rows(trays, [0, 2]).frame["withering"].to_list() == ["quick"]
    assert rows.delete_rows(trays, []) == trays


def test_columns_in_and_out(trays: Table) -> None:
    made = changes.add_column(trays, Column(" stove  side ", Kind.TEXT), 1)
    assert [c.name for c in made.columns] == ["withering", "stove side", "loss"]
    assert [c.name for c in changes.delete_columns(made, ["loss"]).columns][-1] == "stove side"
    with pytest.raises(TableError, match="There is a column called “loss” already"):
        changes.add_column(trays, Column("loss"))
    with pytest.raises(TableError, match="needs a name"):
        changes.add_column(trays, Column("  "))
    with pytest.raises(TableError, match="Its columns are: withering, loss"):
        changes.delete_columns(trays, ["weight"])


def test_a_new_kind_says_what_it_loses() -> None:
    table = make_table(mark=["1", "2,5", "poor", None])
    assert changes.lost_by(table, "mark", Kind.NUMBER) == [2]
    made = changes.change_column(table, "mark", Column("mark", Kind.NUMBER, "points"))
    assert made.frame["mark"].to_list() == [1, 2.5, None, None]
    assert made.column("mark").unit == "points"
    assert changes.lost_by(table, "mark", Kind.TEXT) == []


def test_numbers_become_levels_as_they_read() -> None:
    table = make_table(code=[1.0, 2.0, None, 2.5])
    made = changes.change_column(table, "code", Column("code", Kind.CATEGORY))
    assert made.frame["code"].to_list() == ["1", "2", None, "2.5"]
    back = changes.change_column(made, "code", Column("code", Kind.NUMBER))
    assert back == table


def test_renaming_keeps_values(trays: Table) -> None:
    made = changes.change_column(trays, "loss", Column("moisture loss", Kind.NUMBER, "%"))
    assert made.column("moisture loss").label == "moisture loss (%)"
    assert made.numbers("moisture loss")[0] == 35.5
    with pytest.raises(TableError, match="already"):
        changes.change_column(trays, "loss", Column("withering"))


def test_levels_and_codes() -> None:
    table = make_table(dose=["10", "2", None, "10"])
    assert table.levels("dose") == ("2", "10")
    assert table.codes("dose").tolist() == [1, 0, -1, 1]
    given = changes.change_column(table, "dose", Column("dose", Kind.ORDERED, levels=("10", "5")))
    assert given.levels("dose") == ("10", "2")
    assert make_table(x=[None, None]).missing("x") == 2
    assert natural_order("plot 2") < natural_order("plot 10") < natural_order("Plots")


def test_decimals_are_the_fewest_that_lose_nothing() -> None:
    assert make_table(x=[1.0, 2.0]).decimals("x") == 0
    assert make_table(x=[1.5, 2.25, None]).decimals("x") == 2
    assert make_table(x=[0.1 + 0.2]).decimals("x") == 1
    assert make_table(x=[1.1234567, 2.0, 3.0]).decimals("x") == 6
    assert make_table(x=[1.1234567, 2.0, 3.0]).cell_text(0, "x") == "1.1234567"  # as it was typed


def test_what_arithmetic_adds_is_not_shown() -> None:
    table = make_table(x=[21.3 / 10, 2.5, 14.0 * 0.1])
    assert [table.cell_text(row, "x") for row in range(3)] == ["2.13", "2.50", "1.40"]


def test_what_was_worked_out_is_shown_with_some_figures() -> None:
    table = make_table(x=[1 / 3, 2 / 3, 100 / 3], y=[1e-9 / 3, 2e-9 / 3, 1e-9])
    assert [table.cell_text(row, "x") for row in range(3)] == ["0.33333", "0.66667", "33.33333"]
    assert float(table.cell_text(0, "y")) == 1e-9 / 3


def test_profiles() -> None:
    table = make_table(x=[1.0, 1, 2, 9, None], g=["a", "a", "b", None, "a"], flat=[3.0] * 5)
    x = profile(table, "x")
    assert (x.present, x.missing, len(x.bars), max(x.bars)) == (4, 1, 9, 1)
    assert profile(table, "g").bars == (1, 1 / 3)
    assert profile(table, "flat").bars == (1,)
    assert profile(make_table(x=[None]), "x").bars == ()
    huge = profile(make_table(x=[-1.7e308, 1.7e308]), "x")
    assert np.isfinite(huge.bars).all()


def test_free_names() -> None:
    assert free_name("a", ["b"]) == "a"
    assert free_name("a", ["a", "a 2"]) == "a 3"


def test_a_tables_columns_must_fit_its_frame(trays: Table) -> None:
    with pytest.raises(TableError, match="same order"):
        Table("t", trays.columns[::-1], trays.frame)


@pytest.mark.parametrize("name", ["*", "^.*$", "^x$", "^a", "", " ", "literal", "a.b", "$", "日本"])
def test_no_name_has_a_meaning_of_its_own(name: str) -> None:
    """Names that a data frame library could take for a pattern are names like others."""
    table = make_table(a=[1.0, None], b=[3.0, 4.0])
    if not name.strip():
        with pytest.raises(TableError):
            changes.change_column(table, "a", Column(name))
        return
    made = changes.change_column(table, "a", Column(name))
    name = held_name(name)  # a pattern gets brackets, and is a name like others then
    made = changes.set_cells(made, 1, 0, [["7"]])
    assert made.numbers(name).tolist() == [1, 7]
    assert [c.name for c in changes.delete_columns(made, ["b"]).columns] == [name]
    assert changes.delete_columns(made, [name]).frame.columns == ["b"]
    assert changes.change_column(made, name, Column(name, Kind.CATEGORY)).levels(name) == ("1", "7")
    assert rows.insert_rows(made, 0, 1).frame[name].to_list() == [None, 1, 7]
    assert changes.lost_by(made, name, Kind.DATE) == [0, 1]
    assert profile(made, name).present == 2
    (back,) = read_parts(write_parts(Study("s", (made,)))).tables
    assert back == made
