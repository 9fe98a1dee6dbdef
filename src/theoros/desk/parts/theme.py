"""Looks: fonts, colours by role, sizes. One theme for the application; views follow its signal."""

from __future__ import annotations

from pathlib import Path

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
        app.setStyleSheet("")  # one sheet in the place of another takes four times as long as none between them
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
        text = Path(__file__).with_name("style.qss").read_text(encoding="utf-8")
        for name, value in self.colours.items():
            text = text.replace(f"@{name}@", value)
        for size in (11, 12, 13, 14, 16, 20):
            text = text.replace(f"@{size}px@", f"{self.px(size)}px")
        return text
