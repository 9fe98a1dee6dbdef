"""The crafted traps: each refused, or harmless, within 5 s and 500 MB."""

from __future__ import annotations

import tempfile
from pathlib import Path

from soak.tally import Budget, Tally
from soak.traps import TRAPS, good_study
from soak.watched import watched
from theoros.engine.link import EngineLink
from theoros.engine.tasks.reading_files import ReadStudy, ReadTable, StudyBack, Unforeseen

MOST_SECONDS, MOST_MEMORY = 5.0, 500_000_000


def run(budget: Budget) -> Tally:
    tally = Tally("crafted traps", "refused within 5 s and 500 MB")
    slowest, largest = 0.0, 0
    with tempfile.TemporaryDirectory() as folder:
        home = Path(folder)
        link = EngineLink("reader", home)
        link.start()
        for name, make in TRAPS.items():
            path = home / name
            make(path)
            study = path.suffix == ".theoros"
            found = watched(link, ReadStudy(path) if study else ReadTable(path, None))
            took = f"{found.seconds:.1f} s, {found.memory / 1e6:.0f} MB"
            if found.seconds > MOST_SECONDS or found.memory > MOST_MEMORY:
                tally.fail(f"{name}: {took}: {found.value}")
            if isinstance(found.value, Unforeseen):
                tally.fail(f"{name}: unforeseen: {found.value}")
            if isinstance(found.value, str | ValueError) and not str(found.value).endswith("."):
                tally.fail(f"{name}: no sentence: {found.value}")
            slowest, largest = max(slowest, found.seconds), max(largest, found.memory)
            path.unlink()
            tally.tried += 1
            tally.seconds += found.seconds
        good_study(home / "good.theoros")
        if not isinstance(watched(link, ReadStudy(home / "good.theoros")).value, StudyBack):
            tally.fail("a study of ours that packs very well does not open")
        link.end()
    tally.notes.append(f"at most {slowest:.1f} s and {largest / 1e6:.0f} MB")
    return tally
