"""Two entries side by side: which is read, what they share, what becomes of them."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt

from tests.desk.test_entries import places_of, popup, sentence, show, words
from theoros.desk.window.window import Window
from theoros.study.edits import RemoveEntry, RemoveTable, SetCells

LEFT = Qt.MouseButton.LeftButton


@pytest.fixture
def paired(window: Window, settle, qtbot) -> Window:
    """The plot of pluck mass at the left, the description of leaf length beside it."""
    show(window, "e3", settle)
    show(window, "e2", settle)
    qtbot.keyClick(window, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    settle(window)
    return window


def keys(window: Window) -> list[str]:
    pages = window.entry_pages
    return [side.page.entry.id for side in pages.sides if not side.isHidden()]


def heads(window: Window) -> list[tuple[str, bool]]:
    sides = window.entry_pages.sides
    return [(s.title.text(), s.title.isChecked()) for s in sides if s.head.isVisible()]


def test_the_entry_shown_before_stands_beside_this_one_and_is_read(paired: Window) -> None:
    assert keys(paired) == ["e2", "e3"]
    assert paired.shown == ("entry", "e3")
    assert heads(paired) == [("Pluck mass under each netting", False), ("Leaf length by cultivar", True)]
    assert "for Jade bushes and 63.14" in words(paired)
    assert all(side.page.picture.drawing for side in paired.entry_pages.sides)


def test_what_has_the_focus_is_read(paired: Window, settle, qtbot) -> None:
    left, right = (side.page for side in paired.entry_pages.sides)
    qtbot.mouseClick(left.picture, LEFT, pos=QPoint(left.picture.width() - 3, 60))
    settle(paired)
    assert paired.entry_page is left
    assert paired.shown == ("entry", "e2")
    assert "the median pluck mass is 52" in words(paired)
    right.bar.slots_shown()[0].setFocus()
    settle(paired)
    assert paired.entry_page is right
    assert paired.shown == ("entry", "e3")
    assert [name for name, one in paired.verb_buttons.items() if one.isChecked()] == ["describe"]
    for _ in range(2):  # again on the one that is read already: it stays marked
        qtbot.mouseClick(paired.entry_pages.sides[0].title, LEFT)
        settle(paired)
        assert paired.entry_page is left
        assert [marked for _, marked in heads(paired)] == [True, False]


def test_a_slot_changes_the_entry_that_it_stands_in(paired: Window, settle, qtbot) -> None:
    left, right = (side.page for side in paired.entry_pages.sides)
    before = right.entry.statement
    qtbot.mouseClick(left.bar.button("shape"), LEFT)
    opened = popup(paired)
    rows = range(opened.list.count())
    item = next(opened.list.item(k) for k in rows if opened.list.item(k).text() == "histogram")
    qtbot.mouseClick(opened.list.viewport(), LEFT, pos=opened.list.visualItemRect(item).center())
    settle(paired)
    assert left.entry.statement.shape == "histogram"
    assert right.entry.statement == before
    paired.session.undo()
    settle(paired)
    assert left.entry.statement.shape == "stacked dots"


def test_both_follow_the_table_and_the_selection(paired: Window, settle) -> None:
    left, right = (side.page for side in paired.entry_pages.sides)
    old = [page.answer for page in (left, right)]
    paired.session.do(SetCells("bushes", 3, 3, (("61", "19", "50"),)))
    settle(paired)
    assert left.answer is not old[0]
    assert right.answer is not old[1]
    paired.session.select("bushes", np.array([3, 4]))
    settle(paired)
    for page in (left, right):
        assert page.picture._selected.tolist() == [3, 4]
        assert places_of(page.picture, 3)[0]


def test_choosing_the_other_entry_in_the_list_turns_to_it(paired: Window, settle) -> None:
    show(paired, "e2", settle)
    assert keys(paired) == ["e2", "e3"]
    assert paired.entry_page is paired.entry_pages.sides[0].page
    show(paired, "e5", settle)
    assert keys(paired) == ["e5", "e3"]
    assert "leaf mass" in sentence(paired)


def test_an_entry_is_put_beside_from_the_list(window: Window, settle) -> None:
    show(window, "e2", settle)
    menu = window.side.menu_for(("entry", "e4"))
    assert [action.text() for action in menu.actions()] == ["Put it beside", "Rename", "Remove"]
    menu.actions()[0].trigger()
    settle(window)
    assert keys(window) == ["e2", "e4"]


def test_one_alone_again(paired: Window, settle, qtbot) -> None:
    first, second = paired.entry_pages.sides
    assert paired.actions_by_name["beside"].text() == "&One entry alone"
    qtbot.mouseClick(second.close_button, LEFT)
    settle(paired)
    assert keys(paired) == ["e2"]
    assert heads(paired) == []
    assert paired.shown == ("entry", "e2")
    assert "pluck mass" in words(paired)
    assert paired.actions_by_name["beside"].text() == "&Another entry beside this one"
    qtbot.keyClick(paired, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    settle(paired)
    assert keys(paired) == ["e2", "e3"]
    qtbot.mouseClick(first.close_button, LEFT)
    settle(paired)
    assert keys(paired) == ["e3"]
    assert not first.isVisible()


def test_an_entry_that_is_removed_leaves_its_side(paired: Window, settle) -> None:
    paired.session.do(RemoveEntry("e2"))
    settle(paired)
    assert keys(paired) == ["e3"]
    paired.session.undo()
    settle(paired)
    show(paired, "e3", settle)
    paired.put_beside("e2")
    settle(paired)
    paired.session.do(RemoveEntry("e2"))  # the one that is read
    settle(paired)
    assert keys(paired) == ["e3"]
    assert paired.shown == ("entry", "e3")


def test_a_table_that_goes_is_missed_on_both_sides(paired: Window, settle) -> None:
    paired.session.do(RemoveTable("bushes"))
    settle(paired)
    for side in paired.entry_pages.sides:
        assert side.page.answer.problem is not None


def test_an_only_entry_has_nothing_to_stand_beside_it(empty: Window, settle, qtbot) -> None:
    empty.files.new_table()
    settle(empty)
    empty.asking.ask("plot")
    settle(empty)
    qtbot.keyClick(empty, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    assert not empty.entry_pages.paired
    assert empty.banner.label.text() == "There is no other entry to put beside this one yet."


def test_the_pictures_of_a_test_stand_below_each_other_in_half_the_width(window: Window, settle) -> None:
    show(window, "e3", settle)
    show(window, "e1", settle)
    picture = window.entry_page.picture
    before = picture.height()
    assert not picture.is_broken
    window.put_beside("e2")
    settle(window)
    assert picture.is_broken
    assert picture.height() >= 450 > before
    assert picture.drawing.marks()  # with room for a dot for each case
    window.put_beside()
    settle(window)
