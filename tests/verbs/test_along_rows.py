"""Along the rows: moving averages, changes, index numbers, earlier values, all of them live."""

from __future__ import annotations

import pytest

from tests.conftest import make_table
from theoros.study import edits
from theoros.study.entries import Study
from theoros.study.history import History
from theoros.table.table import Table, TableError
from theoros.verbs.arrange.answering import arranged
from theoros.verbs.core.registry import make, statement_from_json


def along(table: Table, **slots) -> Table:  # type: ignore[no-untyped-def]
    return arranged(make("along the rows", table=table.name, **slots), {table.name: table}).table


@pytest.mark.parametrize(
    ("way", "rows", "at", "wanted"),
    [
        # statsmodels 0.15, seasonal_decompose(period=12, 5).trend
        ("average", 12, [6, 7, 50, 101], [625.0416666666667, 628.1666666666666, 771.2916666666666, 903.25]),
        ("average", 5, [2, 3, 105], [529.2, 601.4, 912.4]),
        # pandas, 100 * pct_change(12 and 1), 100 * x / x[0], diff(1)
        ("per cent", 12, [12, 50, 107], [0.21459227467810482, 6.343906510851416, 5.841446453407517]),
        ("per cent", 1, [1, 107], [-2.7896995708154515, -2.8097062579821253]),
        ("index", 1, [0, 50], [100.0, 136.6952789699571]),
        ("change", 1, [1, 50], [-13.0, 28.0]),
        ("before", 1, [1, 2], [466.0, 453.0]),
    ],
)
def test_against_other_libraries(demo: Study, way: str, rows: int, at: list, wanted: list) -> None:
    made = along(demo.table("visits"), what="visitors", way=way, rows=rows, name="new")
    values = made.frame["new"].to_list()
    assert [values[row] for row in at] == pytest.approx(wanted, rel=1e-12)
    missing = {"average": rows - rows % 2 if rows % 2 == 0 else rows - 1, "index": 0}.get(way, rows)
    assert values.count(None) == missing


def test_it_follows_and_can_be_undone(demo: Study) -> None:
    history = History(demo)
    statement = make("along the rows", table="visits", what="visitors", way="change", rows=1)
    history.do(edits.Arrange(statement))
    visits = history.study.table("visits")
    assert visits.frame["visitors, change"][1] == -13
    history.do(edits.SetCells("visits", 0, visits.place("visitors"), (("400",),)))
    assert history.study.table("visits").frame["visitors, change"][1] == 53
    history.undo()
    history.undo()
    assert history.study == demo


def test_what_has_no_base_is_missing_and_said() -> None:
    table = make_table("t", x=[0.0, 5, -2, 4, None, 6])
    statement = make("along the rows", table="t", what="x", way="per cent", rows=1, name="up")
    found = arranged(statement, {"t": table})
    assert found.table.frame["up"].to_list() == [None, None, pytest.approx(-140), None, None, None]
    assert found.table.column("up").unit == "%"
    assert "It is missing in 5 rows" in found.notes[0]
    index = along(table, what="x", way="index", rows=1, name="i")  # a base of 0 is none
    assert index.frame["i"].null_count() == 6
    assert along(table, what="x", way="index", rows=99, name="i").frame["i"].null_count() == 6


def test_rows_out_of_the_order_of_time_are_said(demo: Study) -> None:
    visits = demo.table("visits")
    turned = visits.with_(frame=visits.frame[::-1])
    statement = make("along the rows", table="visits", what="visitors")
    assert "are not in the order of month" in arranged(statement, {"visits": turned}).notes[0]
    assert "order" not in " ".join(arranged(statement, {"visits": visits}).notes)


def test_its_sentence_and_what_it_refuses(demo: Study) -> None:
    tables = demo.by_name
    statement = make("along the rows", table="visits", what="visitors", way="average", rows=12)
    assert statement.text(tables) == (
        "Give each row the moving average of visitors over 12 rows, as a new column visitors, moving average."
    )
    one = make("along the rows", table="visits", what="visitors", way="before", rows=1)
    assert " of 1 row before, as" in one.text(tables)
    bad = statement_from_json({**statement.to_json(), "rows": 1})
    with pytest.raises(TableError, match="Type a whole number from 2 to 1"):
        arranged(bad, tables)
    with pytest.raises(TableError, match="Choose"):
        arranged(make("along the rows", table="visits"), tables)
