"""The pages in the middle of the window and the panes on its right, built when they are first shown."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QMainWindow, QScrollArea, QStackedWidget, QVBoxLayout, QWidget

from theoros.desk.parts.widgets import scrolled
from theoros.desk.window.interfaces import Builders

if TYPE_CHECKING:
    from theoros.desk.entry.entry_page import EntryPage
    from theoros.desk.entry.entry_pages import EntryPages
    from theoros.desk.entry.reading_pane import ReadingPane
    from theoros.desk.report.report_page import ReportPage, ReportPane
    from theoros.desk.sheet.arrange_page import ArrangePage, ArrangePane
    from theoros.desk.sheet.row_card import RowCard
    from theoros.desk.window.start_page import StartPage


class Rooms(QMainWindow):
    """The part of the window that holds its pages and panes."""

    def __init__(self, builders: Builders) -> None:
        super().__init__()
        self._builders = builders
        self.pages, self.panes = QStackedWidget(), QStackedWidget()
        self.pages.setObjectName("middle")
        self.panes.setObjectName("right")
        self._areas: dict[QWidget, QScrollArea] = {}
        self._places: dict[QWidget, QWidget] = {}

    @cached_property
    def start_page(self) -> StartPage:
        return self._builders.start_page(self)

    @cached_property
    def entry_pages(self) -> EntryPages:
        return self._builders.entry_pages(self)

    @cached_property
    def reading(self) -> ReadingPane:
        return self._builders.reading(self)

    @cached_property
    def arrange_page(self) -> ArrangePage:
        return self._builders.arrange_page(self)

    @cached_property
    def arrange_pane(self) -> ArrangePane:
        return self._builders.arrange_pane(self)

    @cached_property
    def row_card(self) -> RowCard:
        return self._builders.row_card(self)

    @cached_property
    def report_page(self) -> ReportPage:
        return self._builders.report_page(self)

    @cached_property
    def report_pane(self) -> ReportPane:
        return self._builders.report_pane(self)

    def add_pane(self, pane: QWidget, name: str, foot: QWidget | None = None) -> None:
        """A pane for the right of the window, where it scrolls; its foot stays in view."""
        self._areas[pane] = scrolled(pane, name)
        whole = QWidget()
        layout = QVBoxLayout(whole)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._areas[pane], 1)
        if foot is not None:
            layout.addWidget(foot)
        self._places[pane] = whole
        self.panes.addWidget(whole)

    def _show_pane(self, pane: QWidget) -> None:
        self.panes.setCurrentWidget(self._places[pane])

    @property
    def row_by_row(self) -> bool:
        """Whether the rows are shown one by one beside the table."""
        built = "row_card" in self.__dict__
        return built and self.panes.currentWidget() is self._places[self.row_card]

    @property
    def entry_page(self) -> EntryPage:
        """The page of the entry that is read: where there are two, the active one."""
        return self.entry_pages.active
