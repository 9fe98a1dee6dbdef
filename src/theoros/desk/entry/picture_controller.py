"""What a hand on the picture does: to the statement of its entry, to the rows, to the columns."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING, Any, Protocol

from PySide6.QtCore import QObject, QRect, QTimer
from PySide6.QtWidgets import QInputDialog, QWidget

from theoros.answer.drawing import WordSpot
from theoros.desk.parts.typed_over import TypedOver
from theoros.lazy_imports import np
from theoros.numeric.arrays import Ints
from theoros.study import edits
from theoros.table.changes import split_unit
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.slots import TypeNumber

if TYPE_CHECKING:
    from theoros.desk.parts.picture_view import PictureView
    from theoros.desk.parts.session import Session
    from theoros.desk.parts.statement_bar import StatementBar
    from theoros.study.entries import Entry
    from theoros.verbs.core.slots import Slot, Tables


class Page(Protocol):
    """The page of an entry, as far as what is done on its pictures concerns it."""

    session: Session
    bar: StatementBar
    picture: PictureView
    entry: Entry | None

    @property
    def frame(self) -> QWidget:
        """The widget that dialogs stand before."""
        ...

    @property
    def tables(self) -> Tables: ...
    @property
    def table_name(self) -> str: ...
    def set_slot(self, name: str, value: object) -> None: ...
    def handle_moved(self, slot: str, value: float, done: bool) -> None: ...


class PictureController(QObject):
    """Turns what is done on the picture of a page into edits."""

    def __init__(self, page: Page) -> None:
        super().__init__(page.frame)
        self.page = page
        self.listen(page.picture)

    def listen(self, picture: PictureView) -> None:
        """Follows what is done on a picture: the first, or that of a section."""
        page = self.page
        picture.handle_moved.connect(page.handle_moved)
        picture.swept.connect(self.swept)
        picture.aside_wanted.connect(self.set_aside)
        picture.only_wanted.connect(self.keep_only)
        picture.zoom_wanted.connect(self.zoom)
        picture.words_wanted.connect(self.type_over)
        picture.slot_wanted.connect(page.set_slot)
        picture.column_dropped.connect(self.drop_column)

    def swept(self, rows: Ints, add: bool) -> None:
        if add:
            rows = np.union1d(rows, self.page.session.selection(self.page.table_name))
        self.page.session.select(self.page.table_name, rows)

    def set_aside(self, rows: Ints) -> None:
        chosen = tuple(int(row) for row in np.unique(rows))
        if chosen:
            self.page.session.do(edits.SetAside(self.page.table_name, chosen, True))

    def keep_only(self, rows: Ints) -> None:
        """Every other row in use is set aside, from where it comes back with one click."""
        table = self.page.tables.get(self.page.table_name)
        if table is not None and rows.size:
            others = np.setdiff1d(np.flatnonzero(table.in_use), rows)
            self.set_aside(others)

    def zoom(self, ends: dict[str, Any]) -> None:
        """Other ends for the axes of the picture, as slots of the statement."""
        entry = self.page.entry
        if entry is None:
            return
        try:
            changed = entry.statement.with_slots(ends)
        except StatementError:  # the picture is of what the entry was before
            return
        if changed != entry.statement:
            self.page.session.do(edits.ChangeEntry(replace(entry, statement=changed)))

    def drop_column(self, zone: str, table: str, name: str) -> None:
        """A column dropped on the picture goes into the slot that the place stands for."""
        entry, known = self.page.entry, self.page.tables.get(table)
        if entry is None or known is None or name not in known.by_name:
            return
        statement = entry.statement
        if table != statement.table:
            said = f"{name} is a column of {table}; this entry asks about {statement.table}."
            self.page.bar.say(said, "warn")
            return
        slot = statement.slot_for_drop(zone, known.column(name))
        if slot:
            self.page.set_slot(slot, name)

    def _type_on_picture(self, slot: Slot, words: WordSpot) -> None:
        """A number is typed where it stands; Tab goes on to the next that can be typed over."""
        picture = self.page.picture
        at = QRect(round(words.x), round(words.y), round(words.width), round(words.height))

        def go_on(step: int) -> None:
            QTimer.singleShot(0, partial(self._type_next, slot.name, step))

        TypedOver(picture, slot, at, picture.theme, self.page.set_slot, go_on)

    def _type_next(self, name: str, step: int) -> None:
        drawing = self.page.picture.drawing
        spots = [spot for spot in drawing.words if spot.slot] if drawing else []
        places = [at for at, spot in enumerate(spots) if spot.slot == name]
        if places and 0 <= places[0] + step < len(spots):
            self.type_over(spots[places[0] + step])

    def type_over(self, words: WordSpot) -> None:
        """Other words: for a slot, or another name and unit for the column on an axis."""
        entry = self.page.entry
        if entry is None:
            return
        slot = entry.statement.slot(words.slot, self.page.tables) if words.slot else None
        if slot is not None and isinstance(slot.holds, TypeNumber):
            self._type_on_picture(slot, words)
            return
        if words.slot:
            text, taken = QInputDialog.getText(
                self.page.frame, "Title", "Above the picture:", text=slot.value if slot else words.text
            )
            if taken:
                self.page.set_slot(words.slot, text.strip())
            return
        table = self.page.tables.get(entry.statement.table)
        if table is None or words.column not in table.by_name:
            return
        about = table.column(words.column)
        text, taken = QInputDialog.getText(
            self.page.frame, "Name of the axis", "Name and unit of the column:", text=about.label
        )
        if taken and text.strip():
            new, unit = split_unit(" ".join(text.split()))
            changed = replace(about, name=new, unit=unit)
            if changed != about:
                self.page.session.do(edits.ChangeColumn(table.name, about.name, changed))
