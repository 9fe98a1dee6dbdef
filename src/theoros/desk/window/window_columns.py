"""The three columns of the window: the list, the middle, and the panes on the right."""

from __future__ import annotations

from PySide6.QtWidgets import QSplitter, QWidget

from theoros.desk.parts.theme import Theme

LEFT, RIGHT = 206, 292
MIDDLE, LEAST_MIDDLE = 400, 300


class WindowColumns(QSplitter):
    def __init__(self, left: QWidget, middle: QWidget, right: QWidget) -> None:
        super().__init__()
        self._left, self._middle, self._right = left, middle, right
        self.setHandleWidth(1)
        for part in (left, middle, right):
            self.addWidget(part)
        self.setChildrenCollapsible(False)
        self.setStretchFactor(1, 1)

    def set_widths(self, theme: Theme, whole: int) -> None:
        """The columns at the sides, a little wider with larger text."""
        share = min(theme.scale, 1.25)
        left, right = round(LEFT * share), round(RIGHT * share)
        least = left * 2 // 3
        self._left.setMinimumWidth(least)
        self._middle.setMinimumWidth(round(LEAST_MIDDLE * share))
        self._right.setMinimumWidth(right * 9 // 10)  # narrower, and its fields would be cut
        left = max(least, min(left, whole - right - round(MIDDLE * share)))  # the list gives way to what is read
        self.setSizes([left, whole - left - right - 2, right])
