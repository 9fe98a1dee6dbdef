"""What an entry shows beyond a sentence, a picture and figures: a grid, sections, controls."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QLabel, QPushButton

from tests.desk.odd_verb import VERB, Draw
from theoros.answer.parts import answer_json
from theoros.desk.window.window import Window
from theoros.study.report_html import entry_html
from theoros.verbs.core.registry import verbs


@pytest.fixture
def drawn(window: Window, settle, monkeypatch) -> Window:
    """A window that shows an entry of the verb for tests."""
    monkeypatch.setitem(verbs(), "draw", VERB)
    window.asking.add_entry(Draw())
    settle(window)
    return window


def control(window: Window, text: str) -> QPushButton:
    section = window.entry_page.section_views[0]
    return next(one for one in section.findChildren(QPushButton) if one.text() == text)


def statement(window: Window) -> Draw:
    entry = window.current_entry()
    assert entry is not None
    assert isinstance(entry.statement, Draw)
    return entry.statement


def press(qtbot, window: Window, text: str) -> None:
    qtbot.mouseClick(control(window, text), Qt.MouseButton.LeftButton)


class TestASection:
    def test_shows_title_picture_and_figures(self, drawn: Window) -> None:
        section = drawn.entry_page.section_views[0]
        assert section.title.text() == "Every draw"
        assert section.picture.isVisible()
        assert section.figure_views[0].isVisible()
        assert section.note.isHidden()
        assert not drawn.entry_page.picture.isVisible()

    def test_stands_on_the_page_of_the_report_too(self, drawn: Window, settle) -> None:
        drawn.asking.place()
        drawn.show_target(("report", ""))
        settle(drawn)
        labels = drawn.report_page.findChildren(QLabel)
        assert any(label.text() == "Every draw" for label in labels)
        pictures = [label for label in labels if not label.pixmap().isNull()]
        assert pictures[-1].accessibleName() == "Draws in a row."

    def test_a_control_sets_its_slot_and_keeps_the_focus(self, drawn, qtbot, settle) -> None:
        control(drawn, "One more").setFocus()
        for wanted in (4, 5):
            qtbot.keyClick(control(drawn, "One more"), Qt.Key.Key_Space)
            settle(drawn)
            assert statement(drawn).cups == wanted
            assert control(drawn, "One more").hasFocus()

    def test_a_control_asks_for_the_number_it_needs(self, drawn, qtbot, settle) -> None:
        field = drawn.entry_page.section_views[0].findChild(object, "setting-by")
        field.setFocus()
        field.selectAll()
        qtbot.keyClicks(field, "12")
        qtbot.keyClick(field, Qt.Key.Key_Return)
        settle(drawn)
        press(qtbot, drawn, "Draw up to")
        settle(drawn)
        assert statement(drawn).cups == 12

    def test_starting_over_can_be_undone(self, drawn, qtbot, settle) -> None:
        press(qtbot, drawn, "Start over")
        settle(drawn)
        assert statement(drawn).cups == 0
        drawn.session.undo()
        settle(drawn)
        assert statement(drawn).cups == 3

    def test_a_click_on_a_replicate_opens_it(self, drawn, qtbot, settle) -> None:
        picture = drawn.entry_page.section_views[0].picture
        (marks,) = picture.drawing.marks("replicate")
        spot = QPoint(round(marks.x[1]), round(marks.y[1]))
        qtbot.mouseClick(picture, Qt.MouseButton.LeftButton, pos=spot)
        settle(drawn)
        assert statement(drawn).shown == 2
        assert drawn.entry_page.section_views[0].note.text() == "draw 2 is shown"

    def test_marks_of_replicates_are_no_rows(self, drawn) -> None:
        picture = drawn.entry_page.section_views[0].picture
        assert picture.drawing.marks("row") == ()

    def test_panels_are_as_high_as_their_shares(self, drawn) -> None:
        (marks,) = drawn.entry_page.section_views[0].picture.drawing.marks("replicate")
        height = drawn.entry_page.section_views[0].picture.height()
        assert marks.y[0] < height / 2  # the middle of a panel that takes two thirds

    def test_goes_into_the_report_and_into_json(self, drawn) -> None:
        answer = drawn.entry_page.answer
        assert "<h3>Every draw</h3>" in entry_html("Draws", "", answer)
        (section,) = answer_json(answer)["sections"]
        assert section["figures"]["draws"] == [{"n": 3}]
        assert section["picture"] == "Draws in a row."

    def test_is_gone_from_an_entry_without_one(self, drawn, settle) -> None:
        drawn.show_target(("entry", "e1"))
        settle(drawn)
        assert not drawn.entry_page.section_views[0].isVisible()
        assert not drawn.entry_page.grid.isVisible()


class TestAGrid:
    def test_tab_walks_along_the_rows(self, drawn, qtbot) -> None:
        grid = drawn.entry_page.grid
        grid.fields[0, 0].setFocus()
        seen = []
        for _ in range(5):
            at = next(key for key, field in grid.fields.items() if field.hasFocus())
            seen.append(at)
            qtbot.keyClick(grid.fields[at], Qt.Key.Key_Tab)
        assert seen == [(0, 0), (0, 1), (0, 2), (0, 3), (1, 0)]

    def test_enter_sets_a_cell_and_goes_down(self, drawn, qtbot, settle) -> None:
        grid = drawn.entry_page.grid
        field = grid.field("data.groups.0.n")
        field.setFocus()
        field.selectAll()
        qtbot.keyClicks(field, "25")
        qtbot.keyClick(field, Qt.Key.Key_Return)
        settle(drawn)
        assert statement(drawn).data.groups[0].n == 25
        assert grid.field("data.groups.1.n").hasFocus()
        assert statement(drawn).data.groups[1].n == 10

    @pytest.mark.parametrize("text", ["1", "ten", "2.5", ""])
    def test_what_does_not_fit_is_marked_and_changes_nothing(self, drawn, qtbot, text) -> None:
        before = statement(drawn)
        field = drawn.entry_page.grid.field("data.groups.1.n")
        field.setFocus()
        field.setText(text)
        qtbot.keyClick(field, Qt.Key.Key_Return)
        assert field.property("wrong")
        assert field.accessibleDescription()
        assert statement(drawn) == before

    def test_escape_puts_back_what_was_there(self, drawn, qtbot) -> None:
        field = drawn.entry_page.grid.field("data.groups.1.mean")
        before = field.text()
        field.setFocus()
        field.setText("9x")
        qtbot.keyClick(field, Qt.Key.Key_Escape)
        assert float(field.text().split()[0]) == float(before.split()[0])

    def test_a_slot_at_fault_is_found_in_it(self, drawn) -> None:
        drawn.open_slot("data.groups.1.sd")
        assert drawn.entry_page.grid.field("data.groups.1.sd").hasFocus()

    def test_undo_shows_the_figures_before(self, drawn, settle) -> None:
        drawn.entry_page.set_slot("data.groups.0.mean", 6.25)
        settle(drawn)
        field = drawn.entry_page.grid.field("data.groups.0.mean")
        assert field.text().startswith("6.25")
        drawn.session.undo()
        settle(drawn)
        assert field.text().startswith("7")

    def test_every_field_has_a_name_for_a_screen_reader(self, drawn) -> None:
        names = [one.accessibleName() for one in drawn.entry_page.grid.fields.values()]
        assert "mean of south" in names
        assert len(set(names)) == len(names) == 12  # with those of the group that waits
