"""The line above a table, in words that can be clicked: what a row is, how it counts, was got."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QInputDialog, QMenu, QPushButton, QWidget

from theoros.answer.nouns import counted, plural
from theoros.desk.parts.flow import Flow
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import mute
from theoros.study import edits
from theoros.table.kinds import Kind
from theoros.table.table import Table
from theoros.verbs.core.slots import Option

GOT_WORDS = {
    "": "not said",
    "random sample": "a random sample",
    "random assignment": "an experiment with random assignment",
    "observed": "observed as they came",
    "whole population": "the whole population",
}
GOT_SHORT = {**GOT_WORDS, "": "how got not said", "random assignment": "randomly assigned"}
GOT_HELP = {
    "": "Not said: conclusions about a population stay open.",
    "random sample": "Chosen at random: results apply to the population.",
    "random assignment": "Treatments assigned at random: a difference can be their effect.",
    "observed": "Neither chosen nor assigned at random: no conclusions about causes, and few about the population.",
    "whole population": "All cases of the population: no inference is needed.",
}


class TableWords(QWidget):
    """ "each row is one bush · counts once · a random sample · 180 rows"."""

    def __init__(self, session: Session, theme: Theme, say: Callable[[str], None]) -> None:
        super().__init__()
        self.session, self.theme, self._say = session, theme, say
        self._table: Table | None = None
        layout = Flow(self)
        layout.addWidget(mute("each row is one"))
        self.noun = self._link("Say what one row is", self.name_rows)
        layout.addWidget(self.noun)
        layout.addWidget(mute("·  counts"))
        self.counts = self._link("Say how rows count", self.choose_counts)
        layout.addWidget(self.counts)
        layout.addWidget(mute("·"))
        self.got = self._link("Say how the rows were got", self.choose_got)
        layout.addWidget(self.got)
        self.size_label = mute("")
        layout.addWidget(self.size_label)

    def _link(self, help_: str, action: Callable[[], object]) -> QPushButton:
        made = QPushButton()
        made.setProperty("link", True)
        made.setToolTip(help_)
        made.setCursor(Qt.CursorShape.PointingHandCursor)
        made.clicked.connect(lambda: action())
        return made

    def show_table(self, table: Table) -> None:
        self._table = table
        self.noun.setText(table.noun)
        self.noun.setAccessibleName(f"each row is one {table.noun}, change")
        counts = f"as often as {table.counts} says" if table.counts else "once"
        self.counts.setText(counts)
        self.counts.setAccessibleName(f"each row counts {counts}, change")
        self.got.setText(GOT_SHORT[table.sampling])
        self.got.setAccessibleName(f"how the rows were got: {GOT_WORDS[table.sampling]}, change")
        self.size_label.setText(f"·  {counted(table.rows, 'row')}")

    def name_rows(self) -> None:
        table = self._table
        if table is None:
            return
        noun, taken = QInputDialog.getText(self, "What is one row?", "Each row is one …", text=table.noun)
        if taken and self.session.do(edits.ChangeTable(table.name, table.name, noun)):
            self._say(f"Two of them are two {plural(noun.strip() or 'row')}.")

    def choose_got(self) -> None:
        table = self._table
        if table is None:
            return
        options = tuple(Option(k, words, help=GOT_HELP[k]) for k, words in GOT_WORDS.items())
        self._pick(
            options,
            table.sampling,
            "how the rows were got",
            self.got,
            lambda got: self.session.do(edits.SetGot(table.name, got)),
        )

    def choose_counts(self) -> None:
        table = self._table
        if table is None:
            return
        options = [Option("", "once each", help="Every row is one case.")]
        options += [
            Option(
                column.name,
                f"as often as {column.name} says",
                help="A table of counts: each row is as many cases as its count.",
            )
            for column in table.of_kind(Kind.NUMBER)
        ]
        self._pick(
            tuple(options),
            table.counts,
            "how rows count",
            self.counts,
            lambda column: self.session.do(edits.SetCounts(table.name, column)),
        )

    def _pick(self, options, now, title, link: QPushButton, picked) -> None:
        from theoros.desk.parts.pickers import PickList

        popup = PickList(self.theme, options, now, title, picked, self)
        popup.open_at(link.mapToGlobal(QPoint(0, link.height() + 2)))


def story_menu(table: Table, parent: QWidget) -> QMenu:
    """How the table came to be as it is, a line for each arrangement."""
    menu = QMenu("How it came about", parent)
    for line in table.provenance:
        menu.addAction(line).setEnabled(False)
    menu.setEnabled(bool(table.provenance))
    return menu
