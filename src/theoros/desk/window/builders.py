"""Pages and panes that are built when they are first shown, and how each is wired to the window."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from theoros.desk.entry.entry_page import EntryPage
    from theoros.desk.entry.entry_pages import EntryPages
    from theoros.desk.entry.reading_pane import ReadingPane
    from theoros.desk.report.report_page import ReportPage, ReportPane
    from theoros.desk.sheet.arrange_page import ArrangePage, ArrangePane
    from theoros.desk.sheet.row_card import RowCard
    from theoros.desk.window.find_box import Found
    from theoros.desk.window.start_page import StartPage
    from theoros.desk.window.window import Window

REST_MS = 90
"""How long a hand that drags must rest before the words follow."""


def row_card(window: Window) -> RowCard:
    """Row by row, in the place of the column."""
    from theoros.desk.sheet.row_card import RowCard

    card = RowCard(window.session, window.theme)
    window.add_pane(card, "row by row")
    card.row_shown.connect(window.table_page.sheet.go_to_row)
    card.closed.connect(window.show_column_pane)
    sheet = window.table_page.sheet
    sheet.selectionModel().currentRowChanged.connect(lambda *_: window.row_chosen())
    return card


def arrange_page(window: Window) -> ArrangePage:
    """The page of arrangements."""
    from theoros.desk.sheet.arrange_page import ArrangePage

    page = ArrangePage(window.session, window.theme, window.answers, window.side_work)
    window.pages.addWidget(page)
    page.left.connect(lambda table: window.show_target(("table", table)))
    page.applied.connect(window.arranged)
    return page


def arrange_pane(window: Window) -> ArrangePane:
    """What an arrangement does, and what else could be done to the table."""
    from theoros.desk.sheet.arrange_page import ArrangePane

    pane, page = ArrangePane(window.theme), window.arrange_page
    window.add_pane(pane, "arrange")

    def tell() -> None:
        if page.statement is not None:
            pane.show_arrangement(page.statement, page.result)

    page.changed.connect(tell)
    pane.wanted.connect(window.asking.arrange)
    return pane


def entry_pages(window: Window) -> EntryPages:
    """The pages of entries, with the Reading that goes with them."""
    from theoros.desk.entry.entry_pages import EntryPages

    made = EntryPages(window.session, window.theme, window.answers)
    window.pages.addWidget(made)

    # the words are laid out in a turn of their own, after picture and tables; while a handle is
    # dragged they wait until the hand rests
    def shown(page: EntryPage) -> None:
        window.words.start(REST_MS if page.dragging else 0)

    def connect(page: EntryPage) -> None:
        page.statement_wanted.connect(window.asking.add_entry)
        page.table_wanted.connect(window.asking.keep_figures)
        page.shown.connect(lambda: shown(page))

    for page in made.pages:
        connect(page)
    made.built.connect(connect)
    made.activated.connect(window.turned)
    return made


def reading(window: Window) -> ReadingPane:
    """What the answer says, of the entry that is active."""
    from theoros.desk.entry.reading_pane import ReadingPane

    pane, pages = ReadingPane(window.theme), window.entry_pages
    window.add_pane(pane, "reading", pane.tools)
    pane.slot_set.connect(lambda name, value: pages.active.set_slot(name, value))
    pane.slot_wanted.connect(window.open_slot)
    pane.aside_wanted.connect(window.asking.set_aside)
    pane.rows_wanted.connect(lambda rows: pages.active.select_rows(rows))
    pane.statement_wanted.connect(window.asking.add_entry)
    pane.table_wanted.connect(window.asking.keep_figures)
    pane.draws_wanted.connect(window.drawn_tables.draw)
    pane.place_wanted.connect(window.asking.place)
    pane.copy_wanted.connect(window.outgoing.copy_picture)
    pane.working_wanted.connect(lambda: pages.active.toggle_working())
    return pane


def report_page(window: Window) -> ReportPage:
    """The page of the report, which takes the answers that are known already."""
    from theoros.desk.report.report_page import ReportPage

    known = window.entry_pages.known
    page = ReportPage(
        window.session, window.theme, window.answers, lambda entry: known.find(entry, window.session.study)
    )
    window.pages.addWidget(page)
    page.entry_wanted.connect(lambda key: window.show_target(("entry", key)))
    return page


def report_pane(window: Window) -> ReportPane:
    """What can be done with the report."""
    from theoros.desk.report.report_page import ReportPane

    pane = ReportPane(window.theme)
    window.add_pane(pane, "report")
    pane.add_wanted.connect(window.report_page.add_text)
    pane.export_wanted.connect(window.outgoing.export_report)
    return pane


def start_page(window: Window) -> StartPage:
    """What is shown while there is no table."""
    from theoros.desk.window.start_page import StartPage

    page = StartPage(
        window.theme,
        new_table=window.files.new_table,
        open_table=window.files.open_table,
        open_demo=window.files.open_demo,
        paste=window.files.paste_as_table,
    )
    window.pages.addWidget(page)
    return page


def everything(window: Window) -> list[Found]:
    """All that the find box knows."""
    from theoros.desk.window.finding import everything as found

    return found(window)
