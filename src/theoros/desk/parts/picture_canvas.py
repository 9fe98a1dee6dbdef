"""A picture on the screen: laid out for its room, painted, and gliding to what it is next."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import QElapsedTimer, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QColor, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QSizePolicy, QWidget

from theoros.answer.drawing import Drawing, Handle, Marks
from theoros.answer.layout import TEXT, is_broken, lay_out
from theoros.answer.picture import Picture
from theoros.answer.wording import to_plain
from theoros.desk.parts.mark_walk import MarkWalk
from theoros.desk.parts.paint import paint, paint_handle, paint_item
from theoros.desk.parts.theme import SCALES, Theme
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

GLIDE_MS = 320
MOST_FALLING = 60
"""More new replicates than these are there at once."""
MOST_GLIDING = 3000
"""With more marks than this the new picture is cut to at once."""


class PictureCanvas(QWidget):
    """Shows a picture at its own size; selected rows stand out."""

    painted = Signal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.picture: Picture | None = None
        self._drawing: Drawing | None = None
        self._stale = False
        self._cache: QPixmap | None = None
        self._selected: Ints = np.zeros(0, dtype=np.int64)
        # what the hand and the keys hold, as the view tells
        self._from: QPointF | None = None
        self._to = QPointF()
        self._dragged: Handle | None = None
        self._focus_handle = -1
        self._show_focus = False
        self._walk = MarkWalk()
        self._before: dict[int, tuple[float, float]] = {}
        self._clock = QElapsedTimer()
        self._ticker = QTimer(self, interval=15)
        self._ticker.timeout.connect(self._tick)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("picture")
        theme.changed.connect(self._forget)

    def sizeHint(self) -> QSize:
        return QSize(740, 320)

    def minimumSizeHint(self) -> QSize:
        return QSize(160, 120)

    def show_picture(self, picture: Picture | None, *, glide: bool = True) -> None:
        """Shows another picture; marks of the same rows glide to their new places."""
        if glide and self.theme.motion and self._dragged is None and self.isVisible():
            self._before = self._places()
        else:
            self._before = {}
        self.picture = picture
        if picture:
            self.setAccessibleDescription(to_plain(picture.alt))
        self._lay_out()
        after = self._places() if self._before else {}
        fallen = self._fall(after)
        moved = fallen or any(
            abs(x - after[row][0]) + abs(y - after[row][1]) > 1 for row, (x, y) in self._before.items() if row in after
        )
        if moved:
            self._clock.start()
            self._ticker.start()
        else:
            self._before = {}
            self._ticker.stop()
        self.update()

    def _fall(self, after: dict[int, tuple[float, float]]) -> bool:
        """Lets what chance has just drawn fall from above; whether there is such."""
        new = [mark for mark in after if mark < 0 and mark not in self._before]
        if not new or len(new) > MOST_FALLING or not any(mark < 0 for mark in self._before):
            return False
        self._before |= {mark: (after[mark][0], 0.0) for mark in new}
        return True

    def select(self, rows: Ints) -> None:
        self._selected = rows
        self.update()

    def _places(self) -> dict[int, tuple[float, float]]:
        """Where each row's mark is, if they are few enough to glide."""
        if not self.drawing:
            return {}
        marks = (*self.drawing.marks(), *self.drawing.marks("replicate"))
        if sum(m.x.size for m in marks) > MOST_GLIDING:
            return {}
        places: dict[int, tuple[float, float]] = {}
        for m in marks:
            for row, x, y in zip(_names(m).tolist(), m.x.tolist(), m.y.tolist(), strict=True):
                places.setdefault(row, (x, y))
        return places

    def _lay_out(self) -> None:
        """Only marks it as to be laid out: sizes may change several times before it is seen."""
        self._cache, self._stale = None, True

    @property
    def drawing(self) -> Drawing | None:
        """The picture as it is laid out; None where there is none, or no room."""
        if self._stale:
            self._stale, self._drawing = False, None
            if self.picture is not None and self.width() >= 50 and self.height() >= 50:
                text = TEXT * SCALES[self.theme.scale_name]
                self._drawing = lay_out(self.picture, self.width(), self.height(), text)
        return self._drawing

    @property
    def is_broken(self) -> bool:
        """Whether the frames stand below each other, for want of room beside."""
        text = TEXT * SCALES[self.theme.scale_name]
        return self.picture is not None and is_broken(self.picture, self.width(), text)

    def _forget(self) -> None:
        self._lay_out()
        self.update()

    def _tick(self) -> None:
        if self._clock.elapsed() >= GLIDE_MS:
            self._ticker.stop()
            self._before = {}
        self.update()

    def resizeEvent(self, event) -> None:
        self._before = {}
        self._ticker.stop()
        self._lay_out()

    def paintEvent(self, event) -> None:
        painter = QPainter(self)
        if self.drawing is None:
            return
        if self._before:
            self._paint_gliding(painter, self.drawing)
        else:
            if self._cache is None:
                self._cache = self._render(self.drawing)
            painter.drawPixmap(0, 0, self._cache)
            self._paint_selection(painter, self.drawing)
        if self._from is not None:
            painter.setPen(QPen(self.theme.colour("data"), 1, Qt.PenStyle.DashLine))
            wash = self.theme.colour("data")
            wash.setAlphaF(0.10)
            painter.setBrush(wash)
            painter.drawRect(QRectF(self._from, self._to).normalized())
        if self.hasFocus() and self._show_focus:
            self._paint_focus(painter, self.drawing)
        self.painted.emit()

    def _render(self, drawing: Drawing) -> QPixmap:
        ratio = self.devicePixelRatioF()
        pixmap = QPixmap(self.size() * ratio)
        pixmap.setDevicePixelRatio(ratio)
        pixmap.fill(Qt.GlobalColor.transparent)
        painter = QPainter(pixmap)
        paint(painter, drawing, self.theme.colours)
        painter.end()
        return pixmap

    def _paint_gliding(self, painter: QPainter, drawing: Drawing) -> None:
        share = min(1.0, self._clock.elapsed() / GLIDE_MS)
        eased = 1 - (1 - share) ** 3
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for item in drawing.items:
            if isinstance(item, Marks) and item.rows is not None:
                starts = [
                    self._before.get(row, (x, y))
                    for row, x, y in zip(_names(item).tolist(), item.x.tolist(), item.y.tolist(), strict=True)
                ]
                begun: Floats = np.array(starts)
                item = replace(
                    item, x=begun[:, 0] + (item.x - begun[:, 0]) * eased, y=begun[:, 1] + (item.y - begun[:, 1]) * eased
                )
            paint_item(painter, item, self.theme.colours)
        for handle in drawing.handles:
            paint_handle(painter, handle, self.theme.colours)

    def _paint_selection(self, painter: QPainter, drawing: Drawing) -> None:
        """A dark ring around each selected mark: shape and colour below stay to be seen."""
        if self._selected.size == 0:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for marks in drawing.marks():
            assert marks.rows is not None
            here = np.isin(marks.rows, self._selected)
            radius = marks.size / 2 + 2
            painter.setPen(QPen(QColor(self.theme.colours["ink"]), 2))
            for x, y in zip(marks.x[here].tolist(), marks.y[here].tolist(), strict=True):
                painter.drawEllipse(QPointF(x, y), radius, radius)

    def _paint_focus(self, painter: QPainter, drawing: Drawing) -> None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(self.theme.colour("data"), 2))
        if 0 <= self._focus_handle < len(drawing.handles):
            handle = drawing.handles[self._focus_handle]
            painter.drawEllipse(QPointF(handle.x, handle.y), 11, 11)
        elif (mark := self._walk.place(drawing)) is not None:
            painter.drawEllipse(mark, 9, 9)
        else:
            painter.drawRect(self.rect().adjusted(1, 1, -1, -1))


def _names(marks: Marks) -> Ints:
    """What tells the marks of a picture apart: rows by their number, replicates by it below 0."""
    assert marks.rows is not None
    return -marks.rows - 1 if marks.stands_for == "replicate" else marks.rows
