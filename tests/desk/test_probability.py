"""Probability in the window: a worksheet by keyboard, parts typed over, handles dragged."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit, QPushButton
from scipy import stats

from tests.desk.hands import Hands
from theoros.desk.entry.figures_view import FiguresView
from theoros.desk.parts.input_fields import NumberField
from theoros.desk.parts.slot_button import SlotButton
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import make

KEY = Qt.Key


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
    for name in ("independent of each other yes", "in every trial yes"):
        hands.tab_to(QPushButton, name)
        hands.press(KEY.Key_Space)
        hands.entered += 1
    assert hands.entered == 8
    assert {c.mark for c in window.entry_page.answer.reading.assumptions} == {"holds"}


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
        ("normal", ("62", "9.5"), ("more than 75", "55 to 70", "top 10 %"), ["0.0856", "0.5695", "0.1000"]),
        (
            "poisson",
            ("4.5",),
            ("exactly 3", "at most 1", "at least 4 given at least 2"),
            ["0.1687", "0.0611", f"{stats.poisson(4.5).sf(3) / stats.poisson(4.5).sf(1):.4f}"],
        ),
    ):
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
        make(
            "probability",
            situation={"kind": "binomial", "n": 12, "p": 0.85},
            counts="sound seals",
            each="crate",
            parts=["exactly 11", "from 9 to 11"],
            chosen=1,
        )
    )
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
    link = next(b for b in crate.reading.findChildren(QPushButton) if "more than 8 and" in b.accessibleName())
    link.click()
    settle(crate)
    assert crate.entry_page.entry.statement.parts[1] == "more than 8 and fewer than 10"


def test_the_report_has_the_parts_without_the_row_to_type_in(crate: Window) -> None:
    from theoros.study.report_html import entry_html

    page = entry_html("Crates", "", crate.entry_page.answer)
    assert ">0.7656<" in page
    assert ">exactly 11<" in page
    assert "type a part" not in page


def test_six_parts_over_a_two_way_table_and_a_tree_by_keyboard(hands: Hands, settle) -> None:
    window = hands.window
    hands.tab_to(SlotButton, "the situation")
    hands.pick("a two-way table")
    for slot, column in (("the first category", "netting"), ("the second category", "grade")):
        hands.tab_to(SlotButton, slot)
        hands.pick(column)
    hands.tab_to(FiguresView)
    for part in ("netted and fine", "fine given open", "netted or fine"):
        hands.type(part)
    own = window.session.study.by_name["bushes"].frame
    netted, fine = (own["netting"] == "netted").to_numpy(), (own["grade"] == "fine").to_numpy()
    wanted = [(netted & fine).mean(), fine[~netted].mean(), (netted | fine).mean()]
    assert [line[3] for line in table(window)[:3]] == [f"{p:.4f}" for p in wanted]
    hands.press(KEY.Key_Escape)
    assert hands.entered == 6

    window.actions_by_name["ask probability"].trigger()
    settle(window)
    hands.tab_to(SlotButton, "the situation")
    hands.pick("a tree of stages")
    hands.tab_to(SlotButton, "outcomes of the first stage")
    hands.type("mite, no mite", KEY.Key_Tab)
    hands.type("spotted, clean")
    hands.tab_to(NumberField, "chance of mite")
    for chance in ("2 %", "0.9", "0.15"):
        hands.type(chance, KEY.Key_Tab)
    hands.tab_to(FiguresView)
    for part in ("spotted", "mite given spotted", "mite and spotted independent"):
        hands.type(part)
    assert [line[3] for line in table(window)[:3]] == ["0.1650", "0.1091", "no"]
    assert hands.entered == 6 + 9


@pytest.fixture
def tree(window: Window, settle) -> Window:
    window.asking.add_entry(
        make(
            "probability",
            each="leaf",
            parts=["mite given spotted"],
            situation={
                "kind": "tree",
                "first": "mite, no mite",
                "second": "spotted, clean",
                "chances": [0.02, 0.9, 0.15],
            },
        )
    )
    settle(window)
    return window


def test_a_chance_is_typed_on_its_branch_and_tab_goes_to_the_next(tree: Window, settle) -> None:
    picture = tree.entry_page.picture
    spot = picture.drawing.figures[0]
    at = QPoint(round(spot.x + spot.width / 2), round(spot.y + spot.height / 2))
    QTest.mouseClick(picture, Qt.MouseButton.LeftButton, pos=at)
    hands = Hands(tree, settle)
    field = QApplication.focusWidget()
    assert isinstance(field, NumberField)
    assert field.accessibleName() == "chance of mite"
    hands.type("1/10", KEY.Key_Tab)
    assert QApplication.focusWidget().accessibleName() == "chance of spotted, if mite"
    hands.type("0.8")
    assert tree.entry_page.entry.statement.situation.chances == (0.1, 0.8, 0.15)
    assert QApplication.focusWidget() is picture
    hands.press(KEY.Key_F2)
    hands.type("7", KEY.Key_Escape)  # Esc leaves it as it was
    assert tree.entry_page.entry.statement.situation.chances == (0.1, 0.8, 0.15)
    tree.session.undo()
    tree.session.undo()
    assert tree.entry_page.entry.statement.situation.chances == (0.02, 0.9, 0.15)


def test_a_chance_that_does_not_fit_is_refused_where_it_is_typed(tree: Window, settle) -> None:
    field = tree.entry_page.grid.field("situation.chances.1")
    field.setFocus()
    field.setText("1.2")
    QTest.keyClick(field, KEY.Key_Return)
    settle(tree)
    assert "1.2 is out of range. Type a number from 0 to 1." in field.toolTip()
    assert field.accessibleDescription() == field.toolTip()
    assert tree.entry_page.entry.statement.situation.chances[1] == 0.9


def test_values_are_typed_into_a_grid_that_grows(hands: Hands, settle) -> None:
    window = hands.window
    hands.tab_to(SlotButton, "the situation")
    hands.pick("given by a typed table")
    hands.tab_to(NumberField, "the next value")
    for text in ("0", "0.5", "1", "0.3", "2", "0.1"):
        hands.type(text, KEY.Key_Tab)
    problem = window.entry_page.answer.problem
    assert problem.sentence == "The probabilities sum to 0.9, which is 0.1 short of 1."
    offer = next(
        b for b in window.reading.findChildren(QPushButton) if b.accessibleName() == "Divide each by their sum"
    )
    offer.click()
    settle(window)
    assert window.entry_page.answer.problem is None
    assert window.entry_page.answer.numbers["mean"] == pytest.approx(0.5 / 0.9)


def test_figures_become_a_table_of_the_study(crate: Window, settle) -> None:
    crate.entry_page.set_slot("values", True)
    settle(crate)
    link = next(
        b for b in crate.reading.findChildren(QPushButton) if b.accessibleName().startswith("Put the table of values")
    )
    link.click()
    settle(crate)
    made = crate.session.study.by_name["table of values"]
    assert [column.name for column in made.columns] == ["x", "P(X = x)", "P(X ≤ x)", "P(X ≥ x)"]
    exact = stats.binom(12, 0.85)
    at = made.frame["x"].to_numpy()
    assert made.frame["P(X = x)"].to_numpy() == pytest.approx(exact.pmf(at), rel=1e-12)
    crate.session.undo()
    assert "table of values" not in crate.session.study.by_name


def test_all_parts_are_laid_over_each_other_when_asked(crate: Window, settle) -> None:
    crate.entry_page.set_slot("laid", True)
    settle(crate)
    keys = [key.label for key in crate.entry_page.answer.picture.keys]
    assert keys == ["a: P(X = 11) = 0.3012", "b: P(9 ≤ X ≤ 11) = 0.7656"]
    assert not crate.entry_page.picture.drawing.handles
