"""Rows that are set aside: still there, and out of every analysis."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import stats

from tests.conftest import make_table
from theoros.answer.parts import answer_json
from theoros.study.entries import Study
from theoros.study.package import read_parts, write_parts
from theoros.table import changes, rows
from theoros.table.profile import profile
from theoros.table.table import TableError
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make

CUPS = make_table(
    "cups",
    "cup",
    heat=[1.0, 2, 3, 4, 50, 6, None],
    wait=[2.0, 2, 4, 4, 9, 7, 5],
    tea=["a", "b", "a", "b", "a", "b", "a"],
)
AWAY = {"cups": rows.set_aside(CUPS, [4])}


def test_every_verb_leaves_them_out_and_says_so() -> None:
    for statement in (
        make("plot", table="cups", what="heat"),
        make("plot", table="cups", what="heat", against="wait", shape="scatter"),
        make("describe", table="cups", what="heat", by="tea"),
        make("test", table="cups", what="heat", by="tea", first="a", second="b", replicates=200),
        make(
            "test",
            table="cups",
            groups="columns",
            what="heat",
            other="wait",
            design="matched",
            method="paired t",
            replicates=200,
        ),
        make("test", table="cups", groups="columns", what="heat", other="wait", replicates=200),
    ):
        found = answer(statement, AWAY)
        assert "1 row set aside" in found.left_out, statement
        marks = {
            row
            for frame in found.picture.frames
            for panel in frame.panels
            for lane in panel.lanes
            for layer in lane.layers
            if hasattr(layer, "rows")
            for row in layer.rows.tolist()
        }
        assert 4 not in marks


def test_figures_are_those_of_the_rows_in_use() -> None:
    row = answer_json(answer(make("describe", table="cups", what="heat"), AWAY))
    (figures,) = row["figures"]["summary"]
    assert (figures["n"], figures["missing"]) == (5, 1)
    assert figures["mean"] == pytest.approx(np.mean([1, 2, 3, 4, 6]))
    test = make("test", table="cups", what="heat", by="tea", first="a", second="b", replicates=200)
    welch = answer_json(answer(test, AWAY))["figures"]["methods"][0]
    assert welch["p"] == pytest.approx(stats.ttest_ind([1, 3], [2, 4, 6], equal_var=False).pvalue)
    assert profile(AWAY["cups"], "heat").bars != profile(CUPS, "heat").bars


def test_links_set_aside_and_take_back() -> None:
    test = make("test", table="cups", what="heat", by="tea", first="a", second="b", replicates=200)
    lots = changes.set_cells(CUPS, 7, 0, [[str(v), "1", "a"] for v in (1, 2, 3, 2, 1)])
    links = answer(test, {"cups": lots}).reading.next
    (link,) = [link for link in links if link.aside]
    assert (link.label, link.rows) == ("Try it without row 5", (4,))
    links = answer(test, AWAY).reading.next
    (link,) = [link for link in links if link.aside is False]
    assert (link.label, link.rows) == ("Use row 5 again", (4,))


def test_all_rows_set_aside_is_a_sentence() -> None:
    none = {"cups": rows.set_aside(CUPS, range(7))}
    found = answer(make("describe", table="cups", what="heat"), none)
    assert found.problem.sentence == "Every row of cups is set aside. Take some rows back."


def test_they_come_back_from_a_file() -> None:
    (table,) = read_parts(write_parts(Study("s", (AWAY["cups"],)))).tables
    assert table == AWAY["cups"]
    assert table.aside == {4}


def test_rows_that_are_not_there_are_refused() -> None:
    with pytest.raises(TableError, match="none beyond can be set aside"):
        rows.set_aside(CUPS, [7])
    assert rows.set_aside(AWAY["cups"], [4], aside=False) == CUPS


@given(st.sets(st.integers(0, 6)), st.sets(st.integers(0, 6), max_size=6), st.integers(0, 7))
def test_the_same_cases_stay_aside_when_rows_come_and_go(away, gone, at) -> None:
    table = make_table("t", v=[float(k) for k in range(7)])
    table = rows.set_aside(table, sorted(away))
    after = rows.insert_rows(rows.delete_rows(table, sorted(gone)), at, 2)
    values = after.frame["v"].to_list()
    assert {values[row] for row in after.aside} == {float(k) for k in away - gone}
