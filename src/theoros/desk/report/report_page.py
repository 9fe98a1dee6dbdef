"""The report: placed entries and the student's own text, in an order that can be changed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QMenu, QPlainTextEdit, QToolButton, QVBoxLayout, QWidget

from theoros.answer.parts import MARKS, Answer, ResultTable
from theoros.answer.picture import Picture
from theoros.answer.wording import to_plain
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.paint import picture_image
from theoros.desk.parts.session import Session
from theoros.desk.parts.step_view import StepView
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import LinkButton, PlainLabel, Sideways, button, clear, heading, prose, scrolled
from theoros.engine.tasks.answers import AnswerStatement
from theoros.study import edits
from theoros.study.entries import Block, Entry, EntryBlock, TextBlock
from theoros.study.report_html import figures_html
from theoros.study.report_parts import REPORT_PARTS, main_figures, offered, other_ways, shown

KEY = "report"


def _for_label(table: str) -> str:
    """A table in the HTML that a label understands, which knows no style sheet."""
    for ours, theirs in (
        ("<table>", '<table cellspacing="0" cellpadding="5" border="0">'),
        ('class="n"', 'align="right"'),
        ('class="t"', 'align="left"'),
        ("<th ", "<td style='font-weight: 600' "),  # bold proper is no weight of the font
        ("</th>", "</td>"),
    ):
        table = table.replace(ours, theirs)
    return table


class TextEditor(QPlainTextEdit):
    """A block of text that grows with what is written and is kept when it is left."""

    left = Signal()

    def __init__(self, text: str, theme: Theme) -> None:
        super().__init__(text)
        self.setFont(theme.font(15, serif=True))
        self.setPlaceholderText("Write here. A short line on its own becomes a heading.")
        self.setAccessibleName("text of the report")
        self.setTabChangesFocus(True)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.textChanged.connect(self._grow)
        self._grow()

    def _grow(self) -> None:
        lines = max(2, int(self.document().size().height()))
        self.setFixedHeight(lines * self.fontMetrics().lineSpacing() + 22)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._grow()

    def focusOutEvent(self, event) -> None:
        super().focusOutEvent(event)
        self.left.emit()


class ReportPage(QWidget):
    entry_wanted = Signal(str)

    def __init__(self, session: Session, theme: Theme, engine: Engine, known: Callable[[Entry], Answer | None]) -> None:
        super().__init__()
        self.setObjectName("page")
        self.session, self.theme, self.engine, self._known = session, theme, engine, known
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        content = QWidget()
        content.setObjectName("page")
        self._layout = QVBoxLayout(content)
        self._layout.setContentsMargins(20, 14, 20, 14)
        self._layout.setSpacing(8)
        outer.addWidget(scrolled(content, "report"))
        self._entry_boxes: dict[str, list[tuple[EntryBlock, QVBoxLayout]]] = {}
        self._shown: tuple[object, ...] = ()
        self.answers: dict[str, Answer] = {}
        self._editors: dict[str, TextEditor] = {}
        self._due: list[tuple[str, Answer]] = []
        self._next = QTimer(self, singleShot=True, interval=0)
        self._next.timeout.connect(self._fill_next)
        engine.stepped.connect(self._stepped)
        theme.changed.connect(self._rethemed)

    def _rethemed(self) -> None:
        self._shown = ()
        if self.isVisible():
            self.show_report()

    def show_report(self) -> None:
        """Shows the report as it is now; answers not known yet come from the engine."""
        study = self.session.study
        now = (study.report, study.entries, study.tables, study.title, study.digits)
        if self._shown and all(a is b for a, b in zip(now, self._shown, strict=True)):
            return
        self._shown = now
        focused = next((key for key, e in self._editors.items() if e.hasFocus()), "")
        clear(self._layout)
        self._entry_boxes, self._editors, self._due = {}, {}, []
        title = PlainLabel(study.title or "Report")
        title.setFont(self.theme.font(22, serif=True))
        self._layout.addWidget(title)
        if not study.report:
            text = "Nothing is placed yet. “Place in report” stands beside every answer."
            self._layout.addWidget(prose(text, self.theme, tone="mute"))
        wanted: list[Entry] = []
        for at, block in enumerate(study.report):
            self._layout.addWidget(self._block(block, at, len(study.report)))
            if isinstance(block, EntryBlock):
                entry = study.entry(block.entry)
                answer_now = self._known(entry)
                if answer_now:
                    self._fill_soon(entry.id, answer_now)
                elif entry not in wanted:
                    wanted.append(entry)
        row = QHBoxLayout()
        row.addWidget(button("Add text", self.add_text))
        row.addStretch()
        self._layout.addLayout(row)
        self._layout.addStretch(1)
        if focused in self._editors:
            self._editors[focused].setFocus()
        for entry in wanted:
            task = AnswerStatement(entry.statement, study.digits)
            self.engine.run(f"{KEY} {entry.id}", task, study.by_name, entry.id)

    def _block(self, block: Block, at: int, count: int) -> QWidget:
        frame = QFrame()
        layout = QVBoxLayout(frame)
        layout.setContentsMargins(0, 4, 0, 8)
        layout.setSpacing(4)
        head = QHBoxLayout()
        head.setSpacing(2)
        what = "text"
        if isinstance(block, EntryBlock):
            entry = self.session.study.entry(block.entry)
            what = entry.name(self.session.study.by_name)
            layout.addWidget(LinkButton(what, lambda: self.entry_wanted.emit(block.entry), self.theme))
            head.addWidget(self._parts_button(block, what))
        head.addStretch()
        for sign, name, action, able in (
            ("↑", "up", lambda: self.session.do(edits.MoveBlock(block.id, at - 1)), at > 0),
            ("↓", "down", lambda: self.session.do(edits.MoveBlock(block.id, at + 1)), at < count - 1),
            ("✕", "out of the report", lambda: self.session.do(edits.RemoveBlock(block.id)), True),
        ):
            tool = QToolButton()
            tool.setText(sign)
            tool.setProperty("flat", "false")
            tool.setAccessibleName(f"move {what} {name}" if sign != "✕" else f"take {what} {name}")
            tool.setToolTip(f"Move {name}" if sign != "✕" else "Take out of the report")
            tool.setEnabled(able)
            tool.clicked.connect(lambda _=False, do=action: do())
            head.addWidget(tool)
        layout.addLayout(head)
        if isinstance(block, TextBlock):
            editor = TextEditor(block.text, self.theme)
            editor.left.connect(lambda: self._write(block.id, editor.toPlainText()))
            self._editors[block.id] = editor
            layout.addWidget(editor)
        else:
            inner = QVBoxLayout()
            layout.addLayout(inner)
            inner.addWidget(prose("Calculating …", self.theme, tone="mute"))
            self._entry_boxes.setdefault(block.entry, []).append((block, inner))
        return frame

    def _write(self, key: str, text: str) -> None:
        now = next((b for b in self.session.study.report if b.id == key), None)
        if isinstance(now, TextBlock) and now.text != text:
            self.session.do(edits.SetText(key, text))

    def keep_text(self) -> None:
        """Writes down what stands in an editor that has not been left yet."""
        for key, editor in list(self._editors.items()):
            self._write(key, editor.toPlainText())

    def add_text(self) -> None:
        key = self.session.study.free_id("r")
        self.session.do(edits.AddBlock(TextBlock(key, "")))
        if key in self._editors:
            self._editors[key].setFocus()

    def _stepped(self, key: str, draft: Any, entry: Any) -> None:
        if key == f"{KEY} {entry}" and draft.done >= 1:
            self._fill_soon(entry, draft.answer)

    @property
    def waiting(self) -> bool:
        """Whether an answer is still to be laid out."""
        return self._next.isActive()

    def _fill_soon(self, entry: str, found: Answer) -> None:
        """One answer in a turn: their pictures are laid out here, and the window goes on between them."""
        self._due.append((entry, found))
        self._next.start()

    def _fill_next(self) -> None:
        if self._due:
            self._fill(*self._due.pop(0))
            self._next.start()

    def _fill(self, entry: str, found: Answer) -> None:
        self.answers[entry] = found
        for block, box in self._entry_boxes.get(entry, []):
            clear(box)
            if found.problem:
                box.addWidget(prose(found.problem.sentence, self.theme, tone="bad"))
            else:
                self._add_parts(box, found, shown(found, block.parts))

    def _add_parts(self, box: QVBoxLayout, found: Answer, has: tuple[str, ...]) -> None:
        theme, reading = self.theme, found.reading
        for section in found.above if "picture" in has else ():
            self._add_picture(box, section.picture)
        self._add_picture(box, found.picture if "picture" in has else None)
        box.addWidget(prose(found.caption, theme, 14, serif=True, tone="mute"))
        if "hypotheses" in has:
            signs = " \u2003 ".join(symbol.text for symbol in found.symbols if not symbol.tone)
            box.addWidget(prose(signs, theme, 15, serif=True))
        if "figures" in has:
            for section in found.sections:
                if section.title:
                    box.addWidget(heading(section.title, theme))
                self._add_picture(box, section.picture)
                self._add_figures(box, section.figures)
            self._add_figures(box, main_figures(found))
        if "other ways" in has:
            self._add_figures(box, other_ways(found))
        if "reading" in has:
            if reading.headline:
                box.addWidget(prose(reading.headline, theme, 16, serif=True))
            for text in reading.paragraphs:
                box.addWidget(prose(text, theme))
        if "conditions" in has:
            box.addWidget(heading(reading.assumptions_title, theme))
            for condition in reading.assumptions:
                box.addWidget(prose(f"{MARKS[condition.mark]} {condition.text}", theme))
        if "cautions" in has:
            for text in reading.cautions:
                box.addWidget(prose(text, theme, tone="mute"))
        steps = (found.working if "working" in has else ()) + (found.writeup if "five steps" in has else ())
        for step in steps:
            box.addWidget(StepView(step, theme))

    def _parts_button(self, block: EntryBlock, what: str) -> QToolButton:
        made = QToolButton()
        made.setText("Parts shown")
        made.setProperty("plain", True)
        made.setAccessibleName(f"parts shown of {what}")
        made.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        menu = QMenu(made)
        menu.aboutToShow.connect(lambda: self._parts_menu(block, menu))
        made.setMenu(menu)
        return made

    def _parts_menu(self, block: EntryBlock, menu: QMenu) -> None:
        """Ticks for the parts that the answer has, and a way back to those that suit it."""
        menu.clear()
        found = self.answers.get(block.entry)
        if found is None or found.problem:
            return
        now = shown(found, block.parts)
        for part in offered(found):
            tick = menu.addAction(part.capitalize())
            tick.setCheckable(True)
            tick.setChecked(part in now)
            tick.toggled.connect(
                lambda on, part=part: self._show_parts(
                    block, tuple(p for p in REPORT_PARTS if (on if p == part else p in now))
                )
            )
        menu.addSeparator()
        back = menu.addAction("Usual parts", lambda: self._show_parts(block, None))
        back.setEnabled(block.parts is not None)

    def _show_parts(self, block: EntryBlock, parts: tuple[str, ...] | None) -> None:
        self.session.do(edits.ShowParts(block.id, parts))

    def _add_picture(self, box: QVBoxLayout, picture: Picture | None) -> None:
        if picture is not None:
            label = PlainLabel()
            image = picture_image(picture, (700, 340), self.devicePixelRatioF())
            label.setPixmap(QPixmap.fromImage(image))
            label.setAccessibleName(to_plain(picture.alt))
            box.addWidget(Sideways(label))

    def _add_figures(self, box: QVBoxLayout, tables: Sequence[ResultTable]) -> None:
        for figures in tables:
            table = QLabel(_for_label(figures_html(figures)))
            table.setTextFormat(Qt.TextFormat.RichText)
            box.addWidget(Sideways(table))


class ReportPane(QWidget):
    """Beside the report: what can be done with it."""

    add_wanted = Signal()
    export_wanted = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("reading")
        self.theme = theme
        self._layout = QVBoxLayout(self)
        self._layout.setContentsMargins(16, 10, 14, 10)
        theme.changed.connect(self._build)
        self._build()

    def _build(self) -> None:
        layout, theme = self._layout, self.theme
        clear(layout)
        layout.addWidget(heading("Report", theme))
        for text in (
            "Each placed entry shows its picture, sentence, figures and reading; a test shows its five steps. "
            "“Parts shown” changes that. The report follows every change of a cell or a slot.",
            "The export is one HTML file with everything in it. It opens in any browser and in word processors.",
        ):
            layout.addWidget(prose(text, theme))
        layout.addWidget(button("Export…", self.export_wanted.emit, main=True))
        layout.addWidget(button("Add text", self.add_wanted.emit))
        layout.addStretch(1)
