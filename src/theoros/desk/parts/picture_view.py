"""The picture of an answer, live: hover tells the row, sweeping selects, handles set slots."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QAccessible, QAccessibleEvent, QIcon, QPixmap
from PySide6.QtWidgets import QMenu, QToolTip

from theoros.answer.axis import role_of
from theoros.answer.drawing import Handle, WordSpot
from theoros.answer.nouns import counted
from theoros.answer.picture import Key
from theoros.answer.wording import shortened, to_plain
from theoros.desk.parts.column_mime import COLUMN_MIME, column_of
from theoros.desk.parts.picture_canvas import PictureCanvas
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import hover_text
from theoros.desk.parts.zoom import Zoom
from theoros.lazy_imports import np

_ARROWS = (Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down)
KEY_STEP = 0.01
"""What an arrow key moves a handle by, as a share of the axis."""


class PictureView(PictureCanvas):
    """A picture under the hand and the keys: what they do is told by signals."""

    handle_moved = Signal(str, float, bool)
    """Slot, value, and whether the hand has let go."""
    swept = Signal(object, bool)
    """Rows in the swept rectangle, and whether they are added to the selection."""
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
        super().__init__(theme)
        self._row_text = row_text
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAcceptDrops(True)

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
            self.update()
            self.swept.emit(rows, add)  # last of all: what follows may put another picture in this one's place

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


def _value(handle: Handle, at: QPointF) -> float:
    return handle.value_at(at.y() if handle.upright else at.x())
