"""Counts that stand in a table: a column that counts, and columns of counts beside labels."""

from __future__ import annotations

import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

COUNTS = [[20, 9, 11], [12, 25, 13]]


def asked(table, method: str, parameter: str, data):
    return answer(
        statement_from_json({"verb": "test", "table": "t", "method": method, "parameter": parameter, "data": data}),
        {"t": table},
    )


@pytest.fixture(scope="module")
def wide():
    return make_table(slope=["north", "south"], fine=[20, 12], fair=[9, 25], coarse=[11, 13])


@pytest.fixture(scope="module")
def long():
    return make_table(
        slope=["north"] * 3 + ["south"] * 3, grade=["fine", "fair", "coarse"] * 2, bushes=[*COUNTS[0], *COUNTS[1]]
    )


def test_wide_form_is_a_two_way_table(wide) -> None:
    found = asked(
        wide,
        "chi-square",
        "relation",
        {"kind": "count columns", "labels": "slope", "columns": ["fine", "fair", "coarse"]},
    )
    assert found.problem is None, found.problem
    expected = stats.chi2_contingency(COUNTS, correction=False)
    assert found.numbers["chi-square"]["p"] == pytest.approx(expected.pvalue, rel=1e-10)
    assert "between slope and the columns fine, fair and coarse" in found.caption


def test_a_count_column_counts_in_long_form(long) -> None:
    data = {"kind": "two categories", "what": "slope", "by": "grade", "count": "bushes"}
    found = asked(long, "chi-square", "relation", data)
    expected = stats.chi2_contingency(COUNTS, correction=False)
    assert found.numbers["chi-square"]["p"] == pytest.approx(expected.pvalue, rel=1e-10)


def test_kinds_with_counts(long) -> None:
    data = {"kind": "counts of levels", "what": "grade", "count": "bushes"}
    found = asked(long, "chi-square of fit", "shares", data)
    expected = stats.chisquare([24, 32, 34])  # coarse, fair, fine
    assert found.numbers["chi-square of fit"]["p"] == pytest.approx(expected.pvalue, rel=1e-10)


def test_rows_of_one_label_are_added_up_and_rows_without_are_left_out() -> None:
    table = make_table(slope=["north", "south", "north", None], fine=[15, 12, 5, 3], fair=[9, 20, 0, 4])
    found = asked(
        table, "chi-square", "relation", {"kind": "count columns", "labels": "slope", "columns": ["fine", "fair"]}
    )
    expected = stats.chi2_contingency([[20, 9], [12, 20]], correction=False)
    assert found.numbers["chi-square"]["p"] == pytest.approx(expected.pvalue, rel=1e-10)
    assert "1 row left out: slope is missing" in found.left_out


@pytest.mark.parametrize(
    ("counts", "why"),
    [
        ([3, -1, 4, 4, 4, 4], "Row 2 has -1 in bushes: a count must be a whole number"),
        ([3, 2.5, 4, 4, 4, 4], "Row 2 has 2.5 in bushes"),
    ],
)
def test_negative_and_broken_counts_are_told_by_row(long, counts, why: str) -> None:
    table = make_table(slope=long.frame["slope"].to_list(), grade=long.frame["grade"].to_list(), bushes=counts)
    data = {"kind": "two categories", "what": "slope", "by": "grade", "count": "bushes"}
    said = asked(table, "chi-square", "relation", data).problem
    assert why in said.sentence.replace("−", "-").replace(".0", "")
    assert said.slot == "data.count"


def test_counts_of_nothing() -> None:
    table = make_table(slope=["north", "south"], fine=[0, 0], fair=[0, 0])
    found = asked(
        table, "chi-square", "relation", {"kind": "count columns", "labels": "slope", "columns": ["fine", "fair"]}
    )
    assert "there are no cases" in found.problem.sentence
