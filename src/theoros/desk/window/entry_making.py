"""Asking on the desk: new entries, and what is done with entries and tables as a whole."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QInputDialog

from theoros.answer.nouns import counted
from theoros.desk.window.side_list import Target
from theoros.study import edits
from theoros.study.entries import Entry, EntryBlock
from theoros.study.figures_table import figures_table
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.registry import verbs
from theoros.verbs.core.statement import Statement

if TYPE_CHECKING:
    from theoros.answer.parts import ResultTable
    from theoros.desk.window.interfaces import Stage
    from theoros.verbs.arrange.arrangement import Arrangement


class Asking:
    def __init__(self, stage: Stage) -> None:
        self.stage = stage

    def ask(self, verb: str) -> None:
        """A new entry of a verb, filled in from the columns selected in the table."""
        made = self._suggested(verb)
        if made is not None:
            self.add_entry(made)

    def use_column(self, zone: str, table: str, name: str) -> None:
        """Puts a column where it is wanted on the picture, or shows it where no zone is named."""
        if zone:
            self.stage.entry_page.controller.drop_column(zone, table, name)
        else:
            self.stage.show_column(table, name)

    def guide(self, verb: str) -> None:
        """Opens the guide of a verb, preset from what is selected."""
        from theoros.desk.window.guide_dialog import GuideDialog

        guide = verbs()[verb].guide
        if guide is None:
            return
        table, columns = self._at_hand()
        stage = self.stage
        dialog = GuideDialog(guide, stage.theme, stage.session.study.by_name, table, columns, stage.frame)
        dialog.chosen.connect(self.add_entry)
        dialog.open()

    def _at_hand(self) -> tuple[str, list[str]]:
        """The table that is looked at, and the columns that are selected or asked about."""
        study = self.stage.session.study
        table, columns = "", []
        if self.stage.shown and self.stage.shown[0] == "table":
            table = self.stage.shown[1]
            sheet = self.stage.table_page.sheet
            columns = sheet.chosen_columns() or [n for n in [sheet.current_column()] if n]
        elif self.stage.shown and self.stage.shown[0] == "entry":
            statement = study.entry(self.stage.shown[1]).statement
            table, columns = statement.table, list(statement.asked_columns)
        if table not in study.by_name and study.tables:
            table, columns = study.tables[0].name, []
        return table, columns

    def _suggested(self, verb: str) -> Statement | None:
        study = self.stage.session.study
        table, columns = self._at_hand()
        made = verbs()[verb].suggest(study.by_name, table, columns)
        if not table and made.needs_table:
            self.stage.banner.say("There is no table yet. Make one or open one, then ask.", "warn")
            for one in self.stage.verb_buttons.values():
                one.setChecked(False)
            return None
        return self._as_last_time(made)

    def _as_last_time(self, statement: Statement) -> Statement:
        """With what was chosen last in slots that remember it."""
        tables = self.stage.session.study.by_name
        for slot in statement.remembers:
            kept = self.stage.session.remembered(statement.verb, slot)
            if kept is not None:
                try:
                    statement = statement.with_slot(slot, kept, tables).statement
                except StatementError:
                    continue  # such as a figure that there is no more
        return statement

    def arrange(self, name: str) -> None:
        """Opens an arrangement of the table that is shown, filled in from what is selected."""
        from theoros.verbs.arrange.arrangement import arrangements

        stage = self.stage
        table = stage.session.study.by_name.get(stage.current_table())
        if table is None and stage.session.study.tables:
            table = stage.session.study.tables[0]
        if table is None:
            stage.banner.say("There is no table to arrange yet. Make one or open one.", "warn")
            return
        arrangement = arrangements()[name]
        columns: list[str] = []
        if stage.shown == ("table", table.name):
            sheet = stage.table_page.sheet
            columns = sheet.chosen_columns()
            if not columns and arrangement.of_one_column:
                columns = [n for n in [sheet.current_column()] if n]
        self._open_arrangement(arrangement.suggest(table, columns))

    def _open_arrangement(self, statement: Arrangement) -> None:
        page = self.stage.arrange_page
        page.statement = statement
        self.stage.show_target(("arrange", statement.table))
        page.focus_first()

    def add_entry(self, statement: Statement) -> None:
        """Adds an entry and shows it, with the focus on its first slot.

        What would arrange a table, as a column that is kept, is shown before it is done.
        """
        from theoros.verbs.arrange.arrangement import Arrangement

        if isinstance(statement, Arrangement):
            self._open_arrangement(statement)
            return
        key = self.stage.session.study.free_id("e")
        if self.stage.session.do(edits.AddEntry(Entry(key, statement))):
            self.stage.show_target(("entry", key))
            slots = self.stage.entry_page.bar.slots_shown()
            if slots:
                slots[0].setFocus()

    def set_aside(self, rows: Sequence[int], aside: bool) -> None:
        """Puts rows of the table that is asked about out of every analysis, or takes them back."""
        table = self.stage.current_table()
        if table and rows:
            self.stage.session.do(edits.SetAside(table, tuple(int(row) for row in rows), aside))

    def set_selection_aside(self, aside: bool) -> None:
        """The same for the rows that are selected, in the table or in a picture."""
        name = self.stage.current_table()
        table = self.stage.session.study.by_name.get(name)
        rows = self.stage.session.selection(name)
        chosen = [int(row) for row in rows]
        if not aside and table is not None and not chosen:
            chosen = sorted(table.aside)
        if not chosen:
            self.stage.banner.say(
                "No rows are selected. Select some by their numbers, or by dragging over their marks in a picture.",
                "warn",
            )
            return
        self.set_aside(chosen, aside)

    def set_question(self) -> None:
        entry = self.stage.current_entry()
        if entry:
            text, taken = QInputDialog.getMultiLineText(
                self.stage.frame, "The question as it was set", "Paste or type it:", entry.question
            )
            if taken and text.strip() != entry.question:
                self.stage.session.do(edits.ChangeEntry(replace(entry, question=text.strip())))

    def keep_figures(self, figures: ResultTable) -> None:
        """Puts figures of an answer into a table of the study."""
        made = figures_table(figures, self.stage.session.study.by_name)
        if self.stage.session.do(edits.AddTable(made)):
            self.stage.banner.ask(
                f"They are now in the table {made.name}.",
                [("Show the table", lambda: self.stage.show_target(("table", made.name)))],
                brief=True,
            )

    def duplicate(self) -> None:
        entry = self.stage.current_entry()
        if entry:
            self.add_entry(entry.statement)

    def rename(self, target: Target | None = None) -> None:
        """Renames a table, an entry or the study."""
        target = target or self.stage.shown
        if not target:
            return
        what, key = target
        study = self.stage.session.study
        if what == "table":
            if self.stage.shown != target:
                self.stage.show_target(target)
            self.stage.table_page.rename()
        elif what == "entry":
            entry = study.entry(key)
            text, taken = QInputDialog.getText(
                self.stage.frame, "Rename entry", "Title:", text=entry.name(study.by_name)
            )
            if taken:
                self.stage.session.do(edits.ChangeEntry(replace(entry, title=" ".join(text.split())[:200])))
        else:
            text, taken = QInputDialog.getText(self.stage.frame, "Name the study", "Title:", text=study.title)
            if taken:
                self.stage.session.do(edits.SetTitle(text))

    def remove(self, target: Target | None = None) -> None:
        """Takes out a table or an entry; undo brings it back."""
        target = target or self.stage.shown
        if not target:
            return
        what, key = target
        if what == "table":
            users = [e for e in self.stage.session.study.entries if e.statement.table == key]
            if self.stage.session.do(edits.RemoveTable(key)) and users:
                self.stage.banner.say(
                    f"{counted(len(users), 'entry')} asked about {key} and cannot answer now. "
                    f"Undo (Ctrl+Z) brings the table back.",
                    "warn",
                )
        elif what == "entry":
            self.stage.session.do(edits.RemoveEntry(key))

    def ask_with(self, verb: str, slot: str, value: object) -> None:
        """A new entry with a method chosen by name."""
        made = self._suggested(verb)
        if made is None:
            return
        if slot:
            try:
                made = made.with_slot(slot, value, self.stage.session.study.by_name).statement
            except StatementError as problem:
                self.stage.banner.say(str(problem), "bad")
                return
        self.add_entry(made)

    def place(self) -> None:
        """Places the entry shown in the report."""
        entry = self.stage.current_entry()
        if entry:
            key = self.stage.session.study.free_id("r")
            if self.stage.session.do(edits.AddBlock(EntryBlock(key, entry.id))):
                self.stage.banner.ask(
                    "Placed in the report.",
                    [("Show the report", lambda: self.stage.show_target(("report", "")))],
                    brief=True,
                )
