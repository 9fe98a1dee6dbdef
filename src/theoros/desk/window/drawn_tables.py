"""Tables that entries draw, such as the samples of a simulation; they follow when asked to."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject

from theoros.engine.tables import take_back
from theoros.engine.tasks.drawn_tables import DrawTable
from theoros.study import edits
from theoros.study.study_change import Change
from theoros.table.table import Table, TableError, free_name

if TYPE_CHECKING:
    from theoros.desk.parts.engine import Engine
    from theoros.desk.window.interfaces import Stage
    from theoros.study.entries import Entry

KEY = "draw table"
DRAWN = "drawn by entry"
"""How the provenance of such a table begins."""


class DrawnTables(QObject):
    def __init__(self, stage: Stage, engine: Engine) -> None:
        super().__init__(stage.frame)
        self.stage, self.engine = stage, engine
        engine.stepped.connect(self._stepped)
        engine.failed.connect(self._failed)
        stage.session.changed.connect(self._changed)

    def draw(self, what: str) -> None:
        """Puts what the entry that is shown draws into a table, or renews the one that has it."""
        entry = self.stage.current_entry()
        if entry is not None:
            self._ask(entry, what)

    def _ask(self, entry: Entry, what: str) -> None:
        tables = self.stage.session.study.by_name
        self.stage.banner.say("Drawing the table …", "mute", brief=True)
        self.engine.run(KEY, DrawTable(entry.statement, what), tables, (entry.id, what))

    def _mark(self, entry: str, what: str) -> str:
        return f"{DRAWN} {entry}, {what}"

    def _stepped(self, key: str, step: Any, tag: tuple[str, str]) -> None:
        if key != KEY or step is None:
            return
        if isinstance(step, TableError):
            self.stage.banner.say(str(step), "bad")
            return
        handed, said = step
        table = take_back(handed, self.engine.link.folder.path)
        mark = self._mark(*tag)
        table = table.with_(provenance=(mark, *table.provenance))
        session = self.stage.session
        held = self._held(mark)
        if held is not None:
            done = session.do(edits.RenewTable(table.with_(name=held.name, noun=held.noun)))
            told = f"The table {held.name} now has these draws."
        else:
            table = table.with_(name=free_name(table.name, session.study.by_name))
            done = session.do(edits.AddTable(table))
            told = f"They are now in the table {table.name}."
        if done:
            name = held.name if held is not None else table.name
            show = ("Show the table", lambda: self.stage.show_target(("table", name)))
            self.stage.banner.ask(f"{told} {said}".strip(), [show], brief=not said)

    def _held(self, mark: str) -> Table | None:
        tables = self.stage.session.study.tables
        return next((t for t in tables if t.provenance and t.provenance[0] == mark), None)

    def _failed(self, key: str, message: str) -> None:
        if key == KEY:
            self.stage.banner.say(f"The table could not be drawn ({message}).", "bad")

    def _changed(self, change: Change) -> None:
        """An entry whose draws a table holds draws something else now: that can be renewed."""
        edit = change.edit
        if not isinstance(edit, edits.ChangeEntry):
            return
        study = self.stage.session.study
        entry = next((one for one in study.entries if one.id == edit.entry.id), None)
        start = f"{DRAWN} {edit.entry.id}, "
        for table in study.tables:
            if entry is None or not (table.provenance and table.provenance[0].startswith(start)):
                continue
            what = table.provenance[0].removeprefix(start)
            self.stage.banner.ask(
                f"The table {table.name} has earlier draws of this entry.",
                [("Draw again", partial(self._ask, entry, what))],
            )
            return
