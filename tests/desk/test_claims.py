"""Claims by keyboard in the window, from the guide or the sentence to the conclusion.

What is typed or picked is counted: a student should not have to do more than the question says.
"""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication
from scipy import stats

from tests.desk.hands import Hands
from theoros.desk.parts.input_fields import NumberField
from theoros.desk.parts.slot_button import SlotButton
from theoros.desk.window.window import Window
from theoros.verbs.core.registry import statement_from_json

KEY = Qt.Key


@pytest.fixture
def ask(window: Window, settle):
    """Hands at a new test of a kind, its first slot in focus."""

    def at(**slots) -> Hands:
        window.asking.add_entry(statement_from_json({"verb": "test", **slots}))
        settle(window)
        return Hands(window, settle)

    return at


def conclusion(window: Window) -> str:
    return window.entry_page.answer.reading.paragraphs[0].replace("\u00a0", " ")


def p_value(window: Window) -> float:
    statement = window.entry_page.entry.statement
    return window.entry_page.answer.numbers[statement.method]["p"]


def test_two_typed_groups_one_sided_at_another_level(ask) -> None:
    hands = ask(data={"kind": "two typed samples"})
    window = hands.window
    hands.tab_to(SlotButton, "n of group 1")
    for value in ("11", "64.3", "2.1"):
        hands.type(value, KEY.Key_Tab)
    hands.tab_to(SlotButton, "direction")
    hands.pick("greater")
    hands.tab_to(SlotButton, "n of group 2")
    for value in ("12", "61.9", "2.6"):
        hands.type(value, KEY.Key_Tab)
    hands.tab_to(SlotButton, "significance level")
    hands.type("0.01")
    assert hands.entered == 8  # of at most 9
    t = stats.ttest_ind_from_stats(64.3, 2.1, 11, 61.9, 2.6, 12, equal_var=False, alternative="greater")
    assert p_value(window) == pytest.approx(t.pvalue, rel=1e-9)
    assert conclusion(window).startswith("There is not enough evidence, at the 1 %")


def test_fit_from_three_typed_counts(ask) -> None:
    hands = ask(parameter="shares", data={"kind": "typed counts"}, method="chi-square of fit")
    window = hands.window
    hands.tab_to(SlotButton, "the claimed shares")
    hands.type("2:1:1")
    hands.tab_to(NumberField, "count of level 1")
    for value in ("30", "14", "16"):
        hands.type(value, KEY.Key_Return)
        QApplication.processEvents()
    assert hands.entered == 4  # of at most 9
    expected = stats.chisquare([30, 14, 16], [30, 15, 15]).pvalue
    assert p_value(window) == pytest.approx(expected, rel=1e-9)
    assert "are not in the ratio 2:1:1" in conclusion(window)


def test_a_relation_from_a_grid_of_counts(ask) -> None:
    hands = ask(parameter="relation", data={"kind": "typed two-way counts"}, method="chi-square")
    window = hands.window
    hands.tab_to(NumberField, "count of row 1 and column 1")
    hands.type("12", KEY.Key_Tab)
    hands.type("37", KEY.Key_Tab)
    hands.press(KEY.Key_Tab)  # past the name of the second row
    hands.type("42", KEY.Key_Tab)
    hands.type("17", KEY.Key_Tab)
    assert hands.entered == 4  # the counts alone, of at most the counts and 4
    expected = stats.chi2_contingency([[12, 37], [42, 17]], correction=False).pvalue
    assert p_value(window) == pytest.approx(expected, rel=1e-9)


def test_one_proportion_of_a_claim_of_chance(ask) -> None:
    hands = ask(parameter="proportion", data={"kind": "typed share"}, method="exact binomial")
    window = hands.window
    hands.tab_to(SlotButton, "number of successes")
    hands.type("9", KEY.Key_Tab)
    hands.type("60", KEY.Key_Tab)
    hands.pick("greater")
    hands.tab_to(SlotButton, "value under H₀")
    hands.type("1/8")
    assert hands.entered == 4
    expected = stats.binomtest(9, 60, 1 / 8, "greater").pvalue
    assert p_value(window) == pytest.approx(expected, rel=1e-9)
    assert conclusion(window).endswith("that the proportion of successes among all cases is greater than 1/8.")


def test_another_parameter_is_picked_and_its_groups_stay(ask, settle) -> None:
    data = {"kind": "two levels", "what": "leaf mass", "by": "netting", "first": "open", "second": "netted"}
    hands = ask(table="bushes", data=data)
    window = hands.window
    hands.tab_to(SlotButton, "what is compared")
    hands.pick("standard")
    assert (
        "Test whether the standard deviation of leaf mass (g) for open is different from that "
        "for netted" in window.entry_page.answer.caption
    )
    window.session.undo()
    settle(window)
    assert "the mean of leaf mass" in window.entry_page.answer.caption


def test_a_condition_that_fails_leads_to_another_way_by_one_click(ask, settle) -> None:
    hands = ask(
        table="trays",
        data={"kind": "two levels", "what": "moisture loss", "by": "withering", "first": "slow", "second": "quick"},
        alternative="greater",
        method="welch t",
    )
    window = hands.window
    assert any(c.mark == "fails" for c in window.entry_page.answer.reading.assumptions)
    view = window.entry_page.figure_views[0]
    row = next(
        at for at, one in enumerate(window.entry_page.answer.figures[0].rows) if one.sets == ("method", "rank sum")
    )
    view.setFocus()
    view.setCurrentIndex(view.model().index(row, 0))
    hands.press(KEY.Key_Return)
    assert "the median of moisture loss" in window.entry_page.answer.caption
    assert "the median moisture loss of slow trays" in conclusion(window)
    assert "η" in window.entry_page.answer.symbols[0].text
