"""Dotted words: what they mean opens by pointing, by a click, with Space and Enter; and the glossary as a whole."""

from __future__ import annotations

from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QTextCharFormat, QTextCursor, QTextDocument
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QListWidget

from tests.desk.hands import Hands
from theoros.answer.glossary import terms
from theoros.desk.parts.explained import LINK, Explained, ExplainedLabel, TermCard, explained
from theoros.desk.window.finding import everything
from theoros.desk.window.glossary_dialog import GlossaryDialog, show_glossary
from theoros.desk.window.window import Window


def labels(window: Window) -> list[ExplainedLabel]:
    return [label for label in window.findChildren(ExplainedLabel) if label.isVisible()]


def dotted(label: ExplainedLabel) -> list[str]:
    """The words of a label that have dots below them."""
    document = label.findChild(QTextDocument)
    found, cursor = "", QTextCursor(document)
    for at in range(1, document.characterCount()):
        cursor.setPosition(at)
        form = cursor.charFormat()
        is_dotted = form.underlineStyle() == QTextCharFormat.UnderlineStyle.DotLine
        assert is_dotted == bool(form.anchorHref())
        found += document.characterAt(at - 1) if is_dotted else "\n"
    return [word for word in found.split("\n") if word]


def test_each_term_is_dotted_once_in_an_answer(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    words = [word.replace("\u00a0", " ") for label in labels(window) for word in dotted(label)]
    assert "enough evidence" in words
    assert "median" in words
    assert len(words) == len({word.lower() for word in words})


def test_space_opens_what_a_word_means_and_escape_closes_it(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    label = next(one for one in labels(window) if "enough evidence" in one.accessibleDescription())
    assert label.accessibleDescription() == "Explained with Space, left and right: enough evidence, median"
    hands = Hands(window, settle)
    hands.tab_to(ExplainedLabel, label.accessibleName(), exactly=True)
    assert hands.at() is label
    assert label.selectedText() == "enough evidence"
    for key, word in ((Qt.Key.Key_Right, "median"), (Qt.Key.Key_Right, "enough evidence")):
        QTest.keyClick(label, key)
        assert label.selectedText() == word
    hands.press(Qt.Key.Key_Tab)  # one label is one stop, whatever it explains
    assert hands.at() is not label
    assert not label.selectedText()
    hands.press(Qt.Key.Key_Backtab)
    assert hands.at() is label
    QTest.keyClick(label, Qt.Key.Key_Space)
    card = TermCard.of(label)
    assert card.isVisible()
    assert card.term is terms()["enough evidence"]
    assert terms()["enough evidence"].meaning in card.accessibleName()
    QTest.keyClick(label, Qt.Key.Key_Escape)
    assert not card.isVisible()
    QTest.keyClick(label, Qt.Key.Key_Return)  # as links open everywhere
    assert card.isVisible()
    window.setFocus()
    assert not card.isVisible()


def test_pointing_opens_after_a_moment_and_leaving_closes(window: Window, settle, qtbot) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    label = next(one for one in labels(window) if "median" in one.accessibleDescription())
    card = TermCard.of(label)
    label.linkHovered.emit(f"{LINK}median")
    assert not card.isVisible()
    qtbot.waitUntil(card.isVisible, timeout=3000)
    assert card.term is terms()["median"]
    label.linkHovered.emit("")
    assert not card.isVisible()


def test_a_real_pointer_finds_the_word(window: Window, settle, qtbot) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    label = next(one for one in labels(window) if "enough evidence" in one.accessibleDescription())
    found = []
    label.linkHovered.connect(found.append)
    for x in range(0, label.width(), 6):
        QTest.mouseMove(label, QPoint(x, 8))
    assert any(f"{LINK}enough evidence" in one for one in found)


def test_the_card_stays_on_the_screen(window: Window, settle) -> None:
    room = window.screen().availableGeometry()
    card = TermCard.of(window)
    for at in (room.bottomRight(), room.topLeft(), QPoint(room.right(), room.top())):
        card.show_term(terms()["confidence interval"], at, window.theme)
        assert room.contains(card.geometry(), proper=False)
    card.hide()


def test_words_of_the_working_are_dotted_too(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    before = len(labels(window))
    window.entry_page.toggle_working()
    settle(window)
    own = labels(window)
    assert len(own) > before
    assert any("type I error" in label.accessibleDescription() for label in own)


def test_names_of_data_never_become_markup(window: Window) -> None:
    label = ExplainedLabel(window.theme, 13)
    label.show_text(explained("the mean <b>x</b> & median of <i>", set()))
    assert label.findChild(QTextDocument).toPlainText() == "the mean <b>x</b> & median of <i>"
    label.show_text(Explained("no term"))
    assert label.focusPolicy() == Qt.FocusPolicy.NoFocus
    label.deleteLater()


def test_the_glossary_lists_all_and_finds_by_typing(window: Window, qtbot) -> None:
    show_glossary(window, "p-value")
    dialog = window.findChild(GlossaryDialog)
    listed, field = dialog.findChild(QListWidget), dialog.findChild(QLineEdit)
    assert listed.count() == len(terms())
    assert listed.currentItem().text() == "p-value"
    field.setText("standard dev")
    shown = [listed.item(row).text() for row in range(listed.count()) if not listed.item(row).isHidden()]
    assert shown == ["standard deviation"]
    assert listed.currentItem().text() == "standard deviation"
    texts = [label.text() for label in dialog.findChildren(type(dialog._meaning))]
    assert any("typical distance of the values" in text for text in texts)
    dialog.close()


def test_a_term_is_found_by_typing_it(window: Window) -> None:
    found = [one for one in everything(window) if one.sort == "glossary"]
    assert len(found) == len(terms())
    next(one for one in found if one.label == "median").go()
    dialog = window.findChild(GlossaryDialog)
    assert dialog is not None
    assert dialog.findChild(QListWidget).currentItem().text() == "median"
    dialog.close()
