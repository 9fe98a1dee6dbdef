"""The guide in the window: answers change the sentence, and it becomes an entry."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from theoros.desk.window.guide_dialog import GuideDialog
from theoros.desk.window.window import Window


def test_answers_lead_to_an_entry(window: Window, settle) -> None:
    window.show_column("bushes", "leaf length")
    settle(window)
    window.actions_by_name["guide test"].trigger()
    dialog = window.findChild(GuideDialog)
    assert dialog.isVisible()
    assert dialog.sentence.text().startswith("Test whether the mean of leaf length")
    group = dialog.groups["about"]
    share = next(b for b in group.buttons() if b.text() == "a proportion")
    share.setFocus()
    QTest.keyClick(share, Qt.Key.Key_Space)
    assert "proportion" in dialog.sentence.text()
    assert set(dialog.groups) == {"about", "groups", "figures"}
    two = next(b for b in dialog.groups["groups"].buttons() if b.text() == "two groups")
    two.click()
    wanted = dialog.sentence.text()
    ask = next(b for b in dialog.findChildren(QPushButton) if b.text() == "Ask this")
    ask.click()
    settle(window)
    assert window.entry_page.answer.caption == wanted
    assert window.entry_page.answer.problem is None
    window.session.undo()


def test_it_is_found_by_its_name(window: Window) -> None:
    from theoros.desk.window.finding import everything

    assert "Which test?" in [one.label for one in everything(window)]


def test_cancelling_changes_nothing(window: Window, settle) -> None:
    before = window.session.study.entries
    window.actions_by_name["guide test"].trigger()
    dialog = window.findChild(GuideDialog)
    dialog.reject()
    assert window.session.study.entries == before
