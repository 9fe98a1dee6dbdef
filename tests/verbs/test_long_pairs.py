"""Pairs whose values stand in rows of their own, with a column that names the case."""

from __future__ import annotations

import pytest
from scipy import stats

from tests.conftest import make_table
from theoros.table.table import Table
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import statement_from_json

BEFORE = {"Ada": 6.1, "Bo": 7.0, "Cy": 5.2, "Di": 6.6, "Ed": 6.0}
AFTER = {"Ada": 6.9, "Cy": 5.9, "Bo": 7.1, "Di": 7.4, "Fay": 8.0}


def long_table(**more) -> Table:
    rows = [(n, "before", v) for n, v in BEFORE.items()] + [(n, "after", v) for n, v in AFTER.items()]
    return make_table(taster=[r[0] for r in rows], tasting=[r[1] for r in rows], score=[r[2] for r in rows], **more)


def statement(kind: str = "pairs by name", **slots):
    data = {"kind": kind, "what": "score", "by": "tasting", "first": "after", "second": "before", **slots}
    return statement_from_json(
        {"verb": "test", "table": "t", "data": data, "method": "paired t" if kind == "pairs by name" else "welch t"}
    )


def test_pairs_are_found_by_name_whatever_the_order_of_rows() -> None:
    found = answer(statement(case="taster"), {"t": long_table()})
    assert found.problem is None, found.problem
    names = ["Ada", "Bo", "Cy", "Di"]
    expected = stats.ttest_rel([AFTER[n] for n in names], [BEFORE[n] for n in names])
    assert found.numbers["paired t"]["p"] == pytest.approx(expected.pvalue, rel=1e-10)
    assert "2 rows left out: no other with the same taster" in found.left_out
    assert "of the differences of score, after minus before, for each taster," in found.caption
    assert any("both values with the same taster belong together" in c.text for c in found.reading.assumptions)
    steps = " ".join(str(line) for step in found.writeup for line in step.lines)
    assert "both values with the same taster belong together" in steps


def test_saying_matched_finds_the_column_that_names_pairs() -> None:
    tables = {"t": long_table(plot=[1, 2, 3, 4, 5] * 2)}
    told = statement("two levels").with_slot("data.design", "matched", tables)
    assert told.statement.data.case in ("taster", "plot")
    assert "are pairs now" in told.notes[0]
    back = told.statement.with_slot("data.design", "separate", tables).statement
    assert back.data.kind == "two levels"
    assert back.data.design == "separate"


def test_swapping_turns_the_differences_round() -> None:
    tables = {"t": long_table()}
    asked = statement(case="taster")
    one, two = answer(asked, tables).numbers["paired t"], answer(asked.swapped(), tables).numbers
    assert two["paired t"]["t"] == pytest.approx(-one["t"])


@pytest.mark.parametrize(
    ("names", "why"),
    [
        (["Ada"] * 10, "Taster Ada has more than one row with after"),
        ([f"n{k}" for k in range(10)], "No taster has a value of score both with after and with before"),
    ],
)
def test_names_that_make_no_pairs(names: list[str], why: str) -> None:
    rows = long_table()
    table = make_table(taster=names, tasting=rows.frame["tasting"].to_list(), score=rows.frame["score"].to_list())
    assert why in answer(statement(case="taster"), {"t": table}).problem.sentence


def test_without_such_a_column_the_advice_stays() -> None:
    table = make_table(tasting=["a", "a", "b", "b"], score=[1.0, 2.0, 3.0, 5.0])
    asked = statement_from_json(
        {
            "verb": "test",
            "table": "t",
            "data": {"kind": "two levels", "what": "score", "by": "tasting", "first": "a", "second": "b"},
        }
    )
    made = asked.with_slot("data.design", "matched", {"t": table}).statement
    assert "are not known" in answer(made, {"t": table}).problem.sentence
