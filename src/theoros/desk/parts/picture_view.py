"""The picture of an answer, live: hover tells the row, sweeping selects, handles set slots."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from PySide6.QtCore import QElapsedTimer, QEvent, QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QAccessible, QAccessibleEvent, QColor, QIcon, QPainter, QPen, QPixmap
from PySide6.QtWidgets import QMenu, QSizePolicy, QToolTip, QWidget

from theoros.answer.axis import role_of
from theoros.answer.drawing import Drawing, Handle, Marks, WordSpot
from theoros.answer.layout import TEXT, is_broken, lay_out
from theoros.answer.picture import Key, Picture
from theoros.answer.wording import counted, shortened, to_plain
from theoros.desk.parts.column_mime import COLUMN_MIME, column_of
from theoros.desk.parts.mark_walk import MarkWalk
from theoros.desk.parts.paint import paint, paint_handle, paint_item
from theoros.desk.parts.theme import SCALES, Theme
from theoros.desk.parts.widgets import hover_text
from theoros.desk.parts.zoom import Zoom
from theoros.lazy_imports import np
from theoros.numeric.arrays import Floats, Ints

GLIDE_MS = 320
MOST_FALLING = 60
"""More new replicates than these are there at once."""
MOST_GLIDING = 3000
"""With more marks than this the new picture is cut to at once."""
_ARROWS = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down)
KEY_STEP = 0.01
"""What an arrow key moves a handle by, as a share of the axis."""


class PictureView(QWidget):
    """Shows a picture at its own size; selected rows stand out."""

    handle_moved = Signal(str, float, bool)
    """Slot, value, and whether the hand has let go."""
    swept = Signal(object, bool)
    """Rows in the swept rectangle, and whether they are added to the selection."""
    painted = Signal()
    aside_wanted = Signal(object)
    """Rows that are to be set aside."""
    only_wanted = Signal(object)
    """Rows that alone are to be kept."""
    slot_wanted = Signal(str, object)
    """A slot and its value, as the picture declares them for what was clicked."""
    column_dropped = Signal(str, str, str)
    """The zone it was dropped on (axis, panels, key or middle), table and column."""
    zoom_wanted = Signal(dict)
    """Ends of the axes by their slots; None for those that show everything."""
    words_wanted = Signal(object)
    """The words that were double-clicked, to be typed over."""

    def __init__(self, theme: Theme, row_text: Callable[[int], str]) -> None:
        super().__init__()
        self.theme = theme
        self._row_text = row_text
        self.picture: Picture | None = None
        self._drawing: Drawing | None = None
        self._stale = False
        self._cache: QPixmap | None = None
        self._selected: Ints = np.zeros(0, dtype=np.int64)
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
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName("picture")
        self.setAcceptDrops(True)
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

    # hand

    def _handle_at(self, at: QPointF) -> Handle | None:
        near = [
            (abs(handle.x - at.x()) + abs(handle.y - at.y()), place, handle)
            for place, handle in enumerate(self.drawing.handles if self.drawing else ())
            if abs(handle.x - at.x()) <= 10 and abs(handle.y - at.y()) <= 10
        ]
        return min(near)[2] if near else None

    def _key_at(self, at: QPointF) -> Key | None:
        """The entry of the legend under the hand."""
        keys = self.picture.keys if self.picture else ()
        for spot, key in zip(self.drawing.keys if self.drawing else (), keys, strict=False):
            across, down = at.x() - spot.x, at.y() - spot.y
            if 0 <= across <= spot.width and 0 <= down <= spot.height:
                return key
        return None

    def mousePressEvent(self, event) -> None:
        if event.button() != Qt.MouseButton.LeftButton or self.drawing is None:
            return
        self._dragged = self._handle_at(event.position())
        if self._dragged is None:
            self._from = self._to = event.position()

    def mouseMoveEvent(self, event) -> None:
        at = event.position()
        if self._dragged is not None:
            self.handle_moved.emit(self._dragged.slot, _value(self._dragged, at), False)
        elif self._from is not None:
            self._to = at
            self.update()
        elif self.drawing is not None:
            handle = self._handle_at(at)
            shape = Qt.CursorShape.ArrowCursor
            if handle is not None:
                upright = handle.upright
                shape = Qt.CursorShape.SizeVerCursor if upright else Qt.CursorShape.SizeHorCursor
            elif self._figure_at(at) is not None:
                shape = Qt.CursorShape.IBeamCursor
            self.setCursor(shape)
            row = self.drawing.nearest(at.x(), at.y(), 8)
            if row is None:
                QToolTip.hideText()
            else:
                said = hover_text(self._row_text(row))
                QToolTip.showText(event.globalPosition().toPoint(), said, self)

    def mouseReleaseEvent(self, event) -> None:
        if self._dragged is not None:
            handle, self._dragged = self._dragged, None
            self.handle_moved.emit(handle.slot, _value(handle, event.position()), True)
        elif self._from is not None and self.drawing is not None:
            begin, self._from = self._from, None
            end = event.position()
            add = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
            if (end - begin).manhattanLength() < 4:
                if self._clicked(end):
                    return
                row = self.drawing.nearest(end.x(), end.y(), 8)
                rows = np.array([] if row is None else [row], dtype=np.int64)
            else:
                rows = self.drawing.rows_in(begin.x(), begin.y(), end.x(), end.y())
            self.swept.emit(rows, add)
            self.update()

    def _clicked(self, at: QPointF) -> bool:
        """Whether a click set a slot: at an entry of the legend, or at a replicate."""
        assert self.drawing is not None
        key = self._key_at(at)
        if key is not None:
            if key.toggles:
                self.slot_wanted.emit(*key.toggles)
            return True
        figure = self._figure_at(at)
        if figure is not None:
            self.words_wanted.emit(figure)
            return True
        opens = self.picture.opens if self.picture else ""
        replicate = self.drawing.nearest(at.x(), at.y(), 8, "replicate") if opens else None
        if opens and replicate is None:
            spots = (one for one in self.drawing.opens if one.holds(at.x(), at.y()))
            replicate = next((one.number for one in spots), None)
        if replicate is not None:
            self.slot_wanted.emit(opens, replicate)
        return replicate is not None

    def _figure_at(self, at: QPointF) -> WordSpot | None:
        """The number under the hand that can be typed over."""
        return next((spot for spot in self._figures if spot.holds(at.x(), at.y())), None)

    def wheelEvent(self, event) -> None:
        """Ctrl and the wheel draw the axes nearer around the hand; Shift moves along them."""
        if self.drawing is None or not (self.zoomable and event.modifiers()):
            event.ignore()
            return
        control = event.modifiers() & Qt.KeyboardModifier.ControlModifier
        turn = (event.angleDelta().y() or event.angleDelta().x()) / 120
        ends: dict[str, float] = {}
        for first, last, scale in self._axes():
            at = event.position().y() if scale.upright else event.position().x()
            if control:
                ends |= scale.drawn_nearer(first, last, scale.share(at), 0.8**turn)
            elif not ends:  # Shift moves along the first axis alone
                ends |= scale.moved(first, last, -0.1 * turn)
        self.zoom_wanted.emit(ends)
        event.accept()

    @property
    def zoomable(self) -> bool:
        """Whether the picture has an axis with ends that are slots."""
        return bool(self._axes())

    def _axes(self) -> list[tuple[str, str, Zoom]]:
        """The axes with ends that are slots: those slots, and how the axis lies."""
        handles = self.drawing.handles if self.drawing else ()
        return [(one.slot, one.pair, Zoom.of(one)) for one in handles if one.pair]

    def contextMenuEvent(self, event) -> None:
        """What can be done with the rows that are selected, or with the one under the hand."""
        rows = self._selected
        if rows.size == 0 and self.drawing is not None:
            row = self.drawing.nearest(event.pos().x(), event.pos().y(), 10)
            rows = np.array([] if row is None else [row], dtype=np.int64)
        menu = QMenu(self)
        count = counted(int(rows.size), "row")
        aside = menu.addAction(f"Set {count} aside", lambda: self.aside_wanted.emit(rows))
        only = menu.addAction(f"Keep only {count}", lambda: self.only_wanted.emit(rows))
        for action in (aside, only):
            action.setEnabled(bool(rows.size))
        if self.zoomable:
            menu.addSeparator()
            menu.addAction("Show the whole axis", self._show_all)
        if self.picture and self.picture.keys:
            menu.addSeparator()
            for code, key in enumerate(self.picture.keys):
                if key.toggles or key.tints:
                    self._key_menu(menu.addMenu(shortened(key.label, 40)), code, key)
        under = self._key_at(QPointF(event.pos()))
        for one in menu.findChildren(QMenu):
            if under is not None and one.title() == shortened(under.label, 40):
                menu = one  # straight to the one under the hand
        menu.exec(event.globalPos())

    def _key_menu(self, menu: QMenu, code: int, key: Key) -> None:
        """To hide an entry of the legend or show it again, and to pick its colour."""
        assert self.picture is not None
        wanted, tints = self.slot_wanted.emit, key.tints
        if key.toggles:
            shown, toggles = "Show it again" if key.hidden else "Hide it", key.toggles
            menu.addAction(shown, lambda: wanted(*toggles))
            menu.addSeparator()
        if tints is None:
            return
        now = self.picture.roles[code]
        for at, (name, value) in enumerate(tints.picks):
            colour = self.theme.colour(role_of(at))
            swatch = QPixmap(16, 16)
            swatch.fill(colour)
            mark = "  ✓" if role_of(at) == now else ""
            pick = menu.addAction(QIcon(swatch), name + mark)
            pick.triggered.connect(lambda _=False, v=value: wanted(tints.slot, v))
        menu.addSeparator()
        menu.addAction("The colour of its place", lambda: wanted(tints.slot, tints.own))

    def mouseDoubleClickEvent(self, event) -> None:
        """The words under the hand are to be changed."""
        at = event.position()
        for words in self.drawing.words if self.drawing else ():
            if words.holds(at.x(), at.y()):
                self.words_wanted.emit(words)
                return

    # columns dragged here

    def dragEnterEvent(self, event) -> None:
        if event.mimeData().hasFormat(COLUMN_MIME):
            event.acceptProposedAction()

    def dragMoveEvent(self, event) -> None:
        event.acceptProposedAction()

    def dropEvent(self, event) -> None:
        table, column = column_of(event.mimeData())
        at = event.position()
        zone = self.drawing.zone_at(at.x(), at.y()) if self.drawing else "middle"
        self.column_dropped.emit(zone, table, column)
        event.acceptProposedAction()

    # keys: arrows walk the marks, Space selects; [ and ] walk the handles, arrows then move one

    def keyPressEvent(self, event) -> None:
        handles = self.drawing.handles if self.drawing else ()
        key = event.key()
        if key in (Qt.Key.Key_BracketRight, Qt.Key.Key_BracketLeft) and handles:
            by = 1 if key == Qt.Key.Key_BracketRight else -1
            self._focus_handle = (self._focus_handle + by) % len(handles)
            self._show_focus = True
            self.update()
        elif key in _ARROWS and 0 <= self._focus_handle < len(handles):
            handle = handles[self._focus_handle]
            room = handle.right - handle.left
            per_step = 0.0 if handle.log else handle.step * room / (handle.high - handle.low)
            step = max(abs(per_step), abs(room) * KEY_STEP) * (1 if room > 0 else -1)
            more = key in (Qt.Key.Key_Right, Qt.Key.Key_Up)
            moved = handle.place + (step if more else -step)
            self.handle_moved.emit(handle.slot, handle.value_at(moved), True)
        elif key == Qt.Key.Key_F2 and self._figures:
            self.words_wanted.emit(self._figures[0])
        elif self._walked(event) or self._plain_zoom(key):
            pass
        elif key == Qt.Key.Key_Escape and self._focus_handle >= 0:
            self._focus_handle = -1
            self.update()
        elif key == Qt.Key.Key_Escape and self._selected.size:
            self.swept.emit(np.zeros(0, dtype=np.int64), False)
        else:
            super().keyPressEvent(event)

    @property
    def _figures(self) -> tuple[WordSpot, ...]:
        return self.drawing.figures if self.drawing else ()

    def event(self, event) -> bool:
        override = event.type() == QEvent.Type.ShortcutOverride  # else F2 renames the entry
        if override and event.key() == Qt.Key.Key_F2 and self._figures:
            event.accept()
            return True
        return super().event(event)

    def _walked(self, event) -> bool:
        """Whether a key went to another mark, or selected the one in focus."""
        key, drawing = event.key(), self.drawing
        if drawing is None:
            return False
        if key in (Qt.Key.Key_Space, Qt.Key.Key_Return) and self._walk.row is not None:
            now = set(self._selected.tolist()) if key == Qt.Key.Key_Space else set()
            wanted = now ^ {self._walk.row}
            self.swept.emit(np.array(sorted(wanted), dtype=np.int64), False)
            return True
        row = self._walk.step(drawing, key)
        if row is None:
            return False
        said = self._row_text(row)
        self._show_focus = True
        self.setAccessibleDescription(to_plain(said))
        event_ = QAccessibleEvent(self, QAccessible.Event.DescriptionChanged)
        QAccessible.updateAccessibility(event_)
        place = self._walk.place(drawing)
        if place is not None:
            QToolTip.showText(self.mapToGlobal(place.toPoint()), hover_text(said), self)
        self.update()
        return True

    def _plain_zoom(self, key: Qt.Key) -> bool:
        """+ and − draw the axis nearer or back, 0 shows it whole."""
        if not self.zoomable:
            return False
        if key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus):
            factor = 1.25 if key == Qt.Key.Key_Minus else 0.8
            ends: dict[str, float] = {}
            for first, last, scale in self._axes():
                ends |= scale.drawn_nearer(first, last, 0.5, factor)
            self.zoom_wanted.emit(ends)
            return True
        if key == Qt.Key.Key_0:
            self._show_all()
            return True
        return False

    def _show_all(self) -> None:
        self.zoom_wanted.emit({slot: None for *pair, _ in self._axes() for slot in pair})

    def focusOutEvent(self, event) -> None:
        self._focus_handle = -1
        self._walk.leave()
        if self.picture:
            self.setAccessibleDescription(to_plain(self.picture.alt))
        self.update()

    def focusInEvent(self, event) -> None:
        # a ring only for those who came by keyboard
        self._show_focus = event.reason() in (
            Qt.FocusReason.TabFocusReason,
            Qt.FocusReason.BacktabFocusReason,
            Qt.FocusReason.ShortcutFocusReason,
        )
        self.update()


def _names(marks: Marks) -> Ints:
    """What tells the marks of a picture apart: rows by their number, replicates by it below 0."""
    assert marks.rows is not None
    return -marks.rows - 1 if marks.stands_for == "replicate" else marks.rows


def _value(handle: Handle, at: QPointF) -> float:
    return handle.value_at(at.y() if handle.upright else at.x())
