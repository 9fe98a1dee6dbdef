"""Hands on the window: keys go to whatever has the focus; what was typed or picked is counted."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QWidget

from theoros.desk.parts.input_fields import PickField
from theoros.desk.parts.pickers import PickList
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.parts.slot_button import SlotButton
from theoros.desk.window.window import Window

KEY = Qt.Key


@dataclass(frozen=True)
class Problem:
    """A problem of a textbook that is solved in the window by keyboard."""

    name: str
    finds: str
    steps: tuple[tuple[str, str], ...]
    says: str
    most: int
    """As many things may be typed or picked at the most, with finding it."""
    table: str = ""
    """Looked at before, where it begins with rows."""
    columns: tuple[str, ...] = ()
    """Selected in it."""


class Hands:
    """Keys go to whatever has the focus, as a person's do; what was typed is counted."""

    def __init__(self, window: Window, settle) -> None:
        self.window, self._settle, self.entered = window, settle, 0

    @staticmethod
    def at() -> QWidget:
        found = QApplication.focusWidget()
        assert found is not None, "the focus is lost"
        return found

    def pick(self, text: str) -> None:
        """Types on a slot that is picked, which opens its list, and Enter."""
        if isinstance(self.at(), PickField):
            QTest.keyClick(self.at(), KEY.Key_Space)
        else:
            QTest.keyClicks(self.at(), text[0])  # no turn of events: offscreen, they close a popup
            text = text[1:]
        popup = next(p for p in self.window.findChildren(PickList) if p.isVisible())
        target = popup.filter if popup.filter.isVisible() else popup.list
        QTest.keyClicks(target, text)
        QTest.keyClick(target, KEY.Key_Return)
        self.window.activateWindow()  # as any window system does when a popup closes
        QApplication.processEvents()
        self.entered += 1
        self._settle(self.window)

    def press(self, key: Qt.Key, times: int = 1) -> None:
        for _ in range(times):
            QTest.keyClick(self.at(), key)
            QApplication.processEvents()
        self._settle(self.window)

    def type(self, text: str, end: Qt.Key = KEY.Key_Return) -> None:
        for letter in text:
            QTest.keyClicks(self.at(), letter)
            QApplication.processEvents()
        self.press(end)
        self.entered += 1

    def tab_to(self, kind: type, name: str = "", *, exactly: bool = False) -> None:
        for _ in range(60):
            at = self.at()
            said = at.accessibleName()
            label = said.partition(":")[0]
            if isinstance(at, kind) and (label == name if exactly else name in said):
                return
            self.press(KEY.Key_Tab)
        raise AssertionError(f"no {kind.__name__} {name} on the way of the Tab key")

    def find(self, text: str) -> None:
        """Types into the find box and takes the first thing found; the first slot has the focus."""
        self.window.find_box.setFocus()
        QTest.keyClicks(self.window.find_box, text)
        QTest.keyClick(self.window.find_box, KEY.Key_Return)
        self._settle(self.window)
        assert isinstance(self.at(), SlotButton)

    def put(self, label: str, text: str) -> None:
        """Goes to a slot by the Tab key, and types into it or picks from it: "> greater"."""
        self.tab_to(QWidget, label, exactly=True)
        if not text.startswith("> "):
            self.type(text)
        elif isinstance(self.at(), QComboBox):
            self.type(text[2:])
        else:
            self.pick(text[2:])


def words(window: Window) -> str:
    """All that the Reading says, with spaces that may break."""
    reading = window.entry_page.answer.reading
    parts = [reading.headline, *reading.paragraphs, *reading.cautions]
    parts += [one.text for one in reading.assumptions]
    return " ".join(parts).replace("\u00a0", " ")


def drag(window: Window, view: PictureView, slot: str, by: QPoint, settle) -> None:
    """Takes the handle of a slot along, in three moves, and lets it go."""
    one = next(one for one in view.drawing.handles if one.slot == slot)
    start = QPoint(round(one.x), round(one.y))
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for share in (0.3, 0.7, 1.0):
        QTest.mouseMove(view, start + QPoint(round(by.x() * share), round(by.y() * share)))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start + by)
    settle(window)
