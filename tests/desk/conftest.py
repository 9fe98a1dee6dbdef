"""A real window for each test, with settings and journals of its own."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication, QMessageBox

from theoros.desk.application import make_application, make_window
from theoros.desk.window.study_files import StudyFiles
from theoros.desk.window.window import Window
from theoros.engine.links import Links

WAIT_MS = 20_000


@pytest.fixture(scope="session")
def qapp() -> Iterator[QApplication]:
    app = make_application()
    yield app
    app.clipboard().clear()  # the offscreen platform falls over what it still holds at exit


@pytest.fixture(scope="session")
def links() -> Iterator[Links]:
    """The engines that all windows of a test run share."""
    made = Links()
    yield made
    made.end()


@pytest.fixture
def empty(qtbot, tmp_path: Path, monkeypatch, links: Links) -> Window:
    """A window with an empty study. Leaving it never asks."""
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    settings.setValue("looks/mode", "light")
    settings.setValue("looks/motion", "off")
    monkeypatch.setattr(StudyFiles, "may_leave", lambda self: True)
    monkeypatch.setattr(QMessageBox, "exec", _no_dialog)
    made = make_window(settings, tmp_path / "journals", links)
    qtbot.addWidget(made)
    made.start()
    made.show()
    qtbot.waitExposed(made)
    made.activateWindow()
    return made


@pytest.fixture
def window(empty: Window, settle) -> Window:
    """A window with the demo study."""
    empty.session.open_demo()
    settle(empty)
    return empty


@pytest.fixture
def settle(qtbot) -> Callable[[Window], None]:
    """Waits until nothing is being worked out."""

    def wait(window: Window) -> None:
        qtbot.waitUntil(lambda: window.idle, timeout=WAIT_MS)
        qtbot.wait(5)  # what was put off to a turn of its own

    return wait


def _no_dialog(self) -> int:
    raise AssertionError(f"a dialog nobody answers: {self.text()}")
