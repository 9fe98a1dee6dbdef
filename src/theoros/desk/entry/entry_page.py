"""The page of one entry: its question, statement, symbols, picture, figures, working."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtCore import QCoreApplication, Qt, QTimer, Signal
from PySide6.QtWidgets import QSplitter, QVBoxLayout, QWidget

from theoros.answer.parts import Answer, Draft
from theoros.answer.wording import to_html, to_plain
from theoros.desk.entry.entry_parts import EntryParts
from theoros.desk.entry.figures_view import FiguresView
from theoros.desk.entry.pacing import Pacing
from theoros.desk.entry.picture_controller import PictureController
from theoros.desk.entry.progress_row import ProgressRow
from theoros.desk.entry.rows_below import RowsBelow
from theoros.desk.entry.section_view import SectionView
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.known import Known, KnownAnswers
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.sheet.column_pane import row_text
from theoros.engine.tasks.answers import AnswerStatement
from theoros.lazy_imports import np
from theoros.study import edits
from theoros.study.entries import Entry
from theoros.verbs.core.json_values import StatementError
from theoros.verbs.core.slots import Slot, SlotGrid, Tables, TypeSeed, next_seed
from theoros.verbs.core.statement import Said, Statement

USUAL_FIGURES = 2
"""Tables of figures built beforehand; most answers need no more."""


class EntryPage(EntryParts):
    answered = Signal(object)
    """The page shows another answer (or draft of one)."""
    shown = Signal()
    """Its picture and tables are there, and its words may follow."""
    painted = Signal()
    statement_wanted = Signal(object)
    table_wanted = Signal(object)

    def __init__(
        self, session: Session, theme: Theme, engine: Engine, known: KnownAnswers, key: str = "answer"
    ) -> None:
        """`key` tells the work of this page from that of another with the same engine."""
        super().__init__(theme)
        self.session, self.engine = session, engine
        self.entry: Entry | None = None
        self._statement: Statement | None = None
        self._said: Said | None = None
        self._said_of: Tables = {}
        self.known, self.key = known, key
        self.pacing = Pacing()
        self.pacing.picture_due.connect(self._show_picture)
        self.pacing.tables_due.connect(self._show_tables)
        self.dragging = False
        """Whether a hand holds a handle: then words wait until it rests."""
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.setSpacing(0)
        self.splitter = QSplitter(Qt.Orientation.Vertical)
        outer.addWidget(self.splitter)
        self.splitter.addWidget(self._answer_part(self._row_text))
        self.bar.slot_set.connect(self.set_slot)
        self.grid.slot_set.connect(self.set_slot)
        self.picture.painted.connect(self._was_painted)
        self.controller = PictureController(self)
        for _ in range(USUAL_FIGURES):
            self._add_figures_view()
        self.progress = ProgressRow(theme, self.scroller)
        self.progress.stopped.connect(self.stop_working)
        self.rows_below = RowsBelow(session, theme)
        self.rows, self.strip = self.rows_below.rows, self.rows_below.strip
        self.strip.clicked.connect(self.toggle_rows)
        self.splitter.addWidget(self.rows_below)
        self.splitter.setHandleWidth(1)
        self.splitter.setCollapsible(0, False)
        self.splitter.setCollapsible(1, False)
        self.splitter.setStretchFactor(0, 1)
        self.splitter.setStretchFactor(1, 0)
        engine.stepped.connect(self._stepped)
        engine.failed.connect(self._failed)
        engine.finished.connect(self._finished)
        session.selection_changed.connect(self._selected)
        theme.changed.connect(self._rethemed)

    def _finished(self, key: str) -> None:
        if key == self.key:
            self.progress.end()

    def _add_figures_view(self) -> None:
        view = FiguresView(self.theme)
        self._listen(view)
        view.hide()
        self.figure_views.append(view)
        self.figures_box.addWidget(view)

    def _listen(self, view: FiguresView | SectionView) -> None:
        view.slot_set.connect(self.set_slot)
        view.rows_wanted.connect(self.select_rows)
        view.statement_wanted.connect(self.statement_wanted)
        view.table_wanted.connect(self.table_wanted)

    def _add_section_view(self) -> None:
        view = self._new_section_view()
        self.section_views.append(view)
        self.sections_box.addWidget(view)

    def _new_section_view(self, *, low: bool = False) -> SectionView:
        picture = PictureView(self.theme, self._row_text)
        self.controller.listen(picture)
        view = SectionView(self.theme, picture, low=low)
        self._listen(view)
        view.raised.connect(self._raise_slot)
        return view

    def _raise_slot(self, name: str, value: object, done: bool) -> None:
        """A control is held down: shown at once, and one change once it is let go."""
        self.handle_moved(name, value, done)  # type: ignore[arg-type]

    def _show_above(self, answer: Answer) -> None:
        """What stands above the picture."""
        if answer.above and self.above_view is None:
            self.above_view = self._new_section_view(low=True)
            self.above_box.addWidget(self.above_view)
        if self.above_view is not None:
            self.above_view.setVisible(bool(answer.above))
            if answer.above:
                self.above_view.show_section(answer.above[0], self._slot)

    def draw_anew(self) -> None:
        """The same from another seed, where the statement has one that is used."""
        slots = self._said.slots if self._said else ()
        slot = next((slot for slot in slots if isinstance(slot.holds, TypeSeed)), None)
        if slot is not None:
            self.set_slot(slot.name, next_seed(int(slot.value)))

    def keyPressEvent(self, event) -> None:
        """Space does what is done most with what is shown, such as to draw one more."""
        main = self.above_view.main_button if self.above_view is not None else None
        if event.key() == Qt.Key.Key_Space and main is not None and main.isVisible():
            QCoreApplication.sendEvent(main, event)
            main.setFocus()
            return
        super().keyPressEvent(event)

    def _slot(self, name: str) -> Slot | None:
        """A slot of the statement that is shown, for a control that asks for it."""
        return self._said.by_name.get(name) if self._said else None

    def open_slot(self, name: str) -> bool:
        """Opens a slot in the sentence or in the grid below it; whether it is there."""
        field = self.grid.field(name) if self.grid.grid is not None else None
        if field is not None:
            field.setFocus()
        elif self.bar.button(name):
            self.bar.open_slot(name)
        else:
            return False
        return True

    @property
    def frame(self) -> QWidget:
        return self

    @property
    def tables(self) -> Tables:
        return self.session.study.by_name

    # showing

    def show_entry(self, key: str) -> None:
        """Shows an entry as it is now, with the answer known for it until a new one is there."""
        entry = self.session.study.entry(key)
        another = self.entry is None or self.entry.id != key
        self.entry = entry
        if another:
            self.answer = None
            self.pacing.drop()
            self.working.hide()
            self.scroller.verticalScrollBar().setValue(0)
        self.question.setText(entry.question)
        self.question.setFont(self.theme.italic(14))
        self.question.setVisible(bool(entry.question))
        table = entry.statement.table
        if self.rows.isVisibleTo(self) and table in self.tables:
            self.rows.show_table(table)
        self._show_statement(entry.statement)

    def _rethemed(self) -> None:
        """Colours and sizes changed: what carries its own is shown again."""
        self.question.setFont(self.theme.italic(14))
        if self.answer is not None:
            self._show_picture(self.answer)
            self._show_tables(self.answer)

    def _show_statement(self, statement: Statement) -> None:
        known = self.known.find(self.entry, self.session.study) if self.entry else None
        same = known is not None and known is self.answer and statement == self._statement
        if same and not self.progress.busy:
            return  # as when something else of the study has changed
        self._statement, self._said_of = statement, self.tables
        said = self._said = statement.said(self.tables)
        self.pacing.drop()
        self.bar.show_phrase(said.phrase)
        if not self.dragging:
            self._show_grid(said.grid)
        if known and self.entry and statement == self.entry.statement:
            self.engine.cancel(self.key)
            self.progress.end()
            self.pacing.offer(known, seen=self.isVisible())
            return
        self.progress.begin()
        digits = self.session.study.digits
        asked = statement, self.tables.get(statement.table), digits
        self.engine.run(self.key, AnswerStatement(statement, digits), self.tables, asked)

    def _said_now(self) -> Said | None:
        """The statement as it is shown, as long as it is that of the entry and of the tables as they are."""
        as_said = self._said_of.keys() == self.tables.keys() and all(
            self.tables[name] is table for name, table in self._said_of.items()
        )
        now = self.entry is not None and self._statement == self.entry.statement and as_said
        return self._said if now else None

    def _show_grid(self, grid: SlotGrid | None) -> None:
        self.grid.show_grid(grid)
        problem = next((slot.problem for slot in grid.slots if slot.problem), "") if grid else ""
        if problem and not self.bar.message.isVisibleTo(self.bar):
            self.bar.say(problem, "bad")

    def leave(self) -> None:
        """The page is put away: nothing more is worked out for it."""
        self.engine.cancel(self.key)
        self.progress.end()
        self.pacing.drop()
        self.entry = None

    def _stepped(self, key: str, draft: Draft, asked: Any) -> None:
        if key != self.key or self.entry is None:
            return
        statement, table, digits = asked
        self.progress.tell(draft.doing, draft.done)
        if draft.answer is None:
            return
        if draft.done >= 1 and statement == self.entry.statement:
            self.known.keep(self.entry, Known(statement, table, digits, draft.answer))
        self.pacing.offer(draft.answer, seen=self.isVisible())

    def _was_painted(self) -> None:
        self.painted.emit()
        self.pacing.painted()

    @property
    def waiting(self) -> bool:
        """Whether an answer is there that is not all shown yet."""
        return self.pacing.waiting

    def _failed(self, key: str, message: str) -> None:
        if key == self.key:
            self.progress.end()
            self.bar.say(
                f"Something went wrong inside Theoros during the calculation ({message}). Your rows and the "
                "statement are kept. Change a slot, or ask again.",
                "bad",
            )

    def stop_working(self) -> None:
        self.engine.cancel(self.key)
        self.progress.end()
        self.bar.say("Stopped. The answer shows what was calculated so far.", "warn")

    def _show_picture(self, answer: Answer) -> None:
        self.answer = answer
        theme = self.theme
        pieces = []
        for symbol in answer.symbols:
            colour = theme.colours[symbol.tone or "ink"]
            small = f"<span style='vertical-align: sub; font-size: {theme.px(17)}px'>"
            text = to_html(symbol.text).replace("<sub>", small).replace("</sub>", "</span>")
            pieces.append(f"<span style='color:{colour}'>{text}</span>")
        self.symbols.setText("&nbsp;&nbsp;&nbsp;&nbsp; ".join(pieces))
        self.symbols.setFont(theme.font(15.5, serif=True))
        self.symbols.setAccessibleName("; ".join(to_plain(s.text) for s in answer.symbols))
        self.symbols.setVisible(bool(pieces))
        while len(self.figure_views) < len(answer.figures):
            self._add_figures_view()
        for at, view in enumerate(self.figure_views):
            if at < len(answer.figures):
                view.make_room(answer.figures[at])
            else:
                view.hide()
        self._show_above(answer)
        self._order_for_tab()
        self.picture.setVisible(answer.picture is not None)
        self.picture.show_picture(answer.picture)
        self._fit_picture()
        self.picture.select(self.session.selection(self.table_name))
        self.answered.emit(answer)

    def _show_tables(self, answer: Answer) -> None:
        """What stands below the picture."""
        notes = self.picture.drawing.notes if self.picture.drawing and answer.picture else ()
        self.picture_notes.setText(" ".join(notes))
        self.picture_notes.setVisible(bool(notes))
        while len(self.section_views) < len(answer.sections):
            self._add_section_view()
        box = self.late_box if answer.figures_first else self.sections_box
        for at, section_view in enumerate(self.section_views):
            if box.indexOf(section_view) < 0:
                box.addWidget(section_view)
            section_view.setVisible(at < len(answer.sections))
            if at < len(answer.sections):
                section_view.show_section(answer.sections[at], self._slot)
                section_view.picture.select(self.session.selection(self.table_name))
        for view, figures in zip(self.figure_views, answer.figures, strict=False):
            view.show_figures(figures)
        if self.working.isVisibleTo(self):
            self.working.show_answer(self.answer)
        self.shown.emit()

    # working

    def toggle_working(self) -> None:
        shown = not self.working.isVisibleTo(self)
        if shown:
            self.working.show_answer(self.answer)
        self.working.setVisible(shown)
        if shown:
            QTimer.singleShot(0, lambda: self.scroller.ensureWidgetVisible(self.working))

    # changing the statement

    def set_slot(self, name: str, value: object) -> None:
        """Puts a value into a slot of the entry's statement, as an edit."""
        if self.entry is None:
            return
        told = self.entry.statement.told_column(name, value, self.tables)
        if told is not None:
            table = self.entry.statement.table
            if told != self.tables[table].column(told.name):
                self.session.do(edits.ChangeColumn(table, told.name, told))
            return
        try:
            mended = self.entry.statement.with_slot(name, value, self.tables, self._said_now())
        except StatementError as problem:
            self.bar.say(str(problem), "bad")
            for view in self.figure_views:
                QTimer.singleShot(0, partial(view.put_back, name, value))
            return
        if name in mended.statement.remembers:
            self.session.remember(mended.statement.verb, name, value)
        if mended.statement != self.entry.statement:
            self.session.do(edits.ChangeEntry(replace(self.entry, statement=mended.statement)))
        if mended.notes:
            self.bar.say(" ".join(mended.notes), "warn")

    def handle_moved(self, slot: str, value: float, done: bool) -> None:
        """A handle of a picture was dragged, or let go."""
        if self.entry is None:
            return
        self.dragging = not done
        if done:
            self.set_slot(slot, value)
            if self._statement != self.entry.statement:
                self._show_statement(self.entry.statement)
            return
        try:
            mended = self.entry.statement.with_slot(slot, value, self.tables, self._said_now())
        except StatementError:
            return
        if mended.statement != self._statement:
            self._show_statement(mended.statement)

    # rows

    @property
    def table_name(self) -> str:
        return self.entry.statement.table if self.entry else ""

    def toggle_rows(self) -> None:
        """Raises or lowers the rows behind the entry."""
        shown = self.rows_below.toggle(self.table_name if self.table_name in self.tables else "")
        high = self.splitter.height()
        if not shown:
            self.splitter.setSizes([high, self.strip.sizeHint().height()])
        elif self.table_name in self.tables:
            self.splitter.setSizes([round(high * 0.6), round(high * 0.4)])
            self.rows.setFocus()

    def select_rows(self, rows: object) -> None:
        """Selects rows of the entry's table, and raises them so that they can be seen."""
        if not self.rows.isVisibleTo(self):
            self.toggle_rows()
        self.session.select(self.table_name, np.array(rows, dtype=np.int64))

    def _selected(self, name: str) -> None:
        if name == self.table_name:
            chosen = self.session.selection(name)
            for picture in (self.picture, *(view.picture for view in self.section_views)):
                picture.select(chosen)

    def _row_text(self, row: int) -> str:
        return row_text(self.tables.get(self.table_name), row)
