"""The hands' part of a sheet: what keys do in any spreadsheet, they do here."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QTextDocument
from PySide6.QtPrintSupport import QPrintDialog
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QMenu

from tests.conftest import make_table
from theoros.desk.sheet.sheet import Sheet
from theoros.desk.window import printing
from theoros.desk.window.window import Window
from theoros.study.edits import AddTable, SetCells
from theoros.table.kinds import Kind

KEY, HELD = Qt.Key, Qt.KeyboardModifier
CONTROL, SHIFT, PLAIN = HELD.ControlModifier, HELD.ShiftModifier, HELD.NoModifier


@pytest.fixture
def sheet(empty: Window, settle) -> Sheet:
    """5 rows of 3 columns, with a gap in the first column."""
    table = make_table("trays", "tray", a=[1.0, 2, None, 4, 5], b=[10.0, 20, 30, 40, 50], c=list("vwxyz"))
    empty.session.do(AddTable(table))
    empty.show_target(("table", "trays"))
    settle(empty)
    made = empty.table_page.sheet
    made.setFocus()
    go(made, 0, 0)
    return made


def go(sheet: Sheet, row: int, column: int) -> None:
    sheet.setCurrentIndex(sheet.sheet_model.index(row, column))


def at(sheet: Sheet) -> tuple[int, int]:
    return sheet.currentIndex().row(), sheet.currentIndex().column()


def press(sheet: Sheet, key: Qt.Key, held: Qt.KeyboardModifier = PLAIN) -> tuple[int, int]:
    QTest.keyClick(sheet, key, held)
    return at(sheet)


def open_editor(sheet: Sheet) -> QLineEdit | None:
    """The cell that is being typed in; after Tab the next one is open already."""
    return next((e for e in sheet.viewport().findChildren(QLineEdit) if e.isVisible()), None)


def typed(sheet: Sheet, text: str, end: Qt.Key) -> None:
    """Types into the current cell, as a person would, and ends with a key."""
    if open_editor(sheet) is None:
        QTest.keyClicks(sheet, text[0])
        text = text[1:]
    editor = open_editor(sheet)
    QTest.keyClicks(editor, text)
    QTest.keyClick(editor, end)
    QTest.qWait(5)


@pytest.mark.parametrize(
    ("start", "key", "held", "end"),
    [
        ((0, 0), KEY.Key_Return, PLAIN, (1, 0)),
        ((2, 1), KEY.Key_Return, SHIFT, (1, 1)),
        ((0, 0), KEY.Key_Tab, PLAIN, (0, 1)),
        ((0, 2), KEY.Key_Tab, PLAIN, (1, 0)),
        ((1, 0), KEY.Key_Backtab, SHIFT, (0, 2)),
        ((0, 0), KEY.Key_Down, CONTROL, (1, 0)),  # the last before the gap
        ((1, 0), KEY.Key_Down, CONTROL, (3, 0)),  # over the gap
        ((3, 0), KEY.Key_Down, CONTROL, (4, 0)),
        ((4, 0), KEY.Key_Up, CONTROL, (3, 0)),
        ((0, 0), KEY.Key_Right, CONTROL, (0, 2)),
        ((2, 0), KEY.Key_Right, CONTROL, (2, 1)),  # from an empty cell to the next full one
        ((0, 2), KEY.Key_Left, CONTROL, (0, 0)),
        ((3, 2), KEY.Key_Home, PLAIN, (3, 0)),
        ((3, 0), KEY.Key_End, PLAIN, (3, 2)),
        ((3, 2), KEY.Key_Home, CONTROL, (0, 0)),
        ((0, 0), KEY.Key_End, CONTROL, (4, 2)),
        ((0, 1), KEY.Key_PageDown, PLAIN, (5, 1)),
    ],
)
def test_keys_lead_where_they_do_in_a_spreadsheet(sheet: Sheet, start, key, held, end) -> None:
    go(sheet, *start)
    assert press(sheet, key, held) == end


def test_enter_returns_to_the_column_where_a_run_of_tabs_began(sheet: Sheet) -> None:
    go(sheet, 0, 1)
    typed(sheet, "11", KEY.Key_Tab)
    assert at(sheet) == (0, 2)
    typed(sheet, "q", KEY.Key_Return)
    assert at(sheet) == (1, 1)
    typed(sheet, "21", KEY.Key_Return)  # without Tabs, straight down
    assert at(sheet) == (2, 1)
    go(sheet, 0, 0)
    press(sheet, KEY.Key_Tab)
    press(sheet, KEY.Key_Right)  # an arrow ends the run
    assert press(sheet, KEY.Key_Return) == (1, 2)


def test_arrows_with_shift_select(sheet: Sheet) -> None:
    press(sheet, KEY.Key_Down, SHIFT)
    press(sheet, KEY.Key_Right, SHIFT)
    assert sheet.box() == (0, 0, 1, 1)
    go(sheet, 0, 1)
    press(sheet, KEY.Key_Down, CONTROL | SHIFT)
    assert sheet.box() == (0, 1, 4, 1)
    press(sheet, KEY.Key_Right, CONTROL | SHIFT)
    assert sheet.box() == (0, 1, 4, 2)
    go(sheet, 2, 1)
    press(sheet, KEY.Key_End, CONTROL | SHIFT)
    assert sheet.box() == (2, 1, 4, 2)


def test_space_selects_rows_and_columns_and_a_selects_all(sheet: Sheet) -> None:
    go(sheet, 1, 1)
    press(sheet, KEY.Key_Space, CONTROL)
    assert sheet.chosen_columns() == ["b"]
    go(sheet, 1, 1)
    press(sheet, KEY.Key_Space, SHIFT)
    assert sheet.chosen_rows() == [1]
    press(sheet, KEY.Key_A, CONTROL)
    assert sheet.box() == (0, 0, 4, 2)


def test_cut_copy_paste_delete_fill_undo(sheet: Sheet, empty: Window) -> None:
    go(sheet, 0, 1)
    press(sheet, KEY.Key_Down, SHIFT)
    empty.actions_by_name["cut"].trigger()
    assert QApplication.clipboard().text() == "10\n20\n"
    assert [sheet.sheet_model.text(row, 1) for row in (0, 1, 2)] == ["", "", "30"]
    go(sheet, 3, 1)
    empty.actions_by_name["paste"].trigger()
    assert [sheet.sheet_model.text(row, 1) for row in (3, 4)] == ["10", "20"]
    go(sheet, 2, 1)
    press(sheet, KEY.Key_Down, SHIFT)
    empty.actions_by_name["fill down"].trigger()
    assert sheet.sheet_model.text(3, 1) == "30"
    for _ in range(3):
        empty.actions_by_name["undo"].trigger()
    assert [sheet.sheet_model.text(row, 1) for row in range(5)] == ["10", "20", "30", "40", "50"]
    empty.actions_by_name["redo"].trigger()
    assert sheet.sheet_model.text(0, 1) == ""
    keys = {key.toString() for key in empty.actions_by_name["redo"].shortcuts()}
    assert keys == {"Ctrl+Shift+Z", "Ctrl+Y"}
    go(sheet, 4, 2)
    press(sheet, KEY.Key_Delete)
    assert sheet.sheet_model.text(4, 2) == ""


def test_f2_opens_a_cell_and_escape_leaves_it_as_it_was(sheet: Sheet) -> None:
    go(sheet, 1, 1)
    press(sheet, KEY.Key_F2)
    editor = next(e for e in sheet.viewport().findChildren(QLineEdit) if e.isVisible())
    assert editor.text() == "20"
    QTest.keyClicks(editor, "7")
    QTest.keyClick(editor, KEY.Key_Escape)
    assert sheet.sheet_model.text(1, 1) == "20"


class TestFinding:
    def test_finds_goes_round_and_closes(self, sheet: Sheet, empty: Window) -> None:
        empty.actions_by_name["find cells"].trigger()
        bar = empty.table_page.find_bar
        assert bar.text.hasFocus()
        assert bar.by.isHidden()
        QTest.keyClicks(bar.text, "0")
        QTest.keyClick(bar.text, KEY.Key_Return)
        assert at(sheet) == (0, 1)
        assert bar.told.text() == "1 of 5 cells"
        QTest.keyClick(bar.text, KEY.Key_Return, SHIFT)
        assert at(sheet) == (4, 1)
        bar.whole.setChecked(True)
        assert bar.told.text() == "nowhere"
        assert not bar.next.isEnabled()
        QTest.keyClick(bar.text, KEY.Key_Escape)
        assert bar.isHidden()
        assert sheet.hasFocus()

    def test_replaces_one_and_all_as_one_step(self, sheet: Sheet, empty: Window) -> None:
        empty.actions_by_name["replace"].trigger()
        bar = empty.table_page.find_bar
        bar.text.setText("0")
        bar.by.setText("5")
        bar.go(1)
        bar.one.click()
        assert sheet.sheet_model.text(0, 1) == "15"
        assert at(sheet) == (1, 1)
        bar.all.click()
        assert [sheet.sheet_model.text(row, 1) for row in range(5)] == ["15", "25", "35", "45", "55"]
        assert bar.told.text() == "replaced in 4 cells"
        empty.session.undo()
        assert sheet.sheet_model.text(4, 1) == "50"

    def test_a_text_that_fits_no_number_changes_nothing(self, sheet: Sheet, empty: Window) -> None:
        empty.actions_by_name["replace"].trigger()
        bar = empty.table_page.find_bar
        bar.text.setText("0")
        bar.by.setText("x")
        bar.all.click()
        assert "Row 1, b: " in empty.banner.label.text()
        assert "Nothing was replaced." in empty.banner.label.text()
        assert sheet.sheet_model.text(0, 1) == "10"

    def test_capitals(self, sheet: Sheet, empty: Window) -> None:
        bar = empty.table_page.find_bar
        bar.open_bar()
        bar.text.setText("V")
        bar.go(1)
        assert at(sheet) == (0, 2)
        bar.case.setChecked(True)
        assert bar.told.text() == "nowhere"


class TestHeads:
    def texts(self, menu: QMenu) -> list[str]:
        return [action.text() for action in menu.actions() if action.text()]

    def do(self, menu: QMenu, text: str) -> None:
        next(action for action in menu.actions() if action.text() == text).trigger()

    def test_the_head_of_a_column(self, sheet: Sheet, empty: Window) -> None:
        menus = empty.table_page.head_menus
        menu = menus.column_menu(1)
        assert sheet.chosen_columns() == ["b"]
        assert {"Name and unit…", "Kind", "Sort from smallest to largest", "Delete b", "Plot b"} <= set(
            self.texts(menu)
        )
        self.do(menu, "Sort from largest to smallest")
        assert sheet.sheet_model.text(0, 1) == "50"
        self.do(menus.column_menu(1), "Insert a column before it")
        assert [c.name for c in empty.table_page.table.columns] == ["a", "column 4", "b", "c"]
        kinds = next(a.menu() for a in menus.column_menu(2).actions() if a.text() == "Kind")
        next(a for a in kinds.actions() if a.text() == "Category").trigger()
        assert empty.table_page.table.column("b").kind is Kind.CATEGORY
        self.do(menus.column_menu(3), "Duplicate c")
        self.do(menus.column_menu(0), "Delete a")
        assert [c.name for c in empty.table_page.table.columns] == ["column 4", "b", "c", "c copy"]
        assert menus.column_menu(99) is None

    def test_the_head_of_a_row(self, sheet: Sheet, empty: Window) -> None:
        menus = empty.table_page.head_menus
        menu = menus.row_menu(1)
        assert sheet.chosen_rows() == [1]
        self.do(menu, "Set 1 row aside")
        assert empty.table_page.table.aside == {1}
        self.do(menus.row_menu(1), "Take 1 row back")
        self.do(menus.row_menu(1), "Duplicate 1 row")
        assert empty.table_page.table.rows == 6
        self.do(menus.row_menu(1), "Delete 1 row")
        assert empty.table_page.table.rows == 5

    def test_a_right_click_opens_them(self, sheet: Sheet) -> None:
        for head, first in ((sheet.header, "Name and unit…"), (sheet.row_header, "Insert 1 row above")):
            head.customContextMenuRequested.emit(QPoint(5, 5))
            menu = next(m for m in sheet.findChildren(QMenu) if m.isVisible())
            assert menu.actions()[0].text() == first
            menu.close()

    def test_a_double_click_on_a_border_fits_the_column(self, sheet: Sheet, empty: Window) -> None:
        empty.session.do(SetCells("trays", 0, 2, (("a long text that needs room",),)))
        sheet.setColumnWidth(2, 50)
        sheet.header.sectionHandleDoubleClicked.emit(2)
        assert sheet.columnWidth(2) > 150


class TestNamesInTheFirstRow:
    def test_typed_as_into_any_spreadsheet(self, empty: Window, settle) -> None:
        empty.files.new_table()
        settle(empty)
        sheet, page = empty.table_page.sheet, empty.table_page
        sheet.setFocus()
        go(sheet, 0, 0)
        for line in (("tea", "leaf mass (g)"), ("Mist", "20.5"), ("Jade", "23")):
            typed(sheet, line[0], KEY.Key_Tab)
            typed(sheet, line[1], KEY.Key_Return)
        assert page.names.label.text() == "The first row looks like names: tea and leaf mass (g)."
        page.names.buttons[0].click()
        table = page.table
        assert [(c.name, c.unit, c.kind) for c in table.columns] == [
            ("tea", "", Kind.CATEGORY),
            ("leaf mass", "g", Kind.NUMBER),
        ]
        assert table.frame["leaf mass"].to_list() == [20.5, 23.0]
        assert not page.names.isVisible()
        empty.session.undo()
        assert page.table.rows == 3

    def test_is_not_offered_where_it_is_no_question(self, sheet: Sheet, empty: Window) -> None:
        assert not empty.table_page.names.isVisible()
        empty.actions_by_name["first row"].trigger()  # as an action it is there all the same
        assert [c.name for c in empty.table_page.table.columns] == ["1", "10", "v"]


class TestPrinting:
    def test_a_table_an_entry_and_the_report(self, window: Window, settle) -> None:
        printed: list[QTextDocument] = []
        window.show_target(("table", "trays"))
        printed.append(printing.document_of(window))
        window.actions_by_name["print"].trigger()
        dialog = window.findChild(QPrintDialog)  # the real one, refused
        assert dialog.isVisible()
        dialog.reject()
        window.show_target(("entry", "e1"))
        settle(window)
        printed.append(printing.document_of(window))
        window.show_target(("report", ""))
        settle(window)
        printed.append(printing.document_of(window))
        texts = [document.toPlainText() for document in printed]
        assert "22 rows" in texts[0]
        assert "moisture loss" in texts[0]
        assert "Does slow withering lose more?" in texts[1]
        assert "Reject H0." in texts[1].replace("₀", "0")
        assert "Orrin Ridge" in texts[2]

    def test_it_prints(self, window: Window, settle, tmp_path) -> None:
        from PySide6.QtPrintSupport import QPrinter

        window.show_target(("entry", "e1"))
        settle(window)
        printer = QPrinter()
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(tmp_path / "out.pdf"))
        printing.document_of(window).print_(printer)
        assert (tmp_path / "out.pdf").read_bytes().startswith(b"%PDF")
        assert (tmp_path / "out.pdf").stat().st_size > 20_000
