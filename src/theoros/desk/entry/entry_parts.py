"""What the page of an entry is made of, from the statement down to the working."""

from __future__ import annotations

from collections.abc import Callable
from itertools import pairwise

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from theoros.answer.parts import Answer
from theoros.desk.entry.figures_view import FiguresView
from theoros.desk.entry.grid_view import GridView
from theoros.desk.entry.section_view import SectionView
from theoros.desk.entry.working_view import WorkingView
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.parts.statement_bar import StatementBar
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import NO_LIMIT, PlainLabel, Sideways, scrolled

PANEL_HEIGHT = 92
"""The least height of a panel with a scale of its own."""


class EntryParts(QWidget):
    """The parts in their places; what they do is a matter of the page."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("page")
        self.theme = theme
        self.answer: Answer | None = None

    def _answer_part(self, row_text: Callable[[int], str]) -> QWidget:
        """The statement, and below it all that its answer is made of."""
        theme = self.theme
        content = QWidget()
        content.setObjectName("page")
        layout = QVBoxLayout(content)
        layout.setContentsMargins(20, 14, 20, 12)
        layout.setSpacing(4)
        self.question = PlainLabel()
        self.question.setWordWrap(True)
        self.question.setProperty("tone", "mute")
        layout.addWidget(self.question)
        self.bar = StatementBar(theme)
        layout.addWidget(self.bar)
        self.grid = GridView(theme)
        layout.addWidget(Sideways(self.grid))
        self.symbols = QLabel()
        self.symbols.setTextFormat(Qt.TextFormat.RichText)
        self.symbols.setWordWrap(True)
        layout.addWidget(self.symbols)
        self.above_box = QVBoxLayout()
        layout.addLayout(self.above_box)
        self.picture = PictureView(theme, row_text)
        layout.addWidget(self.picture, 10)
        self.picture_notes = PlainLabel()
        self.picture_notes.setProperty("tone", "mute")
        self.picture_notes.setWordWrap(True)
        layout.addWidget(self.picture_notes)
        self.sections_box = QVBoxLayout()
        self.sections_box.setSpacing(10)
        layout.addLayout(self.sections_box, 10)
        self.section_views: list[SectionView] = []
        self.above_view: SectionView | None = None
        self.figures_box = QVBoxLayout()
        self.figures_box.setSpacing(10)
        layout.addLayout(self.figures_box)
        self.late_box = QVBoxLayout()
        self.late_box.setSpacing(10)
        layout.addLayout(self.late_box)
        self.figure_views: list[FiguresView] = []
        self.working = WorkingView(theme)
        layout.addWidget(self.working)
        layout.addStretch()
        self.scroller = scrolled(content, "answer")
        return self.scroller

    def _order_for_tab(self) -> None:
        """Tab goes from the last slot to the picture and the figures, then beside the page."""
        above = self.above_view.buttons if self.above_view is not None else []
        order = [*self.bar.slots_shown()[-1:], *above, self.picture, *self.figure_views]
        for one, two in pairwise(order):
            QWidget.setTabOrder(one, two)

    def _fit_picture(self) -> None:
        """A picture alone takes all the room; one above figures leaves some for them."""
        most, least = NO_LIMIT, self.theme.px(250)
        if self.answer is not None and self.answer.figures:
            most = max(self.theme.px(520), round(self.scroller.height() * 0.62))
        if self.picture.is_broken:
            least = self.theme.px(450)
        elif self.answer is not None and self.answer.picture is not None:
            scales = self.answer.picture.scales
            least = max(least, self.theme.px(PANEL_HEIGHT) * scales if scales > 1 else 0)
        self.picture.setMaximumHeight(max(most, least))
        self.picture.setMinimumHeight(least)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self._fit_picture()
