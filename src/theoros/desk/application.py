"""Starts the desk."""

from __future__ import annotations

import logging
import sys
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from theoros.desk.parts.session import Session
from theoros.desk.parts.theme import Theme
from theoros.desk.window import builders, menus
from theoros.desk.window.window import Window
from theoros.engine.links import Links

log = logging.getLogger(__name__)


def make_application() -> QApplication:
    """The one QApplication, named so that settings and the desktop find it."""
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    # every call from Qt into Python waits for the interpreter; a worker must let go of it often
    sys.setswitchinterval(0.001)
    app.setStyle("Fusion")
    app.setApplicationName("Theoros")
    app.setOrganizationName("theoros")
    app.setDesktopFileName("theoros")
    app.setWindowIcon(QIcon(str(Path(__file__).parent / "theoros.svg")))
    return app


def make_window(settings: QSettings | None = None, journals: Path | None = None, links: Links | None = None) -> Window:
    """A window with an empty study; `settings` and `journals` are for tests to keep apart.

    The processes behind `links` end with whoever made them; without any, they are made here and
    end with the window.
    """
    settings = settings or QSettings("theoros", "theoros")
    own = links or Links()
    engines = own.answers, own.writer, own.reader
    window = Window(Session(settings, journals), Theme(settings), engines, builders, menus)
    if links is None:
        window.closed.connect(own.end)
    return window


def _tell_on(window: Window) -> Callable[..., None]:
    """What is unforeseen goes to the log, and a sentence about it to the window."""

    def tell(kind: type[BaseException], problem: BaseException, trace: TracebackType | None) -> None:
        log.error("unforeseen", exc_info=(kind, problem, trace))
        window.banner.say(
            f"Something went wrong inside Theoros ({kind.__name__}: {problem}). Your work is in "
            f"the journal; nothing is lost.",
            "bad",
        )

    return tell


def run(file: Path | None, *, demo: bool = False, links: Links | None = None) -> int:
    """Opens the window with a study or table file, or the demo study. Returns the exit code."""
    app = make_application()
    window = make_window(links=links)
    sys.excepthook = _tell_on(window)
    if demo:
        window.session.open_demo()
    window.start()
    window.show()
    if file is not None:
        QTimer.singleShot(0, lambda: window.files.open_any(file))
    window.first_painted.connect(lambda: QTimer.singleShot(300, window.warm_up))
    code = app.exec()
    if links is not None:
        links.end()
    return code
