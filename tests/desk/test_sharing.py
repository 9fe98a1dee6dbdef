"""One study in two windows, or changed by another program; work that no journal takes."""

from __future__ import annotations

import os
from collections.abc import Iterator
from pathlib import Path

import polars as pl
import pytest
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QLabel, QMessageBox, QWidget
from soak.traps import TRAPS

from tests.desk.conftest import WAIT_MS
from theoros.desk.application import make_window
from theoros.desk.window.import_dialog import ImportDialog
from theoros.desk.window.study_files import OPENING, StudyFiles
from theoros.desk.window.window import Window
from theoros.study.atomic import PART
from theoros.study.edits import AddEntry, AddTable, SetTitle
from theoros.study.entries import Entry, Study
from theoros.study.file import open_study, save_study
from theoros.table.kinds import Kind
from theoros.table.table import Column, Table
from theoros.verbs.core.registry import make


@pytest.fixture
def other(qtbot, tmp_path: Path, links, empty: Window) -> Iterator[Window]:
    """A second window of the same user, as another start of the program would be."""
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    made = make_window(settings, tmp_path / "journals", links)
    qtbot.addWidget(made)
    made.start()
    made.show()
    qtbot.waitExposed(made)
    yield made
    made.session.close(discard=True)


@pytest.fixture
def file(tmp_path: Path, demo: Study) -> Path:
    path = tmp_path / "tea.theoros"
    save_study(demo, path)
    return path


def offers(window: Window) -> list[str]:
    return [button.text() for button in window.banner._buttons]


def choose(window: Window, text: str) -> None:
    window.banner._buttons[offers(window).index(text)].click()


def opened(window: Window, path: Path, settle) -> None:  # type: ignore[no-untyped-def]
    window.files.open_any(path)
    settle(window)


def test_a_study_open_in_another_window_is_asked_about(empty: Window, other: Window, file: Path, settle) -> None:
    opened(empty, file, settle)
    assert empty.session.path == file
    opened(other, file, settle)
    assert other.session.path is None
    assert "tea.theoros is open in another window" in other.banner.label.text()
    choose(other, "Open a copy")
    settle(other)
    assert other.session.study == empty.session.study
    assert other.session.path is None  # saving asks where
    other.session.do(SetTitle("a copy"))
    assert open_study(file).title != "a copy"
    opened(other, file, settle)
    choose(other, "Open it here, too")
    settle(other)
    assert other.session.path == file


def test_a_file_changed_elsewhere_is_not_overwritten_unasked(empty: Window, other: Window, file: Path, settle) -> None:
    opened(empty, file, settle)
    opened(other, file, settle)
    choose(other, "Open it here, too")
    settle(other)
    empty.session.do(SetTitle("of the first"))
    empty.files.save()
    settle(empty)
    other.session.do(SetTitle("of the second"))
    other.files.save()
    settle(other)
    assert open_study(file).title == "of the first"
    assert "was changed by another program" in other.banner.label.text()
    assert other.session.dirty
    choose(other, "Save as tea 2.theoros")
    settle(other)
    assert open_study(file).title == "of the first"
    assert open_study(file.with_name("tea 2.theoros")).title == "of the second"
    assert other.session.path == file.with_name("tea 2.theoros")
    assert not other.session.dirty
    # and the first window may be told to overwrite what another program wrote
    save_study(Study("of a program"), file)
    empty.session.do(SetTitle("of the first again"))
    empty.files.save()
    settle(empty)
    choose(empty, "Overwrite")
    settle(empty)
    assert open_study(file).title == "of the first again"
    empty.session.do(SetTitle("once more"))
    empty.files.save()  # which is known now, and not asked about
    settle(empty)
    assert open_study(file).title == "once more"


def test_a_file_that_was_only_touched_is_saved_without_a_question(empty: Window, file: Path, settle) -> None:
    opened(empty, file, settle)
    os.utime(file, (1, 1))
    empty.session.do(SetTitle("new"))
    empty.files.save()
    settle(empty)
    assert open_study(file).title == "new"


@pytest.mark.parametrize(("answer", "left"), [("Save as", True), ("Overwrite", True), ("Stay", False)])
def test_leaving_asks_about_a_file_that_was_changed(
    empty: Window, file: Path, settle, monkeypatch, answer: str, left: bool
) -> None:
    opened(empty, file, settle)
    empty.session.do(SetTitle("mine"))
    save_study(Study("theirs"), file)
    asked: list[str] = []

    def choose_in(box: QMessageBox) -> int:
        asked.append(box.text())
        (button,) = [b for b in box.buttons() if b.text().startswith(answer)]
        button.click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", choose_in)
    assert empty.files._save_now() is left
    assert "was changed by another program" in asked[0]
    assert open_study(file).title == ("mine" if answer == "Overwrite" else "theirs")
    beside = file.with_name("tea 2.theoros")
    assert beside.exists() is (answer == "Save as")


def test_a_recovered_study_knows_its_file(empty: Window, file: Path, settle) -> None:
    opened(empty, file, settle)
    empty.session.do(SetTitle("recovered"))
    empty.session.close(discard=False)
    (left,) = empty.session.unsaved()
    empty.files.recover(left)
    settle(empty)
    empty.files.save()
    settle(empty)
    assert open_study(file).title == "recovered"  # without a question: the file is as it was


def test_saving_over_a_link_keeps_the_link(empty: Window, file: Path, tmp_path: Path, settle) -> None:
    link = tmp_path / "desk" / "link.theoros"
    link.parent.mkdir()
    link.symlink_to(file)
    opened(empty, link, settle)
    empty.session.do(SetTitle("through the link"))
    empty.files.save()
    settle(empty)
    assert link.is_symlink()
    assert open_study(file).title == "through the link"


def test_what_a_kill_left_half_written_is_cleared_by_the_next_save(empty: Window, file: Path, settle) -> None:
    left = file.with_name(f"{PART}abc.theoros")
    left.write_bytes(b"half")
    opened(empty, file, settle)
    empty.session.do(SetTitle("new"))
    empty.files.save()
    settle(empty)
    assert not left.exists()


def test_work_that_no_journal_takes_is_said_once_and_stands(qtbot, tmp_path: Path, links, monkeypatch) -> None:
    """A folder that cannot be written; later it can, and everything is in the journal."""
    settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
    monkeypatch.setattr(StudyFiles, "may_leave", lambda self: True)
    (tmp_path / "in the way").write_text("")
    made = make_window(settings, tmp_path / "in the way" / "journals", links)
    qtbot.addWidget(made)
    made.start()
    made.show()
    assert "No journal can be kept" in made.banner.label.text()
    made.banner.hide()
    made.session.do(SetTitle("one"))
    made.session.do(SetTitle("two"))
    assert not made.banner.isVisible()
    assert "kept in memory only" in made.corner_label.text()
    assert made.corner_label.property("tone") == "bad"
    made.session.journals = tmp_path / "journals"
    made.session._catch_up()
    assert "written to the journal again" in made.banner.label.text()
    assert "kept in the journal" in made.corner_label.text()
    made.session.close(discard=False)
    (left,) = made.session.unsaved()
    assert left.recover().study.title == "two"


def test_a_busy_reader_holds_up_no_saving_and_can_be_stopped(window: Window, tmp_path: Path, settle, qtbot) -> None:
    """A file that its reader is busy with holds up nothing."""
    before = window.session.study
    slow = tmp_path / "slow.theoros"
    TRAPS["long.theoros"](slow)
    with open(slow, "ab") as file:  # large enough to be tried, and many rows
        file.write(os.urandom(3_000_000))
    window.files.open_any(slow)
    qtbot.waitUntil(lambda: window.reader.wanted == (OPENING,))
    window.files.save_to(tmp_path / "s.theoros")
    qtbot.waitUntil(lambda: window.session.path is not None, timeout=WAIT_MS)
    assert open_study(tmp_path / "s.theoros") == before
    qtbot.waitUntil(lambda: window.banner.isVisible(), timeout=WAIT_MS)
    if offers(window) == ["Stop"]:
        choose(window, "Stop")
    settle(window)
    assert window.reader.idle
    assert window.session.study == before


def test_a_slow_table_is_seen_to_be_read_and_cancel_ends_it(empty: Window, tmp_path: Path, qtbot) -> None:
    TRAPS["spaced.csv"](tmp_path / "slow.csv")
    (tmp_path / "small.csv").write_text("x\n1\n2\n")
    empty.files.open_table(tmp_path / "slow.csv")
    dialog = empty.findChildren(ImportDialog)[-1]
    qtbot.waitUntil(lambda: dialog.busy.isVisible() or dialog.opened is not None, timeout=WAIT_MS)
    if dialog.opened is None:
        assert "Cancel ends it at once" in dialog.summary.text()
    dialog.reject()
    assert empty.reader.idle
    empty.files.open_table(tmp_path / "small.csv")
    dialog = empty.findChildren(ImportDialog)[-1]
    qtbot.waitUntil(lambda: dialog.opened is not None, timeout=WAIT_MS)
    assert dialog.opened.table.rows == 2
    assert not dialog.busy.isVisible()
    dialog.open_button.click()
    qtbot.waitUntil(lambda: "small" in empty.session.study.by_name, timeout=WAIT_MS)
    empty.files.open_table(tmp_path / "small.csv")  # and a second, after one that was opened
    dialog = empty.findChildren(ImportDialog)[-1]
    qtbot.waitUntil(lambda: dialog.opened is not None, timeout=WAIT_MS)
    dialog.open_button.click()
    qtbot.waitUntil(lambda: "small 2" in empty.session.study.by_name, timeout=WAIT_MS)


def test_names_are_never_taken_for_markup(empty: Window, settle) -> None:
    """Whatever a name looks like, every label shows it as it is."""
    name = "<img src='x'> & <b>bold</b>"
    columns = (Column(name, Kind.CATEGORY, meaning=name), Column("x", unit="<i>"))
    frame = pl.DataFrame({name: ["<s>a</s>", "b"] * 4, "x": [1.0, 2, 3, 5] * 2})
    empty.session.do(SetTitle(name))
    empty.session.do(AddTable(Table(name, columns, frame, "<u>tray</u>")))
    made = make("describe", table=name, what="x", by=name)
    empty.session.do(AddEntry(Entry("e1", made, name, name)))
    for target in (("table", name), ("entry", "e1"), ("report", "")):
        empty.show_target(target)
        settle(empty)
        labels = [one for one in empty.findChildren(QLabel) if one.text()]
        assert labels
        for label in labels:
            assert label.textFormat() != label.textFormat().AutoText, label.text()
            assert "<img" not in label.text() or label.textFormat() == label.textFormat().PlainText
        for widget in empty.findChildren(QWidget):
            if "<" in widget.toolTip():
                assert "<img" not in widget.toolTip(), widget
