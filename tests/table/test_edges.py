"""Values and names at the edge: what trials by chance found once."""

from __future__ import annotations

import polars as pl
import pytest

from tests.conftest import make_table
from theoros.study import edits
from theoros.study.entries import Study
from theoros.study.history import History
from theoros.table.formula import columns_in, evaluate, quoted, renamed
from theoros.table.kinds import Kind, NotAValue, parse
from theoros.table.table import Column, Table, TableError
from theoros.verbs.core.answering import answer
from theoros.verbs.core.registry import make, statement_from_json
from theoros.verbs.core.statement import StatementError


@pytest.mark.parametrize("count", ["-3", "5000000000", "1e300", "2.5"])
def test_a_count_that_is_none_is_refused_before_any_formula_counts_by_it(count: str) -> None:
    columns = (Column("n"), Column("x"), Column("live", formula="mean(x) + n"))
    table = Table("t", columns, pl.DataFrame({"n": [1.0, 2], "x": [3.0, 4], "live": [0.0, 0]}))
    history = History(Study("s", (table,)))
    history.do(edits.SetCounts("t", "n"))
    before = history.study
    with pytest.raises(TableError, match="is not a count"):
        history.do(edits.SetCells("t", 0, 0, ((count,),)))
    assert history.study is before


@pytest.mark.parametrize(
    ("formula", "wanted"),
    [
        ("-1 < 2", True),
        ("2 > -1", True),
        ("2.5 in (0, 2.5, -1)", True),
        ("3 = -1", False),
        ("2.5 <> (if 3 in (1, 3) then 1 else 3)", True),
        ("abs(-4) + x - x", 4.0),
    ],
)
def test_constants_are_constants_in_every_row(formula: str, wanted: object) -> None:
    table = make_table(x=[1.0, 2, 3])
    assert evaluate(formula, table).values.to_list() == [wanted] * 3


def test_dates_beyond_the_calendar_are_missing() -> None:
    days = pl.Series(["2026-11-26", "0001-01-01", "9999-12-31"]).str.to_date()
    table = Table("t", (Column("d", Kind.DATE),), pl.DataFrame({"d": days}))
    assert evaluate("d + 3000000", table).values.null_count() == 2
    assert evaluate("d - 1", table).values.null_count() == 1
    with pytest.raises(TableError, match="needs columns"):
        evaluate("leverage(1, 1)", table)


@pytest.mark.parametrize("name", ["‘x’", "“x”", "^x$", "*", "a 'b'", "if", "3", "=1+1", "x"])
def test_every_name_is_written_and_read_back(name: str) -> None:
    history = History(Study("s", (make_table("t", x=[1.0], y=[2.0]),)))
    history.do(edits.AddColumn("t", Column(name if name != "x" else "z")))
    table = history.study.table("t")
    held = table.columns[-1].name
    written = quoted(held, table.by_name)
    assert columns_in(f"1 + {written}", table.by_name) == (held,)
    assert columns_in(renamed(f"1 + {written}", held, "new", table.by_name), ["new"]) == ("new",)
    assert evaluate(f"{written} is missing", table).values.to_list() == [True]


def test_half_a_pair_of_surrogates_reaches_no_cell() -> None:
    history = History(Study("s", (make_table("t", g=["a", "b"]),)))
    history.do(edits.SetCells("t", 0, 0, (("\ud800",),)))
    history.do(edits.RecodeLevels("t", "g", (("b", "\udc00"),)))
    assert history.study.table("t").frame["g"].to_list() == ["\ufffd", "\ufffd"]
    assert evaluate('"\ud800"', history.study.table("t")).values[0] == "\ufffd"


def test_a_whole_number_that_would_be_rounded_is_refused_as_one() -> None:
    with pytest.raises(NotAValue, match="cannot hold exactly"):
        parse("9007199254740993", Kind.NUMBER)
    assert parse("9007199254740992", Kind.NUMBER) == 2.0**53
    assert parse("9007199254740993.5", Kind.NUMBER) == 2.0**53 + 2
    assert parse("9007199254740993", Kind.TEXT) == "9007199254740993"


@pytest.mark.parametrize("low", [1e7, -1e7, 1e300, 2932896.0])
def test_a_date_axis_from_beyond_the_calendar_can_be_said(demo: Study, low: float) -> None:
    plot = statement_from_json(
        {
            "verb": "plot",
            "table": "visits",
            "what": "visitors",
            "against": "month",
            "shape": "line",
            "low": low,
            "read": low,
        }
    )
    assert plot.text(demo.by_name)
    assert plot.settings(demo.by_name)
    assert answer(plot, demo.by_name) is not None


@pytest.mark.parametrize(
    ("slots", "told"),
    [
        ({"seed": -1}, "seed cannot be"),
        ({"replicates": 10**18}, "replicates cannot be"),
        ({"method": "by magic"}, "there is no “by magic”"),
        ({"data": {"kind": "two typed samples", "groups": []}}, "must have 2 groups"),
    ],
)
def test_what_no_slot_would_take_is_refused_when_it_is_read(slots: dict, told: str) -> None:
    good = make("test", table="trays").to_json()
    with pytest.raises(StatementError, match=told):
        statement_from_json({**good, **slots})
