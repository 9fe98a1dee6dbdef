"""From process start to the first painted window, against a bare Qt window of the same size."""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time

from benchmarks.measure import Figure

BARE = """
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QApplication, QMainWindow
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, lambda: (print("painted", flush=True), app.quit()))
app = QApplication([])
window = Window()
window.resize(1280, 800)
window.show()
app.exec()
"""
OURS = """
import gc, sys, tempfile
gc.disable()  # as the command line does until the window is up
from theoros.engine.links import Links
links = Links()
from pathlib import Path
from PySide6.QtCore import QSettings
from theoros.desk.application import make_application, make_window
app = make_application()
where = Path(tempfile.mkdtemp())
settings = QSettings(str(where / "s.ini"), QSettings.Format.IniFormat)
window = make_window(settings, where / "j", links)
window.session.open_demo()
window.start()
window.show()
window.first_painted.connect(lambda: (print("painted", flush=True), app.quit()))
app.exec()
links.end()
"""
TIMES = 9


def figures() -> list[Figure]:
    bare: list[float] = []
    ours: list[float] = []
    for _ in range(TIMES + 1):  # in turns, so that noise meets both
        bare.append(_seconds(BARE))
        ours.append(_seconds(OURS))
    ratio = statistics.median(ours[1:]) / statistics.median(bare[1:])
    return [Figure("start to first paint with the demo / bare window", ratio, 2.5, "×")]


def _seconds(code: str) -> float:
    # as on an ordinary machine, where modules are compiled once and kept
    env = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    begun = time.perf_counter()
    process = subprocess.Popen([sys.executable, "-c", code], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, env=env)
    assert process.stdout is not None
    process.stdout.readline()
    taken = time.perf_counter() - begun
    process.wait()
    return taken
