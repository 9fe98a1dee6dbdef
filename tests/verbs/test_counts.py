"""Rows that count more than once: every verb gives what it gives for the cases spread out."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import make_table
from theoros.answer.parts import answer_json
from theoros.table.profile import level_counts
from theoros.table.reshape import spread_out
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make

TEAS = {
    "tea": ["a", "b", "a", "b", "a", "b"],
    "heat": [1.0, 2.0, 2.5, 4.0, 7.0, 8.0],
    "cool": [2.0, 1.0, 3.0, 2.0, 6.0, 9.0],
    "n": [3, 1, 2, 4, 0, 2],
}
COUNTED = make_table("cups", "cup", **TEAS).with_(counts="n")
SPREAD = spread_out(COUNTED, "n")

ASKED = [
    make("plot", table="cups", what="heat", by="tea"),
    make("plot", table="cups", what="heat", against="cool", shape="scatter"),
    make("describe", table="cups", what="heat"),
    make("describe", table="cups", what="heat", by="tea"),
    make("test", table="cups", what="heat", by="tea", first="a", second="b", replicates=300),
    make(
        "test",
        table="cups",
        groups="columns",
        what="heat",
        other="cool",
        design="matched",
        method="paired t",
        replicates=300,
    ),
]


def numbers(statement, table) -> dict:
    made = answer_json(answer(statement, {"cups": table}))
    for figures in made["figures"]:
        rows = figures["rows"] if isinstance(figures, dict) and "rows" in figures else []
        for row in rows:
            row.pop("rows", None)
    return {key: made[key] for key in ("rows_used", "picture")} | {"figures": strip(made["figures"])}


def strip(value: object) -> object:
    """Without the numbers of rows, which the two tables do not share."""
    if isinstance(value, dict):
        return {k: strip(v) for k, v in value.items() if k != "rows" or not _ints(v)}
    return [strip(one) for one in value] if isinstance(value, list) else value


def _ints(value: object) -> bool:
    return isinstance(value, list) and all(isinstance(one, int) for one in value)


@pytest.mark.parametrize("statement", ASKED, ids=lambda s: f"{s.verb} {getattr(s, 'by', '')}")
def test_counts_give_what_spread_out_cases_give(statement) -> None:
    assert numbers(statement, COUNTED) == numbers(statement, SPREAD)


def test_how_rows_count_is_said() -> None:
    found = answer(ASKED[2], {"cups": COUNTED})
    assert "each row counts as often as n says" in found.left_out
    assert found.used == 12


@given(st.lists(st.integers(0, 4), min_size=6, max_size=6).filter(sum))
def test_levels_are_counted_by_cases(counts: list[int]) -> None:
    table = make_table("cups", **{**TEAS, "n": counts}).with_(counts="n")
    assert level_counts(table, "tea") == {
        "a": counts[0] + counts[2] + counts[4],
        "b": counts[1] + counts[3] + counts[5],
    }


def test_no_cases_at_all_is_said() -> None:
    table = make_table("cups", **{**TEAS, "n": [0] * 6}).with_(counts="n")
    problem = answer(ASKED[2], {"cups": table}).problem
    assert problem is not None
    assert "no cases" in problem.sentence


def test_a_split_by_two_categories_makes_each_combination_that_occurs() -> None:
    table = make_table(
        "cups", tea=["a", "b", "a", "b", None], pot=["x", "x", "y", "x", "y"], heat=[1.0, 2.0, 3.0, 4.0, 5.0]
    )
    for verb in ("plot", "describe"):
        found = answer(make(verb, table="cups", what="heat", by="tea", and_by="pot"), {"cups": table})
        assert found.picture is not None
        frames = found.picture.frames
        labels = [panel.label for panel in frames[0].panels]
        if verb == "plot":  # the second category makes columns
            assert (labels, [frame.title for frame in frames]) == (["a", "b"], ["x", "y"])
        else:
            assert labels == ["a, x", "a, y", "b, x"]
        assert "1 row left out: tea or pot is missing" in found.left_out
    test = make("test", table="cups", what="heat", by="tea", and_by="pot", first="a, x", second="b, x")
    assert answer(test, {"cups": table}).problem is None
    swapped = test.with_slot("data.and_by", None, {"cups": table}).statement.data
    assert (swapped.first, swapped.second) == ("a", "b")
