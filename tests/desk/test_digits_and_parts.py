"""Decimals from the menu, and the parts of a placed entry, in the window."""

from __future__ import annotations

from PySide6.QtWidgets import QLabel, QMenu, QToolButton

from theoros.answer.digits import BY_RULE, Digits
from theoros.desk.window.window import Window


def submenu(window: Window, title: str) -> QMenu:
    menu = next(menu for menu in window.findChildren(QMenu) if menu.title() == title)
    menu.aboutToShow.emit()
    return menu


def test_decimals_are_set_for_the_study_and_undone(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    assert "0.0001" in window.entry_page.answer.reading.headline
    menu = submenu(window, "Decimals of p-val&ues")
    assert [a.text() for a in menu.actions() if a.isChecked()] == ["&4 (by rule)"]
    next(a for a in menu.actions() if a.text() == "&3").trigger()
    settle(window)
    assert window.session.study.digits == Digits(3)
    assert "<\u00a00.001" in window.entry_page.answer.reading.headline
    menu = submenu(window, "Decimals of s&tatistics")
    next(a for a in menu.actions() if a.text() == "&4").trigger()
    settle(window)
    assert any("t = 2.4505" in row.cells[2].text for row in window.entry_page.answer.figures[0].rows)
    window.session.undo()
    window.session.undo()
    settle(window)
    assert window.session.study.digits == BY_RULE
    assert "0.0001" in window.entry_page.answer.reading.headline


def test_parts_of_a_placed_entry_are_ticked(window: Window, settle) -> None:
    def texts() -> str:
        return "\n".join(label.text() for label in window.report_page.findChildren(QLabel))

    def menu() -> QMenu:
        made = next(
            b
            for b in window.report_page.findChildren(QToolButton)
            if b.accessibleName() == "parts shown of Does slow withering lose more?"
        ).menu()
        made.aboutToShow.emit()
        return made

    window.show_target(("report", ""))
    settle(window)
    assert "5. Conclusion" in texts()
    assert "Shuffled labels" not in texts()
    ticks = {action.text(): action for action in menu().actions()}
    assert ticks["Five steps"].isChecked()
    assert not ticks["Other ways"].isChecked()
    assert not ticks["Usual parts"].isEnabled()
    ticks["Other ways"].trigger()
    settle(window)
    assert "Shuffled labels" in texts()
    {action.text(): action for action in menu().actions()}["Five steps"].trigger()
    settle(window)
    assert "5. Conclusion" not in texts()
    {action.text(): action for action in menu().actions()}["Usual parts"].trigger()
    settle(window)
    assert "5. Conclusion" in texts()
    assert "Shuffled labels" not in texts()
    for _ in range(3):
        window.session.undo()
    assert all(getattr(block, "parts", None) is None for block in window.session.study.report)
