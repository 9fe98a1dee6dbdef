"""The middle of the window for entries: one page, or two side by side."""

from __future__ import annotations

from collections.abc import Iterable

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QApplication,
    QHBoxLayout,
    QPushButton,
    QSizePolicy,
    QSplitter,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from theoros.answer.wording import shortened
from theoros.desk.entry.entry_page import EntryPage
from theoros.desk.parts.engine import Engine
from theoros.desk.parts.known import KnownAnswers
from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme


class Side(QWidget):
    """A page with a head that tells which entry it shows, while there are two."""

    wanted = Signal()
    closed = Signal()

    def __init__(self, page: EntryPage, theme: Theme) -> None:
        super().__init__()
        self.page, self.theme = page, theme
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        self.head = QWidget()
        self.head.setObjectName("sidehead")
        row = QHBoxLayout(self.head)
        row.setContentsMargins(12, 2, 6, 2)
        row.setSpacing(4)
        self.title = QPushButton()
        self.title.setProperty("sidetitle", True)
        self.title.setCheckable(True)
        self.title.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self.title.setToolTip("The Reading on the right belongs to the marked entry")
        self.title.clicked.connect(self.wanted)
        row.addWidget(self.title, 1)
        self.close_button = QToolButton()
        self.close_button.setText("✕")
        self.close_button.setProperty("plain", True)
        self.close_button.setToolTip("Close this entry here; it stays in the list")
        self.close_button.clicked.connect(self.closed)
        row.addWidget(self.close_button)
        layout.addWidget(self.head)
        layout.addWidget(page, 1)
        self.head.hide()

    def tell(self, *, paired: bool, active: bool) -> None:
        """Shows in the head what the page shows, and whether the Reading speaks of it."""
        self.head.setVisible(paired)
        entry = self.page.entry
        if not paired or entry is None:
            return
        name = entry.name(self.page.tables)
        self.title.setText(shortened(name, 44))
        self.title.setChecked(active)
        self.title.setAccessibleName(f"{name}{', read on the right' if active else ''}")
        self.close_button.setAccessibleName(f"take {name} off the side")

    def mousePressEvent(self, event) -> None:
        self.wanted.emit()
        super().mousePressEvent(event)


class EntryPages(QWidget):
    """Two entries can be seen at once; one of them is the active one, that others ask about."""

    built = Signal(object)
    """A page was made."""
    activated = Signal()
    """The other page is the active one now."""

    def __init__(self, session: Session, theme: Theme, engine: Engine) -> None:
        super().__init__()
        self.session, self.theme, self.engine = session, theme, engine
        self.known = KnownAnswers()
        self.sides: list[Side] = []
        self._before = ""  # the entry shown before this one
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.splitter.setHandleWidth(1)
        self.splitter.setChildrenCollapsible(False)
        layout.addWidget(self.splitter)
        self._active = self._add_side()
        QApplication.instance().focusChanged.connect(self._focus_moved)

    def _add_side(self) -> Side:
        key = "answer" if not self.sides else "answer beside"
        page = EntryPage(self.session, self.theme, self.engine, self.known, key)
        side = Side(page, self.theme)
        self.sides.append(side)
        self.splitter.addWidget(side)
        side.wanted.connect(lambda: self.activate(side))
        side.closed.connect(lambda: self.close_side(side))
        self.built.emit(page)
        return side

    @property
    def active(self) -> EntryPage:
        return self._active.page

    @property
    def pages(self) -> Iterable[EntryPage]:
        """All that have been made, shown or not."""
        return [side.page for side in self.sides]

    @property
    def paired(self) -> bool:
        """Whether two entries stand side by side."""
        return len(self._shown()) == 2

    def _shown(self) -> list[Side]:
        return [side for side in self.sides if not side.isHidden()]

    @property
    def _other(self) -> Side | None:
        return next((side for side in self._shown() if side is not self._active), None)

    @property
    def beside(self) -> EntryPage | None:
        """The page that is not the active one; None for a single page."""
        return self._other.page if self._other else None

    def show_entry(self, key: str) -> None:
        """Shows an entry on the active page, or turns to the page that shows it already."""
        other = self._other
        if other is not None and other.page.entry is not None and other.page.entry.id == key:
            self._active = other
        if self.active.entry is not None and self.active.entry.id != key:
            self._before = self.active.entry.id
        self.active.show_entry(key)
        self._follow()
        self._tell()

    def _follow(self) -> None:
        """The page that is not active follows the study, or goes with its entry."""
        other = self.beside
        if other is None or other.entry is None:
            return
        now = next((e for e in self.session.study.entries if e.id == other.entry.id), None)
        if now is None:
            self.close_beside()
        elif now != other.entry or self.known.find(now, self.session.study) is not other.answer:
            other.show_entry(now.id)

    def put_beside(self, key: str) -> None:
        """Shows an entry on the other page, beside the one that is shown."""
        if self.active.entry is not None and self.active.entry.id == key:
            return
        if not self.paired:
            hidden = [side for side in self.sides if side.isHidden()]
            side = hidden[0] if hidden else self._add_side()
            side.show()
            half = self.splitter.width() // 2
            self.splitter.setSizes([half, half])
        other = self._other
        assert other is not None
        other.page.show_entry(key)
        self.activate(other)

    def suggested(self) -> str:
        """Which entry to put beside the one shown: the one before it, else its neighbour."""
        ids = [entry.id for entry in self.session.study.entries]
        shown = self.active.entry.id if self.active.entry else ""
        if self._before in ids and self._before != shown:
            return self._before
        others = [key for key in ids if key != shown]
        if not others:
            return ""
        at = ids.index(shown) if shown in ids else 0
        return ids[at + 1] if at + 1 < len(ids) else ids[at - 1]

    def close_side(self, side: Side) -> None:
        """One page alone again; the entry on the closed one stays in the study."""
        if not self.paired:
            return
        side.hide()
        side.page.leave()
        was_active = side is self._active
        if was_active:
            self._active = self._shown()[0]
        self._tell()
        if was_active:
            self.activated.emit()
            for slot in self.active.bar.slots_shown()[:1]:
                slot.setFocus()

    def close_beside(self) -> None:
        if self._other is not None:
            self.close_side(self._other)

    def activate(self, side: Side) -> None:
        turned = side is not self._active and not side.isHidden()
        if turned:
            self._active = side
        self._tell()  # also where nothing turned: a click takes the mark off a head
        if turned:
            held = QApplication.focusWidget()
            if held is None or not side.isAncestorOf(held):
                side.title.setFocus()  # or a click back into the other would be no news
            self.activated.emit()

    def _focus_moved(self, _old: QWidget | None, new: QWidget | None) -> None:
        if new is None or not self.paired:
            return
        for side in self._shown():
            if side.isAncestorOf(new) and new is not side.close_button:
                self.activate(side)

    def _tell(self) -> None:
        paired = self.paired
        for side in self._shown():
            side.tell(paired=paired, active=side is self._active)
