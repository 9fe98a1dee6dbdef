"""A disk that is full at every place of a save, a journal, an export: nothing lost, said once.

On a small file system in memory, of which a page more is free each time.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from soak.edits_by_chance import ENTRY, TRAYS, some_edit
from soak.tally import Budget, Tally
from theoros.files.errors import ReadError
from theoros.files.formats import formats, write_table
from theoros.study.atomic import PART, write_atomically
from theoros.study.entries import Study, StudyError
from theoros.study.file import demo_study, open_study, save_study
from theoros.study.report_html import report_html
from theoros.verbs.core.answering import answer

SIZE_MB = 4
PAGE = 4096


def run(budget: Budget) -> Tally:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    tally = Tally("disk full at every write", "nothing lost, said once")
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder) / "small"
        home.mkdir()
        with _small_disk(home) as there:
            if not there:
                tally.notes.append("not tried: no file system in memory can be mounted here")
                return tally
            _through(home, budget, tally)
    return tally


@contextmanager
def _small_disk(home: Path) -> Iterator[bool]:
    mount = ["mount", "-t", "tmpfs", "-o", f"size={SIZE_MB}m", "tmpfs", str(home)]
    there = subprocess.run(mount, capture_output=True, check=False).returncode == 0
    try:
        yield there
    finally:
        if there:
            subprocess.run(["umount", "-l", str(home)], check=True)


def _through(home: Path, budget: Budget, tally: Tally) -> None:
    demo = demo_study()
    old, new = demo.with_(title="as it was"), demo.with_(title="as it is now")
    table = demo.tables[0]
    page = report_html(new, lambda entry: answer(entry.statement, new.by_name))
    writers: list[tuple[str, Callable[[Path], object], Callable[[Path], object]]] = [
        ("study.theoros", lambda path: save_study(old, path), lambda path: save_study(new, path)),
        (
            "report.html",
            lambda path: path.write_text("as it was"),
            lambda path: write_atomically(path, lambda at: at.write_text(page)),
        ),
    ]
    for one in formats():
        writers.append(
            (
                f"table{one.suffixes[0]}",
                lambda path: path.write_text("as it was"),
                lambda path: write_atomically(path, lambda at: write_table(table, at)),
            )
        )
    pages = 0
    for at in budget.rounds(tally):
        try:
            if at % 3 == 2:
                _journal(home, pages, budget, tally)
            else:
                name, before, after = writers[(at // 3) % len(writers)]
                _written(home, name, before, after, pages, tally)
        except Exception as problem:
            tally.fault(f"round {at} with {pages} pages free", problem)
        if at % (3 * len(writers)) == 0:
            pages = (pages + 1) % 60
    tally.notes.append("of 0 to 59 pages free")


def _fill(home: Path, pages: int) -> Path:
    """Takes all room but so many pages."""
    filler = home / "filler"
    free = os.statvfs(home).f_bavail
    with open(filler, "wb") as file:
        file.write(b"\0" * PAGE * max(0, free - pages))
    return filler


def _written(
    home: Path, name: str, before: Callable[[Path], object], after: Callable[[Path], object], pages: int, tally: Tally
) -> None:
    """A file is as before or as after, and what is said names it."""
    path = home / name
    before(path)
    was = path.read_bytes()
    filler = _fill(home, pages)
    try:
        after(path)
        whole = True
    except (StudyError, ReadError) as problem:
        whole = False
        if name not in str(problem) or not str(problem).endswith("."):
            tally.fail(f"{name}: no sentence: {problem}")
    finally:
        filler.unlink()
    if not whole and path.read_bytes() != was:
        tally.fail(f"{name}: neither as before nor written, with {pages} pages")
    if whole:
        after(home / f"again-{name}")
        if name.endswith(".theoros"):
            if open_study(path) != open_study(home / f"again-{name}"):
                tally.fail(f"{name}: said to be saved, and is not, with {pages} pages")
        elif not name.endswith((".xlsx", ".ods", ".zip")) and (  # which hold the time
            path.read_bytes() != (home / f"again-{name}").read_bytes()
        ):
            tally.fail(f"{name}: said to be written, and is not, with {pages} pages")
        (home / f"again-{name}").unlink()
    path.unlink()
    if list(home.glob(f"{PART}*")):
        tally.fail(f"{name}: a file half written is left")


def _journal(home: Path, pages: int, budget: Budget, tally: Tally) -> None:
    """Edits on a full disk are in memory, and in the journal once there is room again."""
    from PySide6.QtCore import QCoreApplication, QSettings

    from theoros.desk.parts.session import Session

    application = QCoreApplication.instance() or QCoreApplication([])
    settings = QSettings(str(home / "settings.ini"), QSettings.Format.IniFormat)
    save_study(Study("s", (TRAYS,), (ENTRY,)), home / "s.theoros")
    session = Session(settings, home / "journals")
    session.open(home / "s.theoros")
    told: list[str] = []
    session.kept_changed.connect(lambda: told.append(session.unkept))
    filler = _fill(home, pages)
    states = [session.study]
    for _ in range(30):
        if session.do(some_edit(session.study, budget.chance.choice)):
            states.append(session.study)
    if len([text for text in told if text]) > 1:
        tally.fail(f"said {len(told)} times that the journal cannot be written")
    # a kill while the disk is full: what came before is there
    _recovered(home, session, states, tally, f"{pages} pages, full")
    filler.unlink()
    session._catch_up()
    if session.unkept:
        tally.fail("still not written when there is room again")
    _recovered(home, session, states[-1:], tally, f"{pages} pages, with room again")
    session.close(discard=True)
    (home / "s.theoros").unlink()
    del application


def _recovered(home: Path, session: object, states: list[Study], tally: Tally, where: str) -> None:
    """The journal as it lies there now gives one of these states."""
    from theoros.study.journal import Unsaved

    (folder,) = (home / "journals").iterdir()
    found = Unsaved(folder, None, 1, 0.0).recover()
    if found.unread or found.study not in states:
        tally.fail(f"the journal gives another state: {where}, {found.unread} unread")
