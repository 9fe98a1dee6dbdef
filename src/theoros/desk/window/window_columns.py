"""The three columns of the window: the list, the middle, and the panes on the right."""

from __future__ import annotations

from PySide6.QtWidgets import QSplitter, QWidget

from theoros.desk.parts.theme import Theme

LEFT, RIGHT = 206, 292


class WindowColumns(QSplitter):
    def __init__(self, left: QWidget, middle: QWidget, right: QWidget) -> None:
        super().__init__()
        self._left, self._right = left, right
        self.setHandleWidth(1)
        for part in (left, middle, right):
            self.addWidget(part)
        self.setChildrenCollapsible(False)
        self.setStretchFactor(1, 1)

    def set_widths(self, theme: Theme, whole: int) -> None:
        """The columns at the sides, a little wider with larger text."""
        share = min(theme.scale, 1.25)
        left, right = round(LEFT * share), round(RIGHT * share)
        self._left.setMinimumWidth(left * 2 // 3)
        self._right.setMinimumWidth(right * 9 // 10)  # narrower, and its fields would be cut
        self.setSizes([left, whole - left - right - 2, right])
