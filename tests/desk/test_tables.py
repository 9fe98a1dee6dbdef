"""Tables on the desk: typing, pasting, kinds, opening files; nothing typed is lost."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QMimeData, Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QMessageBox

from theoros.desk.window.import_dialog import ImportDialog
from theoros.desk.window.window import Window
from theoros.table.kinds import Kind

KEY = Qt.Key


def type_cell(window: Window, qtbot, text: str, end: Qt.Key = KEY.Key_Return) -> None:
    """Types into the current cell as a hand would and ends with a key."""
    sheet = window.table_page.sheet
    sheet.setFocus()
    sheet.edit(sheet.currentIndex())
    editor = next(e for e in sheet.viewport().findChildren(QLineEdit) if e.isVisible())
    editor.setText(text)
    qtbot.keyClick(editor, end)
    QApplication.processEvents()
    QApplication.processEvents()


def copy(text: str) -> None:
    data = QMimeData()
    data.setText(text)
    QApplication.clipboard().setMimeData(data)


def cells(window: Window, table: str, column: str) -> list:
    return window.session.study.table(table).frame[column].to_list()


@pytest.fixture
def blank(empty: Window) -> Window:
    empty.files.new_table()
    return empty


def test_a_table_typed_by_hand(blank: Window, qtbot, settle) -> None:
    sheet = blank.table_page.sheet
    for text in ("35,5", "36.1", "NA", "34.9"):
        type_cell(blank, qtbot, text)
    assert cells(blank, "table", "column 1") == [35.5, 36.1, None, 34.9]
    assert sheet.currentIndex().row() == 4
    sheet.setCurrentIndex(sheet.sheet_model.index(0, 1))
    for text in ("slow", "quick", "slow", "quick"):
        type_cell(blank, qtbot, text)
    table = blank.session.study.table("table")
    assert [c.kind for c in table.columns] == [Kind.NUMBER, Kind.CATEGORY]
    for _ in range(8):
        blank.session.undo()
    assert blank.session.study.table("table").columns == ()
    for _ in range(8):
        blank.session.redo()
    assert blank.session.study.table("table") == table


def test_tab_goes_right(blank: Window, qtbot) -> None:
    blank.table_page.add_column()
    blank.table_page.add_column()
    sheet = blank.table_page.sheet
    sheet.setCurrentIndex(sheet.sheet_model.index(0, 0))
    type_cell(blank, qtbot, "1", KEY.Key_Tab)
    assert sheet.currentIndex().column() == 1


def test_text_that_does_not_fit_stays_in_the_cell(window: Window, qtbot) -> None:
    sheet = window.table_page.sheet
    sheet.setCurrentIndex(sheet.sheet_model.index(2, 3))
    type_cell(window, qtbot, "wet")
    assert "Row 3, leaf length: “wet” is not a number" in window.banner.label.text()
    assert cells(window, "bushes", "leaf length")[2] == 66.2
    editor = next(e for e in sheet.viewport().findChildren(QLineEdit) if e.isVisible())
    assert editor.text() == "wet"
    assert sheet.currentIndex().row() == 2
    assert not window.session.dirty
    editor.setText("61.5")
    qtbot.keyClick(editor, KEY.Key_Return)
    assert cells(window, "bushes", "leaf length")[2] == 61.5
    assert not window.banner.isVisible()


def test_pasting_a_block_with_names(blank: Window, settle) -> None:
    copy("withering\tmoisture loss (%)\nslow\t35,5\nquick\t31,2\nslow\tn/a\n")
    blank.table_page.sheet.paste()
    table = blank.session.study.table("table")
    assert [(c.name, c.unit, c.kind) for c in table.columns] == [
        ("withering", "", Kind.CATEGORY),
        ("moisture loss", "%", Kind.NUMBER),
    ]
    assert cells(blank, "table", "moisture loss") == [35.5, 31.2, None]
    blank.session.undo()
    blank.table_page.sheet.paste(headed=False)
    assert cells(blank, "table", "column 1")[0] == "withering"


def test_pasting_values_into_the_middle(window: Window) -> None:
    sheet = window.table_page.sheet
    sheet.setCurrentIndex(sheet.sheet_model.index(1, 2))
    copy("401\t75,5\n402\t66,6")
    sheet.paste()
    assert cells(window, "bushes", "elevation")[:4] == [425, 401, 402, 535]
    assert cells(window, "bushes", "leaf length")[1:3] == [75.5, 66.6]
    copy("403\tlong")
    sheet.paste()
    assert "“long” is not a number" in window.banner.label.text()
    assert cells(window, "bushes", "elevation")[1] == 401  # refused whole


def test_copying_cells_out(window: Window) -> None:
    sheet = window.table_page.sheet
    sheet.selectColumn(4)
    sheet.copy()
    lines = QApplication.clipboard().text().splitlines()
    assert lines[:3] == ["leaf mass (g)", "20.0", "23.4"]
    assert len(lines) == 181
    assert lines[7] == ""  # a missing value is an empty cell
    assert "<table>" in QApplication.clipboard().mimeData().html()


def test_clearing_and_deleting(window: Window, qtbot) -> None:
    sheet = window.table_page.sheet
    sheet.setCurrentIndex(sheet.sheet_model.index(0, 3))
    qtbot.keyClick(sheet, KEY.Key_Delete)
    assert cells(window, "bushes", "leaf length")[0] is None
    window.actions_by_name["delete rows"].trigger()
    assert window.session.study.table("bushes").rows == 179
    sheet.selectColumn(3)
    window.actions_by_name["delete columns"].trigger()
    assert "leaf length" not in window.session.study.table("bushes").by_name
    window.actions_by_name["insert row"].trigger()
    assert window.session.study.table("bushes").rows == 180
    for _ in range(4):
        window.actions_by_name["undo"].trigger()
    assert cells(window, "bushes", "leaf length")[0] == 58.8
    assert not window.actions_by_name["undo"].isEnabled()
    assert window.actions_by_name["redo"].text().startswith("&Redo typing in bushes")


def test_the_column_pane_renames_and_gives_units(window: Window, qtbot, settle) -> None:
    window.show_column("trays", "moisture loss")
    settle(window)
    pane = window.column_pane
    assert pane.name.text() == "moisture loss"
    assert pane.picture.isVisible()
    pane.name.setText("loss of water")
    qtbot.keyClick(pane.name, KEY.Key_Return)
    pane.unit.setText("percent")
    qtbot.keyClick(pane.unit, KEY.Key_Return)
    settle(window)
    assert window.session.study.table("trays").column("loss of water").unit == "percent"
    assert window.session.study.entry("e1").statement.data.what == "loss of water"
    pane.name.setText("withering")
    qtbot.keyClick(pane.name, KEY.Key_Return)
    assert "There is a column called “withering” already" in window.banner.label.text()
    assert pane.name.text() == "loss of water"


def test_a_new_kind_asks_before_anything_is_lost(window: Window, settle, monkeypatch) -> None:
    window.show_column("trays", "withering")
    told: list[str] = []

    def answer(label: str):
        def answered(box: QMessageBox) -> int:
            told.append(box.text())
            chosen = next(b for b in box.buttons() if b.text() == label)
            monkeypatch.setattr(QMessageBox, "clickedButton", lambda self: chosen)
            return 0

        return answered

    monkeypatch.setattr(QMessageBox, "exec", answer("Stop"))
    window.column_pane.set_kind("number")
    assert "22 values of withering are not a number and would become missing" in told[0]
    assert "row 1 (slow)" in told[0]
    assert "16 more" in told[0]
    assert window.session.study.table("trays").column("withering").kind is Kind.CATEGORY
    monkeypatch.setattr(QMessageBox, "exec", answer("Make them missing"))
    window.column_pane.set_kind("number")
    assert window.session.study.table("trays").missing("withering") == 22
    window.session.undo()
    assert window.session.study.table("trays").missing("withering") == 0
    window.column_pane.set_kind("ordered")  # loses nothing, asks nothing
    assert window.session.study.table("trays").column("withering").kind is Kind.ORDERED


def test_every_header_has_its_profile(window: Window, settle) -> None:
    window.show_target(("table", "bushes"))
    settle(window)
    profiles = window.table_page.sheet.sheet_model.profiles
    assert list(profiles) == [c.name for c in window.session.study.table("bushes").columns]
    assert profiles["leaf mass"].missing == 2


def open_file(window: Window, path: Path, settle) -> ImportDialog:
    window.files.open_any(path)
    settle(window)
    return next(d for d in window.findChildren(ImportDialog) if d.isVisible())


def test_opening_a_csv_with_a_preview(window: Window, tmp_path: Path, settle, qtbot) -> None:
    path = tmp_path / "sheds.csv"
    path.write_text("shed;code;loss (%)\nnorth;1;35,5\nsouth;2;31,2\nnorth;1;\n")
    dialog = open_file(window, path, settle)
    assert dialog.summary.text().startswith("3 rows, 3 columns.")
    assert dialog.encoding.currentText() == "utf-8"
    assert dialog.delimiter.currentText() == "semicolon"
    assert dialog.comma.isChecked()
    assert dialog.preview.item(1, 2).text() == "35.5"
    kind = dialog.preview.cellWidget(0, 1)
    kind.setCurrentText("category")
    kind.activated.emit(kind.currentIndex())
    settle(window)
    qtbot.mouseClick(dialog.open_button, Qt.MouseButton.LeftButton)
    settle(window)
    table = window.session.study.table("sheds")
    assert [c.kind for c in table.columns] == [Kind.CATEGORY, Kind.CATEGORY, Kind.NUMBER]
    assert table.column("loss").unit == "%"
    assert window.shown == ("table", "sheds")


def test_changing_the_guess_in_the_preview(window: Window, tmp_path: Path, settle, qtbot) -> None:
    path = tmp_path / "x.csv"
    path.write_text("a|b;c\n1|2;3\n")
    dialog = open_file(window, path, settle)
    dialog.delimiter.setCurrentIndex(dialog.delimiter.findText("bar"))
    dialog.delimiter.activated.emit(dialog.delimiter.currentIndex())
    settle(window)
    assert dialog.preview.columnCount() == 2
    dialog.lines.setValue(0)
    settle(window)
    assert dialog.preview.horizontalHeaderItem(0).text() == "column 1"
    dialog.reject()
    assert "x" not in window.session.study.by_name


@pytest.mark.parametrize(
    ("content", "told"), [(b"", "is empty"), (b"a,b\n1,\x002\n", "NUL bytes"), (b'a,b\n"1,2\n', "quotation mark")]
)
def test_bad_files_are_told_in_the_preview(window: Window, tmp_path: Path, settle, content, told) -> None:
    path = tmp_path / "bad.csv"
    path.write_bytes(content)
    before = window.session.study
    dialog = open_file(window, path, settle)
    assert told in dialog.summary.text()
    assert not dialog.open_button.isEnabled()
    dialog.reject()
    assert window.session.study is before


def test_naming_rows_and_tables(window: Window, settle, monkeypatch) -> None:
    answers = iter([("racks", True), ("rack", True)])
    monkeypatch.setattr("theoros.desk.sheet.table_page.QInputDialog.getText", lambda *a, **k: next(answers))
    window.show_target(("table", "trays"))
    window.table_page.rename()
    settle(window)
    assert window.shown == ("table", "racks")
    assert window.session.study.entry("e1").statement.table == "racks"
    window.table_page.name_rows()
    assert window.session.study.table("racks").noun == "rack"
    assert "two racks" in window.banner.label.text()


def test_asking_without_a_table(empty: Window) -> None:
    empty.asking.ask("plot")
    assert "There is no table yet" in empty.banner.label.text()
    assert empty.session.study.entries == ()
