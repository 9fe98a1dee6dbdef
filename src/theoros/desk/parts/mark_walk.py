"""Walking the marks of a picture by keys: which mark is the current one, and what comes next."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt

from theoros.answer.drawing import Drawing

_KEYS = {
    Qt.Key.Key_Right: 1,
    Qt.Key.Key_Down: 1,
    Qt.Key.Key_Left: -1,
    Qt.Key.Key_Up: -1,
    Qt.Key.Key_PageDown: 10,
    Qt.Key.Key_PageUp: -10,
}
_ENDS = {Qt.Key.Key_Home: 0, Qt.Key.Key_End: -1}


class MarkWalk:
    """The marks of rows from left to right, and from the top where they stand above each other."""

    def __init__(self) -> None:
        self._drawing: Drawing | None = None
        self._order: list[tuple[float, float, int]] = []
        self._at: int | None = None

    @property
    def row(self) -> int | None:
        """The row of the current mark; None before the first step."""
        return self._order[self._at][2] if self._at is not None else None

    def leave(self) -> None:
        self._at = None

    def _follow(self, drawing: Drawing) -> None:
        if drawing is self._drawing:
            return
        row, self._drawing = self.row, drawing
        self._order = sorted(
            (x, y, row)
            for marks in drawing.marks()
            if marks.rows is not None
            for x, y, row in zip(marks.x.tolist(), marks.y.tolist(), marks.rows.tolist(), strict=True)
        )
        rows = [one for *_, one in self._order]
        self._at = rows.index(row) if row in rows else None

    def step(self, drawing: Drawing, key: Qt.Key) -> int | None:
        """The row that a key leads to; None for another key, or where there are no marks."""
        self._follow(drawing)
        if not self._order or key not in {*_KEYS, *_ENDS}:
            return None
        last = len(self._order) - 1
        if key in _ENDS:
            self._at = _ENDS[key] % (last + 1)
        elif self._at is None:
            self._at = 0 if _KEYS[key] > 0 else last
        else:
            self._at = max(0, min(last, self._at + _KEYS[key]))
        return self.row

    def place(self, drawing: Drawing) -> QPointF | None:
        """Where the current mark stands."""
        self._follow(drawing)
        return QPointF(*self._order[self._at][:2]) if self._at is not None else None
