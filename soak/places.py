"""Texts that are cut, lie on each other, or stand outside of what holds them, in a window as it is shown."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import combinations

from PySide6.QtCore import QRect
from PySide6.QtWidgets import QAbstractButton, QLabel, QScrollArea, QWidget

from theoros.desk.parts.input_fields import PickField
from theoros.desk.parts.slot_button import SlotButton

GIVE_WAY = PickField, SlotButton
"""What shows as much as there is room for, with an ellipsis, and the whole of it on pointing."""
SLACK = 2


def misplaced(window: QWidget) -> Iterator[tuple[str, str]]:
    """What is wrong, in a word, and where."""
    shown = [one for one in window.findChildren(QWidget) if one.isVisible() and one.window() is window]
    texts = [one for one in shown if isinstance(one, QLabel | QAbstractButton) and words(one)]
    for one in texts:
        if how := _cut(one):
            yield "cut", f"{_named(one)}: {how}"
    places = [(one, _seen(one, window)) for one in texts]
    for (one, first), (other, second) in combinations([p for p in places if not p[1].isEmpty()], 2):
        both = first.intersected(second)
        if both.width() > SLACK + 1 and both.height() > SLACK + 1 and not _holds(one, other):
            yield "overlap", f"{_named(one)}, {_named(other)}: {both.width()} × {both.height()}"
    for one in shown:
        around = one.parentWidget()
        if around is None or one.isWindow() or isinstance(around.parentWidget(), QScrollArea):
            continue
        room = around.rect().adjusted(-SLACK, -SLACK, SLACK, SLACK)
        if not room.contains(one.geometry()):
            yield "outside", f"{_named(one)} at {one.geometry().getRect()} of {around.size().toTuple()}"


def words(one: QLabel | QAbstractButton) -> str:
    return re.sub(r"<[^>]*>", "", one.text()).replace("&", "")


def _named(one: QWidget) -> str:
    said = words(one) if isinstance(one, QLabel | QAbstractButton) else one.objectName()
    return f"{type(one).__name__} “{said[:40]}”"


def _cut(one: QLabel | QAbstractButton) -> str:
    if isinstance(one, GIVE_WAY):
        return ""
    needs, has = one.sizeHint(), one.size()
    if one.hasHeightForWidth():
        high = one.heightForWidth(has.width())
        return f"needs {high} px of height, has {has.height()}" if high > has.height() + SLACK else ""
    if needs.width() > has.width() + SLACK:
        return f"needs {needs.width()} px, has {has.width()}"
    return f"needs {needs.height()} px of height, has {has.height()}" if needs.height() > has.height() + SLACK else ""


def _seen(one: QWidget, window: QWidget) -> QRect:
    """Where its part that is not scrolled away stands in the window."""
    seen = one.visibleRegion().boundingRect()
    return QRect(one.mapTo(window, seen.topLeft()), seen.size()) if not seen.isEmpty() else QRect()


def _holds(one: QWidget, other: QWidget) -> bool:
    return one.isAncestorOf(other) or other.isAncestorOf(one)
