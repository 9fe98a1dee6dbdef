"""Takes the pictures in docs/screenshots: the main views of the demo, in the real window."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np
from PySide6.QtCore import QPoint, QSettings
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication

from theoros.desk.application import make_application, make_window
from theoros.desk.import_dialog import ImportDialog
from theoros.desk.pickers import PickList

HERE = Path(__file__).resolve().parent.parent / "docs/screenshots"
CSV = """shed;withering;loss (%);picked on;remark
north;slow;35,5;2026-04-30;fine day
north;quick;31,2;2026-05-01;wind
south;slow;n/a;2026-05-02;
south;quick;32,75;2026-05-04;"rain; late"
north;slow;36,1;2026-05-05;fine day
"""

app = make_application()
folder = Path(tempfile.mkdtemp(prefix="theoros-shots-"))
settings = QSettings(str(folder / "settings.ini"), QSettings.Format.IniFormat)
settings.setValue("looks/mode", "light")
settings.setValue("looks/motion", "off")
window = make_window(settings, folder / "journals")
window.session.open_demo()
window.start()
window.show()


def settle() -> None:
    """Waits until nothing is being worked out and all is drawn."""
    end, quiet = time.monotonic() + 30, 0
    while time.monotonic() < end and quiet < 15:
        app.processEvents()
        time.sleep(0.01)
        quiet = quiet + 1 if window.answers.idle and window.side_work.idle else 0


def shoot(name: str, above=None) -> None:
    """Writes the window, with a popup or dialog drawn above it where one is open."""
    settle()
    picture = window.grab()
    if above is not None:
        painter = QPainter(picture)
        painter.drawPixmap(window.mapFromGlobal(above.mapToGlobal(QPoint(0, 0))), above.grab())
        painter.end()
    HERE.mkdir(parents=True, exist_ok=True)
    picture.save(str(HERE / f"{name}.png"))


settle()
window.show_column("bushes", "leaf mass")
shoot("table")
window.show_target(("entry", "e1"))
shoot("test")
window.entry_page.bar.open_slot("way")
popup = next(p for p in window.findChildren(PickList) if p.isVisible())
shoot("slot", popup)
popup.close()
window.show_target(("entry", "e2"))
shoot("plot")
window.show_target(("entry", "e3"))
shoot("describe")
window.show_target(("entry", "e5"))
settle()
window.entry_page.toggle_rows()
window.session.select("bushes", np.array([3, 4, 10, 36, 89]))
shoot("scatter-and-rows")
window.entry_page.toggle_rows()
window.show_target(("report", ""))
shoot("report")
window.show_target(("table", "trays"))
path = folder / "sheds.csv"
path.write_text(CSV, encoding="utf-8")
window.files.open_table(path)
settle()
dialog = window.findChild(ImportDialog)
dialog.move(window.mapToGlobal(QPoint(210, 110)))
shoot("open-table", dialog)
dialog.reject()
window.theme.set_mode("dark")
window.show_target(("entry", "e4"))
window.entry_page.set_slot("way", "shuffled signs")
shoot("simulation-dark")
window.session.dirty = False
window.close()
QApplication.processEvents()
