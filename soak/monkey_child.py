"""The window that the monkey plays with, in a process of its own: hands by chance, and what is found.

Run as `python -m soak.monkey_child HOME SEED ACTIONS SECONDS`. It notes every action before it is done, and
every fault: an exception that nobody foresaw, words such as “None” or “nan” where a reader sees them, the
window held up, a study that undo and redo do not bring back, texts that are
cut or lie on each other.
"""

from __future__ import annotations

import faulthandler
import os
import random
import re
import sys
import time
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QPoint, QPointF, QSettings, Qt, QTimer
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QApplication, QFileDialog, QLabel, QLineEdit, QWidget

from soak.places import misplaced
from theoros.desk.application import make_application, make_window
from theoros.desk.window.study_files import StudyFiles

BAD_WORDS = re.compile(r"(?<![\w“])(None|nan|NaN|inf)(?![\w”])|“”|\{[a-z_.]+\}")
KEYS = (
    "Tab", "Return", "Escape", "Delete", "Backspace", "Left", "Right", "Up", "Down", "Home", "End", "PageDown",
    "PageUp", "Space", "F2", "F6", "F9", "Plus", "Minus", "0",
)  # fmt: skip
WITH_CONTROL = ("Z", "Y", "C", "V", "X", "A", "F", "B", "1", "2", "3", "Plus", "Minus", "Left", "Right")
TYPED = ("0.5", "3", "-2", "1e9", "netted", "leaf mass", "= 2", "12, 15 17", "", "P(X > 2)", "95 %", "x", "10/3")
LETTERS = ("small", "normal", "large", "larger")
SIZES = ((900, 560), (1000, 640), (1280, 800), (1400, 900))
HELD_UP, FROZEN = 0.3, 3.0
"""Seconds of the processor in one action from which on the window was held up, and from which on it is a fault."""
SHUT = ("Quit", "Close window", "Close")


class Monkey:
    """A window, and hands that know nothing."""

    def __init__(self, home: Path, seed: int) -> None:
        self.chance = random.Random(seed)
        self.log = os.open(home / "log", os.O_CREAT | os.O_WRONLY | os.O_APPEND)
        self.app = make_application()
        settings = QSettings(str(home / "settings.ini"), QSettings.Format.IniFormat)
        QFileDialog.exec = lambda *_: 0  # type: ignore[method-assign, assignment]
        self.window = make_window(settings, home / "journals")
        sys.excepthook = self._unforeseen
        self.window.session.open_demo()
        self.window.start()
        self.window.show()
        self.faults: set[str] = set()
        self.last = "start"
        self.shutter = QTimer()
        self.shutter.timeout.connect(self._deal_with_what_is_open)
        self.shutter.start(15)
        self.turns = 0

    def note(self, what: str, said: str) -> None:
        os.write(self.log, f"{what}\t{said[:600]}\n".encode())

    def fault(self, key: str, said: str) -> None:
        if key not in self.faults:
            self.faults.add(key)
            self.note("fault", f"{key}: {said} — after: {self.last}".replace("\n", " "))

    def _unforeseen(self, kind: type[BaseException], problem: BaseException, trace: TracebackType | None) -> None:
        frames = [f for f in traceback.extract_tb(trace) if "theoros" in f.filename]
        trail = " < ".join(f"{Path(f.filename).name}:{f.lineno}" for f in reversed(frames[-4:]))
        self.fault(f"{kind.__name__} [{trail}]", str(problem)[:160])

    # dialogs and menus, which wait for hands of their own

    def _deal_with_what_is_open(self) -> None:
        open_ = QApplication.activePopupWidget() or QApplication.activeModalWidget()
        if open_ is None:
            self.turns = 0
            return
        self.turns += 1
        if self.turns > 6:
            open_.close()
            return
        if self.chance.random() < 0.5:
            QTest.keyClick(open_, Qt.Key(self.chance.choice((Qt.Key.Key_Down, Qt.Key.Key_Up, Qt.Key.Key_Tab))))
        elif self.chance.random() < 0.4:
            self._press_in(open_)
        else:
            QTest.keyClick(open_, Qt.Key.Key_Escape)

    def _press_in(self, where: QWidget) -> None:
        buttons = [b for b in where.findChildren(QAbstractButton) if b.isVisible() and b.isEnabled()]
        if buttons:
            button = self.chance.choice(buttons)
            if button.text().replace("&", "") not in SHUT:
                self._push(button, Qt.MouseButton.LeftButton, button.rect().center())

    # hands

    def _seen(self, kind: type[QWidget] = QWidget) -> list[QWidget]:
        return [w for w in self.window.findChildren(kind) if w.isVisible() and w.isEnabled() and w.width() > 4]

    def _place(self, widget: QWidget) -> QPoint:
        return QPoint(self.chance.randrange(max(1, widget.width())), self.chance.randrange(max(1, widget.height())))

    def act(self) -> None:
        kinds = (self.click, self.press, self.key, self.type, self.drag, self.turn, self.size, self.undo, self.paste)
        self.chance.choices(kinds, (20, 14, 18, 10, 8, 6, 1, 4, 2))[0]()

    def _on(self, widget: QWidget, what: str) -> None:
        name = widget.accessibleName() or widget.objectName() or getattr(widget, "text", lambda: "")()
        self.last = f"{what} {type(widget).__name__} “{str(name)[:60]}”"
        self.note("do", self.last)

    def click(self) -> None:
        widget = self.chance.choice(self._seen())
        self._on(widget, "click")
        button = Qt.MouseButton.LeftButton if self.chance.random() < 0.85 else Qt.MouseButton.RightButton
        at = self._place(widget)
        self._push(widget, button, at)
        if self.chance.random() < 0.15 and _alive(widget):
            QTest.mouseDClick(widget, button, Qt.KeyboardModifier.NoModifier, at)

    def _push(self, widget: QWidget, button: Qt.MouseButton, at: QPoint) -> None:
        """Down and up again. A press may open a menu, and what it was on may be renewed before that is closed."""
        QTest.mousePress(widget, button, Qt.KeyboardModifier.NoModifier, at)
        if _alive(widget):
            QTest.mouseRelease(widget, button, Qt.KeyboardModifier.NoModifier, at)

    def press(self) -> None:
        buttons = [b for b in self._seen(QAbstractButton) if b.text().replace("&", "") not in SHUT]
        if buttons:
            button = self.chance.choice(buttons)
            self._on(button, "press")
            self._push(button, Qt.MouseButton.LeftButton, button.rect().center())

    def key(self) -> None:
        widget = QApplication.focusWidget() or self.window
        control = self.chance.random() < 0.35
        key = self.chance.choice(WITH_CONTROL if control else KEYS)
        self._on(widget, f"key {'Ctrl+' if control else ''}{key} on")
        held = Qt.KeyboardModifier.ControlModifier if control else Qt.KeyboardModifier.NoModifier
        if self.chance.random() < 0.15:
            held |= Qt.KeyboardModifier.ShiftModifier
        QTest.keyClick(widget, getattr(Qt.Key, f"Key_{key}"), held)

    def type(self) -> None:
        edits = self._seen(QLineEdit)
        widget = self.chance.choice(edits) if edits and self.chance.random() < 0.5 else QApplication.focusWidget()
        if widget is None:
            return
        text = self.chance.choice(TYPED)
        self._on(widget, f"type {text!r} on")
        QTest.keyClicks(widget, text)
        if self.chance.random() < 0.6:
            QTest.keyClick(widget, self.chance.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab)))

    def drag(self) -> None:
        pictures = [w for w in self._seen() if type(w).__name__ == "PictureView"]
        if not pictures:
            return
        widget = self.chance.choice(pictures)
        handles = list(widget.drawing.handles) if getattr(widget, "drawing", None) else []  # type: ignore[attr-defined]
        begin, end = self._place(widget), self._place(widget)
        if handles and self.chance.random() < 0.7:
            handle = self.chance.choice(handles)
            begin = QPoint(round(handle.x), round(handle.y))
        self._on(widget, "drag on")
        QTest.mousePress(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, begin)
        for share in (0.3, 0.6, 1.0):
            if not _alive(widget):
                return
            QTest.mouseMove(widget, begin + (end - begin) * share)
            self.app.processEvents()
        if _alive(widget):
            QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, end)

    def turn(self) -> None:
        widget = self.chance.choice(self._seen())
        at, held = (
            self._place(widget),
            self.chance.choice(
                (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier)
            ),
        )
        self._on(widget, "wheel on")
        event = QWheelEvent(
            QPointF(at), QPointF(widget.mapToGlobal(at)), QPoint(), QPoint(0, self.chance.choice((-120, 120))),
            Qt.MouseButton.NoButton, held, Qt.ScrollPhase.NoScrollPhase, False,
        )  # fmt: skip
        QApplication.sendEvent(widget, event)

    def size(self) -> None:
        width, height = self.chance.choice(SIZES)
        letters = self.chance.choice(LETTERS) if self.chance.random() < 0.4 else ""
        self.last = f"resize {width} × {height} {letters}"
        self.note("do", self.last)
        self.window.resize(width, height)
        if letters:
            self.window.theme.set_scale(letters)

    def undo(self) -> None:
        session = self.window.session
        self.last = "undo and redo"
        self.note("do", self.last)
        before = session.study
        session.undo()
        if session.study == before:
            return
        session.redo()
        if session.study != before:
            self.fault("undo", "undo and redo do not bring the study back")

    def paste(self) -> None:
        QApplication.clipboard().setText(self.chance.choice(("1\t2\n3\t4", "a,b\n1,2", "text", "", "x\n" * 40)))
        widget = QApplication.focusWidget() or self.window
        self._on(widget, "paste on")
        QTest.keyClick(widget, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)

    # what is looked for

    def look(self) -> None:
        for label in self.window.findChildren(QLabel):
            if label.isVisible():
                self._read(type(label).__name__, label.text())
        for button in self.window.findChildren(QAbstractButton):
            if button.isVisible():
                self._read(type(button).__name__, button.text())

    def rest_and_measure(self) -> None:
        """Once nothing is being worked out, what is cut, overlaps or stands outside."""
        self._settle()
        if QApplication.activePopupWidget() or QApplication.activeModalWidget() or not self.window.idle:
            return
        found = list(misplaced(self.window))
        if found:  # a busy machine may need longer than that for a layout
            QTest.qWait(600)
            found = [one for one in misplaced(self.window) if one in found] if self.window.idle else []
        for how, said in found:
            self.fault(f"{how}: {said.partition(':')[0]}", f"{said} in a window of {self.window.size().toTuple()}")

    def _settle(self, seconds: float = 3.0) -> None:
        late = time.monotonic() + seconds
        while time.monotonic() < late:
            QTest.qWait(20)
            if self.window.idle:
                QTest.qWait(60)
                return

    def leave(self) -> None:
        """The window is shut as it is by a person, changes unsaved; what it ran ends with it."""
        self.shutter.stop()
        QApplication.clipboard().clear()
        while (open_ := QApplication.activePopupWidget() or QApplication.activeModalWidget()) is not None:
            open_.close()
            self.app.processEvents()
        StudyFiles.may_leave = lambda _: True  # type: ignore[method-assign]
        self.window.close()
        self.app.processEvents()

    def _read(self, kind: str, text: str) -> None:
        plain = re.sub(r"<[^>]*>", "", text)
        found = BAD_WORDS.search(plain)
        if found and plain != "None":  # the button beside “All”
            self.fault(f"words {found[0]} in {kind}", plain[max(0, found.start() - 60) : found.end() + 40])

    def play(self, actions: int, seconds: float) -> None:
        late = time.monotonic() + seconds
        for at in range(actions):
            if time.monotonic() > late:
                break
            began = time.process_time()
            self.act()
            self.app.processEvents()
            used = time.process_time() - began
            if used > HELD_UP:
                self.note("held up", f"{used:.1f} s: {self.last}")
            if used > FROZEN:
                self.fault(f"held up after {self.last}", f"{used:.1f} s of the processor")
            if not self.window.isVisible():
                self.window.show()
            if at % 7 == 0:
                self.look()
            if at % 40 == 0:
                self.rest_and_measure()
            self.note("done", str(at + 1))


def _alive(widget: QWidget) -> bool:
    from shiboken6 import isValid

    return bool(isValid(widget))


if __name__ == "__main__":
    home = Path(sys.argv[1])
    faulthandler.enable((home / "crash").open("w"))
    monkey = Monkey(home, int(sys.argv[2]))
    monkey.play(int(sys.argv[3]), float(sys.argv[4]))
    monkey.leave()
    monkey.note("end", "")
    os._exit(0)
