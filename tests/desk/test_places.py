"""Nothing is cut and nothing lies on anything else, in the least window and with the largest letters."""

from __future__ import annotations

import pytest
from soak.places import misplaced

from theoros.desk.parts.widgets import PlainLabel, Sideways, button
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import verbs
from theoros.verbs.core.slots import TypeNumber

LEAST = 900, 560
WITH_GRIDS = {"simulate": 4, "test": -1}
"""Examples with typed figures below the sentence, besides the first of each verb."""


@pytest.mark.parametrize("letters", ["normal", "larger"])
def test_the_least_window_holds_every_verb(window: Window, settle, qtbot, letters: str) -> None:
    window.resize(*LEAST)
    window.theme.set_scale(letters)
    settle(window)
    qtbot.wait(100)  # panes are built anew, and laid out in more than one turn
    found = set(misplaced(window))
    for name, verb in verbs().items():
        for at in {0, WITH_GRIDS.get(name, 0)}:
            window.asking.add_entry(verb.examples[at])
            settle(window)
            qtbot.wait(30)
            found |= {(f"{name} {at}", *one) for one in misplaced(window)}
    assert not found


def test_what_is_looked_for_is_found(window: Window, settle) -> None:
    """A button made too narrow, a label laid on another, one put outside."""
    page = window.table_page
    cut, under, over, out = button("too long for this", page.show), *(PlainLabel(t) for t in ("under", "over", "out"))
    for one, place in (
        (cut, (0, 0, 30, 40)),
        (under, (0, 60, 90, 30)),
        (over, (40, 60, 90, 30)),
        (out, (-40, 0, 90, 30)),
    ):
        one.setParent(page)
        one.setGeometry(*place)
        one.raise_()
        one.show()
    told = [f"{how} {said}" for how, said in misplaced(window)]
    assert any(one.startswith("cut") and "too long for this" in one for one in told)
    assert any(one.startswith("overlap") and "under" in one and "over" in one for one in told)
    assert any(one.startswith("outside") and "“out”" in one for one in told)


def test_the_answer_is_as_high_as_its_words_from_the_first(window: Window, settle) -> None:
    """Rows that are new have their height in the first round of the layout, so that no words are painted squeezed."""
    window.resize(*LEAST)
    window.asking.add_entry(verbs()["model"].examples[0])
    settle(window)
    pane = window.reading
    layout = pane.layout()
    assert pane.height() >= layout.totalHeightForWidth(pane.width())


def test_what_stands_in_the_corner_fits_wherever_the_window_was(window: Window, settle, qtbot) -> None:
    for letters, (wide, high) in (
        ("larger", (1280, 800)),
        ("normal", LEAST),
        ("larger", LEAST),
        ("small", (1400, 900)),
    ):
        window.resize(wide, high)
        window.theme.set_scale(letters)
        settle(window)
        qtbot.wait(20)
        assert not [one for one in misplaced(window) if "CornerLabel" in one[1]]
        assert window.corner_label.geometry().right() < window.menuBar().width()


def test_what_is_typed_into_goes_with_its_slot(window: Window, settle) -> None:
    """The window is made narrower while a number is typed: the sentence breaks elsewhere."""
    window.asking.add_entry(verbs()["probability"].examples[0])
    settle(window)
    bar = window.entry_page.bar
    slot = next(one for one in reversed(bar.slots_shown()) if isinstance(one.slot.holds, TypeNumber))
    slot.click()
    assert bar.editor is not None
    window.resize(*LEAST)
    settle(window)
    assert bar.editor is not None
    assert bar.rect().contains(bar.editor.geometry())
    assert bar.editor.geometry().intersects(slot.geometry())


def test_tables_and_pictures_of_the_report_are_in_sight(window: Window, settle, qtbot) -> None:
    """What stands in a frame that goes along was hidden with it, as it had not been shown yet."""
    window.show_target(("report", ""))
    settle(window)
    qtbot.waitUntil(lambda: window.report_page.findChildren(Sideways) != [], timeout=5000)
    qtbot.wait(50)
    frames = window.report_page.findChildren(Sideways)
    assert {type(one.widget()).__name__ for one in frames} == {"PlainLabel", "QLabel"}  # pictures, tables
    assert all(one.isVisible() and one.widget().isVisible() and one.height() > 30 for one in frames)
