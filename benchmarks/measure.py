"""What benchmarks share: a figure with its limit, medians, and a quiet window."""

from __future__ import annotations

import statistics
import tempfile
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path


@dataclass(frozen=True)
class Figure:
    """A measured value with the limit it is held to; less is better."""

    name: str
    value: float
    limit: float
    unit: str = ""

    @property
    def ok(self) -> bool:
        return self.value <= self.limit

    def line(self) -> str:
        state = "ok" if self.ok else "short"
        value, limit = f"{self.value:.2f}{self.unit}", f"{self.limit:g}{self.unit}"
        return f"{self.name:<58} {value:>11} {limit:>11}  {state}"


def median_seconds(run: Callable[[], object], times: int) -> float:
    """Median time of a call, the first left out as a warm-up."""
    run()
    taken = []
    for _ in range(times):
        begun = time.perf_counter()
        run()
        taken.append(time.perf_counter() - begun)
    return statistics.median(taken)


def quiet_window():
    """A real window with settings and journals in a temporary folder."""
    from PySide6.QtCore import QSettings

    from theoros.desk.application import make_application, make_window

    make_application()
    folder = Path(tempfile.mkdtemp(prefix="theoros-bench-"))
    settings = QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)
    settings.setValue("looks/motion", "off")
    window = make_window(settings, folder / "journals")
    window.start()
    window.show()
    return window


def settle(window, seconds: float = 120.0) -> None:
    """Runs the event loop until nothing is being worked out."""
    from PySide6.QtWidgets import QApplication

    end = time.monotonic() + seconds
    while time.monotonic() < end:
        QApplication.processEvents()
        if window.idle:
            QApplication.processEvents()
            return
        time.sleep(0.001)
    raise TimeoutError("the window did not come to rest")


def leave(window) -> None:
    """Closes a window without being asked whether to save."""
    window.session.dirty = False
    window.close()
