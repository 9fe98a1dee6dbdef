"""The study on the desk: files, journal, report, clipboard, finding, looks."""

from __future__ import annotations

import gc
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import numpy as np
import polars as pl
import pytest
from PySide6.QtCore import QMimeData, Qt
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication, QFileDialog, QLabel, QWidget

from theoros.desk.application import make_window
from theoros.desk.entry.entry_page import EntryPage
from theoros.desk.parts.picture_view import PictureView
from theoros.desk.report.report_page import TextEditor
from theoros.desk.window.help_topics import topics
from theoros.desk.window.import_dialog import ImportDialog
from theoros.desk.window.study_files import OPENING, StudyFiles
from theoros.desk.window.window import Window
from theoros.study.edits import AddTable, SetAside, SetCells, SetTitle
from theoros.study.entries import Entry, EntryBlock, TextBlock
from theoros.study.file import open_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import make

KEY = Qt.Key


def test_the_whole_way(empty: Window, tmp_path: Path, settle, qtbot, monkeypatch) -> None:
    """Open a table, plot, describe, test, report, export, save, close, open: all is there."""
    window = empty
    path = tmp_path / "sheds.csv"
    rows = "".join(f"{g},{v}\n" for g, v in zip("nnnnnsssss", range(30, 40), strict=True))
    path.write_text("shed,loss (%)\n" + rows.replace("n,", "north,").replace("s,", "south,"))
    window.files.open_any(path)
    settle(window)
    window.findChild(ImportDialog).open_button.click()
    settle(window)
    sheet = window.table_page.sheet
    sheet.selectColumn(1)
    mode = sheet.selectionModel().SelectionFlag
    sheet.selectionModel().select(sheet.sheet_model.index(0, 0), mode.Select | mode.Columns)
    window.asking.ask("plot")
    settle(window)
    window.asking.ask("describe")
    settle(window)
    window.asking.ask("test")
    settle(window)
    assert window.entry_page.answer.problem is None
    assert "north rows is different from that of south rows" in str(window.entry_page.answer.reading)
    window.asking.place()
    window.report_page.add_text()
    window.show_target(("report", ""))
    editor = window.report_page.findChildren(TextEditor)[-1]
    editor.setPlainText("What was found\n\nThe south sheds lose more.")
    window.outgoing.export_report(tmp_path / "report.html")
    settle(window)
    page = (tmp_path / "report.html").read_text()
    assert "The south sheds lose more." in page
    assert "There is enough evidence" in page
    target = tmp_path / "work"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(target), ""))
    window.files.save()
    settle(window)
    assert not window.session.dirty
    saved = window.session.study
    window.files.new_study()
    assert window.session.study.tables == ()
    window.files.open_any(tmp_path / "work.theoros")
    settle(window)
    assert window.session.study == saved
    assert window.session.recent()[0].name == "work.theoros"
    assert [block.__class__ for block in saved.report] == [EntryBlock, TextBlock]


def test_saving_where_it_cannot_be(window: Window, settle) -> None:
    window.session.do(SetTitle("x"))
    window.files.save_to(Path("/proc/no/such/place.theoros"))
    settle(window)
    assert "could not be written there" in window.banner.label.text()
    assert window.session.dirty


def test_opening_what_is_no_study(window: Window, tmp_path: Path, settle) -> None:
    before = window.session.study
    path = tmp_path / "broken.theoros"
    path.write_bytes(b"PK\x03\x04 and then nothing")
    window.files.open_any(path)
    settle(window)
    assert "damaged or was not fully copied" in window.banner.label.text()
    assert window.session.study is before


def test_changes_made_while_saving_stay_unsaved(window: Window, tmp_path: Path, settle) -> None:
    window.files.save_to(tmp_path / "s.theoros")
    window.session.do(SetTitle("later"))
    settle(window)
    assert window.session.dirty
    assert open_study(tmp_path / "s.theoros").title == "Orrin Ridge tea garden"


CRASH = """
import sys
from pathlib import Path
from PySide6.QtCore import QSettings
from theoros.desk.application import make_application, make_window
from theoros.study.edits import SetCells, SetTitle
app = make_application()
where = Path(sys.argv[1])
window = make_window(QSettings(str(where / "s.ini"), QSettings.Format.IniFormat), where / "journals")
window.session.open_demo()
window.start()
window.show()
window.session.do(SetTitle("Before the crash"))
window.session.do(SetCells("trays", 0, 1, (("99.5",),)))
print("ready", flush=True)
app.exec()
"""


def test_work_survives_kill_nine_and_is_offered(tmp_path: Path, qtbot, settle, empty: Window) -> None:
    (tmp_path / "crash").mkdir()
    process = subprocess.Popen(
        [sys.executable, "-c", CRASH, str(tmp_path / "crash")],
        stdout=subprocess.PIPE,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    assert process.stdout is not None
    assert process.stdout.readline().strip() == b"ready"
    process.send_signal(signal.SIGKILL)
    process.wait()
    made = make_window(empty.session.settings, tmp_path / "crash" / "journals")
    qtbot.addWidget(made)
    made.start()
    made.show()
    assert "was not saved: 2 changes." in made.banner.label.text()
    made.banner._buttons[0].click()
    settle(made)
    assert made.session.study.title == "Before the crash"
    assert made.session.study.table("trays").frame["moisture loss"][0] == 99.5
    assert made.session.dirty
    # safe again at once: a second crash would find it in the new journal
    assert len(made.session.unsaved()) == 0
    made.session.close(discard=False)
    again = made.session.unsaved()
    assert again[0].recover().study == made.session.study


def test_throwing_unsaved_work_away(tmp_path: Path, qtbot, empty: Window) -> None:
    empty.session.do(SetTitle("x"))
    empty.session.close(discard=False)
    made = make_window(empty.session.settings, empty.session.journals)
    qtbot.addWidget(made)
    made.start()
    made.show()
    made.banner._buttons[1].click()
    assert made.session.unsaved() == []
    assert not made.banner.isVisible()


def test_the_report_follows_and_can_be_reordered(window: Window, settle, qtbot) -> None:
    window.show_target(("report", ""))
    settle(window)
    page = window.report_page
    assert page.answers["e1"].reading.headline.endswith("Reject H_{0}.")
    window.session.do(SetCells("trays", 0, 1, (("80",),)))
    settle(window)
    cells = page.answers["e1"].figures[1].rows[0].cells
    # slow: 12 values with mean 38.0583; the first of them, 35.6, became 80
    assert cells[2].value == pytest.approx(38.05833333 + (80 - 35.6) / 12)
    tools = [b for b in page.findChildren(type(window.banner.close_button)) if b.isVisible()]
    down = next(b for b in tools if b.accessibleName() == "move text down")
    down.click()
    assert isinstance(window.session.study.report[1], TextBlock)
    window.session.undo()
    editor = page.findChildren(TextEditor)[0]
    editor.setFocus()
    qtbot.keyClicks(editor, "Draft. ")
    window.show_target(("entry", "e2"))  # leaving keeps what was written
    assert window.session.study.report[0].text.startswith("Draft. Withering")


def test_pictures_and_tables_go_to_the_clipboard(window: Window, settle) -> None:
    window.show_target(("entry", "e1"))
    settle(window)
    window.outgoing.copy_picture()
    data = QApplication.clipboard().mimeData()
    image = QImage(data.imageData())
    assert image.width() == 1800
    assert image.height() > 880  # the statement stands below, as the caption
    assert image.pixelColor(5, 870).name() == "#fffdf8"
    svg = bytes(data.data("image/svg+xml")).decode()
    assert "moisture loss (%)</text>" in svg
    assert "Test whether the median of moisture loss (%) for slow" in svg
    assert "<title>Dots and boxes of moisture loss" in svg
    window.actions_by_name["caption"].trigger()
    window.outgoing.copy_picture()
    data = QApplication.clipboard().mimeData()
    assert QImage(data.imageData()).height() == 880
    assert "Test whether" not in bytes(data.data("image/svg+xml")).decode()
    window.outgoing.copy_words()
    caption, description = QApplication.clipboard().text().split("\n\n")
    assert caption.startswith("Test whether the median")
    assert description.startswith("Dots and boxes of moisture loss (%). slow: 12 values")
    window.outgoing.copy_figures()
    data = QApplication.clipboard().mimeData()
    assert data.text().splitlines()[0] == "Method\tcompares\tstatistic\tp-value\tconditions"
    assert data.text().splitlines()[3].startswith("Rank sum\tmedians\tU = ")
    assert "<th" in data.html()


@pytest.mark.parametrize("suffix", [".png", ".svg", ".pdf", ".bmp"])
def test_saving_a_picture(window: Window, settle, tmp_path: Path, monkeypatch, suffix: str) -> None:
    window.show_target(("entry", "e2"))
    settle(window)
    path = tmp_path / f"plot{suffix}"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    window.outgoing.save_picture()
    if suffix == ".bmp":
        assert "can be saved as .png, .svg or .pdf" in window.banner.label.text()
        return
    start = {".png": b"\x89PNG", ".svg": b"<svg", ".pdf": b"%PDF"}[suffix]
    assert path.read_bytes().startswith(start)
    assert path.stat().st_size > 2000
    if suffix == ".png":
        image = QImage(str(path))
        assert image.text("Description").startswith("Stacked dots of pluck mass. netted: 91 values")
    if suffix == ".svg":
        assert "Plot pluck mass (g) for each netting" in path.read_text()


def test_finding_anything_by_typing(window: Window, settle, qtbot) -> None:
    box = window.find_box
    wanted = {
        "rank sum": lambda: window.entry_page.entry.statement.method == "rank sum",
        "visitors": lambda: window.shown == ("table", "visits"),
        "Leaf length by": lambda: window.shown == ("entry", "e3"),
        "Describe": lambda: window.entry_page.entry.statement.verb == "describe",
        "show the report": lambda: window.shown == ("report", ""),
    }
    for text, reached in wanted.items():
        window.show_target(("table", "trays"))
        box.setFocus()
        qtbot.keyClicks(box, text)
        assert box.popup.isVisible()
        qtbot.keyClick(box, KEY.Key_Return)
        settle(window)
        assert reached(), text
        assert not box.popup.isVisible()
    box.setFocus()
    qtbot.keyClicks(box, "zzz")
    assert box.list.item(0).text() == "nothing found"
    qtbot.keyClick(box, KEY.Key_Return)
    qtbot.keyClick(box, KEY.Key_Escape)
    assert box.text() == ""


def test_the_left_list_by_keyboard(window: Window, settle, qtbot) -> None:
    side = window.side
    side.setFocus()
    for _ in range(3):
        qtbot.keyClick(side, KEY.Key_Down)
    settle(window)
    assert window.shown == side.lines.target(side.currentIndex())
    window.show_target(("entry", "e3"))
    qtbot.keyClick(side, KEY.Key_Delete)
    assert all(entry.id != "e3" for entry in window.session.study.entries)
    window.session.undo()
    assert any(entry.id == "e3" for entry in window.session.study.entries)


def test_every_action_is_in_a_menu_and_fits_what_is_shown(window: Window, settle) -> None:
    for name, action in window.actions_by_name.items():
        assert action.text(), name
    window.show_target(("table", "bushes"))
    assert window.actions_by_name["delete rows"].isEnabled()
    assert not window.actions_by_name["place"].isEnabled()
    window.show_target(("entry", "e1"))
    assert window.actions_by_name["place"].isEnabled()
    assert not window.actions_by_name["delete rows"].isEnabled()
    shortcuts = [a.shortcut().toString() for a in window.actions_by_name.values() if a.shortcut()]
    shortcuts = [text for text in shortcuts if text]
    assert len(shortcuts) == len(set(shortcuts))


@pytest.mark.parametrize("scale", ["small", "normal", "larger"])
@pytest.mark.parametrize("mode", ["light", "dark"])
def test_looks(window: Window, settle, qtbot, mode: str, scale: str) -> None:
    window.show_target(("entry", "e1"))
    window.theme.set_mode(mode)
    window.theme.set_scale(scale)
    settle(window)
    image = window.grab().toImage()
    page = image.pixelColor(230, 700)
    assert (page.lightness() < 90) == (mode == "dark")
    # no slot is cut short, whatever the size
    for button in window.entry_page.bar.slots_shown():
        assert button.width() >= button.sizeHint().width() or button.width() > 600
        assert button.geometry().right() <= window.entry_page.bar.width()
    # nor any text of the Reading, also where two entries take room from it
    for key in ("e3", "e2"):
        window.put_beside(key)
        settle(window)
        qtbot.waitUntil(lambda: not cut(window.reading), timeout=2000)


def cut(pane: QWidget) -> list[str]:
    """The texts in a pane that have fewer lines than they need."""
    labels = [label for label in pane.findChildren(QLabel) if label.wordWrap()]
    assert len(labels) > 4
    return [one.text() for one in labels if one.height() < one.heightForWidth(one.width())]


def test_help_can_be_read(window: Window) -> None:
    for topic, text in topics().items():
        assert text.endswith(".")
        assert not topic.endswith(".")


def test_the_interface_is_never_held_up(window: Window, settle, qtbot) -> None:
    """A generous bound: the heartbeat never stops for a second while 50 000 rows are tested."""
    rng = np.random.default_rng(0)
    n = 50_000
    frame = pl.DataFrame({"v": rng.normal(size=n), "g": rng.choice(["a", "b"], n)})
    big = Table("big", (Column("v"), Column("g", Kind.CATEGORY)), frame)
    window.session.do(AddTable(big))
    beats: list[float] = []
    window.asking.add_entry(
        make("test", table="big", what="v", by="g", first="a", second="b", method="shuffled labels", replicates=300)
    )
    end = time.monotonic() + 20
    while time.monotonic() < end and not window.answers.idle:
        beats.append(time.monotonic())
        QApplication.processEvents()
        time.sleep(0.001)
    assert window.answers.idle
    assert max(np.diff(beats), default=0) < 1.0


def test_calls_from_qt_do_not_use_up_none(window: Window, settle) -> None:
    """A faulty binding gives up a reference to None at each call, until the interpreter stops."""
    window.show_target(("entry", "e2"))
    settle(window)
    picture: PictureView = window.entry_page.picture
    before = sys.getrefcount(None)
    for _ in range(300):
        picture.repaint()
    assert sys.getrefcount(None) > before - 100


def test_an_empty_study_shows_how_to_begin(empty: Window, settle, qtbot) -> None:
    assert empty.shown == ("start", "")
    assert empty.status.texts == ("no table yet",)
    assert not empty.panes.isVisible()
    data = QMimeData()
    data.setText("shed\tloss (%)\nnorth\t35,5\nsouth\t31,2\n")
    QApplication.clipboard().setMimeData(data)
    empty.start_page.setFocus()
    empty.start_page.paste()
    settle(empty)
    assert empty.shown == ("table", "table")
    assert empty.session.study.table("table").column("loss").unit == "%"
    empty.session.undo()
    empty.session.undo()
    settle(empty)
    assert empty.shown == ("start", "")
    qtbot.mouseClick(empty.start_page.new_button, Qt.MouseButton.LeftButton)
    assert empty.shown == ("table", "table")
    assert empty.panes.isVisible()


def test_work_is_got_back_even_if_its_file_is_gone(empty: Window, tmp_path: Path, settle) -> None:
    path = tmp_path / "s.theoros"
    empty.session.open_demo()
    empty.session.save(path)
    empty.session.open(path)
    empty.session.do(SetTitle("Changed"))
    empty.session.close(discard=False)
    path.unlink()
    (left,) = empty.session.unsaved()
    empty.session.recover(left)
    settle(empty)
    assert empty.session.study.title == "Changed"
    assert empty.session.dirty
    assert empty.session.path == path
    assert not empty.banner.isVisible()
    empty.session.save(path)
    assert open_study(path).title == "Changed"


def test_the_collector_is_at_work_once_the_window_is_up(empty: Window, qtbot) -> None:
    qtbot.waitUntil(gc.isenabled)


def test_what_could_not_be_got_back_is_said_and_kept(empty: Window, settle) -> None:
    empty.session.do(SetTitle("one"))
    empty.session.close(discard=False)
    (left,) = empty.session.unsaved()
    file = left.folder / "edits.jsonl"
    file.write_bytes(file.read_bytes() + b'{"edit": "from the future"}\n')
    empty.files.recover(left)
    settle(empty)
    assert empty.session.study.title == "one"
    assert "Change 2 of 2 could not be read, so it is left out" in empty.banner.label.text()
    assert left.folder.exists()


def test_a_study_is_not_opened_over_changes_made_meanwhile(window: Window, tmp_path: Path, settle) -> None:
    window.session.save(tmp_path / "s.theoros")
    window.files.open_any(tmp_path / "s.theoros")
    window.session.do(SetTitle("typed meanwhile"))
    settle(window)
    assert window.session.study.title == "typed meanwhile"
    assert "was not opened" in window.banner.label.text()


def test_what_was_opened_is_not_said_to_be_opening(window: Window, tmp_path: Path, settle) -> None:
    """However late the word of that comes, and though the reader still tidies up."""
    window.session.save(tmp_path / "s.theoros")
    window.files.open_any(tmp_path / "s.theoros")
    opening = window.reader.tag(OPENING)
    assert opening is not None
    window.files._tell_opening(OPENING, opening, "…")
    assert "Opening s.theoros" in window.banner.label.text()
    settle(window)
    assert window.banner.isHidden()
    window.reader.tag = lambda key: opening
    window.files._tell_opening(OPENING, opening, "…")
    assert window.banner.isHidden()


def test_newer_work_is_not_thrown_away_for_older(empty: Window, monkeypatch, settle) -> None:
    """Getting an earlier session back asks about what is open, and stays if it is told to."""
    empty.session.do(SetTitle("older"))
    empty.session.close(discard=False)
    (left,) = empty.session.unsaved()
    empty.session.new()
    empty.session.do(SetTitle("newer"))
    monkeypatch.setattr(StudyFiles, "may_leave", lambda self: False)
    empty.files.recover(left)
    settle(empty)
    assert empty.session.study.title == "newer"
    monkeypatch.setattr(StudyFiles, "may_leave", lambda self: True)
    empty.files.recover(left)
    settle(empty)
    assert empty.session.study.title == "older"
    empty.session.do(SetTitle("older still"))
    empty.session.close(discard=False)
    (again,) = empty.session.unsaved()
    assert again.recover().study.title == "older still"


def test_a_change_asks_anew_only_what_shows_it(window: Window, settle, monkeypatch) -> None:
    window.show_target(("entry", "e3"))  # about bushes
    settle(window)
    asked: list[str] = []
    name, show = Entry.name, EntryPage.show_entry
    monkeypatch.setattr(Entry, "name", lambda self, tables: asked.append(f"name {self.id}") or name(self, tables))
    monkeypatch.setattr(EntryPage, "show_entry", lambda self, key: asked.append(f"page {key}") or show(self, key))
    window.session.do(SetCells("trays", 0, 0, (("other",),)))
    settle(window)
    assert "page e3" not in asked
    assert {one for one in asked if one.startswith("name")} <= {"name e1"}  # the one about trays
    window.session.do(SetAside("bushes", (0,), True))
    settle(window)
    assert "page e3" in asked
    assert "name e4" not in asked  # about tasters
    asked.clear()
    window.session.undo()
    settle(window)
    assert "page e3" in asked
