"""A column of widgets made from a list of values; what is the same in the next list is kept.

Making, polishing and laying out widgets is what takes time in a pane of text, and a widget that
is made anew loses the focus. Most changes of an answer leave most of its rows as they were.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Any

from PySide6.QtWidgets import QVBoxLayout, QWidget


@dataclass(frozen=True)
class KeptRow:
    """A widget to be shown: how it is made of a value, and how one of its kind takes another."""

    kind: str
    value: Any
    make: Callable[[Any], QWidget] = field(compare=False)
    renew: Callable[[Any, Any], None] | None = field(default=None, compare=False)
    """Called with a widget of this kind and the value that it is to show."""


class KeptRows:
    """The rows of a layout, one below the other."""

    def __init__(self, layout: QVBoxLayout) -> None:
        self._layout = layout
        self._shown: list[tuple[KeptRow, QWidget]] = []

    def show(self, rows: Sequence[KeptRow]) -> None:
        """Shows these rows: those that are equal stay, others of the same kind are renewed."""
        found: list[QWidget | None] = [None] * len(rows)
        left = list(self._shown)
        for same in (True, False):
            for at, row in enumerate(rows):
                if found[at] is not None or not (same or row.renew):
                    continue
                for place, (old, widget) in enumerate(left):
                    if old.kind == row.kind and (not same or old.value == row.value):
                        del left[place]
                        found[at] = widget
                        if not same and row.renew:
                            row.renew(widget, row.value)
                        break
        for _, widget in left:
            self._layout.removeWidget(widget)
            widget.hide()
            widget.deleteLater()
        self._shown = []
        for at, row in enumerate(rows):
            widget = found[at] or row.make(row.value)
            # not by itemAt: what stands for an item outlives it, and is freed with what has its
            # place in memory by then, which ends the program
            if self._layout.indexOf(widget) != at:
                self._layout.insertWidget(at, widget)
            if found[at] is None:
                widget.show()  # at once: what a layout shows later has no height in the first round of it
            self._shown.append((row, widget))

    def clear(self) -> None:
        """Forgets everything, as when all colours and sizes are others."""
        self.show(())
