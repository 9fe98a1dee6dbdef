"""Whatever is done, undone, saved and killed: what is recovered is what was on screen."""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path

import pytest
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule
from PySide6.QtCore import QSettings

from tests.conftest import make_table
from theoros.desk.parts.session import Session
from theoros.study import edits
from theoros.study.file import open_study

NAMES = ("trays", "cups")


class SessionMachine(RuleBasedStateMachine):
    """One student at work, whose laptop runs out of battery now and then."""

    def __init__(self) -> None:
        super().__init__()
        self.home = Path(tempfile.mkdtemp(prefix="theoros-machine-"))
        self.file = self.home / "study.theoros"
        self.session = self._begin()

    def _begin(self) -> Session:
        kept = QSettings(str(self.home / "settings.ini"), QSettings.Format.IniFormat)
        return Session(kept, self.home / "journals")

    def teardown(self) -> None:
        self.session.close(discard=True)
        shutil.rmtree(self.home, ignore_errors=True)

    @rule(name=st.sampled_from(NAMES), size=st.integers(0, 4))
    def add_table(self, name: str, size: int) -> None:
        self.session.do(edits.AddTable(make_table(name, x=[float(k) for k in range(size)])))

    @rule(name=st.sampled_from(NAMES), row=st.integers(0, 5), text=st.sampled_from(["99", "", "7,5"]))
    def set_cell(self, name: str, row: int, text: str) -> None:
        self.session.do(edits.SetCells(name, row, 0, ((text,),)))

    @rule(name=st.sampled_from(NAMES), row=st.integers(0, 5))
    def delete_row(self, name: str, row: int) -> None:
        self.session.do(edits.DeleteRows(name, (row,)))

    @rule(title=st.text(max_size=6))
    def set_title(self, title: str) -> None:
        self.session.do(edits.SetTitle(title))

    @rule()
    def undo(self) -> None:
        self.session.undo()

    @rule()
    def redo(self) -> None:
        self.session.redo()

    @rule()
    def save(self) -> None:
        self.session.save(self.file)

    @precondition(lambda self: self.file.exists())
    @rule()
    def open_again(self) -> None:
        self.session.open(self.file)

    @rule()
    def kill(self) -> None:
        shown, dirty, path = self.session.study, self.session.dirty, self.session.path
        self.session.close(discard=False)  # the kernel lets go of the lock, as of a killed process
        again = self._begin()
        left = again.unsaved()
        if not dirty:
            assert left == []
            if path is not None:
                again.open(path)
            assert again.study == shown
        else:
            again.recover(left[0])
            assert again.study == shown
            assert again.path == path
            assert again.dirty
        self.session = again

    @invariant()
    def nothing_is_dirty_that_was_saved(self) -> None:
        if not self.session.dirty and self.session.path is not None:
            assert open_study(self.session.path) == self.session.study


@pytest.mark.usefixtures("qapp")
class TestSession(SessionMachine.TestCase):
    settings = settings(max_examples=25, stateful_step_count=20, deadline=None)


def test_undo_after_a_save_is_not_lost_in_a_crash(qapp, tmp_path: Path) -> None:
    """The smallest case: the row that came back by undo is there, and the edit in its cell."""
    kept = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    session = Session(kept, tmp_path / "journals")
    session.do(edits.AddTable(make_table("t", x=[1.0, 2.0, 3.0])))
    session.do(edits.DeleteRows("t", (0,)))
    session.save(tmp_path / "s.theoros")
    session.undo()
    session.do(edits.SetCells("t", 0, 0, (("99",),)))
    session.close(discard=False)
    again = Session(kept, tmp_path / "journals")
    (left,) = again.unsaved()
    assert left.edits == 2
    again.recover(left)
    assert again.study.table("t").frame["x"].to_list() == [99.0, 2.0, 3.0]
    assert again.path == tmp_path / "s.theoros"
    # and once more: the journal that went on is as good as the first
    again.undo()
    again.close(discard=False)
    third = Session(kept, tmp_path / "journals")
    third.recover(third.unsaved()[0])
    assert third.study.table("t").frame["x"].to_list() == [1.0, 2.0, 3.0]
    third.save(third.path)
    third.close(discard=True)
    assert list((tmp_path / "journals").iterdir()) == []
