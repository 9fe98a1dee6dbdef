"""Chance watched in the window: problems by keyboard, one more, the pile that opens, tables."""

from __future__ import annotations

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from tests.desk.hands import Hands, Problem
from theoros.desk.parts.theme import Theme
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import statement_from_json

KEY = Qt.Key


SIX = "12.1 11.4 11.8 11.0 12.3 11.2"
PROBLEMS = (
    # One jar in eight used to leak. With the new lids 1 of 25 does. Could that be chance?
    Problem("a share, one-sided", "simulate a share", (
        ("chance of a success p", "1/8"), ("sample size n, how many trials", "25"),
        ("what is asked", "> at most"), ("the observed value", "1"),
    ), "number of trials that succeed is at most 1", 6),
    # Half of all guests prefer Jade, it is said. Of 40, 27 do. Is that another share?
    Problem("a share, two-sided", "simulate a share", (
        ("chance of a success p", "0.5"), ("sample size n, how many trials", "40"),
        ("what is asked", "> at least as"), ("the observed value", "27"),
    ), "(13 or less, or 27 or more)", 6),
    # Six trays lost 12.1, 11.4, … %. At most 12 % is allowed on average: do they lose less?
    Problem("six values against a threshold", "claim assumed to be true", (
        ("the data", "> typed values"), ("the values", SIX),
        ("value under H₀", "12"), ("what is asked", "> at most"),
    ), "the mean moisture loss of all cases is less than 12", 10),
    # Do heavier leaves belong to longer ones?
    Problem("a correlation", "", (), "r of shuffled pairs", 6, "bushes",
            ("leaf mass", "leaf length")),
    # Leaf lengths are normal with mean 62 and SD 9.5. How do means of 16 vary?
    Problem("a sampling distribution", "simulate a population of a shape", (
        ("mean μ", "62"), ("standard deviation σ", "9.5"),
        ("sample size n, how many are drawn", "16"),
    ), "mean of 1000 samples has a mean of", 6),
    # Two dice are thrown: how often is the sum 10 or more?
    Problem("two dice", "simulate several outcomes", (
        ("sample size n, how many are drawn", "2"), ("the statistic", "> the total"),
        ("what is asked", "> at least"), ("the observed value", "10"),
    ), "total is at least 10", 6),
    # Packets hold one of six cards. How often do ten packets do for all?
    Problem("waiting for all kinds", "simulate waiting", (
        ("what is waited for", "> each kind"), ("what is asked", "> at most"),
        ("the observed value", "10"),
    ), "until each kind was seen is at most 10", 6),
    # Between which ends lies the median of resamples of the leaf masses, in the middle 90 %?
    Problem("the middle of resamples", "data resampled", (
        ("the data", "> one column"), ("the number", "> leaf mass"),
        ("what is taken of each", "> median"), ("what is asked", "> the middle"),
        ("the middle share", "90"),
    ), "In the middle 90 % of the resamples, the median leaf mass", 8, "bushes"),
)  # fmt: skip


@pytest.mark.parametrize("problem", PROBLEMS, ids=lambda p: p.name)
def test_problems_by_keyboard(window: Window, settle, problem: Problem) -> None:
    window.show_target(("table", problem.table or "trays"))
    settle(window)
    hands = Hands(window, settle)
    if problem.columns:
        sheet = window.table_page.sheet
        names = list(window.session.study.by_name[problem.table].by_name)
        mode = sheet.selectionModel().SelectionFlag
        for column in problem.columns:
            index = sheet.sheet_model.index(0, names.index(column))
            sheet.selectionModel().select(index, mode.Select | mode.Columns)
        window.actions_by_name["ask simulate"].trigger()
        settle(window)
        hands.entered += 1 + len(problem.columns)
    else:
        hands.find(problem.finds)
        hands.entered += 1
    for label, text in problem.steps:
        hands.put(label, text)
    found = window.entry_page.answer
    assert found is not None
    assert found.problem is None, found.problem
    said = " ".join([found.reading.headline, *found.reading.paragraphs]).replace("\u00a0", " ")
    assert problem.says in said, said
    assert hands.entered <= problem.most, hands.entered


JARS = {
    "verb": "simulate",
    "ask": "at most",
    "value": 1,
    "each": "crate",
    "model": {"kind": "share", "case": "jar", "success": "leaks", "p": "1/8", "n": 25},
}


@pytest.fixture
def jars(window: Window, settle) -> Window:
    window.asking.add_entry(statement_from_json({**JARS, "replicates": 5}))
    settle(window)
    return window


def replicates(window: Window) -> int:
    return window.entry_page.entry.statement.replicates


def test_space_draws_one_more_and_held_down_it_goes_on_faster(jars: Window, settle) -> None:
    page = jars.entry_page
    page.picture.setFocus()
    QTest.keyClick(page.picture, KEY.Key_Space)
    settle(jars)
    assert replicates(jars) == 6
    assert page.answer.above[0].picture.frames[1].title.startswith("Crate 6:")
    main = page.above_view.main_button
    assert main.hasFocus()  # and it still is the same button, whatever stands beside it
    none = Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(main, QKeyEvent(QEvent.Type.KeyPress, KEY.Key_Space, none))
    seen = []
    for _ in range(30):
        held = QKeyEvent(QEvent.Type.KeyPress, KEY.Key_Space, none, " ", True)
        QApplication.sendEvent(main, held)
        settle(jars)
        seen.append(page.answer.numbers["replicates"])
    QApplication.sendEvent(main, QKeyEvent(QEvent.Type.KeyRelease, KEY.Key_Space, none))
    settle(jars)
    steps = np.diff([7, *seen])
    assert (steps >= 1).all()
    assert steps[-1] > steps[0]
    assert replicates(jars) == seen[-1]
    jars.session.undo()  # all that was held down is one change
    assert replicates(jars) == 7


def test_a_dot_and_a_bar_open_their_samples(jars: Window, settle) -> None:
    page = jars.entry_page
    picture = page.picture
    (marks,) = (m for m in picture.drawing.marks("replicate") if 2 in m.rows)
    at = int(np.flatnonzero(marks.rows == 2)[0])
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=QPoint(round(marks.x[at]), round(marks.y[at])))
    settle(jars)
    assert page.entry.statement.opened == 2
    assert page.answer.above[0].picture.frames[1].title.startswith("Crate 2:")
    page.set_slot("replicates", 5000)
    settle(jars)
    spot = next(s for s in page.picture.drawing.opens if s.height > 30)
    middle = QPoint(round(spot.x + spot.width / 2), round(spot.y + spot.height / 2))
    QTest.mouseClick(page.picture, Qt.MouseButton.LeftButton, pos=middle)
    settle(jars)
    first = page.entry.statement.opened
    assert first == spot.number
    title = page.answer.above[0].picture.frames[1].title
    (button,) = (b for b in page.above_view.buttons if b.text() == "Next like it")
    button.click()
    settle(jars)
    assert page.entry.statement.opened > first
    other = page.answer.above[0].picture.frames[1].title
    assert other.partition(": ")[2] == title.partition(": ")[2]  # of the same bar


def test_the_handle_at_what_was_seen_snaps_to_counts(jars: Window, settle) -> None:
    page = jars.entry_page
    (handle,) = page.picture.drawing.handles
    value = handle.value_at(handle.x + (handle.right - handle.left) / 6)
    assert value == int(value)
    page.handle_moved(handle.slot, value, True)
    settle(jars)
    assert page.entry.statement.value == value


def test_another_seed_is_one_key_and_keeps_the_rest(jars: Window, settle) -> None:
    page = jars.entry_page
    before = page.answer.above[0].picture.frames[1].title
    titles = {before}
    for _ in range(3):
        QTest.keyClick(jars, KEY.Key_F9)
        settle(jars)
        titles.add(page.answer.above[0].picture.frames[1].title)
    assert page.entry.statement.seed == 4
    assert len(titles) > 1
    jars.session.undo()
    jars.session.undo()
    jars.session.undo()
    settle(jars)
    assert page.answer.above[0].picture.frames[1].title == before


def link(window: Window, text: str) -> QPushButton:
    buttons = window.reading.findChildren(QPushButton)
    return next(b for b in buttons if b.accessibleName() == text)


def test_statistics_become_a_table_that_can_be_renewed(jars: Window, settle, qtbot) -> None:
    page = jars.entry_page
    page.set_slot("replicates", 40)
    settle(jars)
    jars.show_words()
    link(jars, "Put the statistics into a table").click()
    qtbot.waitUntil(lambda: "crates by chance" in jars.session.study.by_name, timeout=10_000)
    table = jars.session.study.by_name["crates by chance"]
    assert table.rows == 40
    assert table.noun == "crate"
    first = table.frame.to_series(1).to_list()
    entry = page.entry.id
    jars.show_target(("entry", entry))
    settle(jars)
    page.set_slot("seed", 9)
    settle(jars)
    assert jars.banner.isVisible()
    (again,) = (b for b in jars.banner.findChildren(QPushButton) if b.text() == "Draw again")
    again.click()
    name = "crates by chance"
    qtbot.waitUntil(lambda: jars.session.study.by_name[name].frame.to_series(1).to_list() != first, timeout=10_000)
    assert len(jars.session.study.tables) == 7
    jars.session.undo()
    assert jars.session.study.by_name[name].frame.to_series(1).to_list() == first


def test_a_long_run_can_be_stopped_and_shows_what_was_drawn(jars: Window, settle, qtbot) -> None:
    page = jars.entry_page
    page.set_slot("model.n", 4000)
    settle(jars)
    page.set_slot("replicates", 400_000)
    qtbot.waitUntil(lambda: page.answer.numbers.get("replicates", 0) >= 1000, timeout=15_000)
    page.stop_working()
    settle(jars)
    assert 1000 <= page.answer.numbers["replicates"] < 400_000
    assert "Stopped" in page.bar.message.text()


def test_the_report_has_the_sample_the_pile_and_the_figures(jars: Window, settle) -> None:
    from theoros.study.report_html import entry_html

    page = jars.entry_page
    html = entry_html("Jars", "", page.answer)
    assert html.count("<svg") >= 2
    assert "One more" not in html


def test_new_dots_fall_from_above_where_things_move(jars: Window, qtbot, monkeypatch) -> None:
    monkeypatch.setattr(Theme, "motion", True)  # whatever this platform asks for
    page = jars.entry_page
    page.set_slot("replicates", 6)
    qtbot.waitUntil(lambda: page.answer.numbers["replicates"] == 6, timeout=10_000)
    qtbot.waitUntil(lambda: bool(page.picture._before), timeout=2000)
    assert page.picture._before[-7][1] == 0.0  # number 6, from the top of the picture
    qtbot.waitUntil(lambda: not page.picture._before, timeout=2000)
