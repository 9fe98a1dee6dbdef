"""Walks over all edits, with undo, redo, save, kill and recover among them: every state exact."""

from __future__ import annotations

import os
import shutil
import tempfile
from pathlib import Path
from typing import Any

from soak.edits_by_chance import ENTRY, TRAYS, some_edit
from soak.tally import Budget, Tally
from theoros.study.edits.edit import edit_kinds
from theoros.study.entries import Study
from theoros.study.file import open_study, save_study
from theoros.study.package import write_parts

STEPS = 24


def run(budget: Budget) -> Tally:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtCore import QCoreApplication, QSettings

    from theoros.desk.parts.session import Session

    tally = Tally("undo walks over all edits, with save, kill and recover", "10 000: all exact")
    application = QCoreApplication.instance() or QCoreApplication([])
    seen: set[str] = set()
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        settings = QSettings(str(home / "settings.ini"), QSettings.Format.IniFormat)
        for at in budget.rounds(tally):
            walk = _Walk(lambda: Session(settings, home / "journals"), home / "s.theoros", budget)
            try:
                for _ in range(STEPS):
                    walk.step()
            except AssertionError as wrong:
                tally.fail(f"walk {at} of seed {budget.seed}: {wrong} after {walk.told[-6:]}")
            except Exception as problem:
                tally.fault(f"walk {at} of seed {budget.seed} after {walk.told[-6:]}", problem)
            seen |= walk.kinds
            walk.session.close(discard=True)
            shutil.rmtree(home / "journals", ignore_errors=True)
            (home / "s.theoros").unlink(missing_ok=True)
    del application
    never = set(edit_kinds()) - seen - {"table"}
    tally.notes.append(f"edits of {len(seen)} kinds" + (f", none of {never}" if never else ""))
    return tally


class _Walk:
    """One session after the other over the same study, beside a plain list of what it was."""

    def __init__(self, begin: Any, file: Path, budget: Budget) -> None:
        self.begin, self.file, self.chance = begin, file, budget.chance
        save_study(Study("s", (TRAYS,), (ENTRY,)), file)
        self.session = begin()
        self.session.open(file)
        self.states, self.at = [self.session.study], 0
        self.told: list[str] = []
        self.kinds: set[str] = set()

    def step(self) -> None:
        method = self.chance.choice(["edit"] * 9 + ["undo"] * 4 + ["redo"] * 2 + ["save", "kill"])
        self.told.append(method)
        getattr(self, method)()
        assert self.session.study == self.states[self.at], f"another state after {method}"

    def edit(self) -> None:
        change = some_edit(self.session.study, self.chance.choice)
        self.told[-1] = f"{change}"[:200]
        if self.session.do(change):
            self.kinds.add(change.kind)
            self.states = [*self.states[: self.at + 1], self.session.study]
            self.at += 1

    def undo(self) -> None:
        self.session.undo()
        self.at = max(0, self.at - 1)

    def redo(self) -> None:
        self.session.redo()
        self.at = min(len(self.states) - 1, self.at + 1)

    def save(self) -> None:
        self.session.save(self.file)
        # levels that are only implied are written out, so what is written is compared
        again = write_parts(open_study(self.file))
        assert again == write_parts(self.session.study), "another study in the file"

    def kill(self) -> None:
        """The kernel lets go of the lock, as of a program that was killed."""
        dirty, path = self.session.dirty, self.session.path
        self.session.close(discard=False)
        self.session = self.begin()
        left = self.session.unsaved()
        if dirty:
            assert left, "nothing is left of unsaved work"
            self.session.recover(left[0])
            assert self.session.path == path, "another file after recovering"
        else:
            assert not left, "saved work is offered again"
            self.session.open(path)
            self.states, self.at = [self.session.study], 0
