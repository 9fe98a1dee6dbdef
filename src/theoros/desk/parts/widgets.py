"""Small pieces that several panes are made of: headings, text, links, fields."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import (
    QComboBox,
    QFormLayout,
    QFrame,
    QLabel,
    QLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.markup import escaped
from theoros.answer.wording import to_html, to_plain
from theoros.desk.parts.theme import Theme

NO_LIMIT = (1 << 24) - 1
"""What Qt takes as no limit of a height."""


class PlainLabel(QLabel):
    """A label that shows text as it is: names from a file are never taken for markup."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class NoteLabel(PlainLabel):
    """A label of one line, which wraps only where there is no room for it."""

    def __init__(self) -> None:
        super().__init__()
        self.setWordWrap(True)

    def sizeHint(self) -> QSize:
        words = self.fontMetrics().size(0, self.text())
        return QSize(words.width() + 4, super().heightForWidth(words.width() + 4))


class HasToolTip(Protocol):
    """A widget, an action, an item of a list."""

    def setToolTip(self, text: str, /) -> None: ...


def hover_text(text: str) -> str:
    """Text for a tooltip, which would otherwise take what looks like markup for some."""
    if "<" not in text and "&" not in text:
        return text
    return f"<qt>{escaped(text)}</qt>".replace("\n", "<br>")


def say_on_hover(what: HasToolTip, text: str) -> None:
    """A tooltip of text as it is, whatever stands in it."""
    what.setToolTip(hover_text(text))


def heading(text: str, theme: Theme) -> QLabel:
    """The heading of a part of a pane."""
    label = PlainLabel(text)
    label.setFont(theme.font(15, bold=True))
    label.setContentsMargins(0, 8, 0, 2)
    return label


def prose(text: str, theme: Theme, size: float = 13.5, *, serif: bool = False, tone: str = "") -> QLabel:
    """Marked-up text that wraps and can be selected and copied."""
    label = QLabel()
    label.setTextFormat(Qt.TextFormat.RichText)
    label.setWordWrap(True)
    label.setFont(theme.font(size, serif=serif))
    label.setProperty("tone", tone)
    label.setTextInteractionFlags(
        Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
    )
    label.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    set_prose(label, text)
    return label


def set_prose(label: QLabel, text: str) -> None:
    """Another text for a label that `prose` made."""
    label.setText(to_html(text))
    label.setAccessibleName(to_plain(text))


def set_tone(label: QLabel, tone: str) -> None:
    """The colour that a label is written in, by its role."""
    if label.property("tone") != tone:
        label.setProperty("tone", tone)
        label.style().polish(label)


class LinkButton(QPushButton):
    """A button that looks like a link and whose text wraps."""

    def __init__(self, text: str, action: Callable[[], object], theme: Theme) -> None:
        super().__init__()
        self.setProperty("link", True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.clicked.connect(lambda: self._action())
        self._label = PlainLabel(parent=self)
        self.lead(text, action)
        self._label.setWordWrap(True)
        self._label.setFont(theme.font(13.5))
        self._label.setStyleSheet(f"color: {theme.colours['data']};")
        self._label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self._theme = theme
        policy = QSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def lead(self, text: str, action: Callable[[], object]) -> None:
        """Leads elsewhere from now on."""
        self._action = action
        self.setAccessibleName(text)
        self._label.setText(text)
        if self.isVisible():
            self.setMinimumHeight(self.heightForWidth(self.width()))
        self.updateGeometry()

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return self._label.heightForWidth(width) + 4

    def sizeHint(self):
        hint = self._label.sizeHint()
        hint.setHeight(self.heightForWidth(max(self.width(), 120)))
        return hint

    def resizeEvent(self, event) -> None:
        self.setMinimumHeight(self.heightForWidth(self.width()))
        self._label.setGeometry(0, 2, self.width(), self.height() - 4)

    def focusInEvent(self, event) -> None:
        self._label.setStyleSheet(f"color: {self._theme.colours['data']}; text-decoration: underline;")
        super().focusInEvent(event)

    def focusOutEvent(self, event) -> None:
        self._label.setStyleSheet(f"color: {self._theme.colours['data']};")
        super().focusOutEvent(event)


class ChoiceBox(QComboBox):
    """A box to choose from, with the sign that says so."""

    def paintEvent(self, event) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setPen(self.palette().color(self.foregroundRole()))
        place = self.rect().adjusted(0, 0, -9, 0)
        painter.drawText(place, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, "▾")


def button(text: str, action: Callable[[], object], *, main: bool = False) -> QPushButton:
    made = QPushButton(text)
    made.setProperty("main", main)
    made.clicked.connect(lambda: action())
    return made


def clear(layout: QLayout) -> None:
    """Takes everything out of a layout and deletes it."""
    while layout.count():
        item = layout.takeAt(0)
        widget = item.widget()
        if widget:
            widget.hide()
            widget.deleteLater()
        elif item.layout():
            clear(item.layout())


class Fitting(QScrollArea):
    """Gives its content a size of its own, anew whenever either of them asks to be laid out."""

    def setWidget(self, content: QWidget) -> None:
        super().setWidget(content)
        content.installEventFilter(self)
        self.fit()

    def eventFilter(self, watched, event) -> bool:
        kinds = event.Type.LayoutRequest, event.Type.ShowToParent, event.Type.HideToParent
        if event.type() in kinds and watched is self.widget():
            self.fit()
        return super().eventFilter(watched, event)

    def resizeEvent(self, event) -> None:
        super().resizeEvent(event)
        self.fit()

    def fit(self) -> None:
        raise NotImplementedError


class Scrolled(Fitting):
    """A pane whose content is as wide as the pane, and scrolls when it is taller.

    Text that wraps needs more lines beside a scroll bar than without one: the height is worked
    out for the width that the content really gets.
    """

    def fit(self) -> None:
        content = self.widget()
        layout = content.layout() if content is not None else None
        if content is None or layout is None:
            return
        room = self.maximumViewportSize()
        wide = room.width()
        tall = layout.totalHeightForWidth(wide) if layout.hasHeightForWidth() else 0
        if max(tall, layout.totalMinimumSize().height()) > room.height():
            wide -= self.verticalScrollBar().sizeHint().width()
            tall = layout.totalHeightForWidth(wide) if layout.hasHeightForWidth() else 0
        content.resize(wide, max(tall, layout.totalMinimumSize().height(), room.height()))


class Sideways(Fitting):
    """Holds what may be wider than the page, which then goes along; as high as what it holds, and hidden with it."""

    def __init__(self, content: QWidget) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        # what was never shown counts as hidden, too: only what was hidden on purpose stays so
        hidden = content.isHidden() and content.testAttribute(Qt.WidgetAttribute.WA_WState_ExplicitShowHide)
        self.setWidget(content)
        content.setHidden(hidden)
        if hidden:
            self.hide()

    def fit(self) -> None:
        content = self.widget()
        if content is None or self.parentWidget() is None:
            return  # shown now, it would be a window of its own
        self.setHidden(content.isHidden())
        usual, least = content.sizeHint(), content.minimumSizeHint()
        content.resize(max(least.width(), min(usual.width(), self.width())), usual.height())
        along = self.horizontalScrollBar().sizeHint().height() if least.width() > self.width() else 0
        self.setFixedHeight(usual.height() + along)


def scrolled(content: QWidget, name: str) -> Scrolled:
    """A pane whose content scrolls when it is taller than the pane."""
    area = Scrolled()
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    area.setWidget(content)
    area.setAccessibleName(name)
    return area


def column(*, margins: tuple[int, int, int, int] = (16, 10, 14, 10), spacing: int = 6) -> QVBoxLayout:
    layout = QVBoxLayout()
    layout.setContentsMargins(*margins)
    layout.setSpacing(spacing)
    return layout


def form() -> QFormLayout:
    layout = QFormLayout()
    layout.setContentsMargins(0, 2, 0, 2)
    layout.setSpacing(8)
    layout.setFieldGrowthPolicy(QFormLayout.FieldGrowthPolicy.AllNonFixedFieldsGrow)
    return layout


def mute(text: str) -> QLabel:
    """A label in the secondary colour."""
    label = PlainLabel(text)
    label.setProperty("tone", "mute")
    return label
