"""Probability in the window: a worksheet by keyboard, parts typed over, handles dragged."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton
from scipy import stats

from theoros.desk.entry.figures_view import FiguresView
from theoros.desk.parts.statement_bar import SlotButton
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import make

KEY = Qt.Key


class Hands:
    """Keys go to whatever has the focus, as a person's do; what was typed is counted."""

    def __init__(self, window: Window, settle) -> None:
        self.window, self._settle, self.entered = window, settle, 0

    def press(self, key: Qt.Key, times: int = 1) -> None:
        for _ in range(times):
            QTest.keyClick(QApplication.focusWidget(), key)
            QApplication.processEvents()
        self._settle(self.window)

    def type(self, text: str, end: Qt.Key = KEY.Key_Return) -> None:
        for letter in text:
            QTest.keyClicks(QApplication.focusWidget(), letter)
            QApplication.processEvents()
        self.press(end)
        self.entered += 1

    def tab_to(self, kind: type, name: str = "") -> None:
        for _ in range(40):
            at = QApplication.focusWidget()
            if isinstance(at, kind) and name in at.accessibleName():
                return
            self.press(KEY.Key_Tab)
        raise AssertionError(f"no {kind.__name__} {name} on the way of the Tab key")


@pytest.fixture
def hands(window: Window, settle) -> Hands:
    window.actions_by_name["ask probability"].trigger()
    settle(window)
    return Hands(window, settle)


def table(window: Window) -> list[list[str]]:
    return window.entry_page.answer.figures[0].to_lines()[1:]


def test_a_binomial_question_of_four_parts_takes_eight_things(hands: Hands) -> None:
    window = hands.window
    hands.tab_to(SlotButton, "n, the number")
    hands.type("12", KEY.Key_Tab)
    hands.type("0.85")
    hands.tab_to(FiguresView)
    for part in ("exactly 11", "no more than 8", "P(X>8)", "from 9 to 11"):
        hands.type(part)
    assert [line[3] for line in table(window)[:4]] == ["0.3012", "0.0922", "0.9078", "0.7656"]
    assert window.entry_page.answer.reading.headline == "P(9 ≤ X ≤ 11) = 0.7656"
    hands.press(KEY.Key_Escape)
    for name in ("whatever the others do yes", "in every trial yes"):
        hands.tab_to(QPushButton, name)
        hands.press(KEY.Key_Space)
        hands.entered += 1
    assert hands.entered == 8
    assert {c.mark for c in window.entry_page.answer.reading.conditions} == {"holds"}


def test_ten_parts_over_three_distributions_by_keyboard(hands: Hands, settle) -> None:
    window = hands.window
    hands.tab_to(SlotButton, "n, the number")
    hands.type("20", KEY.Key_Tab)
    hands.type("1/4")
    hands.tab_to(FiguresView)
    for part in ("at least 8", "none", "fewer than 3", "X=5 or X=6"):
        hands.type(part)
    found = [line[3] for line in table(window)[:4]]
    one = stats.binom(20, 1 / 4)
    wanted = (one.sf(7), one.pmf(0), one.cdf(2), one.pmf(5) + one.pmf(6))
    assert found == [f"{p:.4f}" for p in wanted]
    for kind, named, parts, wanted in (
        ("normal", ("62", "9.5"), ("more than 75", "55 to 70", "top 10 %"),
         ["0.0856", "0.5695", "0.1000"]),
        ("poisson", ("4.5",), ("exactly 3", "at most 1", "at least 4 given at least 2"),
         ["0.1687", "0.0611", f"{stats.poisson(4.5).sf(3) / stats.poisson(4.5).sf(1):.4f}"]),
    ):  # fmt: skip
        window.asking.add_entry(make("probability", situation={"kind": kind}))
        settle(window)
        first = window.entry_page.bar.slots_shown()[3]
        first.setFocus(Qt.FocusReason.TabFocusReason)
        for at, value in enumerate(named):
            hands.type(value, KEY.Key_Return if at == len(named) - 1 else KEY.Key_Tab)
        hands.tab_to(FiguresView)
        for part in parts:
            hands.type(part)
        assert [line[3] for line in table(window)[:3]] == wanted
    assert window.session.study.entries[-2].statement.parts[2] == "top 10 %"


def test_what_is_not_understood_comes_back_to_be_put_right(hands: Hands) -> None:
    window = hands.window
    hands.tab_to(SlotButton, "n, the number")
    hands.type("12", KEY.Key_Tab)
    hands.type("0.5")
    hands.tab_to(FiguresView)
    hands.type("some of them")
    assert "“some of them” is not understood" in window.entry_page.bar.message.text()
    editor = QApplication.focusWidget()
    assert isinstance(editor, QLineEdit)
    assert editor.text() == "some of them"
    assert window.entry_page.entry.statement.parts == ()
    editor.selectAll()
    hands.type("at least 3")
    assert window.entry_page.entry.statement.parts == ("at least 3",)


@pytest.fixture
def crate(window: Window, settle) -> Window:
    window.asking.add_entry(
        make("probability", situation={"kind": "binomial", "n": 12, "p": 0.85},
             counts="sound seals", each="crate", parts=["exactly 11", "from 9 to 11"], chosen=1)
    )  # fmt: skip
    settle(window)
    return window


def test_symbols_are_typed_over_and_words_follow(crate: Window, settle) -> None:
    view = crate.entry_page.figure_views[0]
    view.setFocus()
    view.setCurrentIndex(view.model().index(0, 2))
    QTest.keyClick(view, KEY.Key_F2)
    editor = QApplication.focusWidget()
    assert isinstance(editor, QLineEdit)
    assert editor.text() == "P(X = 11)"
    editor.setText("X<=8")
    QTest.keyClick(editor, KEY.Key_Return)
    QApplication.processEvents()  # what was typed is handed over in a turn of its own
    settle(crate)
    assert table(crate)[0][1:4] == ["no more than 8", "P(X ≤ 8)", "0.0922"]
    crate.session.undo()
    settle(crate)
    assert table(crate)[0][1] == "exactly 11"


def test_an_emptied_part_is_gone_and_undo_brings_it_back(crate: Window, settle) -> None:
    view = crate.entry_page.figure_views[0]
    view.setFocus()
    view.setCurrentIndex(view.model().index(0, 1))
    QTest.keyClick(view, KEY.Key_F2)
    editor = QApplication.focusWidget()
    editor.setText("")
    QTest.keyClick(editor, KEY.Key_Return)
    QApplication.processEvents()  # what was typed is handed over in a turn of its own
    settle(crate)
    assert crate.entry_page.entry.statement.parts == ("from 9 to 11",)
    crate.session.undo()
    assert crate.entry_page.entry.statement.parts == ("exactly 11", "from 9 to 11")


def test_a_click_on_a_part_draws_it(crate: Window, settle) -> None:
    view = crate.entry_page.figure_views[0]
    at = view.visualRect(view.model().index(0, 0)).center()
    QTest.mouseClick(view.viewport(), Qt.MouseButton.LeftButton, pos=at)
    settle(crate)
    assert crate.entry_page.answer.reading.headline == "P(X = 11) = 0.3012"


def test_a_handle_is_dragged_to_another_end(crate: Window, settle) -> None:
    picture = crate.entry_page.picture
    handle = next(h for h in picture.drawing.handles if h.slot == "low_end")
    per_value = (handle.right - handle.left) / (handle.high - handle.low)
    start = QPoint(round(handle.x), round(handle.y))
    end = start - QPoint(round(2 * per_value), 0)
    QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(picture, end)
    QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=end)
    settle(crate)
    assert crate.entry_page.entry.statement.parts[1] == "from 7 to 11, ends included"
    assert crate.entry_page.answer.reading.headline.startswith("P(7 ≤ X ≤ 11) = ")


def test_between_is_settled_by_a_click(crate: Window, settle) -> None:
    crate.entry_page.set_slot("parts.1", "between 8 and 10")
    settle(crate)
    assert "leaves open whether the ends count" in crate.entry_page.answer.reading.cautions[0]
    link = next(
        b
        for b in crate.reading.findChildren(QPushButton)
        if "more than 8 and" in b.accessibleName()
    )
    link.click()
    settle(crate)
    assert crate.entry_page.entry.statement.parts[1] == "more than 8 and fewer than 10"


def test_the_report_has_the_parts_without_the_row_to_type_in(crate: Window) -> None:
    from theoros.study.report_html import entry_html

    page = entry_html("Crates", "", crate.entry_page.answer)
    assert ">0.7656<" in page
    assert ">exactly 11<" in page
    assert "type a part" not in page
