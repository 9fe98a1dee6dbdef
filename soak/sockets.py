"""No command opens a socket: Python's audit hook looks on in every process of ours."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from soak.tally import Budget, Tally
from theoros.files.formats import write_table
from theoros.study.file import demo_study, save_study

HOOK = """
import os, sys
def _look(event, arguments):
    if event.startswith("socket.") and event != "socket.gethostname":
        with open(os.environ["SOAK_SOCKETS"], "a") as file:
            file.write(f"{event} {arguments!r:.200} in {sys.argv}\\n")
sys.addaudithook(_look)
"""
DESK = """
import sys
from PySide6.QtCore import QTimer
from theoros.desk.application import make_application, make_window
app = make_application()
window = make_window()
window.session.open_demo()
window.start()
window.show()
window.first_painted.connect(lambda: QTimer.singleShot(300, window.warm_up))
def turn(keys=[entry.id for entry in window.session.study.entries] + ["report"]):
    if not window.idle:
        return
    if not keys:
        window.files.may_leave = lambda: True
        window.close()
        app.quit()
        return
    key = keys.pop(0)
    window.show_target(("report", "") if key == "report" else ("entry", key))
timer = QTimer()
timer.timeout.connect(turn)
timer.start(300)
app.exec()
"""


def run(budget: Budget) -> Tally:
    tally = Tally("a socket opened by any command", "0")
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        (home / "hook").mkdir()
        (home / "hook" / "sitecustomize.py").write_text(HOOK)
        seen = home / "sockets"
        environment = {
            **os.environ,
            "PYTHONPATH": f"{home / 'hook'}:{os.getcwd()}",
            "SOAK_SOCKETS": str(seen),
            "QT_QPA_PLATFORM": "offscreen",
            "HOME": str(home),
            "XDG_STATE_HOME": str(home),
            "XDG_CONFIG_HOME": str(home),
        }
        demo = demo_study()
        save_study(demo, home / "s.theoros")
        table = demo.tables[0]
        write_table(table, home / f"{table.name}.csv")
        statement = {"verb": "describe", "table": table.name, "what": "leaf length"}
        program = [sys.executable, "-m", "theoros.cli"]
        commands = [
            [sys.executable, "-c", "import socket; socket.socket()"],  # the hook itself
            [*program, "answer", json.dumps(statement), "--table", str(home / f"{table.name}.csv")],
            [*program, "answer", "--study", str(home / "s.theoros")],
            [*program, "manual"],
            [sys.executable, "-c", DESK],
        ]
        for command in commands:
            done = subprocess.run(command, env=environment, capture_output=True, check=False, timeout=300)
            tally.tried += 1
            if done.returncode:
                tally.fail(f"exit {done.returncode}: {done.stderr.decode()[-400:]}")
            said = seen.read_text() if seen.exists() else ""
            if tally.tried == 1 and not said:
                tally.fail("the hook does not see a socket")
            elif tally.tried > 1 and said:
                tally.fail(said.splitlines()[0])
            seen.unlink(missing_ok=True)
    tally.notes.append("answers, the manual, and the window with every entry of the demo")
    return tally
