"""Looks: fonts, colours by role, sizes. One theme for the application; views follow its signal."""

from __future__ import annotations

from PySide6.QtCore import QObject, QSettings, Qt, Signal
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication

from theoros.answer.palette import DARK, LIGHT
from theoros.fonts import FONTS

SANS, SERIF = "Source Sans 3", "Source Serif 4"
SCALES = {"small": 0.88, "normal": 1.0, "large": 1.2, "larger": 1.45}
MODES = ("as the desktop", "light", "dark")


class Theme(QObject):
    """The looks in force. `changed` is sent when colours or sizes change."""

    changed = Signal()

    def __init__(self, settings: QSettings) -> None:
        super().__init__()
        self._settings = settings
        for font in ("SourceSans3-Regular", "SourceSans3-Semibold", "SourceSerif4-Regular"):
            QFontDatabase.addApplicationFont(str(FONTS / f"{font}.ttf"))
        self.mode = str(settings.value("looks/mode", MODES[0]))
        self.scale_name = str(settings.value("looks/text", "normal"))
        if self.scale_name not in SCALES:
            self.scale_name = "normal"
        QGuiApplication.styleHints().colorSchemeChanged.connect(lambda _: self.apply())
        self._italic = False
        self.apply()

    @property
    def dark(self) -> bool:
        if self.mode in ("light", "dark"):
            return self.mode == "dark"
        return QGuiApplication.styleHints().colorScheme() == Qt.ColorScheme.Dark

    @property
    def colours(self) -> dict[str, str]:
        return DARK if self.dark else LIGHT

    def colour(self, role: str) -> QColor:
        return QColor(self.colours[role])

    @property
    def scale(self) -> float:
        """The text size in force, 1 for normal."""
        return SCALES[self.scale_name]

    def px(self, size: float) -> int:
        """A size in pixels at the text size in force."""
        return round(size * self.scale)

    def font(self, size: float = 13.5, *, serif: bool = False, bold: bool = False) -> QFont:
        font = QFont(SERIF if serif else SANS)
        font.setPixelSize(self.px(size))
        if bold:
            font.setWeight(QFont.Weight.DemiBold)
        return font

    def italic(self, size: float) -> QFont:
        if not self._italic:  # loaded when a question is first shown
            QFontDatabase.addApplicationFont(str(FONTS / "SourceSerif4-It.ttf"))
            self._italic = True
        font = self.font(size, serif=True)
        font.setItalic(True)
        return font

    def set_mode(self, mode: str) -> None:
        self.mode = mode
        self._settings.setValue("looks/mode", mode)
        self.apply()

    def set_scale(self, name: str) -> None:
        self.scale_name = name
        self._settings.setValue("looks/text", name)
        self.apply()

    @property
    def motion(self) -> bool:
        """Whether pictures may move: not where the desktop asks for less of it."""
        app = QApplication.instance()
        return bool(
            app
            and app.isEffectEnabled(Qt.UIEffect.UI_AnimateCombo)
            and str(self._settings.value("looks/motion", "on")) == "on"
        )

    def apply(self) -> None:
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        app.setFont(self.font())
        app.setPalette(self._palette())
        app.setStyleSheet(self._sheet())
        self.changed.emit()

    def _palette(self) -> QPalette:
        made, c = QPalette(), self.colour
        role = QPalette.ColorRole
        for which, name in (
            (role.Window, "paper"),
            (role.Base, "page"),
            (role.AlternateBase, "paper"),
            (role.Text, "ink"),
            (role.WindowText, "ink"),
            (role.ButtonText, "ink"),
            (role.Button, "page"),
            (role.Highlight, "wash"),
            (role.HighlightedText, "ink"),
            (role.PlaceholderText, "mute"),
            (role.ToolTipBase, "page"),
            (role.ToolTipText, "ink"),
            (role.Link, "data"),
        ):
            made.setColor(which, c(name))
        for which in (role.Text, role.WindowText, role.ButtonText):
            made.setColor(QPalette.ColorGroup.Disabled, which, c("mute"))
        return made

    def _sheet(self) -> str:
        text = _SHEET
        for name, value in self.colours.items():
            text = text.replace(f"@{name}@", value)
        for size in (11, 12, 13, 14, 16, 20):
            text = text.replace(f"@{size}px@", f"{self.px(size)}px")
        return text


_SHEET = """
QMainWindow, QWidget#verbs, QWidget#status, QMenuBar { background: @paper@; color: @ink@; }
QMenuBar { padding: 2px 4px; } QMenuBar::item { padding: 4px 10px; background: transparent; }
QMenuBar::item:selected, QMenu::item:selected { background: @wash@; color: @ink@; }
QMenu { background: @page@; border: 1px solid @rule@; padding: 4px; }
QMenu::item { padding: 5px 26px 5px 18px; } QMenu::item:disabled { color: @mute@; }
QMenu::separator { height: 1px; background: @rule@; margin: 4px 8px; }
QWidget#middle, QWidget#page { background: @page@; }
QWidget#left, QWidget#right, QWidget#reading { background: @paper@; }
QSplitter::handle { background: @rule@; }
QScrollArea, QScrollArea > QWidget > QWidget { background: transparent; border: 0; }
QLabel { background: transparent; color: @ink@; }
QLabel[tone="mute"] { color: @mute@; } QLabel[tone="good"] { color: @good@; }
QLabel[tone="bad"] { color: @bad@; } QLabel[tone="warn"] { color: @warn@; }
QToolButton[flat="false"] { background: @page@; border: 1px solid @rule@; border-radius: 5px;
  padding: 1px 6px; color: @ink@; }
QPushButton { background: @page@; color: @ink@;
  border: 1px solid @rule@; border-radius: 7px; padding: 5px 11px; font-size: @13px@; }
QPushButton:hover { border-color: @mute@; }
QPushButton:focus { border: 2px solid @data@; padding: 4px 10px; }
QPushButton[main="true"] { background: @ink@; color: @page@; border-color: @ink@; }
QPushButton:disabled { color: @mute@; background: @paper@; }
QPushButton[link="true"] { background: transparent; border: 0; padding: 2px 0; color: @data@;
  text-align: left; }
QPushButton[link="true"]:hover, QPushButton[link="true"]:focus { text-decoration: underline; }
QPushButton[verb="true"] { background: transparent; border: 0; border-radius: 8px;
  padding: 6px 12px; font-family: "Source Serif 4"; font-size: @16px@; }
QPushButton[verb="true"]:hover { background: @wash@; }
QPushButton[verb="true"]:focus { border: 2px solid @data@; padding: 4px 10px; }
QPushButton[verb="true"]:checked { background: @ink@; color: @page@; }
QLineEdit, QPlainTextEdit, QTextEdit, QComboBox { background: @page@; color: @ink@;
  border: 1px solid @rule@; border-radius: 6px; padding: 4px 8px; font-size: @13px@;
  selection-background-color: @wash@; selection-color: @ink@; }
QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus { border: 2px solid @data@;
  padding: 3px 7px; }
QLineEdit[wrong="true"] { border: 2px solid @bad@; padding: 3px 7px; }
QLineEdit#find { border-radius: 14px; padding: 5px 14px; }
QComboBox::drop-down { border: 0; width: 18px; }
QToolButton[plain="true"] { border: 0; background: transparent; color: @mute@; padding: 2px 6px; }
QToolButton[plain="true"]:hover, QToolButton[plain="true"]:focus { background: @wash@;
  color: @ink@; }
QWidget#sidehead { background: @paper@; border-bottom: 1px solid @rule@; }
QPushButton[sidetitle="true"] { text-align: left; border: 0; border-left: 3px solid transparent;
  border-radius: 0; padding: 4px 8px; background: transparent; color: @mute@; }
QPushButton[sidetitle="true"]:checked { border-left-color: @seen@; color: @ink@; font-weight: 600; }
QPushButton[sidetitle="true"]:focus { text-decoration: underline; }
QPushButton#strip { text-align: left; border: 0; border-top: 1px solid @rule@; border-radius: 0;
  padding: 6px 20px; background: @paper@; }
QWidget#tools { background: @paper@; border-top: 1px solid @rule@; }
QFrame#progress { background: @paper@; border-top: 1px solid @rule@; }
QPushButton#strip:focus { border: 2px solid @data@; }
QComboBox QAbstractItemView { background: @page@; color: @ink@; border: 1px solid @rule@; }
QListView { background: transparent; border: 0; outline: 0; }
QPushButton[field="true"] { text-align: left; }
QListView#completions { background: @page@; color: @ink@; border: 1px solid @mute@;
  font-size: @13px@; padding: 2px; }
QListView#completions::item { padding: 3px 8px; }
QListView#completions::item:selected { background: @wash@; color: @ink@; }
QFrame#popup { background: @page@; border: 1px solid @mute@; }
QFrame#popup QListWidget::item:selected { background: @wash@; color: @ink@; }
QTableView { background: @page@; color: @ink@; border: 0; gridline-color: @rule@;
  selection-background-color: @wash@; selection-color: @ink@; outline: 0; font-size: @13px@; }
QTableView::item { padding: 0 7px; }
QTableView#sheet { border: 1px solid @rule@; }
QTableView QLineEdit { border-radius: 0; padding: 0 6px; }
QHeaderView { background: @paper@; border: 0; } QTableCornerButton::section { background: @paper@;
  border: 0; border-right: 1px solid @rule@; border-bottom: 1px solid @rule@; }
QHeaderView::section { background: @paper@; color: @mute@; border: 0;
  border-right: 1px solid @rule@; border-bottom: 1px solid @rule@; padding: 0 8px; }
QTableView#sheet QHeaderView::section { font-size: @12px@; }
QTableView#figures::item { padding: 0 3px; }
QTableView#figures QHeaderView { background: @page@; }
QTableView#figures QHeaderView::section { background: @page@; color: @mute@; font-weight: 600;
  border: 0; border-bottom: 1px solid @rule@; padding: 4px 5px; font-size: @12px@; }
QScrollBar:vertical { background: transparent; width: 11px; margin: 0; }
QScrollBar:horizontal { background: transparent; height: 11px; margin: 0; }
QScrollBar::handle { background: @rule@; border-radius: 4px; margin: 2px; min-height: 24px;
  min-width: 24px; }
QScrollBar::handle:hover { background: @mute@; }
QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {
  background: transparent; height: 0; width: 0; }
QToolTip { background: @page@; color: @ink@; border: 1px solid @mute@; padding: 4px; }
QDialog { background: @paper@; }
"""
