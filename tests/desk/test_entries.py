"""Entries on the desk: slots by hand and by keyboard, pictures, figures, reading."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QApplication, QLabel, QLineEdit

from tests.engine.odd_tasks import Fail
from theoros.answer.wording import to_plain
from theoros.desk.entry.reading_pane import FoldButton
from theoros.desk.parts.pickers import PickList
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.parts.step_view import FormulaView
from theoros.desk.parts.widgets import LinkButton
from theoros.desk.window.window import Window
from theoros.study.edits import ChangeColumn, SetCells
from theoros.table.kinds import Kind
from theoros.table.table import Column

LEFT = Qt.MouseButton.LeftButton


def places_of(view: PictureView, row: int) -> tuple[list[float], list[float]]:
    """Where the marks of a row are on a view, in pixels."""
    found = [(x, y) for r, (x, y) in view._places().items() if r == row]
    return [x for x, _ in found], [y for _, y in found]


def show(window: Window, key: str, settle) -> None:
    window.show_target(("entry", key))
    settle(window)


def sentence(window: Window) -> str:
    return window.entry_page.entry.statement.text(window.session.study.by_name)


def popup(window: Window) -> PickList:
    return next(p for p in window.findChildren(PickList) if p.isVisible())


def words(window: Window) -> str:
    return "\n".join(label.accessibleName() for label in window.reading.findChildren(QLabel))


def test_an_entry_shows_its_sentence_picture_figures_and_reading(window: Window, settle) -> None:
    show(window, "e1", settle)
    page = window.entry_page
    assert page.question.text().startswith("Worksheet 6, part b.")
    assert [b.slot.name for b in page.bar.slots_shown()] == [
        "parameter",
        "data.what",
        "data.first",
        "alternative",
        "data.second",
        "alpha",
        "method",
    ]
    assert "H₀: η slow = η quick" in page.symbols.accessibleName()
    assert page.picture.drawing is not None
    assert page.figure_views[0].model().rowCount() == 5
    assert "Reject H₀." in words(window)
    assert "There is enough evidence" in words(window)
    assert "trays: 22 rows in use" in list(window.status.texts)
    assert "seed 4127" in list(window.status.texts)


def test_picking_from_a_slot_with_the_mouse(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    qtbot.mouseClick(window.entry_page.bar.button("alternative"), LEFT)
    opened = popup(window)
    assert opened.list.currentItem().text() == "greater than"
    item = next(opened.list.item(k) for k in range(3) if opened.list.item(k).text() == "less than")
    qtbot.mouseClick(opened.list.viewport(), LEFT, pos=opened.list.visualItemRect(item).center())
    settle(window)
    assert "is less than for quick" in sentence(window)
    assert "points against your claim" in window.entry_page.symbols.accessibleName()
    window.session.undo()
    settle(window)
    assert "is greater than for quick" in sentence(window)


def test_picking_by_keyboard_alone(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    bar = window.entry_page.bar
    bar.button("parameter").setFocus()
    qtbot.keyClick(bar.button("parameter"), Qt.Key.Key_Right)
    assert bar.button("data.what").hasFocus()
    qtbot.keyClick(bar.button("data.what"), Qt.Key.Key_Left)
    qtbot.keyClick(bar.button("parameter"), Qt.Key.Key_Space)
    opened = popup(window)
    qtbot.keyClick(opened.list, Qt.Key.Key_Up)
    qtbot.keyClick(opened.list, Qt.Key.Key_Return)
    settle(window)
    assert sentence(window).startswith("Test whether the mean of")
    assert "the method is now Welch t" in bar.message.text()
    assert window.focusWidget() is bar.button("parameter")


def test_escape_puts_back(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    bar = window.entry_page.bar
    before = sentence(window)
    bar.open_slot("alternative")
    qtbot.keyClick(popup(window).list, Qt.Key.Key_Escape)
    bar.open_slot("alpha")
    bar.editor.setText("0.5")
    qtbot.keyClick(bar.editor, Qt.Key.Key_Escape)
    assert bar.editor is None
    settle(window)
    assert sentence(window) == before
    assert not window.session.dirty


def test_a_number_is_typed_in_place(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    bar = window.entry_page.bar
    button = bar.button("alpha")
    button.setFocus()
    qtbot.keyClick(button, Qt.Key.Key_0)  # typing begins the number
    assert bar.editor.text() == "0"
    qtbot.keyClicks(bar.editor, ",05")
    qtbot.keyClick(bar.editor, Qt.Key.Key_Return)
    settle(window)
    assert "at α = 0.05" in sentence(window)


@pytest.mark.parametrize(
    ("typed", "told"),
    [
        ("2", "2 is out of range. Type a number between 0 and 1."),
        ("abc", "“abc” is not a number"),
        ("", "Type a number"),
    ],
)
def test_a_number_that_does_not_fit_says_why_and_stays(window: Window, settle, qtbot, typed, told) -> None:
    show(window, "e1", settle)
    bar = window.entry_page.bar
    bar.open_slot("alpha")
    bar.editor.setText(typed)
    qtbot.keyClick(bar.editor, Qt.Key.Key_Return)
    assert told in bar.message.text()
    assert bar.editor.text() == typed
    assert "at α = 0.01" in sentence(window)


def test_a_long_list_is_narrowed_by_typing(window: Window, settle, qtbot) -> None:
    show(window, "e2", settle)
    bar = window.entry_page.bar
    bar.open_slot("what")
    opened = popup(window)
    assert opened.filter.isVisible()
    qtbot.keyClicks(opened.filter, "visitors")
    qtbot.keyClick(opened.filter, Qt.Key.Key_Return)
    settle(window)
    assert window.entry_page.entry.statement.table == "visits"
    assert "so the groups were taken out" in bar.message.text()


def test_choosing_a_way_in_the_table_of_ways(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    view = window.entry_page.figure_views[0]
    view.setFocus()
    view.setCurrentIndex(view.model().index(0, 0))
    qtbot.keyClick(view, Qt.Key.Key_Return)
    settle(window)
    assert "by Welch t." in sentence(window)
    assert "“median” became “mean”" in window.entry_page.bar.message.text()
    rect = view.visualRect(view.model().index(3, 0))
    qtbot.mouseClick(view.viewport(), LEFT, pos=rect.center())
    settle(window)
    assert "by shuffled labels." in sentence(window)
    assert "10\u202f000 shuffles" in window.entry_page.picture.picture.frames[1].title


def test_answering_the_question_of_matching(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    buttons = {b.text(): b for b in window.reading.findChildren(type(window.verb_buttons["test"]))}
    qtbot.mouseClick(buttons["separately"], LEFT)
    settle(window)
    assert window.entry_page.entry.statement.data.design == "separate"
    assert "As you say, the two groups were picked separately." in words(window)
    window.entry_page.set_slot("data.design", "matched")
    settle(window)
    assert "Matched values belong together in one row" in words(window)
    assert not window.entry_page.picture.isVisible()


def test_cells_change_and_the_entry_follows(window: Window, settle) -> None:
    show(window, "e3", settle)
    before = window.entry_page.answer.figures[0].rows[0].cells[3].value
    window.session.do(SetCells("bushes", 0, 3, (("999",),)))
    settle(window)
    after = window.entry_page.answer.figures[0].rows[0].cells[3].value
    assert after > before
    window.session.undo()
    settle(window)
    assert window.entry_page.answer.figures[0].rows[0].cells[3].value == before


def test_sweeping_selects_rows_everywhere(window: Window, settle, qtbot) -> None:
    show(window, "e5", settle)
    picture = window.entry_page.picture
    xs, ys = places_of(picture, 10)
    corner = QPoint(int(xs[0]) - 9, int(ys[0]) - 9)
    qtbot.mousePress(picture, LEFT, pos=corner)
    qtbot.mouseMove(picture, corner + QPoint(18, 18))
    qtbot.mouseRelease(picture, LEFT, pos=corner + QPoint(18, 18))
    chosen = window.session.selection("bushes")
    assert 10 in chosen
    assert any("selected" in text and text[0].isdigit() for text in list(window.status.texts))
    window.entry_page.toggle_rows()
    rows = {index.row() for index in window.entry_page.rows.selectionModel().selectedRows()}
    assert rows == set(chosen.tolist())
    window.show_target(("table", "bushes"))
    settle(window)
    rows = {index.row() for index in window.table_page.sheet.selectionModel().selectedRows()}
    assert rows == set(chosen.tolist())
    qtbot.keyClick(picture, Qt.Key.Key_Escape)
    assert window.session.selection("bushes").size == 0


def test_hovering_tells_the_row(window: Window, settle) -> None:
    show(window, "e5", settle)
    text = window.entry_page._row_text(0)
    assert text.splitlines()[0] == "row 1"
    assert "leaf length: 58.8 mm" in text
    window.session.do(SetCells("bushes", 0, 3, (("",),)))
    assert "leaf length: missing" in window.entry_page._row_text(0)


@pytest.mark.parametrize(("slot", "before"), [("bins", 4), ("start", None)])
def test_dragging_a_handle_sets_its_slot_once(window: Window, settle, qtbot, slot: str, before: float | None) -> None:
    show(window, "e2", settle)
    picture = window.entry_page.picture
    handle = next(handle for handle in picture.drawing.handles if handle.slot == slot)
    start = QPoint(round(handle.x), round(handle.y))
    qtbot.mousePress(picture, LEFT, pos=start)
    for by in (5, 15, 25, 40):
        qtbot.mouseMove(picture, start + QPoint(by, 0))
        QApplication.processEvents()
    assert not window.session.dirty
    qtbot.mouseRelease(picture, LEFT, pos=start + QPoint(40, 0))
    settle(window)
    now = getattr(window.entry_page.entry.statement, slot)
    assert now > 4
    assert now == handle.value_at(start.x() + 40)
    window.session.undo()
    assert getattr(window.session.study.entry("e2").statement, slot) == before


def test_handles_move_by_keyboard(window: Window, settle, qtbot) -> None:
    show(window, "e2", settle)
    picture = window.entry_page.picture
    picture.setFocus()
    qtbot.keyClicks(picture, "]")
    qtbot.keyClick(picture, Qt.Key.Key_Right)
    settle(window)
    assert window.entry_page.entry.statement.bins > 4


def test_outside_rows_are_a_click_away(window: Window, settle) -> None:
    show(window, "e3", settle)
    view = window.entry_page.figure_views[0]
    last = view.model().columnCount() - 1
    view._chosen(view.model().index(1, last))
    assert window.session.selection("bushes").tolist() == [36, 89, 105]
    assert window.entry_page.rows.isVisible()


def test_links_ask_the_next_question(window: Window, settle, qtbot) -> None:
    show(window, "e3", settle)
    links = window.reading.findChildren(LinkButton)
    link = next(b for b in links if b.accessibleName() == "Plot leaf length for each cultivar")
    qtbot.keyClick(link, Qt.Key.Key_Space)
    settle(window)
    assert sentence(window).startswith("Plot leaf length (mm) for each cultivar")
    assert len(window.session.study.entries) == 6


def test_working_is_folded_until_asked_for(window: Window, settle) -> None:
    show(window, "e1", settle)
    page = window.entry_page
    assert not page.working.isVisible()
    window.actions_by_name["working"].trigger()
    assert page.working.isVisible()
    said = [view.accessibleName() for view in page.working.findChildren(FormulaView)]
    assert any(text.startswith("W equals sum of the ranks of slow") for text in said)
    titles = [label.text() for label in page.working.findChildren(QLabel)]
    assert "5. Conclusion" in titles


def test_a_verb_takes_the_selected_columns(window: Window, settle, qtbot) -> None:
    window.show_target(("table", "bushes"))
    sheet = window.table_page.sheet
    sheet.selectColumn(5)
    mode = sheet.selectionModel().SelectionFlag
    sheet.selectionModel().select(sheet.sheet_model.index(0, 1), mode.Select | mode.Columns)
    assert sheet.chosen_columns() == ["netting", "pluck mass"]
    qtbot.mouseClick(window.verb_buttons["plot"], LEFT)
    settle(window)
    assert sentence(window).startswith("Plot pluck mass (g) for each netting")
    assert window.verb_buttons["plot"].isChecked()
    assert window.entry_page.bar.slots_shown()[0].hasFocus()


def test_stopping_a_long_simulation(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    window.entry_page.set_slot("method", "shuffled labels")
    window.entry_page.set_slot("replicates", 1_000_000)
    qtbot.waitUntil(window.entry_page.progress.isVisible, timeout=10_000)
    qtbot.mouseClick(window.entry_page.progress.stop, LEFT)
    settle(window)
    assert not window.entry_page.progress.isVisible()
    assert "Stopped." in window.entry_page.bar.message.text()
    window.session.undo()
    settle(window)
    assert window.entry_page.entry.statement.replicates == 10_000


def test_an_entry_whose_table_is_gone_says_so_and_others_work(window: Window, settle) -> None:
    window.asking.remove(("table", "trays"))
    assert "1 entry asked about trays" in window.banner.label.text()
    show(window, "e1", settle)
    assert "There is no table called “trays”" in words(window)
    show(window, "e2", settle)
    assert window.entry_page.answer.problem is None
    window.session.undo()
    show(window, "e1", settle)
    assert window.entry_page.answer.problem is None


def test_a_failure_inside_is_told_and_nothing_is_lost(window: Window, settle, monkeypatch) -> None:
    monkeypatch.setattr("theoros.desk.entry.entry_page.AnswerStatement", Fail)
    show(window, "e3", settle)
    assert "Something went wrong inside Theoros" in window.entry_page.bar.message.text()
    assert "Traceback" not in window.entry_page.bar.message.text()
    monkeypatch.undo()
    show(window, "e2", settle)
    assert window.entry_page.answer.problem is None


def unfold(window: Window, group: str) -> FoldButton:
    fold = next(b for b in window.reading.findChildren(FoldButton) if group in b.accessibleName())
    fold.click()
    return fold


def test_a_group_of_settings_is_folded_until_one_is_set(window: Window, settle) -> None:
    show(window, "e5", settle)
    fold = unfold(window, "axes")
    assert "press to fold away" in fold.accessibleName()
    assert window.reading.findChild(QLineEdit, "setting-low") is not None
    fold.click()
    assert not [f for f in window.reading.findChildren(QLineEdit, "setting-low") if f.isVisible()]
    show(window, "e2", settle)
    window.entry_page.set_slot("cut", 50.0)
    window.entry_page.set_slot("start", 2.0)
    settle(window)
    assert window.reading.findChild(QLineEdit, "setting-start").isVisible()


def test_settings_beside_the_sentence(window: Window, settle, qtbot) -> None:
    show(window, "e2", settle)
    assert window.reading.findChild(QLineEdit, "setting-start") is None
    unfold(window, "bins and lines")
    field = window.reading.findChild(QLineEdit, "setting-start")
    field.setText("16,5 g")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    settle(window)
    assert window.entry_page.entry.statement.start == 16.5
    field = window.reading.findChild(QLineEdit, "setting-start")
    field.setText("sixteen")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert "is not a number" in field.toolTip()
    assert window.entry_page.entry.statement.start == 16.5


def test_every_control_has_a_name(window: Window, settle) -> None:
    """What the keyboard can reach, a screen reader can say."""
    for target in (("entry", "e1"), ("entry", "e2"), ("table", "bushes"), ("report", "")):
        window.show_target(target)
        settle(window)
        for widget in window.findChildren(QLineEdit) + window.findChildren(type(window.verb_buttons["plot"])):
            if widget.isVisible() and widget.focusPolicy() != Qt.FocusPolicy.NoFocus:
                text = widget.text() if not isinstance(widget, QLineEdit) else ""
                assert widget.accessibleName() or text, widget


def test_titles_and_questions(window: Window, settle, monkeypatch) -> None:
    show(window, "e2", settle)
    monkeypatch.setattr("theoros.desk.window.entry_making.QInputDialog.getText", lambda *a, **k: ("  Plucks  ", True))
    window.asking.rename()
    assert window.session.study.entry("e2").title == "Plucks"
    monkeypatch.setattr(
        "theoros.desk.window.entry_making.QInputDialog.getMultiLineText", lambda *a, **k: ("How heavy?", True)
    )
    window.asking.set_question()
    assert window.entry_page.question.text() == "How heavy?"
    window.asking.duplicate()
    assert window.session.study.entries[-1].statement == window.session.study.entry("e2").statement


def test_gliding_marks_end_where_they_belong(window: Window, settle, qtbot) -> None:
    window.session.settings.setValue("looks/motion", "on")
    show(window, "e2", settle)
    picture = window.entry_page.picture
    qtbot.waitUntil(lambda: not picture._ticker.isActive(), timeout=3000)
    window.entry_page.set_slot("by", None)
    settle(window)
    if window.theme.motion:
        assert picture._before
    qtbot.waitUntil(lambda: not picture._ticker.isActive(), timeout=3000)
    assert not picture._before
    assert len(picture._places()) == 179
    assert np.isfinite(list(picture._places().values())).all()


def test_plain_words_in_the_status_line(window: Window, settle) -> None:
    show(window, "e2", settle)
    texts = list(window.status.texts)
    assert texts[0] == "bushes: 179 rows in use"
    assert texts[1] == "1 row left out: pluck mass is missing"
    assert to_plain(texts[-1]) == "no rows selected"


def test_the_reading_opens_the_slot_at_fault(window: Window, settle, qtbot) -> None:
    show(window, "e2", settle)
    window.entry_page.set_slot("colour", "cultivar")
    window.session.do(ChangeColumn("bushes", "cultivar", Column("cultivar", Kind.TEXT, meaning="variety")))
    settle(window)
    assert "cultivar is a text column" in words(window)
    assert window.entry_page.bar.button("colour").slot.problem
    link = next(b for b in window.reading.findChildren(LinkButton) if b.accessibleName() == "Change it")
    qtbot.keyClick(link, Qt.Key.Key_Space)
    opened = popup(window)
    assert [opened.list.item(k).text() for k in range(3)] == ["one colour", "netting", "grade"]
    opened.close()


def test_a_setting_at_fault_is_opened_too(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    window.entry_page.set_slot("data.design", "matched")
    settle(window)
    link = next(b for b in window.reading.findChildren(LinkButton) if b.accessibleName() == "Change it")
    qtbot.keyClick(link, Qt.Key.Key_Space)
    opened = popup(window)
    labels = [opened.list.item(at).text() for at in range(opened.list.count())]
    assert "two columns" in labels
    opened.close()


def test_trying_it_without_an_outlier_and_taking_it_back(window: Window, settle, qtbot) -> None:
    show(window, "e1", settle)
    window.entry_page.set_slot("method", "welch t")
    settle(window)
    links = {b.accessibleName(): b for b in window.reading.findChildren(LinkButton)}
    qtbot.keyClick(links["Try it without row 21"], Qt.Key.Key_Space)
    settle(window)
    assert window.session.study.table("trays").aside == {20}
    assert "1 row set aside" in window.status.texts
    assert "row 21" not in words(window).split("Conditions")[-1].split("Next")[0]
    window.show_target(("table", "trays"))
    settle(window)
    model = window.table_page.sheet.sheet_model
    assert model.headerData(20, Qt.Orientation.Vertical) == "(21)"
    assert "1 row is set aside" in window.table_page.kept.label.text()
    window.actions_by_name["back"].trigger()
    assert window.session.study.table("trays").aside == frozenset()
    window.session.undo()
    assert window.session.study.table("trays").aside == {20}
    window.session.select("trays", np.array([1, 2]))
    window.actions_by_name["aside"].trigger()
    assert window.session.study.table("trays").aside == {1, 2, 20}
