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


def test_what_was_worked_out_of_several_columns_is_not_kept_when_one_of_them_changes(tmp_path: Path) -> None:
    """A grouping by shed and date is keyed by shed, whose own column stays as it was."""
    table = _table()
    sender, receiver = Sender(tmp_path), Receiver(tmp_path)
    arrived = receiver.table(sender.hand(table))
    arrived.remembered("combined with picked", "shed", lambda: "of the dates that there were")
    own = arrived.levels("shed")
    edited = SetCells("trays", 0, 2, (("2026-05-09",),)).apply(Study(tables=(table,))).tables[0]
    again = receiver.table(sender.hand(edited))
    assert again.remembered("combined with picked", "shed", lambda: "anew") == "anew"
    # what is of the one column alone need not be worked out again
    assert again.remembered("levels", "shed", lambda: pytest.fail("it is known")) == own


def test_columns_that_a_waiting_task_needs_are_not_deleted(tmp_path: Path) -> None:
    table = _table()
    sender = Sender(tmp_path)
    waiting = sender.hand(table)
    edited = SetCells("trays", 0, 0, (("9",),)).apply(Study(tables=(table,))).tables[0]
    sender.hand(edited)
    sender.clear([waiting])
    assert Receiver(tmp_path).table(waiting).numbers("*").tolist()[0] == 1.5
    sender.clear([])
    with pytest.raises(OSError, match=r"."):
        Receiver(tmp_path).table(waiting)
