"""What benchmarks share: a figure with its limit, medians, and a quiet window."""

from __future__ import annotations

import math
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from pathlib import Path

from benchmarks.yardstick import slowness


@dataclass(frozen=True)
class Figure:
    """A measured value with the limit it is held to; less is better.

    Milliseconds are judged after they are divided by how slow the machine was at the time. A
    figure without a limit is told, not judged.
    """

    name: str
    value: float
    limit: float = math.inf
    unit: str = ""
    slowness: float = 1.0
    """How much slower than a quiet machine the yardstick went, before and after."""

    @property
    def corrected(self) -> float:
        return self.value / self.slowness if self.unit == "ms" else self.value

    @property
    def ok(self) -> bool:
        return self.corrected <= self.limit

    def line(self) -> str:
        judged = "" if math.isinf(self.limit) else "ok" if self.ok else "short"
        limit = "" if math.isinf(self.limit) else f"{self.limit:g}{self.unit}"
        slow = f"{self.slowness:.2f}" if self.unit == "ms" else ""
        value, corrected = (f"{v:.2f}{self.unit}" for v in (self.value, self.corrected))
        return f"{self.name:<60} {value:>10} {slow:>6} {corrected:>10} {limit:>8}  {judged}"


HEAD = f"{'':<60} {'measured':>10} {'slow':>6} {'corrected':>10} {'limit':>8}"


def judged(measure: Callable[[], list[Figure]]) -> list[Figure]:
    """The figures of a measurement, with how slow the machine was right before and after it."""
    before = slowness()
    made = measure()
    level = math.sqrt(before * slowness())
    return [replace(figure, slowness=level) for figure in made]


@contextmanager
def busy_core() -> Iterator[None]:
    """Something else keeps a core busy, as on a machine that is at work."""
    other = subprocess.Popen([sys.executable, "-c", "while True: pass"])
    try:
        yield
    finally:
        other.kill()
        other.wait()


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
    """A real window with settings and journals in a temporary folder, and engines of its own."""
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


def until_painted(pages, change) -> float:
    """Seconds from a change until every one of these pages has painted its new answer."""
    from PySide6.QtCore import QEventLoop, QTimer

    shown, painted, loop = set(), set(), QEventLoop()

    def watch(page):
        def answered(_: object) -> None:
            shown.add(page)

        def was_painted() -> None:
            if page in shown:
                painted.add(page)
                if len(painted) == len(pages):
                    ended.append(time.perf_counter())
                    loop.quit()

        page.answered.connect(answered)
        page.painted.connect(was_painted)
        return lambda: (page.answered.disconnect(answered), page.painted.disconnect(was_painted))

    ended: list[float] = []
    unwatch = [watch(page) for page in pages]
    late = QTimer(singleShot=True)
    late.timeout.connect(loop.quit)
    late.start(30_000)
    begun: list[float] = []

    def begin() -> None:
        begun.append(time.perf_counter())
        change()

    QTimer.singleShot(0, begin)
    if not ended:
        loop.exec()  # the event loop as on a desktop, asleep between events
    late.stop()
    for one in unwatch:
        one()
    if not ended:
        raise TimeoutError("no picture after a change")
    return ended[0] - begun[0]


def leave(window) -> None:
    """Closes a window without being asked whether to save."""
    window.session.dirty = False
    window.close()
