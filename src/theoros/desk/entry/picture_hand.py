"""What a hand on the picture does: to the statement of its entry, to the rows, to the columns."""

from __future__ import annotations

from dataclasses import fields, replace
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QInputDialog

from theoros.heavy import np
from theoros.numeric.arrays import Ints
from theoros.study.edits import ChangeColumn, ChangeEntry, SetAside
from theoros.table.changes import split_unit
from theoros.verbs.core.statement import Statement

if TYPE_CHECKING:
    from theoros.desk.entry.entry_page import EntryPage


class PictureHand(QObject):
    """Turns what is done on the picture of a page into edits."""

    def __init__(self, page: EntryPage) -> None:
        super().__init__(page)
        self.page = page
        picture = page.picture
        picture.swept.connect(self.swept)
        picture.aside_wanted.connect(self.set_aside)
        picture.only_wanted.connect(self.keep_only)
        picture.zoom_wanted.connect(self.zoom)
        picture.label_wanted.connect(self.name)
        picture.key_clicked.connect(self.toggle_key)
        picture.key_tinted.connect(self.tint_key)
        picture.column_dropped.connect(self.drop_column)

    def swept(self, rows: Ints, add: bool) -> None:
        if add:
            rows = np.union1d(rows, self.page.session.selection(self.page.table_name))
        self.page.session.select(self.page.table_name, rows)

    def set_aside(self, rows: Ints) -> None:
        chosen = tuple(int(row) for row in np.unique(rows))
        if chosen:
            self.page.session.do(SetAside(self.page.table_name, chosen, True))

    def keep_only(self, rows: Ints) -> None:
        """Every other row in use is set aside, from where it comes back with one click."""
        table = self.page.tables.get(self.page.table_name)
        if table is not None and rows.size:
            others = np.setdiff1d(np.flatnonzero(table.in_use), rows)
            self.set_aside(others)

    def zoom(self, ends: dict[str, Any]) -> None:
        """Other ends for the axes of the picture, as slots of the statement."""
        if self.page.entry is None or not hasattr(self.page.entry.statement, "low"):
            return
        self._change(replace(self.page.entry.statement, **ends))

    def drop_column(self, zone: str, table: str, name: str) -> None:
        """A column dropped on the picture goes into the slot that the place stands for."""
        if (
            self.page.entry is None
            or table not in self.page.tables
            or name not in self.page.tables[table].by_name
        ):
            return
        statement = self.page.entry.statement
        if table != statement.table:
            said = f"{name} is a column of {table}; this entry asks about {statement.table}."
            self.page.bar.say(said, "warn")
            return
        grouping = self.page.tables[table].column(name).kind.is_grouping
        slots = {
            "axis": "against" if getattr(statement, "shape", "") in ("scatter", "line") else "what",
            "panels": "by",
            "key": "colour",
            "middle": "by" if grouping else "what",
        }
        slot = slots[zone]
        if slot not in {field.name for field in fields(statement)}:
            slot = "by" if grouping else "what"
        self.page.set_slot(slot, name)

    def toggle_key(self, label: str) -> None:
        """Hides the marks of a colour, or shows them again."""
        if self.page.entry is None or not getattr(self.page.entry.statement, "colour", None):
            return
        statement = self.page.entry.statement
        hidden = [one for one in statement.hidden if one != label]
        if len(hidden) == len(statement.hidden):
            hidden.append(label)
        changes: dict[str, Any] = {"hidden": tuple(hidden)}
        self._change(replace(statement, **changes))

    def tint_key(self, label: str, name: str) -> None:
        """Gives the marks of a key another colour; an empty name takes its own back."""
        statement = self.page.entry.statement if self.page.entry else None
        if statement is not None and hasattr(statement, "with_tint"):
            self._change(statement.with_tint(label, name))

    def _change(self, statement: Statement) -> None:
        entry = self.page.entry
        if entry is not None and statement != entry.statement:
            self.page.session.do(ChangeEntry(replace(entry, statement=statement)))

    def name(self, what: str) -> None:
        """Another title for the picture, or another name and unit for the column on its axis."""
        if self.page.entry is None:
            return
        statement = self.page.entry.statement
        if what == "title" and hasattr(statement, "heading"):
            text, taken = QInputDialog.getText(
                self.page, "Title", "Above the picture:", text=str(statement.heading)
            )
            if taken:
                self.page.set_slot("heading", text.strip())
            return
        table = self.page.tables.get(statement.table)
        shape = getattr(statement, "shape", "")
        name = getattr(statement, "against", None) if shape in ("scatter", "line") else None
        name = name or getattr(statement, "what", None)
        if table is None or name not in table.by_name:
            return
        about = table.column(str(name))
        text, taken = QInputDialog.getText(
            self, "Name of the axis", "Name and unit of the column:", text=about.label
        )
        if taken and text.strip():
            new, unit = split_unit(" ".join(text.split()))
            changed = replace(about, name=new, unit=unit)
            if changed != about:
                self.page.session.do(ChangeColumn(table.name, about.name, changed))
