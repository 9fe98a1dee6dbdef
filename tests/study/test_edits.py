"""Edits, undo and the journal: every change can be taken back, and none is lost."""

from __future__ import annotations

import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule
from soak.edits_by_chance import ENTRY, TRAYS, some_edit

from tests.conftest import make_table
from theoros.study import edits
from theoros.study.entries import EntryBlock, Study, StudyError, TextBlock
from theoros.study.history import History
from theoros.study.journal import Journal, unsaved
from theoros.study.table_files import TableFiles
from theoros.table.kinds import Kind
from theoros.table.table import Column, TableError


class MemoryTables(dict):
    """Tables kept in memory, as the journal keeps them in files."""

    def put(self, table) -> str:
        self[str(len(self))] = table
        return str(len(self) - 1)

    def get(self, key: str):
        return self[key]


class Editing(RuleBasedStateMachine):
    """Any sequence of edits, undos and redos goes back to exactly the earlier states."""

    def __init__(self) -> None:
        super().__init__()
        self.history = History(Study("s", (TRAYS,), (ENTRY,)))
        self.states = [self.history.study]
        self.at = 0
        self.store = MemoryTables()
        self.lines: list[str] = []

    @rule(data=st.data())
    def edit(self, data: st.DataObject) -> None:
        before = self.history.study
        change = some_edit(before, lambda some: data.draw(st.sampled_from(list(some))))
        try:
            self.history.do(change)
        except (StudyError, TableError) as problem:
            assert str(problem).endswith((".", "?"))
            assert self.history.study is before
            return
        assert change.label
        self.lines.append(json.dumps(change.to_json(self.store)))
        self.at += 1
        self.states[self.at :] = [self.history.study]

    @precondition(lambda self: self.at > 0)
    @rule()
    def undo(self) -> None:
        self.history.undo()
        self.lines.append('{"edit": "undo"}')
        self.at -= 1

    @precondition(lambda self: self.at < len(self.states) - 1)
    @rule()
    def redo(self) -> None:
        self.history.redo()
        self.lines.append('{"edit": "redo"}')
        self.at += 1

    @invariant()
    def the_state_is_the_one_there_was(self) -> None:
        assert self.history.study == self.states[self.at]

    @invariant()
    def what_was_written_down_gives_the_same_study(self) -> None:
        again = History(self.states[0])
        for line in self.lines:
            data = json.loads(line)
            if data["edit"] in ("undo", "redo"):
                getattr(again, data["edit"])()
            else:
                again.do(edits.edit_from_json(data, self.store))
        assert again.study == self.history.study


Editing.TestCase.settings = settings(max_examples=25, stateful_step_count=20, deadline=None)
TestEditing = Editing.TestCase


def test_entries_follow_renamed_columns_and_tables() -> None:
    study = Study("s", (TRAYS,), (ENTRY,))
    made = edits.ChangeColumn("trays", "loss", Column("moisture loss", Kind.NUMBER, "%")).apply(study)
    made = edits.ChangeTable("trays", "racks", "rack").apply(made)
    statement = made.entries[0].statement
    assert (statement.table, statement.what) == ("racks", "moisture loss")


def test_removing_an_entry_takes_it_out_of_the_report() -> None:
    study = Study("s", (TRAYS,), (ENTRY,), (EntryBlock("r1", "e1"), TextBlock("r2", "x")))
    assert edits.RemoveEntry("e1").apply(study).report == (TextBlock("r2", "x"),)
    with pytest.raises(StudyError, match="no longer"):
        edits.AddBlock(EntryBlock("r3", "e7")).apply(study)


def test_every_edit_is_registered_under_its_own_name() -> None:
    concrete = {name for name in edits.edit_kinds() if name != "table"}
    assert len(concrete) == 36
    assert all(edits.edit_kinds()[name].kind == name for name in concrete)


def test_tables_beside_the_journal_come_back_exactly(tmp_path: Path) -> None:
    store = TableFiles(tmp_path)
    table = make_table("t", "n", x=[0.1, None, 1e-300], g=["ä", None, 'q"'])
    assert store.get(store.put(table)) == table
    assert store.get(store.put(make_table("empty"))) == make_table("empty")


def test_a_journal_is_offered_only_when_nobody_holds_it(tmp_path: Path) -> None:
    journal = Journal(tmp_path, None)
    assert unsaved(tmp_path) == []
    journal.wrote(edits.AddTable(TRAYS))
    assert unsaved(tmp_path) == []
    journal.close(discard=False)
    (left,) = unsaved(tmp_path)
    assert left.edits == 1
    assert left.recover().study.tables == (TRAYS,)
    left.discard()
    assert unsaved(tmp_path) == []


def test_a_line_cut_off_in_the_writing_is_left_out(tmp_path: Path) -> None:
    journal = Journal(tmp_path, None)
    journal.wrote(edits.AddTable(TRAYS))
    journal.wrote(edits.SetTitle("one"))
    journal.close(discard=False)
    file = journal.folder / "edits.jsonl"
    file.write_bytes(file.read_bytes() + b'{"edit": "set title", "titl')
    (left,) = unsaved(tmp_path)
    assert left.recover().study.title == "one"


def test_what_cannot_be_read_is_counted(tmp_path: Path) -> None:
    journal = Journal(tmp_path, None)
    journal.wrote(edits.SetTitle("one"))
    journal.close(discard=False)
    file = journal.folder / "edits.jsonl"
    file.write_bytes(file.read_bytes() + b'{"edit": "from the future"}\n{"edit": "undo"}\n')
    (left,) = unsaved(tmp_path)
    found = left.recover()
    assert (found.study.title, found.unread) == ("one", 2)
    # the journal goes on without those lines, which are kept beside
    again = Journal.going_on(found)
    again.wrote(edits.SetTitle("two"))
    again.close(discard=False)
    (left,) = unsaved(tmp_path)
    assert (left.recover().study.title, left.recover().unread) == ("two", 0)
    assert b"from the future" in (found.kept_aside / "edits.jsonl").read_bytes()


def test_an_empty_journal_is_cleared_away(tmp_path: Path) -> None:
    Journal(tmp_path, None).close(discard=False)
    assert unsaved(tmp_path) == []
    assert list(tmp_path.iterdir()) == []


WRITER = """
import sys
from pathlib import Path
from theoros.study import edits
from theoros.study.history import History
from theoros.study.entries import Study
from theoros.study.journal import Journal
from theoros.table.changes import empty_table
from theoros.verbs.core.registry import make

journal, history = Journal(Path(sys.argv[1]), None), History(Study())
def do(edit):
    history.do(edit)
    journal.wrote(edit)
do(edits.AddTable(empty_table("t")))
do(edits.SetCells("t", 0, 0, (("0",),)))
do(edits.Arrange(make("new column", table="t", name="twice", formula="'column 1' * 2")))
print(0, flush=True)
for number in range(1, 100_000):
    do(edits.SetCells("t", number, 0, ((str(number),),)))
    if number % 7 == 0:  # there and back again, so that undo is written down too
        do(edits.Arrange(make("sort", table="t", first="column 1", way="down")))
        history.undo()
        journal.undid()
    if number % 11 == 0:
        do(edits.MoveRows("t", (0,), number))
        do(edits.MoveRows("t", (number - 1,), 0))
    print(number, flush=True)
"""


@pytest.mark.parametrize("seed", range(10))
def test_kill_nine_loses_at_most_the_edit_in_flight(tmp_path: Path, seed: int) -> None:
    """A real process is killed at a random moment; all it had done is there again."""
    process = subprocess.Popen(
        [sys.executable, "-c", WRITER, str(tmp_path)], stdout=subprocess.PIPE, env=dict(os.environ)
    )
    assert process.stdout is not None
    process.stdout.readline()
    time.sleep(random.Random(seed).uniform(0.0, 0.25))
    process.send_signal(signal.SIGKILL)
    told = [int(line) for line in process.stdout.read().split() if line.isdigit()]
    process.wait()
    last = told[-1] if told else 0
    (left,) = unsaved(tmp_path)
    found = left.recover()
    assert found.unread == 0
    table = found.study.table("t")
    values = sorted(table.frame.to_series(0).to_list())
    assert values == [float(k) for k in range(len(values))]
    assert len(values) >= last + 1
    assert table.frame["twice"].to_list() == [2 * v for v in table.frame.to_series(0)]
