"""The list that opens under a slot: options with details and a line of help, found by typing."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QElapsedTimer, QPoint, Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QPushButton,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from theoros.desk.parts.options import CHECKED, OPTION, OptionDelegate
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, say_on_hover
from theoros.verbs.core.slots import Option

PAUSE_MS = 900
"""After such a pause in typing a name begins anew."""
FILTER_FROM = 9
"""With so many options or more there is a box to find one by typing."""


class PickList(QFrame):
    """A popup with the options of a slot. Enter or a click picks, Esc puts back."""

    def __init__(
        self,
        theme: Theme,
        options: tuple[Option, ...],
        value: Any,
        title: str,
        picked: Callable[[Any], None],
        parent: QWidget,
    ) -> None:
        super().__init__(parent, Qt.WindowType.Popup)
        self.setObjectName("popup")
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setAccessibleName(title)
        self._picked = picked
        self._typed, self._since = "", QElapsedTimer()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(2, 6, 2, 6)
        layout.setSpacing(4)
        self.filter = QLineEdit(placeholderText="type to find")
        self.filter.setAccessibleName(f"find {title}")
        self.filter.setVisible(len(options) >= FILTER_FROM)
        self.filter.textChanged.connect(self._narrow)
        self.filter.installEventFilter(self)
        layout.addWidget(self.filter)
        self.list = QListWidget()
        self.list.setAccessibleName(title)
        self.list.setItemDelegate(OptionDelegate(theme, self.list))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.itemClicked.connect(self._pick)
        self.list.installEventFilter(self)
        layout.addWidget(self.list)
        group = ""
        for option in options:
            if option.group != group:
                group = option.group
                if group:
                    head = QListWidgetItem()
                    head.setData(OPTION, Option(None, group))
                    head.setFlags(Qt.ItemFlag.NoItemFlags)
                    self.list.addItem(head)
            item = QListWidgetItem(option.label)
            item.setData(OPTION, option)
            say_on_hover(item, option.help)
            item.setData(Qt.ItemDataRole.AccessibleDescriptionRole, f"{option.detail} {option.help}".strip())
            self.list.addItem(item)
            if option.value == value:
                self.list.setCurrentItem(item)
        if not options:
            layout.addWidget(PlainLabel("There is nothing to choose from."))
        delegate = self.list.itemDelegate()
        tall = sum(
            delegate.sizeHint(QStyleOptionViewItem(), self.list.model().index(row, 0)).height()
            for row in range(self.list.count())
        )
        extra = 44 if self.filter.isVisibleTo(self) else 0
        self.resize(theme.px(440), min(max(tall, 20) + 18 + extra, theme.px(380)))

    def open_at(self, corner: QPoint) -> None:
        """Opens with its upper left corner there, moved so that it stays on the screen."""
        screen = self.screen().availableGeometry()
        x = min(max(screen.left(), corner.x()), screen.right() - self.width())
        y = corner.y()
        if y + self.height() > screen.bottom():
            y = max(screen.top(), screen.bottom() - self.height())
        self.move(x, y)
        self.show()
        (self.filter if self.filter.isVisible() else self.list).setFocus()

    def begin(self, typed: str) -> None:
        """Goes to the options that what was typed finds."""
        if typed and self.filter.isVisible():
            self.filter.setText(typed)
        elif typed:
            self._search(typed)

    def _search(self, typed: str) -> None:
        """Goes to the first option that begins with what is typed without a pause."""
        if self._since.isValid() and self._since.elapsed() < PAUSE_MS:
            typed = self._typed + typed
        self._typed = typed
        self._since.start()
        for row in range(self.list.count()):
            item = self.list.item(row)
            enabled = item.flags() & Qt.ItemFlag.ItemIsEnabled
            if enabled and item.text().casefold().startswith(typed.casefold()):
                self.list.setCurrentItem(item)
                return

    def _goes_on(self) -> bool:
        """Whether a space belongs to the name that is being typed, rather than picks it."""
        if not (self._since.isValid() and self._since.elapsed() < PAUSE_MS):
            return False
        start = f"{self._typed} ".casefold()
        texts = [self.list.item(row).text() for row in range(self.list.count())]
        return any(text.casefold().startswith(start) for text in texts)

    def eventFilter(self, watched, event) -> bool:
        if event.type() == event.Type.KeyPress:
            key = event.key()
            letters = event.text()
            if watched is self.list and letters.isprintable() and letters and (letters != " " or self._goes_on()):
                self._search(letters)
                return True
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
                if watched is self.filter and key == Qt.Key.Key_Space:
                    return False
                if self.list.currentItem():
                    self._pick(self.list.currentItem())
                return True
            if key == Qt.Key.Key_Escape:
                self.close()
                return True
            if watched is self.filter and key in (Qt.Key.Key_Down, Qt.Key.Key_Up):
                self._step(1 if key == Qt.Key.Key_Down else -1)
                return True
        return False

    def _step(self, by: int) -> None:
        row = self.list.currentRow()
        for _ in range(self.list.count()):
            row = (row + by) % self.list.count()
            item = self.list.item(row)
            if not item.isHidden() and item.flags() & Qt.ItemFlag.ItemIsEnabled:
                self.list.setCurrentRow(row)
                return

    def _narrow(self, text: str) -> None:
        wanted = text.casefold().split()
        first = None
        for row in range(self.list.count()):
            item = self.list.item(row)
            held: Option = item.data(OPTION)
            hay = f"{held.label} {held.detail} {held.help} {held.group}".casefold()
            head = not item.flags() & Qt.ItemFlag.ItemIsEnabled
            item.setHidden(bool(wanted) and (head or not all(w in hay for w in wanted)))
            if first is None and not item.isHidden() and not head:
                first = item
        if first is None:
            self.list.setCurrentRow(-1)
        else:
            self.list.setCurrentItem(first)

    def _pick(self, item: QListWidgetItem) -> None:
        if not item.flags() & Qt.ItemFlag.ItemIsEnabled:
            return
        held: Option = item.data(OPTION)
        self.close()
        self._picked(held.value)


class PickMany(PickList):
    """A popup with options of which several are picked; each pick is told at once.

    Space, Enter or a click picks or puts back; Esc closes. What is picked stands first, in its
    order, which Alt+Up and Alt+Down change.
    """

    def __init__(
        self,
        theme: Theme,
        options: tuple[Option, ...],
        values: tuple[Any, ...],
        title: str,
        picked: Callable[[tuple[Any, ...]], None],
        parent: QWidget,
    ) -> None:
        super().__init__(theme, options, None, title, picked, parent)
        self.setAccessibleDescription("Space picks; Alt with the arrow keys moves.")
        self._values = [value for value in values if any(o.value == value for o in options)]
        rest = [option.value for option in options if option.value not in self._values]
        self._order = [*self._values, *rest]
        self._put_in_order()
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 0)
        self.told = PlainLabel()
        self.told.setProperty("tone", "mute")
        row.addWidget(self.told, 1)
        for text, action in (("All", self._all), ("None", self._none), ("Done", self.close)):
            one = QPushButton(text)
            one.clicked.connect(lambda _=False, do=action: do())
            row.addWidget(one)
        self.layout().addLayout(row)
        self.resize(self.width(), self.height() + theme.px(44))
        if self.list.currentRow() < 0 and self.list.count():
            self.list.setCurrentRow(0)
        self._mark()

    def _put_in_order(self) -> None:
        """The lines of the list in the order of what is picked; only lists without headings."""
        held = {}
        for row in reversed(range(self.list.count())):
            item = self.list.takeItem(row)
            held[item.data(OPTION).value] = item
        for value in self._order:
            self.list.addItem(held[value])

    def eventFilter(self, watched, event) -> bool:
        alt = event.type() == event.Type.KeyPress and (event.modifiers() & Qt.KeyboardModifier.AltModifier)
        if alt and event.key() in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._move(-1 if event.key() == Qt.Key.Key_Up else 1)
            return True
        return super().eventFilter(watched, event)

    def _move(self, by: int) -> None:
        """The current line one place up or down."""
        row = self.list.currentRow()
        if 0 <= row < self.list.count() and 0 <= row + by < self.list.count():
            item = self.list.takeItem(row)
            self.list.insertItem(row + by, item)
            self.list.setCurrentRow(row + by)
            self._order.insert(row + by, self._order.pop(row))
            self._tell()

    def _mark(self) -> None:
        for row in range(self.list.count()):
            item = self.list.item(row)
            held: Option = item.data(OPTION)
            item.setData(CHECKED, held.value in self._values)
            state = "chosen" if held.value in self._values else "not chosen"
            item.setData(Qt.ItemDataRole.AccessibleTextRole, f"{held.label}, {state}")
        self.told.setText(f"{len(self._values)} of {len(self._order)} chosen")
        self.list.viewport().update()

    def _tell(self) -> None:
        self._values.sort(key=self._order.index)
        self._mark()
        self._picked(tuple(self._values))

    def _all(self) -> None:
        self._values = list(self._order)
        self._tell()

    def _none(self) -> None:
        self._values = []
        self._tell()

    def _pick(self, item: QListWidgetItem) -> None:
        if not item.flags() & Qt.ItemFlag.ItemIsEnabled:
            return
        held: Option = item.data(OPTION)
        if held.value in self._values:
            self._values.remove(held.value)
        else:
            self._values.append(held.value)
        self._tell()
