"""Text whose words of statistics are explained where they stand: by pointing, by a click, or with Space."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import QPoint, Qt, QTimer
from PySide6.QtGui import (
    QAccessible,
    QAccessibleEvent,
    QCursor,
    QFocusEvent,
    QKeyEvent,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PySide6.QtWidgets import QFrame, QLabel, QVBoxLayout, QWidget

from theoros.answer.glossary import GlossaryTerm, TermPlace, terms, terms_in
from theoros.answer.wording import to_html, to_plain
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel

LINK = "term:"
POINTED_MS = 250
"""So long the pointer rests on a word before what it means is shown."""
CARD_WIDTH, EDGE = 320, 4


@dataclass(frozen=True)
class Explained:
    """A marked-up text and the terms in it that are dotted."""

    text: str
    places: tuple[TermPlace, ...] = ()


def explained(text: str, known: set[str]) -> Explained:
    """A text whose terms are dotted, but for those that are `known` from above; they are added to them."""
    places = tuple(terms_in(text, known))
    known.update(place.term.name for place in places)
    return Explained(text, places)


class TermCard(QFrame):
    """What a term means, beside the word; one card for all of a window."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window, Qt.WindowType.ToolTip)
        self.setObjectName("termcard")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(12, 9, 12, 10)
        layout.setSpacing(4)
        self._labels = [PlainLabel() for _ in range(3)]
        for label in self._labels:
            label.setWordWrap(True)
            layout.addWidget(label)
        self.term: GlossaryTerm | None = None

    @classmethod
    def of(cls, widget: QWidget) -> TermCard:
        window = widget.window()
        return window.findChild(cls, options=Qt.FindChildOption.FindDirectChildrenOnly) or cls(window)

    def show_term(self, term: GlossaryTerm, at: QPoint, theme: Theme) -> None:
        """Opens below a place of the screen, within its borders."""
        self.term = term
        name, meaning, example = self._labels
        for label, text, size, bold, tone in (
            (name, term.name[:1].upper() + term.name[1:], 15.0, True, ""),
            (meaning, term.meaning, 13.5, False, ""),
            (example, f"Example: {term.example}", 13.0, False, "mute"),
        ):
            label.setText(to_plain(text))
            label.setFont(theme.font(size, bold=bold))
            label.setProperty("tone", tone)
        self.setAccessibleName(to_plain(f"{term.name}: {term.meaning} Example: {term.example}"))
        self.setFixedWidth(theme.px(CARD_WIDTH))
        self.setFixedHeight(self.heightForWidth(self.width()))
        room = self.screen().availableGeometry()
        left = max(room.left(), min(at.x(), room.right() - self.width() - EDGE))
        top = at.y() + 18 if at.y() + 18 + self.height() <= room.bottom() else at.y() - self.height() - 10
        self.move(left, max(room.top(), top))
        self.show()
        QAccessible.updateAccessibility(QAccessibleEvent(self, QAccessible.Event.Alert))


class ExplainedLabel(QLabel):
    """Marked-up text that wraps and can be selected; its dotted words open what they mean.

    It is one stop of the Tab key, however many words are dotted; left and right go from one to the next.
    """

    def __init__(self, theme: Theme, size: float, *, serif: bool = False, tone: str = "") -> None:
        super().__init__()
        self._theme = theme
        self._tone, self._pointed = tone, ""
        self._spans: list[tuple[int, int]] = []
        self._at = -1
        self._rest = QTimer(self, singleShot=True, interval=POINTED_MS)
        self._rest.timeout.connect(self._rested)
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setWordWrap(True)
        self.setFont(theme.font(size, serif=serif))
        self.setProperty("tone", tone)
        self.linkHovered.connect(self._hovered)
        self.linkActivated.connect(self._opened)

    def show_text(self, said: Explained) -> None:
        flags = Qt.TextInteractionFlag.TextSelectableByMouse | Qt.TextInteractionFlag.TextSelectableByKeyboard
        if said.places:
            flags |= Qt.TextInteractionFlag.LinksAccessibleByMouse | Qt.TextInteractionFlag.LinksAccessibleByKeyboard
        self.setTextInteractionFlags(flags)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus if said.places else Qt.FocusPolicy.NoFocus)
        ink = self._theme.colours[self._tone or "ink"]
        pieces, at = [], 0
        for place in said.places:
            word = to_html(said.text[place.start : place.end])
            link = f"<a href='{LINK}{place.term.name}' style='color: {ink}; text-decoration: none'>{word}</a>"
            pieces += [to_html(said.text[at : place.start]), link]
            at = place.end
        self.setText("".join(pieces) + to_html(said.text[at:]))
        self.setAccessibleName(to_plain(said.text))
        names = ", ".join(to_plain(place.term.name) for place in said.places)
        keys = "Space" if len(said.places) < 2 else "Space, left and right"
        self.setAccessibleDescription(f"Explained with {keys}: {names}" if names else "")
        self._at = -1
        self._dot()

    def _document(self) -> QTextDocument | None:
        """The document behind the text, which Qt makes once the text is laid out."""
        self.sizeHint()
        found = self.findChild(QTextDocument)
        return found if isinstance(found, QTextDocument) else None

    def _dot(self) -> None:
        """Dots below links: no style sheet of rich text knows them."""
        self._spans = []
        document = self._document()
        if document is None:
            return
        dotted = QTextCharFormat()
        dotted.setUnderlineStyle(QTextCharFormat.UnderlineStyle.DotLine)
        block = document.begin()
        while block.isValid():
            pieces = block.begin()
            while not pieces.atEnd():
                piece = pieces.fragment()
                if piece.charFormat().isAnchor():
                    self._spans.append((piece.position(), piece.position() + piece.length()))
                pieces += 1
            block = block.next()
        cursor = QTextCursor(document)
        for start, end in self._spans:
            cursor.setPosition(start)
            cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
            cursor.mergeCharFormat(dotted)

    # opening

    def _open(self, link: str, at: QPoint) -> None:
        term = terms().get(link.removeprefix(LINK))
        if term is not None:
            TermCard.of(self).show_term(term, at, self._theme)

    def _close(self) -> None:
        self._rest.stop()
        TermCard.of(self).hide()

    def _hovered(self, link: str) -> None:
        self._pointed = link
        if link:
            self._rest.start()
        else:
            self._close()

    def _rested(self) -> None:
        self._open(self._pointed, QCursor.pos())

    def _opened(self, link: str) -> None:
        """By a click, or by Enter."""
        self._rest.stop()
        self._open(link, QCursor.pos() if self.underMouse() else self.mapToGlobal(self.rect().bottomLeft()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, link = event.key(), self._focused_link()
        if link and key in (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._open(link, self.mapToGlobal(self.rect().bottomLeft()))
            return
        if key == Qt.Key.Key_Escape and TermCard.of(self).isVisible():
            self._close()
            return
        self._close()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right) and not event.modifiers() and self._at >= 0:
            self._choose((self._at + (1 if key == Qt.Key.Key_Right else -1)) % len(self._words()))
            return
        super().keyPressEvent(event)

    def _words(self) -> list[tuple[int, int]]:
        """From where to where each dotted word stands; pieces of one term in other letters are one."""
        words = list[tuple[int, int]]()
        for start, end in self._spans:
            if words and words[-1][1] == start:
                words[-1] = (words[-1][0], end)
            else:
                words.append((start, end))
        return words

    def _choose(self, at: int) -> None:
        start, end = self._words()[at]
        self._at = at
        self.setSelection(start, end - start)

    def _focused_link(self) -> str:
        """The link that the keys have come to: it is selected."""
        document = self._document()
        if document is None or self.selectionStart() < 0:
            return ""
        cursor = QTextCursor(document)
        cursor.setPosition(self.selectionStart() + 1)
        return cursor.charFormat().anchorHref()

    def focusNextPrevChild(self, forward: bool) -> bool:
        return QWidget.focusNextPrevChild(self, forward)  # a label's own would stop at every link

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        if self._spans and event.reason() in (Qt.FocusReason.TabFocusReason, Qt.FocusReason.BacktabFocusReason):
            self._choose(0)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        self._close()
        super().focusOutEvent(event)
        if self._at >= 0:
            self._at = -1
            self.setSelection(0, 0)


def explained_prose(
    said: Explained, theme: Theme, size: float = 13.5, *, serif: bool = False, tone: str = ""
) -> ExplainedLabel:
    """A label with dotted words."""
    made = ExplainedLabel(theme, size, serif=serif, tone=tone)
    made.show_text(said)
    return made
