"""Edits of every kind made by chance, of a small study that some of them do not fit."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import Any

import polars as pl

from theoros.study import edits
from theoros.study.entries import Entry, EntryBlock, Study, TextBlock
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import make

Pick = Callable[[Sequence[Any]], Any]
TRAYS = Table(
    "trays",
    (Column("withering", Kind.CATEGORY), Column("loss")),
    pl.DataFrame({"withering": ["slow", "quick"], "loss": [35.5, None]}),
    "tray",
)
ENTRY = Entry("e1", make("plot", table="trays", what="loss"), "Loss", "as set")


def some_edit(study: Study, pick: Pick) -> edits.Edit:
    """An edit that may or may not fit the study; `pick` chooses one of several."""
    names = [table.name for table in study.tables] or ["none"]
    table = pick(names)
    columns = list(study.by_name[table].by_name) if table in study.by_name else []
    column = pick([*columns, "loss"])
    small = range(4)
    cell = ["1", "2,5", "", "slow", "NA", "9007199254740993", "a|b", "<b>", "\ud800", "x\x01"]
    ids = [entry.id for entry in study.entries] + ["e9"]
    blocks = [block.id for block in study.report] + ["r9"]
    made = pick(
        [
            lambda: edits.AddTable(replace(TRAYS, name=pick(["trays", "b", " "]))),
            lambda: edits.RemoveTable(table),
            lambda: edits.RenewTable(replace(TRAYS, name=table, provenance=("drawn",))),
            lambda: edits.ChangeTable(table, pick(["trays", "racks"]), "rack"),
            lambda: edits.SetCells(
                table, pick(small), pick(small), tuple(tuple(pick(cell) for _ in range(2)) for _ in range(pick([1, 2])))
            ),
            lambda: edits.PasteTable(table, (("loss", "new"), ("1", pick(cell)))),
            lambda: edits.InsertRows(table, pick(small), 1),
            lambda: edits.SetAside(table, (pick(range(3)),), pick([True, False])),
            lambda: edits.DeleteRows(table, (pick([0, 1]),)),
            lambda: edits.AddColumn(table, Column(pick(["x", "y", "loss"]))),
            lambda: edits.DeleteColumns(table, (column,)),
            lambda: edits.ChangeColumn(table, column, Column(pick([column, "z"]), pick(list(Kind)), "g")),
            lambda: edits.FillDown(table, pick(small), pick(small), (column,)),
            lambda: edits.DuplicateRows(table, (pick(small),)),
            lambda: edits.MoveRows(table, (pick(small),), pick(small)),
            lambda: edits.DuplicateColumns(table, (column,)),
            lambda: edits.MoveColumns(table, (column,), pick(small)),
            lambda: edits.RecodeLevels(table, "withering", (("slow", pick(cell)),)),
            lambda: edits.OrderLevels(table, "withering", ("quick", "slow")),
            lambda: edits.OriginalOrder(table),
            lambda: edits.SetGot(table, pick(["observed", "by magic", ""])),
            lambda: edits.SetCounts(table, pick(["loss", "", "new"])),
            lambda: edits.SetKeep(table, pick(["loss > 1", "loss +", ""])),
            lambda: edits.Arrange(pick(arrangements_of(table, column))),
            lambda: edits.AddEntry(replace(ENTRY, id=study.free_id("e"))),
            lambda: edits.ChangeEntry(replace(ENTRY, id=pick(ids), title="t")),
            lambda: edits.RemoveEntry(pick(ids)),
            lambda: edits.AddBlock(TextBlock(study.free_id("r"), "text"), pick(small)),
            lambda: edits.AddBlock(EntryBlock(study.free_id("r"), pick(ids))),
            lambda: edits.SetText(pick(blocks), "other"),
            lambda: edits.MoveBlock(pick(blocks), pick(small)),
            lambda: edits.RemoveBlock(pick(blocks)),
            lambda: edits.SetTitle(pick(["A title", "", "é\x01"])),
            lambda: edits.ReplaceText(table, "slow", pick(cell)),
            lambda: edits.NamesFromFirstRow(table),
            lambda: edits.SetDigits(pick([2, 3]), pick([2, 4])),
            lambda: edits.ShowParts(pick(blocks), pick([None, ("picture",)])),
        ]
    )
    return made()


def arrangements_of(table: str, column: str) -> list:
    """Arrangements that may or may not fit."""
    return [
        make("sort", table=table, first=column, way="down"),
        make("keep rows", table=table, column1=column, relation1="is there"),
        make("new column", table=table, name="live", formula="loss * 2"),
        make("new column", table=table, name="loss", formula="live + 1"),
        make("indicators", table=table, by="withering", levels=["slow"]),
        make("classes", table=table, what=column, count=2),
        make("recode", table=table, by="withering", levels=["slow"], to="quick", into="same"),
        make("make wide", table=table, value="loss", by="withering"),
        make("make long", table=table, columns=["loss", "live"], into="same"),
        make("count up", table=table, by="withering"),
        make("spread out", table=table, count=column),
        make("transpose", table=table),
        make("random sample", table=table, size=1),
        make("random values", table=table, law={"kind": "poisson", "rate": 2.0}),
        make("join", table=table, key="withering", other_table="trays", other_key="withering"),
    ]
