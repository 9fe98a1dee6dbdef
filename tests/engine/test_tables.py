"""Handing tables over: a large one is held once, and is the same on both sides."""

from __future__ import annotations

from datetime import date
from pathlib import Path

import polars as pl
import pytest

from theoros.engine import tables
from theoros.engine.tables import Receiver, Sender
from theoros.study.edits import SetCells
from theoros.study.entries import Study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table


def _table() -> Table:
    columns = (Column("*"), Column("shed", Kind.CATEGORY), Column("picked", Kind.DATE))
    frame = pl.DataFrame(
        {
            "*": [1.5, None, 3.0, -2.25],
            "shed": ["north", "", None, "söuth"],
            "picked": [date(2026, 4, 1), None, date(1969, 12, 31), date(2026, 4, 3)],
        }
    )
    return Table("trays", columns, frame, "tray", aside=frozenset({2}))


def test_a_large_table_rests_on_the_memory_that_the_engine_maps(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(tables, "LARGE", 4)
    table, same = _table(), _table()
    table.numbers("*")
    before = table.frame
    sender, receiver = Sender(tmp_path), Receiver(tmp_path)
    arrived = receiver.table(sender.hand(table))
    assert table.frame is not before
    assert table == same == arrived
    assert table.numbers("*").tolist()[0] == 1.5
    assert sender.written == 3
    # an edit sends one column, and leaves the others where they are
    edited = SetCells("trays", 0, 0, (("9",),)).apply(Study(tables=(table,))).tables[0]
    again = receiver.table(sender.hand(edited))
    assert sender.written == 4
    assert again == edited
    assert edited.frame["*"].to_list() == [9.0, None, 3.0, -2.25]
    assert edited.frame["shed"].to_list() == ["north", "", None, "söuth"]
    # files that are deleted meanwhile take nothing away
    for path in tmp_path.iterdir():
        path.unlink()
    assert table == same


def test_a_small_table_keeps_its_own_memory(tmp_path: Path) -> None:
    table = _table()
    before = table.frame
    Sender(tmp_path).hand(table)
    assert table.frame is before
