"""Takes the pictures in docs/screenshots: the main views of the demo, in the real window."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np
import xlsxwriter
from PySide6.QtCore import QPoint, QSettings
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication

from theoros.answer.typed_number import TypedNumber
from theoros.desk.application import make_application, make_window
from theoros.desk.window.guide_dialog import GuideDialog
from theoros.desk.window.import_dialog import ImportDialog
from theoros.table.kinds import Kind
from theoros.verbs.core.registry import make

HERE = Path(__file__).resolve().parent.parent / "docs/screenshots"
MESSY = [
    ["Spring picking, north slope"],
    [],
    ["plot", "leaf mass", "leaf length", "tea", "picked"],
    ["", "g", "mm", "", ""],
    ["a", "12,5", 60, "Amber", "3/4/2026"],
    ["b", "n/a", 62.5, "Mist", "4/4/2026"],
    ["c", "14", "n/a", "Amber", "5/4/2026"],
    ["d", 15.25, 70, "Mist", "6/4/2026"],
    ["e", "16,75", 71, "Amber", "7/4/2026"],
    ["f", "lost", 71, "Amber", "8/4/2026"],
    ["g", "13,5", 66, "Mist", "9/4/2026"],
]
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
        quiet = quiet + 1 if window.idle else 0


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
window.session.select("bushes", np.zeros(0, dtype=np.int64))
for name, verb, slots in (
    ("probability-discrete", "probability", {
        "situation": {"kind": "binomial", "n": 12, "p": 0.85}, "counts": "sound seals",
        "each": "crate", "chosen": 3,
        "parts": ["exactly 11", "no more than 8", "more than 8", "from 9 to 11"]}),
    ("probability-tree", "probability", {
        "each": "leaf", "chosen": 1,
        "situation": {"kind": "tree", "first": "mite, no mite", "second": "spotted, clean",
                      "chances": [0.02, 0.9, 0.15]},
        "parts": ["spotted", "mite given spotted", "mite and not spotted"]}),
    ("estimate", "estimate", {
        "table": "bushes", "data": {"kind": "one column", "what": "leaf mass"}}),
):  # fmt: skip
    window.asking.add_entry(make(verb, **slots))
    shoot(name)
    window.session.undo()
for name, verb, slots, down in (
    ("simulate", "simulate", {
        "model": {"kind": "share", "case": "jar", "success": "leaks",
                  "p": TypedNumber("1/8"), "n": 25},
        "ask": "at most", "value": 1.0, "each": "crate", "replicates": 10_000, "opened": 412}, 0.0),
    ("model", "model", {
        "table": "bushes", "what": "leaf mass", "against": "leaf length", "read": 72.0}, 0.0),
    ("model-curves", "model", {
        "table": "ovens", "what": "moisture left", "against": "temperature",
        "residuals": "along"}, 0.65),
    ("model-logistic", "model", {
        "table": "bushes", "what": "cultivar", "level": "Jade", "against": "leaf length",
        "read": 70.0, "cut": 0.4}, 0.0),
    ("forecast", "forecast", {
        "table": "visits", "what": "visitors", "steps": 12, "holdout": 12, "read": 20605.0}, 0.0),
    ("forecast-parts", "forecast", {
        "table": "visits", "what": "visitors", "holdout": 0, "decomposition": "local regression",
        "shown": ("trend", "season", "remainder", "cycles")}, 0.0),
    ("forecast-ways", "forecast", {
        "table": "visits", "what": "visitors", "steps": 12, "holdout": 12}, 1.0),
):  # fmt: skip
    window.asking.add_entry(make(verb, **slots))
    settle()
    page = window.entry_page.scroller.verticalScrollBar()
    page.setValue(round(page.maximum() * down))
    shoot(name)
    window.session.undo()
window.show_column("trays", "moisture loss")
settle()
window.asking.guide("test")
dialog = window.findChild(GuideDialog)
next(b for b in dialog.groups["groups"].buttons() if b.text() == "two groups").click()
dialog.move(window.mapToGlobal(QPoint(300, 120)))
shoot("guide", dialog)
dialog.reject()
window.session.select("bushes", np.zeros(0, dtype=np.int64))
window.show_target(("report", ""))
shoot("report")
window.show_target(("table", "trays"))
path = folder / "picking.xlsx"
book = xlsxwriter.Workbook(str(path))
sheet = book.add_worksheet("north")
for row, line in enumerate(MESSY):
    sheet.write_row(row, 0, line)
book.close()
window.files.open_table(path)
settle()
dialog = window.findChild(ImportDialog)
dialog.move(window.mapToGlobal(QPoint(150, 110)))
dialog._choose_kind(1, Kind.NUMBER)
shoot("open-table", dialog)
dialog.reject()
window.show_target(("table", "bushes"))
window.theme.set_mode("dark")
window.asking.add_entry(
    make(
        "estimate",
        parameter="proportion",
        method="percentile of shares",
        replicates=1000,
        data={"kind": "typed share", "success": "Jade", "cases": "guests", "groups": [{"x": 33, "n": 60}]},
    )
)
shoot("estimate-resampling-dark")
window.session.dirty = False
window.close()
QApplication.processEvents()
