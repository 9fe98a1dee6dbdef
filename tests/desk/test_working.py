"""The working of an entry: formulas drawn in the window, read out, and taken along."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel, QMenu, QToolButton

from theoros.answer.wording import to_plain
from theoros.desk.parts.step_view import FormulaView
from theoros.desk.window.window import Window


def formulas(window: Window, settle) -> list[FormulaView]:
    window.show_target(("entry", "e1"))
    settle(window)
    window.entry_page.set_slot("method", "welch t")
    settle(window)
    window.entry_page.toggle_working()
    settle(window)
    return window.entry_page.working.findChildren(FormulaView)


def test_formulas_are_drawn_read_out_and_copied(window: Window, settle) -> None:
    first, second, *_ = formulas(window, settle)
    assert first.accessibleName().startswith("t equals the fraction x bar slow minus x bar quick")
    # the root makes it more than two lines high, and something is painted in it
    assert first.height() > 2.5 * window.theme.px(17)
    image = first.grab().toImage().convertToFormat(first.grab().toImage().Format.Format_RGB32)
    shades = np.frombuffer(image.constBits(), dtype=np.uint32)
    assert np.unique(shades).size > 10
    second.setFocus()
    QTest.keyClick(second, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    copied = QApplication.clipboard().text()
    assert copied.startswith("t = (38.058 − 32.57) / √(7.536²/12 + 1.683²/10) = 2.45")


def test_a_right_click_offers_both_writings(window: Window, settle) -> None:
    first, *_ = formulas(window, settle)
    at = QPoint(20, 10)
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, first.mapToGlobal(at))
    QApplication.sendEvent(first, event)
    menu = next(menu for menu in first.findChildren(QMenu) if menu.isVisible())
    names = {action.text(): action for action in menu.actions()}
    names["Copy formula as LaTeX"].trigger()
    menu.close()
    assert r"\frac{\bar{x}_{\text{slow}} - \bar{x}_{\text{quick}}}" in (QApplication.clipboard().text())


def test_a_step_offers_all_its_formulas(window: Window, settle) -> None:
    formulas(window, settle)
    (button, *_) = window.entry_page.working.findChildren(QToolButton)
    assert button.accessibleName() == "Copy formula: Statistic"
    button.menu().actions()[0].trigger()
    lines = QApplication.clipboard().text().split("\n")
    assert lines[0].startswith("t = (x̄_slow − x̄_quick) / √(")
    assert len(lines) == 3


def test_formulas_follow_the_text_size_and_the_look(window: Window, settle) -> None:
    first, *_ = formulas(window, settle)
    low = first.height()
    window.theme.set_scale("larger")
    window.theme.set_mode("dark")
    settle(window)
    views = window.entry_page.working.findChildren(FormulaView)
    assert views[0].height() > 1.3 * low
    image = views[0].grab().toImage()
    assert image.pixelColor(image.width() - 3, 3).lightness() < 80


def test_a_narrow_page_breaks_or_shrinks_a_formula(window: Window, settle) -> None:
    made = formulas(window, settle)
    widest = made[2]
    before = widest.height()
    widest.resize(260, widest.height())
    assert widest.height() != before
    titles = [to_plain(label.text()) for label in window.entry_page.working.findChildren(QLabel)]
    assert {"Working", "In five steps"} <= set(titles)
