"""A step of a working: its title, its sentences and formulas, and formulas to the clipboard."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QPoint, QRectF, QSize, Qt
from PySide6.QtGui import (
    QColor,
    QContextMenuEvent,
    QGuiApplication,
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPaintEvent,
    QPen,
    QResizeEvent,
)
from PySide6.QtWidgets import QHBoxLayout, QLabel, QMenu, QSizePolicy, QToolButton, QVBoxLayout, QWidget

from theoros.answer.formulas.formula import Formula
from theoros.answer.formulas.placing import place
from theoros.answer.formulas.written import to_latex, to_line, to_words
from theoros.answer.parts import Step
from theoros.desk.parts.explained import explained, explained_prose
from theoros.desk.parts.paint import paint
from theoros.desk.parts.theme import Theme
from theoros.desk.parts.widgets import PlainLabel, prose

SIZE = 17
INDENT = 14


class StepView(QWidget):
    """The title of a step above its lines; "Copy formula" where it has formulas.

    Terms are dotted where it is said which are `known` from steps before.
    """

    def __init__(self, step: Step, theme: Theme, known: set[str] | None = None) -> None:
        super().__init__()
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 2, 0, 4)
        layout.setSpacing(2)
        head = QHBoxLayout()
        title = PlainLabel(step.title)
        title.setFont(theme.font(13.5, bold=True))
        title.setWordWrap(True)
        head.addWidget(title, 1)
        if step.formulas:
            head.addWidget(_copy_button(step))
        layout.addLayout(head)
        for line in step.lines:
            if isinstance(line, Formula):
                layout.addWidget(FormulaView(line, theme))
            else:
                label: QLabel
                if known is None:
                    label = prose(line, theme, 15, serif=True)
                else:
                    label = explained_prose(explained(line, known), theme, 15, serif=True)
                label.setContentsMargins(INDENT, 0, 0, 2)
                layout.addWidget(label)


class FormulaView(QWidget):
    """A formula drawn as on a board; read out in words, copied as text or LaTeX."""

    def __init__(self, formula: Formula, theme: Theme) -> None:
        super().__init__()
        self.formula, self._theme = formula, theme
        self._drawing = place(formula, theme.px(SIZE), 10_000)
        theme.italic(SIZE)  # brings the slanted face for variables
        self.setAccessibleName(to_words(formula))
        self.setToolTip(to_line(formula))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        self._fit()

    def _fit(self) -> None:
        self.setFixedHeight(round(self._drawing.height) + 4)

    def sizeHint(self) -> QSize:
        return QSize(round(self._drawing.width) + 2 * INDENT, round(self._drawing.height) + 4)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        room = max(120, self.width() - 2 * INDENT)
        self._drawing = place(self.formula, self._theme.px(SIZE), room)
        self._fit()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        if self.hasFocus():
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(QColor(self._theme.colours["data"]), 2))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 3, 3)
        painter.translate(INDENT, 2)
        paint(painter, self._drawing, self._theme.colours)
        painter.end()

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride:  # else Copy copies the whole entry
            assert isinstance(event, QKeyEvent)
            if event.matches(QKeySequence.StandardKey.Copy):
                event.accept()
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Copy):
            QGuiApplication.clipboard().setText(to_line(self.formula))
            return
        super().keyPressEvent(event)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        menu = copy_menu(self, (self.formula,))
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        at = event.globalPos()
        menu.popup(at if not at.isNull() else self.mapToGlobal(QPoint(INDENT, self.height())))


def copy_menu(parent: QWidget, formulas: tuple[Formula, ...]) -> QMenu:
    """Ways to take formulas along; several stand on a line each."""
    menu = QMenu(parent)

    def entry(name: str, written: Callable[[Formula], str]) -> None:
        text = "\n".join(written(formula) for formula in formulas)
        menu.addAction(name, lambda: QGuiApplication.clipboard().setText(text))

    entry("Copy formula as text", to_line)
    entry("Copy formula as LaTeX", to_latex)
    return menu


def _copy_button(step: Step) -> QToolButton:
    made = QToolButton()
    made.setText("Copy formula")
    made.setProperty("plain", True)
    made.setAccessibleName(f"Copy formula: {step.title}")
    made.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
    made.setMenu(copy_menu(made, step.formulas))
    return made
