"""A section of an answer: its title, a picture of its own, what can be done with it, figures."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QEvent, QSize, Qt, Signal
from PySide6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from theoros.answer.parts import Control, Section
from theoros.answer.wording import to_plain
from theoros.desk.entry.figures_view import FiguresView
from theoros.desk.parts.flow import Flow
from theoros.desk.parts.input_fields import Field, field_of
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import NO_LIMIT, NoteLabel, button, clear, heading
from theoros.verbs.core.slots import Slot

LEAST_HEIGHT = 190
SLIM_HEIGHT = 136
FIELD_WIDTH = 92
FASTER = 1.08
"""By what factor a control that is held down does more each time."""
MOST = 1_000_000


class SectionView(QWidget):
    """Shows one section; another one is shown in its place without building the picture anew."""

    slot_set = Signal(str, object)
    rows_wanted = Signal(object)
    statement_wanted = Signal(object)
    table_wanted = Signal(object)
    raised = Signal(str, object, bool)
    """A number that a control raises, while it is held down and once it is let go."""

    def __init__(self, theme: Theme, picture: PictureView, *, low: bool = False) -> None:
        """`low` leaves room for the picture that stands below."""
        super().__init__()
        self.theme, self.picture = theme, picture
        self.low = low
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 4, 0, 4)
        layout.setSpacing(4)
        self.title = heading("", theme)
        layout.addWidget(self.title)
        row = Flow(gap=6, line_gap=6)
        self._of_controls = QWidget()
        self._controls = Flow(self._of_controls, gap=6, line_gap=6)
        row.addWidget(self._of_controls)
        self.note = NoteLabel()
        self.note.setProperty("tone", "mute")
        row.addWidget(self.note)
        layout.addLayout(row)
        layout.addWidget(picture, 1)
        self._figures = QVBoxLayout()
        self._figures.setSpacing(10)
        layout.addLayout(self._figures)
        self.figure_views: list[FiguresView] = []
        self.controls: tuple[Control, ...] = ()
        self.buttons: list[QPushButton] = []
        self._fields: list[Field] = []
        self._held = 0
        """How often a control that is held down has done its work."""
        self._begun = 0
        self._reached: int | None = None

    def sizeHint(self) -> QSize:
        """As high as its controls are in the lines that they take."""
        hint = super().sizeHint()
        return QSize(hint.width(), max(hint.height(), self.heightForWidth(self.width())))

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        if event.size().width() != event.oldSize().width():
            self.updateGeometry()

    def show_section(self, section: Section, slot_of: Callable[[str], Slot | None]) -> None:
        """`slot_of` gives the slots that are typed among the controls."""
        self.title.setText(section.title)
        self.title.setFont(self.theme.font(15, bold=True))
        self.title.setVisible(bool(section.title))
        self.setAccessibleName(section.title or "section")
        self._show_controls(section.controls, slot_of)
        self.note.setText(to_plain(section.note))
        self.note.setVisible(bool(section.note))
        self.picture.setVisible(section.picture is not None)
        slim = section.picture is not None and section.picture.slim
        self.picture.setMinimumHeight(self.theme.px(SLIM_HEIGHT if slim else LEAST_HEIGHT))
        high = self.theme.px(SLIM_HEIGHT if slim else LEAST_HEIGHT)
        self.picture.setMaximumHeight(high if slim or self.low else NO_LIMIT)
        policy = QSizePolicy.Policy.Maximum if slim else QSizePolicy.Policy.Preferred
        self.setSizePolicy(QSizePolicy.Policy.Preferred, policy)
        self.picture.show_picture(section.picture)
        while len(self.figure_views) < len(section.figures):
            view = FiguresView(self.theme)
            view.slot_set.connect(self.slot_set)
            view.rows_wanted.connect(self.rows_wanted)
            view.statement_wanted.connect(self.statement_wanted)
            view.table_wanted.connect(self.table_wanted)
            self.figure_views.append(view)
            self._figures.addWidget(view)
        for at, view in enumerate(self.figure_views):
            view.setVisible(at < len(section.figures))
            if at < len(section.figures):
                view.show_figures(section.figures[at])

    def _show_controls(self, controls: tuple[Control, ...], slot_of: Callable[[str], Slot | None]) -> None:
        """Buttons that only do something else now are kept, with the focus that one may have."""
        slots = [slot_of(control.asks) if control.asks else None for control in controls]
        before, self.controls = self.controls, controls
        self._of_controls.setVisible(bool(controls))
        if [(c.label, c.asks) for c in before] == [(c.label, c.asks) for c in controls]:
            for field, held in zip(self._fields, [s for s in slots if s], strict=True):
                field.show_slot(held)
            return
        if not self._fields and not any(slots):
            self._renew(controls)
            return
        clear(self._controls)
        self._fields, self.buttons = [], []
        for at, (control, slot) in enumerate(zip(controls, slots, strict=True)):
            self._add_button(at, control)
            if slot is not None:
                field = field_of(slot, self.slot_set.emit, self.theme)
                field.setFixedWidth(self.theme.px(FIELD_WIDTH))
                self._controls.addWidget(field)
                self._fields.append(field)

    def _renew(self, controls: tuple[Control, ...]) -> None:
        """Other buttons in the places of those there are, so that the focus stays."""
        while len(self.buttons) > len(controls):
            one = self.buttons.pop()
            self._controls.removeWidget(one)
            one.hide()
            one.deleteLater()
        for at, control in enumerate(controls):
            if at < len(self.buttons):
                one = self.buttons[at]
                one.setText(to_plain(control.label))
                if one.property("main") != control.main:
                    one.setProperty("main", control.main)
                    one.style().polish(one)
            else:
                self._add_button(at, control)

    def _add_button(self, at: int, control: Control) -> None:
        made = button(to_plain(control.label), partial(self._pressed, at), main=control.main)
        if control.adds:
            made.setToolTip("Space does the same; held down, it repeats faster and faster.")
        made.installEventFilter(self)
        self.buttons.append(made)
        self._controls.addWidget(made)

    def _pressed(self, at: int) -> None:
        self.slot_set.emit(*self.controls[at].sets)

    @property
    def main_button(self) -> QPushButton | None:
        """The button of what is done most."""
        pairs = zip(self.controls, self.buttons, strict=True)
        return next((made for control, made in pairs if control.main), None)

    def eventFilter(self, watched, event) -> bool:
        """Space on a control that raises a number: at once, and on while it is held down."""
        if watched not in self.buttons:
            return super().eventFilter(watched, event)
        down, up = event.type() == QEvent.Type.KeyPress, event.type() == QEvent.Type.KeyRelease
        if not (down or up) or event.key() != Qt.Key.Key_Space:
            return super().eventFilter(watched, event)
        control = self.controls[self.buttons.index(watched)]
        if not control.adds:
            return super().eventFilter(watched, event)
        name, value = control.sets
        if down and not event.isAutoRepeat():
            self._held, self._reached, self._begun = 0, None, int(value)
            self.slot_set.emit(name, value)
        elif down:
            self._held += 1
            now = self._begun if self._reached is None else self._reached
            self._reached = now + control.adds * round(FASTER**self._held)
            self.raised.emit(name, min(self._reached, MOST), False)
        elif not event.isAutoRepeat() and self._reached is not None:
            self.raised.emit(name, min(self._reached, MOST), True)
            self._held, self._reached = 0, None
        return True
