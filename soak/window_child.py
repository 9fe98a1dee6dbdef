"""The program that `window_kills` kills: a real window at work, which notes what it does.

Run as `python -m soak.window_child HOME SEED`. Before each edit it notes what the study will be,
and after it that it is so.
"""

from __future__ import annotations

import hashlib
import os
import random
import sys
from pathlib import Path

from soak.edits_by_chance import ENTRY, TRAYS, some_edit
from theoros.desk.application import make_application, make_window
from theoros.study import edits
from theoros.study.entries import Study
from theoros.study.package import write_parts


def digest(study: Study) -> str:
    whole = hashlib.sha256()
    for name, data in sorted(write_parts(study).items()):
        whole.update(name.encode() + data)
    return whole.hexdigest()[:24]


def main(home: Path, seed: int) -> None:
    from PySide6.QtCore import QSettings, QTimer

    chance = random.Random(seed)
    log = os.open(home / "log", os.O_CREAT | os.O_WRONLY | os.O_APPEND)

    def note(what: str, said: str = "") -> None:
        os.write(log, f"{what} {said}\n".encode())

    app = make_application()
    settings = QSettings(str(home / "settings.ini"), QSettings.Format.IniFormat)
    window = make_window(settings, home / "journals")
    session, file = window.session, home / "study.theoros"
    window.start()
    window.show()
    busy = QTimer()

    def began() -> None:
        """Gets back what was left, as somebody would by the banner; or opens what was saved."""
        if window.banner.offers:
            window.banner._buttons[0].click()
            wait_for(lambda: session.dirty)
        elif file.exists():
            window.files.open_any(file)
            wait_for(lambda: session.path is not None)
        else:
            ready()

    def wait_for(there) -> None:  # type: ignore[no-untyped-def]
        if there():
            ready()
        else:
            QTimer.singleShot(3, lambda: wait_for(there))

    def ready() -> None:
        note("ready", digest(session.study))
        busy.timeout.connect(work)
        busy.start(2)

    def work() -> None:
        method = chance.choice(["edit"] * 12 + ["undo"] * 4 + ["redo"] * 2 + ["save", "save"])
        study = session.study
        if method == "save":
            note("save")
            window.files.save_to(file)
            return
        if method == "edit":
            change = some_edit(study, chance.choice)
            if not study.tables:
                change = edits.AddTable(TRAYS)
            elif len(study.tables[0].columns) > 12 or study.tables[0].rows > 40:
                change = edits.RenewTable(TRAYS.with_(name=study.tables[0].name))
            elif len(study.entries) > 8:
                change = edits.RemoveEntry(study.entries[0].id)
            elif not study.entries:
                change = edits.AddEntry(ENTRY)
            try:
                after = change.apply(study)
            except ValueError:
                return
            note("intends", digest(after))
            session.do(change)
        else:
            history = session.history
            states = history._past if method == "undo" else history._future
            if not states:
                return
            note("intends", digest(states[-1][1]))
            getattr(session, method)()
        note("did", digest(session.study))

    QTimer.singleShot(0, began)
    app.exec()


if __name__ == "__main__":
    main(Path(sys.argv[1]), int(sys.argv[2]))
