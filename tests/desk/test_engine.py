"""The window and its engine: nothing is worked out here, and little happens when it dies."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
from pathlib import Path

from PySide6.QtWidgets import QApplication

from tests.engine.odd_tasks import Count, Die
from theoros.desk.parts.engine import Engine
from theoros.desk.window.window import Window
from theoros.engine.links import Links
from theoros.verbs.core.registry import make

SESSION = """
import sys, time
from pathlib import Path
from PySide6.QtCore import QSettings
from theoros.desk.application import make_application, make_window
from theoros.engine.links import Links
from theoros.study.edits import SetCells
from theoros.verbs.core.registry import make
app, home = make_application(), Path(sys.argv[1])
links = Links(home)
window = make_window(QSettings(str(home / "s.ini"), QSettings.Format.IniFormat), home / "j", links)
window.session.open_demo()
window.start()
window.show()
def settle():
    end = time.monotonic() + 60
    while time.monotonic() < end:
        app.processEvents()
        if window.answers.idle and window.writer.idle and window.reader.idle and window.side_work.idle:
            return
        time.sleep(0.002)
    raise SystemExit("it did not come to rest")
settle()
window.warm_up()
for entry in ("e1", "e2", "e3", "e4", "e5"):
    window.show_target(("entry", entry))
    settle()
    assert window.entry_page.answer.problem is None
window.show_target(("entry", "e1"))
window.entry_page.set_slot("method", "shuffled labels")
settle()
window.asking.add_entry(make("plot", table="bushes", what="leaf mass", shape="normal quantiles"))
settle()
window.asking.add_entry(make("plot", table="bushes", what="leaf mass", by="cultivar",
                             shape="means with intervals"))
settle()
window.show_target(("table", "bushes"))
window.show_column("bushes", "leaf mass")
window.session.do(SetCells("bushes", 0, 3, (("61.2",),)))
settle()
window.asking.arrange("sort")
settle()
window.show_target(("report", ""))
settle()
window.outgoing.export_report(home / "report.html")
window.files.save_to(home / "study.theoros")
settle()
assert (home / "report.html").exists() and (home / "study.theoros").exists()
heavy = [name for name in ("scipy", "statsmodels", "theoros.verbs.test.answering",
                           "theoros.verbs.plot.answering") if name in sys.modules]
print("heavy:", heavy)
window.session.dirty = False
window.close()
links.end()
print("left:", [path.name for path in home.glob("theoros-engine-*")])
"""


def test_a_session_computes_nothing_in_its_own_process(tmp_path: Path) -> None:
    done = subprocess.run(
        [sys.executable, "-c", SESSION, str(tmp_path)],
        capture_output=True,
        text=True,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        timeout=120,
        check=False,
    )
    assert done.stdout.splitlines() == ["heavy: []", "left: []"], done.stderr


def test_killing_the_engine_at_work_costs_nothing_that_is_seen(window: Window, settle, qtbot, links: Links) -> None:
    statement = make(
        "test",
        table="trays",
        what="moisture loss",
        by="withering",
        first="slow",
        second="quick",
        method="shuffled labels",
        replicates=300_000,
    )
    window.asking.add_entry(statement)
    page = window.entry_page
    qtbot.waitUntil(lambda: page.answer is not None, timeout=20_000)
    before = links.answers.starts
    os.kill(links.answers.pid, signal.SIGKILL)
    settle(window)
    assert links.answers.starts == before + 1
    assert page.answer.problem is None
    assert "300\u202f000 shuffles" in page.answer.picture.frames[1].title
    assert "went wrong" not in page.bar.message.text()


def test_a_second_crash_is_told_in_a_sentence(window: Window, settle, monkeypatch) -> None:
    monkeypatch.setattr("theoros.desk.entry.entry_page.AnswerStatement", lambda *_: Die(quiet=True))
    window.show_target(("entry", "e3"))
    settle(window)
    assert "ended twice without a word" in window.entry_page.bar.message.text()
    monkeypatch.undo()
    window.show_target(("entry", "e2"))
    settle(window)
    assert window.entry_page.answer.problem is None


def test_only_the_newest_request_of_a_key_is_heard_of(qtbot, qapp: QApplication, links) -> None:
    engine = Engine(links.answers)
    heard: list[tuple[object, object]] = []
    engine.stepped.connect(lambda key, step, tag: heard.append((step, tag)))
    engine.run("k", Count(500, 0.005), tag="old")
    assert not heard  # held until the window is up
    engine.release()
    qtbot.waitUntil(lambda: bool(heard), timeout=20_000)
    engine.run("k", Count(3), tag="new")
    qtbot.waitUntil(lambda: engine.idle, timeout=20_000)
    assert heard[-3:] == [(0, "new"), (1, "new"), (2, "new")]
    assert all(tag == "old" for _, tag in heard[:-3])
    engine.run("k", Count(500, 0.005))
    engine.cancel("k")
    assert engine.idle
