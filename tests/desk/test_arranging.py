"""Putting tables in shape on the desk: previews, row by row, moving, levels, saving."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QCheckBox, QLabel, QLineEdit, QPushButton

from tests.desk.test_tables import cells, copy, open_file, type_cell
from theoros.desk.parts.formula_edit import FormulaEdit, completions, pointed
from theoros.desk.parts.pickers import PickList, PickMany
from theoros.desk.sheet.table_words import GOT_HELP, GOT_SHORT, GOT_WORDS
from theoros.desk.window.window import Window
from theoros.files.formats import open_table
from theoros.table.kinds import Kind
from theoros.table.table import GOT
from theoros.verbs.arrange.arrangement import arrangements

KEY = Qt.Key


def arranging(window: Window, settle, name: str, /, **slots: object):
    """The page of an arrangement with some slots set."""
    window.asking.arrange(name)
    settle(window)
    for slot, value in slots.items():
        window.arrange_page.set_slot(slot, value)
        settle(window)
    return window.arrange_page


def apply(window: Window, settle) -> None:
    assert window.arrange_page.apply_button.isEnabled(), window.arrange_page.bar.message.text()
    window.arrange_page.apply()
    settle(window)


def popup(window: Window, kind=PickList):
    return next(p for p in window.findChildren(kind) if p.isVisible())


def test_every_arrangement_opens_from_the_table(window: Window, settle) -> None:
    texts = [action.text() for action in window.table_page.arrange_menu().actions()]
    for name, one in arrangements().items():
        assert one.label in texts
        page = arranging(window, settle, name)
        assert page.statement.verb == name
        assert page.bar.slots_shown()
        assert page.apply_button.isEnabled() == (page.result is not None)
        if page.result is None:
            assert page.bar.message.text()
    page.leave()
    assert window.shown == ("table", "bushes")
    assert not window.session.dirty


def test_wide_to_long_to_a_test_and_back(window: Window, settle) -> None:
    window.show_target(("table", "tasters"))
    before = window.session.study
    page = arranging(window, settle, "make long", value="score", source="when", name="scores")
    assert page.statement.columns == ("score before", "score after")
    assert page.model.rowCount() == 48
    assert page.told.text().strip() == "scores would have 48 rows and 3 columns."
    assert window.session.study is before  # nothing has changed yet
    apply(window, settle)
    assert window.shown == ("table", "scores")
    assert "made long from score before and score after" in window.banner.label.text()
    assert window.session.study.table("scores").provenance == (
        "from tasters: made long from score before and score after",
    )
    window.table_page.sheet.selectColumn(1)
    window.asking.ask("test")
    settle(window)
    assert window.entry_page.answer.problem is None
    window.show_target(("table", "scores"))
    arranging(window, settle, "make wide", value="score", by="when", name="again")
    apply(window, settle)
    back, first = (window.session.study.table(name) for name in ("again", "tasters"))
    assert back.frame.equals(first.frame)
    for _ in range(3):
        window.session.undo()
    assert window.session.study.tables == before.tables


def test_a_formula_is_typed_completed_and_followed(window: Window, settle, qtbot) -> None:
    page = arranging(window, settle, "new column", name="gain")
    page.bar.open_slot("formula")
    editor = page.bar.editor
    assert isinstance(editor, FormulaEdit)
    qtbot.keyClicks(editor, "leaf m")
    assert editor.offered[0] == "leaf mass"
    qtbot.keyClick(editor, KEY.Key_Tab)
    assert editor.text() == "leaf mass"
    qtbot.keyClicks(editor, " * 2 +")
    qtbot.keyClick(editor, KEY.Key_Return)
    assert "Something is missing at the end" in page.bar.message.text()
    assert page.bar.editor is editor  # nothing typed is lost
    qtbot.keyClicks(editor, " 1")
    settle(window)
    qtbot.waitUntil(lambda: page.result is not None, timeout=5000)  # shown while still typing
    assert "gain" in page.result.table.by_name
    qtbot.keyClick(editor, KEY.Key_Return)
    settle(window)
    assert page.statement.formula == "leaf mass * 2 + 1"
    qtbot.keyClick(page, KEY.Key_Return, Qt.KeyboardModifier.ControlModifier)
    settle(window)
    assert cells(window, "bushes", "gain")[0] == 41.0
    sheet = window.table_page.sheet
    place = window.session.study.table("bushes").place("leaf mass")
    sheet.setCurrentIndex(sheet.sheet_model.index(0, place))
    type_cell(window, qtbot, "30")
    assert cells(window, "bushes", "gain")[0] == 61.0
    sheet.setCurrentIndex(sheet.sheet_model.index(0, place + 1))
    type_cell(window, qtbot, "5")
    assert "calculated by the formula" in window.banner.label.text()
    pane = window.column_pane
    pane.show_column("bushes", "gain")
    pane.formula.setText("leaf mass +")
    pane._typed_formula()
    assert pane.formula.property("wrong")
    pane.formula.setText("leaf mass")
    pane._typed_formula()
    assert cells(window, "bushes", "gain")[0] == 30.0
    pane.keep_values.click()
    assert window.session.study.table("bushes").column("gain").formula == ""


def test_an_error_in_a_formula_points_at_its_place(window: Window, settle) -> None:
    page = arranging(window, settle, "new column", formula="leaf mass + cultivar")
    assert "cultivar is text" in page.bar.message.text()
    assert "leaf mass + ▸cultivar◂" in page.bar.message.text()
    assert not page.apply_button.isEnabled()
    assert pointed("a +", 3, 3) == "a + ▸◂"


@pytest.mark.parametrize(
    ("before", "word", "first"),
    [
        ("", "", None),
        ("lea", "lea", "leaf mass"),
        ("2 * leaf m", "leaf m", "leaf mass"),
        ("max(ma", "ma", "leaf mass"),
        ("sq", "sq", "sqrt("),
        ("leaf mass ", "", None),
        ("zzz", "", None),
    ],
)
def test_names_complete_as_they_are_typed(before: str, word: str, first: str | None) -> None:
    found, offered = completions(before, ["leaf mass", "leaf length", "tea"])
    if first is None:
        assert offered == []
    else:
        assert (found, offered[0]) == (word, first)


def test_an_arrangement_begins_from_the_current_column_if_one_is_enough(window: Window, settle) -> None:
    window.show_target(("table", "bushes"))
    sheet = window.table_page.sheet
    at = [column.name for column in window.session.study.by_name["bushes"].columns].index("elevation")
    sheet.setCurrentIndex(sheet.model().index(0, at))
    assert not sheet.chosen_columns()
    assert arranging(window, settle, "sort").statement.first == "elevation"
    window.show_target(("table", "bushes"))
    assert "elevation" not in arranging(window, settle, "make long").statement.columns  # which needs several


def test_several_columns_are_picked_from_a_list(window: Window, settle, qtbot) -> None:
    page = arranging(window, settle, "make long")
    page.bar.open_slot("columns")
    many = popup(window, PickMany)
    assert many.told.text() == "2 of 7 chosen"
    qtbot.keyClick(many.list, KEY.Key_Down)
    names = [many.list.item(row).text() for row in range(many.list.count())]
    many.list.setCurrentRow(names.index("elevation"))
    qtbot.keyClick(many.list, KEY.Key_Space)
    settle(window)
    assert page.statement.columns == ("leaf mass", "pluck mass", "elevation")
    next(b for b in many.findChildren(QPushButton) if b.text() == "None").click()
    assert "Choose two or more" in page.bar.message.text()
    many.close()


def test_kept_rows_are_said_and_come_back(window: Window, settle, qtbot) -> None:
    arranging(
        window,
        settle,
        "keep rows",
        column1="netting",
        value1="netted",
        joiner="and",
        column2="elevation",
        relation2="at least",
        value2="400",
    )
    assert "57 rows in use" in window.arrange_page.told.text()
    apply(window, settle)
    kept = window.table_page.kept
    assert kept.label.text() == (
        "Kept are the 57 of 180 rows where netting is netted and elevation is at least 400\u00a0m."
    )
    model = window.table_page.sheet.sheet_model
    assert model.headerData(2, Qt.Orientation.Vertical) == "(3)"
    window.show_target(("entry", "e3"))
    settle(window)
    assert window.status.texts[0] == "bushes: 57 rows in use"
    window.show_target(("table", "bushes"))
    kept.buttons[1].click()
    settle(window)
    assert window.arrange_page.statement.formula.startswith("netting =")
    window.arrange_page.leave()
    kept.buttons[0].click()
    assert not window.session.study.table("bushes").keep
    assert not kept.isVisible()


def test_sorting_and_the_original_order(window: Window, settle) -> None:
    before = cells(window, "bushes", "pluck mass")
    arranging(window, settle, "sort", first="pluck mass", way="down")
    apply(window, settle)
    assert cells(window, "bushes", "pluck mass")[0] == max(v for v in before if v is not None)
    button = next(b for b in window.table_page.kept.buttons if b.text() == "Original order")
    button.click()
    assert cells(window, "bushes", "pluck mass") == before


def test_a_change_meanwhile_is_not_overwritten(window: Window, settle) -> None:
    page = arranging(window, settle, "sort", first="elevation")
    window.side_work.run("apply", lambda: iter(()))
    from theoros.study.edits import SetTitle

    page.apply()
    window.session.do(SetTitle("another"))
    settle(window)
    assert "changed meanwhile" in page.bar.message.text() or window.session.history.to_undo == ("naming the study")
    assert window.session.study.title == "another"


# rows and columns as wholes


def test_rows_and_columns_move_by_keyboard(window: Window, qtbot) -> None:
    sheet = window.table_page.sheet
    first = cells(window, "bushes", "elevation")[:4]
    sheet.selectRow(0)
    alt = Qt.KeyboardModifier.AltModifier
    qtbot.keyClick(sheet, KEY.Key_Down, alt)
    qtbot.keyClick(sheet, KEY.Key_Down, alt)
    assert cells(window, "bushes", "elevation")[:4] == [first[1], first[2], first[0], first[3]]
    qtbot.keyClick(sheet, KEY.Key_Up, alt)
    assert cells(window, "bushes", "elevation")[1] == first[0]
    sheet.selectColumn(0)
    qtbot.keyClick(sheet, KEY.Key_Left, alt)  # already the first
    qtbot.keyClick(sheet, KEY.Key_Right, alt)
    names = [c.name for c in window.session.study.table("bushes").columns]
    assert names[:2] == ["netting", "cultivar"]
    assert sheet.chosen_columns() == ["cultivar"]
    for _ in range(4):
        window.session.undo()
    assert cells(window, "bushes", "elevation")[:4] == first


def test_rows_and_columns_move_by_dragging(window: Window, qtbot) -> None:
    sheet = window.table_page.sheet
    first = cells(window, "bushes", "elevation")[:4]
    sheet.selectRow(1)
    header = sheet.row_header

    def middle(at: int) -> QPoint:
        return QPoint(12, header.sectionViewportPosition(at) + header.sectionSize(at) // 2)

    drag(header.viewport(), middle(1), QPoint(12, middle(3).y() + 6), qtbot)
    assert cells(window, "bushes", "elevation")[:4] == [first[0], first[2], first[3], first[1]]
    sheet.selectColumn(2)
    top = sheet.header

    def across(at: int) -> QPoint:
        return QPoint(top.sectionViewportPosition(at) + top.sectionSize(at) // 2, 20)

    drag(top.viewport(), across(2), QPoint(across(0).x() - 20, 20), qtbot)
    assert window.session.study.table("bushes").columns[0].name == "elevation"
    # dragging from a column that is not selected selects columns
    drag(top.viewport(), across(3), across(4), qtbot)
    assert window.session.study.table("bushes").columns[0].name == "elevation"
    assert len(sheet.chosen_columns()) == 2


def drag(widget, start: QPoint, end: QPoint, qtbot) -> None:
    left = Qt.MouseButton.LeftButton
    qtbot.mousePress(widget, left, pos=start)
    steps = 6
    for k in range(1, steps + 1):
        between = start + (end - start) * k / steps
        from PySide6.QtCore import QEvent, QPointF
        from PySide6.QtGui import QMouseEvent

        move = QMouseEvent(
            QEvent.Type.MouseMove,
            QPointF(between),
            widget.mapToGlobal(QPointF(between)),
            Qt.MouseButton.NoButton,
            left,
            Qt.KeyboardModifier.NoModifier,
        )
        QApplication.sendEvent(widget, move)
    qtbot.mouseRelease(widget, left, pos=end)
    QApplication.processEvents()


def test_duplicate_fill_down_and_insert(window: Window) -> None:
    sheet = window.table_page.sheet
    rows = window.session.study.table("bushes").rows
    sheet.selectRow(0)
    sheet.controller.duplicate_rows()
    assert cells(window, "bushes", "elevation")[:2] == [425, 425]
    sheet.controller.insert_rows()
    assert window.session.study.table("bushes").rows == rows + 2
    sheet.setCurrentIndex(sheet.sheet_model.index(0, 2))
    model, flags = sheet.sheet_model, sheet.selectionModel().SelectionFlag
    from PySide6.QtCore import QItemSelection

    sheet.selectionModel().select(QItemSelection(model.index(0, 2), model.index(4, 2)), flags.ClearAndSelect)
    sheet.controller.fill_down()
    assert cells(window, "bushes", "elevation")[:5] == [425] * 5
    sheet.setCurrentIndex(model.index(5, 2))
    sheet.controller.fill_down()  # one cell alone takes the value above it
    assert cells(window, "bushes", "elevation")[5] == 425
    sheet.selectColumn(0)
    sheet.controller.duplicate_columns()
    assert window.session.study.table("bushes").columns[1].name == "cultivar copy"


def test_a_table_of_six_columns_and_thirty_rows_by_keyboard(empty: Window, qtbot, settle) -> None:
    """Names, units and cells, with keys alone."""
    qtbot.keyClick(empty, KEY.Key_T, Qt.KeyboardModifier.ControlModifier)
    settle(empty)
    names = [("tray", ""), ("way", ""), ("mass", "g"), ("loss", "%"), ("heat", "°C"), ("picked", "")]
    both = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    for name, unit in names:
        qtbot.keyClick(empty, KEY.Key_K, both)
        pane = empty.column_pane
        assert pane.name.hasFocus()
        qtbot.keyClicks(pane.name, name)
        qtbot.keyClick(pane.name, KEY.Key_Return)
        assert pane.unit.hasFocus()
        qtbot.keyClicks(pane.unit, unit)
        qtbot.keyClick(pane.unit, KEY.Key_Return)
        qtbot.keyClick(pane.meaning, KEY.Key_Return)
        assert empty.table_page.sheet.hasFocus()
    sheet = empty.table_page.sheet
    sheet.setCurrentIndex(sheet.sheet_model.index(0, 0))
    for row in range(30):
        line = [f"T{row}", "slow" if row % 2 else "quick", str(20 + row), "35,5", "60", "2026-04-30"]
        for text in line:
            for letter in text:  # to whatever has the focus, as from a keyboard
                qtbot.keyClicks(QApplication.focusWidget(), letter)
            editor = QApplication.focusWidget()
            assert isinstance(editor, QLineEdit)
            qtbot.keyClick(editor, KEY.Key_Tab)
            QApplication.processEvents()
    table = empty.session.study.table("table")
    assert (table.rows, len(table.columns)) == (30, 6)
    assert [c.kind for c in table.columns] == [
        Kind.CATEGORY,
        Kind.CATEGORY,
        Kind.NUMBER,
        Kind.NUMBER,
        Kind.NUMBER,
        Kind.DATE,
    ]
    assert [c.unit for c in table.columns] == [unit for _, unit in names]
    assert table.frame["mass"].to_list() == [20.0 + row for row in range(30)]


# row by row


def test_cases_are_typed_row_by_row(window: Window, qtbot, settle) -> None:
    window.show_target(("table", "trays"))
    settle(window)
    window.show_row_by_row()
    card = window.row_card
    assert card.title.text() == "Row 1 of 22"
    qtbot.waitUntil(card.fields[0].hasFocus)
    card.new.click()
    assert card.title.text() == "New tray"
    assert card.fields[0].hasFocus()
    for number, (way, loss) in enumerate([("slow", "35.5"), ("quick", "31")]):
        qtbot.keyClicks(card.fields[0], way)
        qtbot.keyClick(card.fields[0], KEY.Key_Return)
        qtbot.keyClicks(card.fields[1], loss)
        qtbot.keyClick(card.fields[1], KEY.Key_Return)
        assert card.fields[0].hasFocus(), number
    assert cells(window, "trays", "moisture loss")[-2:] == [35.5, 31]
    assert cells(window, "trays", "withering")[-2:] == ["slow", "quick"]
    qtbot.keyClick(card.fields[0], KEY.Key_PageUp)
    assert card.row == 23
    assert window.table_page.sheet.currentIndex().row() == 23
    window.table_page.sheet.go_to_row(3)
    assert card.title.text() == "Row 4 of 24"
    card.closed.emit()
    assert not window.row_by_row


def test_what_does_not_fit_stays_in_its_field(window: Window, qtbot) -> None:
    window.show_target(("table", "trays"))
    window.show_row_by_row()
    card = window.row_card
    field = card.fields[1]
    card.focus_field(1)
    before = field.text()
    qtbot.keyClicks(field, "wet")
    qtbot.keyClick(field, KEY.Key_Return)
    assert field.property("wrong")
    assert field.text() == "wet"
    assert "“wet” is not a number" in window.banner.label.text()
    qtbot.keyClick(field, KEY.Key_Escape)
    assert field.text() == before
    assert not window.session.dirty


# what a table is


def test_how_rows_count_and_were_got(window: Window, settle) -> None:
    window.show_target(("table", "orders"))
    settle(window)
    words = window.table_page.words
    assert words.counts.text() == "as often as how many says"
    assert "412 cases" in window.status.texts
    words.choose_counts()
    popup(window).list.itemClicked.emit(popup(window).list.item(0))
    assert window.session.study.table("orders").counts == ""
    window.show_target(("table", "trays"))
    words.choose_got()
    assert popup(window).list.count() == len(GOT)
    popup(window).list.itemClicked.emit(popup(window).list.item(1))
    assert window.session.study.table("trays").sampling == "random sample"
    assert set(GOT_WORDS) == set(GOT_HELP) == set(GOT_SHORT) == set(GOT)


def test_a_doubtful_kind_is_pointed_out_once(empty: Window, settle) -> None:
    empty.files.new_table()
    lines = "".join(f"{k % 3 + 1}\t{k}\n" for k in range(12))
    copy(f"ward\tmass\n{lines}")
    empty.table_page.sheet.paste()
    settle(empty)
    doubt = empty.table_page.doubt
    assert "ward holds only the numbers 1, 2, 3" in doubt.label.text()
    doubt.buttons[1].click()  # it is a number
    settle(empty)
    assert not doubt.isVisible()
    assert empty.session.study.table("table").column("ward").kind is Kind.NUMBER
    empty.session.undo()
    settle(empty)
    doubt.buttons[0].click()
    settle(empty)
    assert empty.session.study.table("table").column("ward").kind is Kind.CATEGORY


def test_levels_are_ordered_named_and_merged(window: Window, settle) -> None:
    pane = window.column_pane
    window.show_column("bushes", "grade")
    settle(window)
    assert pane.levels.levels() == ("fine", "fair", "coarse")
    pane.levels.setCurrentRow(2)
    pane.levels.move_current(-1)
    settle(window)
    assert window.session.study.table("bushes").levels("grade") == ("fine", "coarse", "fair")
    pane.levels.item(1).setText("fair")
    settle(window)
    assert window.session.study.table("bushes").levels("grade") == ("fine", "fair")
    assert "are now one level" in window.banner.label.text()
    window.session.undo()
    settle(window)
    assert pane.levels.levels() == ("fine", "coarse", "fair")


def test_naming_a_level_reaches_the_entries(window: Window, settle) -> None:
    window.show_column("trays", "withering")
    settle(window)
    window.column_pane.levels.item(1).setText("gentle")
    settle(window)
    window.show_target(("entry", "e1"))
    settle(window)
    assert "gentle" in window.entry_page.entry.statement.text(window.session.study.by_name)
    assert window.entry_page.answer.problem is None


# files


def test_a_messy_spreadsheet_is_brought_in(window: Window, tmp_path: Path, settle, qtbot) -> None:
    from tests.files.test_formats import MESSY, book

    path = book(tmp_path / "messy.xlsx", {"notes": [["x"]], "north": MESSY})
    dialog = open_file(window, path, settle)
    dialog.sheet.setCurrentText("north")
    dialog.sheet.activated.emit(1)
    settle(window)
    assert (dialog.skip.value(), dialog.lines.value()) == (2, 2)
    assert dialog.comma.isChecked()
    dialog.missing.setText("14 lost")
    dialog.missing.editingFinished.emit()
    settle(window)
    assert dialog.preview.item(3, 1).text() == "—"
    dialog.missing.setText("")
    dialog.missing.editingFinished.emit()
    dialog.cells.setText("A3:C9")
    dialog.cells.editingFinished.emit()
    settle(window)
    assert dialog.preview.columnCount() == 3
    dialog._choose_kind(0, Kind.NUMBER)
    settle(window)
    assert "5 cells do not fit and will be missing: line 5, plot (“a”)" in dialog.summary.text()
    assert dialog.preview.item(1, 0).text() == "— (a)"
    dialog._choose_kind(0, Kind.CATEGORY)
    settle(window)
    assert dialog.findChildren(QCheckBox)
    dialog.open_button.click()
    settle(window)
    table = window.session.study.table("messy")
    assert [c.label for c in table.columns] == ["plot", "leaf mass (g)", "leaf length (mm)"]


@pytest.mark.parametrize("suffix", [".csv", ".xlsx", ".ods", ".json", ".parquet", ".zip"])
def test_tables_are_saved_in_every_format(window: Window, tmp_path: Path, settle, suffix) -> None:
    path = tmp_path / f"bushes{suffix}"
    window.files.save_table_to(path)
    settle(window)
    said = window.banner.label.text()
    assert said.startswith(f"Saved bushes{suffix}.")
    assert ("does not hold" in said) == (suffix not in (".parquet", ".zip"))
    assert open_table(path).table.rows == 180


def test_a_file_that_cannot_be_written_is_told(window: Window, tmp_path: Path, settle) -> None:
    window.files.save_table_to(tmp_path / "gone" / "bushes.csv")
    settle(window)
    assert "could not be written" in window.banner.label.text()


def test_arrange_has_words_beside_it(window: Window, settle) -> None:
    arranging(window, settle, "join", other_table="orders", key="netting", other_key="room")
    pane = window.arrange_pane
    texts = " ".join(label.text() for label in pane.findChildren(QLabel))
    assert "no partner in orders" in texts
    assert "Spread out counts" in texts
